package dev.mockbell.app;

import dev.mockbell.assembly.Core;
import dev.mockbell.file.UserFolders;
import dev.mockbell.fleet.Fleet;
import dev.mockbell.fleet.FleetSource;
import dev.mockbell.grid.PekkoFleet;
import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;

/** This program's fleet; its classes are loaded when it is first asked for. */
final class OwnFleet implements FleetSource {
    /** As the launcher has them for load: few pauses of the collector, and the compiler that makes fast code. */
    private static final List<String> OPTIONS =
            List.of("-XX:+UseG1GC", "-Xms512m", "-Xmn256m", "-XX:MaxTenuringThreshold=2", "-Dfile.encoding=UTF-8");

    @Override
    public Fleet fleet() {
        return new PekkoFleet(Core.VERSION, Core.providers(UserFolders.ofProcess()));
    }

    @Override
    public Process startWorker(Path invitation) throws IOException {
        String java = Path.of(System.getProperty("java.home"), "bin", "java").toString();
        List<String> command = new ArrayList<>(List.of(java));
        command.addAll(OPTIONS);
        command.addAll(List.of(
                "-cp",
                System.getProperty("java.class.path"),
                Main.class.getName(),
                "worker",
                "--invitation",
                invitation.toString(),
                "--as-long-as",
                String.valueOf(ProcessHandle.current().pid())));
        // what it says is in the log, and the window shows how it fares
        return new ProcessBuilder(command)
                .redirectOutput(ProcessBuilder.Redirect.DISCARD)
                .redirectError(ProcessBuilder.Redirect.DISCARD)
                .start();
    }
}
