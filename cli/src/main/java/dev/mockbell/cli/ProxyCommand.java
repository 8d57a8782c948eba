package dev.mockbell.cli;

import dev.mockbell.tap.TapPlan;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;

/** A forward proxy that records what passes, until stopped. */
@Command(
        name = "proxy",
        mixinStandardHelpOptions = true,
        description = {
            "A forward proxy for any client: records what passes until stopped. Prints READY and its address.",
            "What goes by https is passed through unseen, unless --open-tls is given."
        })
final class ProxyCommand implements Callable<Integer> {
    private final Console console;

    @Option(names = "--listen", paramLabel = "PORT", description = "The port to listen on (8488); 0 for any free one.")
    private int port = TapPlan.USUAL_PROXY_PORT;

    @Option(
            names = "--open-tls",
            description =
                    "Looks into https: clients get certificates of the project's own authority, which they must trust."
                            + " Whoever has its key can read what such a client sends; take the trust back afterwards.")
    private boolean opens;

    @Mixin
    private Relaying relaying = new Relaying();

    ProxyCommand(Console console) {
        this.console = console;
    }

    @Override
    public Integer call() throws InterruptedException {
        return relaying.run(project -> TapPlan.proxy(port).opening(opens), console);
    }
}
