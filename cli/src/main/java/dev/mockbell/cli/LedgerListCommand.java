package dev.mockbell.cli;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.JsonNodeFactory;
import com.fasterxml.jackson.databind.node.ObjectNode;
import dev.mockbell.ledger.Figures;
import dev.mockbell.ledger.Ledger;
import dev.mockbell.ledger.LedgerFilter;
import dev.mockbell.ledger.Listing;
import dev.mockbell.ledger.Order;
import dev.mockbell.project.Project;
import dev.mockbell.redact.Redactor;
import java.time.ZoneId;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.concurrent.Callable;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** Lists exchanges. */
@Command(name = "list", mixinStandardHelpOptions = true, description = "Lists exchanges, the newest first.")
final class LedgerListCommand implements Callable<Integer> {
    private static final DateTimeFormatter TIME =
            DateTimeFormatter.ofPattern("yyyy-MM-dd HH:mm:ss.SSS").withZone(ZoneId.systemDefault());

    private final Console console;

    @Parameters(paramLabel = "PROJECT", description = "Project folder.")
    private String source;

    @Mixin
    private Filtering filtering = new Filtering();

    @Option(names = "--limit", paramLabel = "N", description = "So many at most (100); 0 for all.")
    private int limit = 100;

    @Option(
            names = "--order",
            paramLabel = "COLUMN",
            description = "By ${COMPLETION-CANDIDATES}; the largest first, by texts the first of the alphabet.")
    private Order.Column order = Order.Column.NUMBER;

    @Option(names = "--ascending", description = "The other way round.")
    private boolean ascending;

    @Option(names = "--figures", description = "Says what all that pass the filter come to.")
    private boolean figures;

    @Option(names = "--json", description = "As JSON.")
    private boolean json;

    LedgerListCommand(Console console) {
        this.console = console;
    }

    @Override
    public Integer call() {
        LedgerFilter filter = filtering.filter();
        try (CommandCore core = new CommandCore();
                Stopping stopping = new Stopping(core.stop())) {
            Project project = core.recorded(source);
            Redactor redactor = core.parts().redactor(project);
            try (Ledger ledger = core.ledger(project, console)) {
                boolean text = Stream.of(
                                Order.Column.OPERATION, Order.Column.ENDPOINT, Order.Column.FROM, Order.Column.CALLER)
                        .anyMatch(order::equals);
                ArrayNode all = JsonNodeFactory.instance.arrayNode();
                int[] count = {0};
                ledger.search(
                        filter,
                        new Order(order, text == ascending),
                        Long.MAX_VALUE,
                        core.parts().expressions(),
                        core.stop(),
                        line -> {
                            if (json) {
                                all.add(node(line, redactor));
                            } else {
                                console.line(words(line, redactor));
                            }
                            return ++count[0] != limit;
                        });
                Figures sums = figures || json
                        ? ledger.figures(filter, core.parts().expressions(), core.stop())
                        : Figures.NONE;
                if (json) {
                    ObjectNode node = JsonNodeFactory.instance.objectNode();
                    node.put("format", 1);
                    node.set("exchanges", all);
                    node.set("figures", node(sums));
                    console.json(node);
                } else if (figures) {
                    console.note(words(sums));
                }
                return stopping.ended(0);
            }
        }
    }

    private static String words(Listing l, Redactor redactor) {
        List<String> cells = new ArrayList<>();
        cells.add(String.valueOf(l.id()));
        cells.add(TIME.format(l.started()));
        cells.add(l.way().name().toLowerCase(Locale.ROOT));
        cells.add(l.operation().isEmpty() ? "-" : l.operation());
        cells.add(l.status() == 0 ? "-" : String.valueOf(l.status()));
        cells.add(String.format(Locale.ROOT, "%.1f ms", l.nanos() / 1e6));
        cells.add(l.sent() + " B");
        cells.add(l.received() + " B");
        cells.add(l.outcome().name().toLowerCase(Locale.ROOT));
        cells.add(redactor.text(l.endpoint()));
        cells.add(redactor.text(l.origin()));
        cells.add(redactor.text(l.note()));
        return cells.stream().map(c -> c.replaceAll("\\s+", " ")).collect(Collectors.joining("\t"));
    }

    static ObjectNode node(Listing l, Redactor redactor) {
        ObjectNode node = JsonNodeFactory.instance.objectNode();
        node.put("number", l.id());
        node.put("started", l.started().toString());
        node.put("way", l.way().name().toLowerCase(Locale.ROOT));
        node.put("contract", l.contract());
        node.put("operation", l.operation());
        node.put("endpoint", redactor.text(l.endpoint()));
        node.put("from", redactor.text(l.origin()));
        node.put("caller", l.ties().caller());
        node.put("status", l.status());
        node.put("millis", l.nanos() / 1_000 / 1e3);
        node.put("sent", l.sent());
        node.put("received", l.received());
        node.put("result", l.outcome().name().toLowerCase(Locale.ROOT));
        node.put("note", redactor.text(l.note()));
        node.put("pinned", l.pinned());
        return node;
    }

    private static ObjectNode node(Figures f) {
        ObjectNode node = JsonNodeFactory.instance.objectNode();
        node.put("count", f.count());
        node.put("notFine", f.failed());
        node.put("p50Millis", f.p50() / 1e6);
        node.put("p95Millis", f.p95() / 1e6);
        node.put("bytes", f.bytes());
        return node;
    }

    private static String words(Figures f) {
        return String.format(
                Locale.ROOT,
                "%d exchanges, %d not fine, p50 %.1f ms, p95 %.1f ms, %d bytes",
                f.count(),
                f.failed(),
                f.p50() / 1e6,
                f.p95() / 1e6,
                f.bytes());
    }
}
