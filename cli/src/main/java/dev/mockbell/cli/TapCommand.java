package dev.mockbell.cli;

import dev.mockbell.tap.TapPlan;
import java.util.concurrent.Callable;
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
    private int port = TapPlan.USUAL_PORT;

    @Option(names = "--forward", paramLabel = "URL", required = true, description = "The endpoint that it leads to.")
    private String target;

    @Option(names = "--tls", description = "Clients speak TLS to it, by a certificate of the project's own authority.")
    private boolean tls;

    @Mixin
    private Relaying relaying = new Relaying();

    TapCommand(Console console) {
        this.console = console;
    }

    @Override
    public Integer call() throws InterruptedException {
        return relaying.run(TapPlan.to(TapPlan.target(target), port).withTls(tls), console);
    }
}
