package dev.mockbell.cli;

import dev.mockbell.fleet.Invitation;
import dev.mockbell.fleet.Meeting;
import dev.mockbell.problem.Problem;
import dev.mockbell.project.Project;
import java.nio.file.Path;
import java.time.Duration;
import java.time.temporal.ChronoUnit;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** Writes an invitation for workers. */
@Command(
        name = "invite",
        mixinStandardHelpOptions = true,
        description = {
            "Writes an invitation by which workers join the project's load: where they find it, the project's authority, a key",
            "and certificate for them. Who has the file may join until it expires; give it to nobody else."
        })
final class GridInviteCommand implements Callable<Integer> {
    private final Console console;

    @Parameters(
            paramLabel = "PROJECT",
            arity = "0..1",
            defaultValue = ".",
            description = "The project's folder; the current one unless given.")
    private Path folder;

    @Option(names = "--out", paramLabel = "FILE", required = true, description = "Where to write it (mode 0600).")
    private Path out;

    @Option(
            names = "--host",
            paramLabel = "H",
            description = "The address of this machine by which workers reach it; loopback unless given.")
    private String host;

    @Option(names = "--port", paramLabel = "N", description = "The port; 8490 unless given.")
    private Integer port;

    @Option(
            names = "--days",
            paramLabel = "N",
            defaultValue = "" + Invitation.USUAL_DAYS,
            description = "For how many days it is good; 7 unless given.")
    private int days;

    GridInviteCommand(Console console) {
        this.console = console;
    }

    @Override
    public Integer call() {
        if (days < 1 || days > Invitation.MOST_DAYS) {
            throw Problem.input(
                    "An invitation is good for 1 to " + Invitation.MOST_DAYS + " days, and not " + days,
                    "--days",
                    null);
        }
        if (port != null && (port < 1 || port > 65_535)) {
            throw Problem.input("There is no port " + port, "--port", null);
        }
        try (CommandCore core = new CommandCore()) {
            Project project = core.recorded(folder.toString());
            Meeting kept = Meeting.of(project.folder());
            Meeting meeting = new Meeting(host == null ? kept.host() : host, port == null ? kept.port() : port);
            if (host == null) {
                core.parts().locals().of(project.folder()).checkListening(meeting.host());
            } else {
                core.parts().locals().allowListening(project.folder(), host);
            }
            Invitation invitation = core.parts().invitation(project, meeting, Invitation.WORKER, Duration.ofDays(days));
            invitation.write(out);
            meeting.keep(project.folder());
            console.line("Invitation to " + meeting.host() + ":" + meeting.port() + ", good until "
                    + invitation.expires().truncatedTo(ChronoUnit.SECONDS) + ": " + out);
            console.note("On each machine: mockbell worker --invitation " + out.getFileName());
            return 0;
        }
    }
}
