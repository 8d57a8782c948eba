package dev.mockbell.cli;

import com.fasterxml.jackson.databind.node.ObjectNode;
import dev.mockbell.exchange.Exchange;
import dev.mockbell.exchange.Message;
import dev.mockbell.exchange.MessageText;
import dev.mockbell.ledger.Ledger;
import dev.mockbell.ledger.Listing;
import dev.mockbell.problem.Problem;
import dev.mockbell.project.Project;
import dev.mockbell.redact.Redactor;
import java.util.Optional;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** Shows one exchange in full. */
@Command(name = "show", mixinStandardHelpOptions = true, description = "Shows one exchange in full.")
final class LedgerShowCommand implements Callable<Integer> {
    private final Console console;

    @Parameters(index = "0", paramLabel = "PROJECT", description = "Project folder.")
    private String source;

    @Parameters(index = "1", paramLabel = "NUMBER", description = "Its number on the ledger.")
    private long number;

    @Option(names = "--wire", description = "Every byte as it was on the connection, heads included.")
    private boolean wire;

    @Option(names = "--unmasked", description = "With its credentials and secrets.")
    private boolean unmasked;

    @Option(names = "--json", description = "As JSON.")
    private boolean json;

    LedgerShowCommand(Console console) {
        this.console = console;
    }

    @Override
    public Integer call() {
        try (CommandCore core = new CommandCore()) {
            Project project = core.recorded(source);
            Redactor redactor = core.parts().redactor(project);
            try (Ledger ledger = core.ledger(project, console)) {
                Exchange e = ledger.get(number)
                        .orElseThrow(() -> Problem.input(
                                "There is no exchange " + number + " on the ledger",
                                source,
                                "See “mockbell ledger list” for those that there are."));
                MessageText text = MessageText.toLookAt(unmasked ? Optional.empty() : Optional.of(redactor));
                if (json) {
                    ObjectNode node = LedgerListCommand.node(Listing.of(e), redactor);
                    node.put("request", shown(text, e.request()));
                    e.response().ifPresent(r -> node.put("response", shown(text, r)));
                    console.json(node);
                } else {
                    console.line(shown(text, e.request()));
                    console.line("");
                    console.line(e.response().map(r -> shown(text, r)).orElse("(no answer: " + e.note() + ")"));
                }
                return 0;
            }
        }
    }

    private String shown(MessageText text, Message message) {
        return wire ? text.wire(message) : text.body(message);
    }
}
