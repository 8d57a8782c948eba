package dev.mockbell.cli;

import dev.mockbell.ledger.Condition;
import dev.mockbell.ledger.LedgerFilter;
import java.util.ArrayList;
import java.util.List;
import picocli.CommandLine.Option;

/** The options that pick exchanges; what they say must all hold. */
final class Filtering {
    @Option(
            names = "--filter",
            paramLabel = "TEXT",
            description = {
                "As typed in the window: words such as status:5xx, result:fault, took:>200ms, sent:>10kB, way:called,",
                "operation:NAME, contract:NAME, endpoint:TEXT, from:TEXT, note:TEXT, caller:TEXT, since:10m,",
                "time:10:15..10:20, number:100..200, word:TEXT, where:XPATH, pinned:yes; a hyphen before one says not;",
                "anything else is text to find. May be repeated."
            })
    private List<String> filters = new ArrayList<>();

    @Option(names = "--operation", paramLabel = "NAME", description = "Of this operation; may be repeated.")
    private List<String> operations = new ArrayList<>();

    @Option(names = "--status", paramLabel = "STATUS", description = "500, 5xx, 400..499 or none; may be repeated.")
    private List<String> statuses = new ArrayList<>();

    @Option(names = "--result", paramLabel = "RESULT", description = "fine, fault or failed; may be repeated.")
    private List<String> results = new ArrayList<>();

    @Option(names = "--way", paramLabel = "WAY", description = "called, answered or tapped; may be repeated.")
    private List<String> ways = new ArrayList<>();

    @Option(names = "--since", paramLabel = "TIME", description = "Not longer ago than 30s, 10m, 2h, 3d.")
    private String since;

    @Option(names = "--took", paramLabel = "TIME", description = ">200ms, 50ms..2s.")
    private String took;

    @Option(names = "--text", paramLabel = "TEXT", description = "With this text somewhere; may be repeated.")
    private List<String> texts = new ArrayList<>();

    @Option(names = "--where", paramLabel = "XPATH", description = "For which this holds, over $request and $response.")
    private List<String> wheres = new ArrayList<>();

    LedgerFilter filter() {
        LedgerFilter all = LedgerFilter.ALL;
        for (String typed : filters) {
            all = all.and(LedgerFilter.typed(typed));
        }
        all = each(all, "operation", operations);
        all = each(all, "status", statuses);
        all = each(all, "result", results);
        all = each(all, "way", ways);
        all = each(all, "since", since == null ? List.of() : List.of(since));
        all = each(all, "took", took == null ? List.of() : List.of(took));
        all = each(all, "text", texts);
        return each(all, "where", wheres);
    }

    private static LedgerFilter each(LedgerFilter filter, String kind, List<String> values) {
        LedgerFilter all = filter;
        for (String value : values) {
            all = all.and(LedgerFilter.typed(kind + ":" + Condition.quoted(value)));
        }
        return all;
    }
}
