package dev.mockbell.contract;

import dev.mockbell.contract.Finding.Severity;
import dev.mockbell.xml.Place;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;

/** Gathers findings, each once, and at most 500 of one rule. */
final class Findings {
    static final int MOST_OF_A_RULE = 500;

    private final Set<Finding> all = new LinkedHashSet<>();
    private final Map<String, Integer> counts = new HashMap<>();
    private final Map<String, Integer> left = new HashMap<>();

    void add(Finding finding) {
        if (all.contains(finding)) {
            return;
        }
        if (counts.merge(finding.rule(), 1, Integer::sum) > MOST_OF_A_RULE) {
            left.merge(finding.rule(), 1, Integer::sum);
        } else {
            all.add(finding);
        }
    }

    void add(Severity severity, String rule, String text, String advice, Place place) {
        add(new Finding(severity, rule, text, advice, place));
    }

    /** All of them, the gravest first, within a severity in the order found. */
    List<Finding> sorted() {
        List<Finding> sorted = new ArrayList<>(all);
        left.forEach((rule, count) -> {
            Finding first =
                    all.stream().filter(f -> f.rule().equals(rule)).findFirst().orElseThrow();
            sorted.add(new Finding(
                    first.severity(),
                    rule,
                    "The same in " + count + " more places",
                    first.advice(),
                    Place.in(first.place().document())));
        });
        sorted.sort(Comparator.comparing(Finding::severity));
        return List.copyOf(sorted);
    }
}
