package dev.mockbell.cli;

import dev.mockbell.problem.Problem;
import dev.mockbell.project.Project;
import dev.mockbell.tap.TapPlan;
import java.util.Optional;
import java.util.concurrent.Callable;
import java.util.function.Function;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;

/** Stands between clients and a service, and records what passes, until stopped. */
@Command(
        name = "tap",
        mixinStandardHelpOptions = true,
        description = {
            "Passes everything on to an endpoint, and records it, until stopped. Prints READY and the address to call.",
            "Contracts that are read through it lead through it."
        })
final class TapCommand implements Callable<Integer> {
    private final Console console;

    @Option(names = "--listen", paramLabel = "PORT", description = "The port to listen on (8490); 0 for any free one.")
    private Integer port;

    @Option(names = "--forward", paramLabel = "URL", description = "The endpoint that it leads to.")
    private String target;

    @Option(names = "--kept", paramLabel = "NAME", description = "The tap or proxy of that name in the project.")
    private String kept;

    @Option(names = "--tls", description = "Clients speak TLS to it, by a certificate of the project's own authority.")
    private boolean tls;

    @Mixin
    private Relaying relaying = new Relaying();

    TapCommand(Console console) {
        this.console = console;
    }

    @Override
    public Integer call() throws InterruptedException {
        if ((target == null) == (kept == null)) {
            throw Problem.input(
                    "It is not clear where the tap is to lead", null, "Give --forward URL, or PROJECT --kept NAME.");
        }
        Function<Optional<Project>, TapPlan> plan = target == null
                ? p -> p.map(of -> of.tap(kept).plan())
                        .map(t -> port == null ? t : t.withPort(port))
                        .orElseThrow(() -> Problem.input("--kept needs a project", null, "Give its folder first."))
                : p -> TapPlan.to(TapPlan.target(target), port == null ? TapPlan.USUAL_PORT : port)
                        .withTls(tls);
        return relaying.run(plan, console);
    }
}
