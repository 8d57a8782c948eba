package dev.mockbell.cli;

import dev.mockbell.fleet.Fleet;
import dev.mockbell.fleet.Invitation;
import dev.mockbell.fleet.WorkerListener;
import dev.mockbell.task.StopSignal;
import java.nio.file.Path;
import java.util.Locale;
import java.util.concurrent.Callable;
import java.util.function.Supplier;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;

/** Makes load for a run that another machine leads. */
@Command(
        name = "worker",
        mixinStandardHelpOptions = true,
        description = {
            "Joins the load of a project by an invitation, and makes its part of each run until stopped. Prints READY with its",
            "address, its cores, by how much its clock may be off, and its version, each time that it has joined."
        })
final class WorkerCommand implements Callable<Integer> {
    private final Console console;
    private final Supplier<Fleet> fleet;

    @Option(
            names = "--invitation",
            paramLabel = "FILE",
            required = true,
            description = "What “mockbell grid invite” wrote.")
    private Path file;

    @Option(
            names = "--host",
            paramLabel = "H",
            defaultValue = "127.0.0.1",
            description = "The address of this machine by which the others reach it; loopback unless given.")
    private String host;

    @Option(
            names = "--as-long-as",
            paramLabel = "PID",
            description = "Ends once that process of this machine has ended.")
    private Long process;

    WorkerCommand(Console console, Supplier<Fleet> fleet) {
        this.console = console;
        this.fleet = fleet;
    }

    @Override
    public Integer call() {
        StopSignal stop = new StopSignal();
        try (Stopping stopping = new Stopping(stop)) {
            if (process != null) {
                ProcessHandle.of(process).ifPresentOrElse(p -> p.onExit().thenRun(stop::stop), stop::stop);
            }
            fleet.get().work(Invitation.read(file), host, new Telling(), stop);
            return stopping.ended(0);
        }
    }

    private final class Telling implements WorkerListener {
        @Override
        public void ready(String address, int cores, double clockError, String version) {
            console.line(String.format(
                    Locale.ROOT,
                    "READY %s, %d cores, clock within %.2f ms, version %s",
                    address,
                    cores,
                    clockError,
                    version));
        }

        @Override
        public void told(String sentence) {
            console.note(sentence);
        }
    }
}
