package dev.mockbell.report;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.JsonNodeFactory;
import com.fasterxml.jackson.databind.node.ObjectNode;
import dev.mockbell.change.ContractChange;
import dev.mockbell.change.ContractChanges;
import dev.mockbell.change.DocumentChange;
import dev.mockbell.change.Effect;
import dev.mockbell.change.Side;
import dev.mockbell.problem.Counted;
import dev.mockbell.upkeep.Touched;
import dev.mockbell.upkeep.Upkeep;
import dev.mockbell.upkeep.Way;
import dev.mockbell.xml.Place;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;

/** What changed in a contract, for a colleague to read and for other programs. */
public final class ChangesReport {
    /** Lines of one document that a page shows. */
    private static final int MOST_LINES = 2_000;

    private final ContractChanges changes;
    private final Optional<Upkeep> upkeep;

    /** @param upkeep what is touched, where a project is; empty where only contracts are held against each other */
    public ChangesReport(ContractChanges changes, Optional<Upkeep> upkeep) {
        this.changes = changes;
        this.upkeep = upkeep;
    }

    /** How much changed, in one sentence: "4 changes break callers, 1 may; 6 do not." */
    public static String summary(ContractChanges changes, Side side) {
        if (changes.isEmpty()) {
            return changes.documents().isEmpty()
                    ? "Nothing changed."
                    : "Nothing changed but the text of "
                            + Counted.of(changes.documents().size(), "document") + ".";
        }
        String who = side == Side.CALLERS ? "callers" : "the service";
        long breaks = changes.count(side, Effect.BREAKS);
        long may = changes.count(side, Effect.MAY_BREAK);
        long fine = changes.changes().size() - breaks - may;
        return breaks + (breaks == 1 ? " change breaks " : " changes break ") + who + ", " + may + " may, " + fine
                + (fine == 1 ? " does not." : " do not.");
    }

    /** A page that needs nothing else. */
    public String html(String title) {
        Map<String, Object> values = new LinkedHashMap<>();
        values.put("title", title);
        values.put("was", changes.was().source());
        values.put("is", changes.is().source());
        values.put(
                "summary",
                changes.isEmpty()
                        ? summary(changes, Side.CALLERS)
                        : summary(changes, Side.CALLERS) + " " + summary(changes, Side.SERVICE));
        values.put("any", !changes.isEmpty());
        values.put("touching", upkeep.isPresent());
        values.put("groups", groups());
        values.put("anyTouched", upkeep.map(u -> !u.touched().isEmpty()).orElse(false));
        values.put("project", upkeep.map(u -> u.kept().title()).orElse(""));
        values.put(
                "touched",
                upkeep.map(Upkeep::touched).orElse(List.of()).stream()
                        .map(ChangesReport::touched)
                        .toList());
        values.put(
                "documents",
                changes.documents().stream().map(ChangesReport::document).toList());
        return ReportPage.of("changes.html", values);
    }

    private List<Map<String, Object>> groups() {
        return changes.byOperation().entrySet().stream()
                .map(g -> Map.<String, Object>of(
                        "name",
                        g.getKey().isEmpty() ? "Endpoints" : g.getKey(),
                        "changes",
                        g.getValue().stream().map(this::change).toList()))
                .toList();
    }

    private Map<String, Object> change(ContractChange change) {
        Map<String, Object> values = new LinkedHashMap<>();
        values.put("where", change.where());
        values.put("before", change.before());
        values.put("after", change.after());
        values.put("callers", change.callers().title());
        values.put("callersKind", kind(change.callers()));
        values.put("callersMark", mark(change.callers()));
        values.put("service", change.service().title());
        values.put("serviceKind", kind(change.service()));
        values.put("serviceMark", mark(change.service()));
        values.put("touches", upkeep.map(u -> u.words(change)).orElse(""));
        return values;
    }

    private static String kind(Effect effect) {
        return effect.name().toLowerCase(Locale.ROOT);
    }

    /** Its shape says it before its colour does. */
    public static String mark(Effect effect) {
        return switch (effect) {
            case BREAKS -> "✗";
            case MAY_BREAK -> "◆";
            case HOLDS -> "✓";
            case TO_KNOW -> "○";
        };
    }

    private static Map<String, Object> touched(Touched touched) {
        return Map.of(
                "kind", touched.kind().noun(),
                "name", touched.name(),
                "words", touched.words(),
                "proposal", touched.proposal().map(Way::does).orElse(""));
    }

    private static Map<String, Object> document(DocumentChange document) {
        List<DocumentChange.Line> shown = document.lines()
                .subList(0, Math.min(MOST_LINES, document.lines().size()));
        Map<String, Object> values = new LinkedHashMap<>();
        values.put("name", document.name());
        values.put("words", words(document));
        values.put(
                "lines",
                shown.stream()
                        .map(l -> Map.<String, Object>of(
                                "kind",
                                l.isNew() ? "new" : "gone",
                                "sign",
                                l.isNew() ? "+" : "−",
                                "number",
                                l.number(),
                                "text",
                                l.text()))
                        .toList());
        int more = document.lines().size() - shown.size();
        values.put("more", more > 0 ? List.of("and " + Counted.of(more, "line") + " more") : List.of());
        return values;
    }

    /** "3 lines new, 2 gone". */
    public static String words(DocumentChange document) {
        if (document.was().isEmpty()) {
            return "new, " + Counted.of(document.added(), "line");
        }
        return document.is().isEmpty()
                ? "gone, " + Counted.of(document.gone(), "line")
                : Counted.of(document.added(), "line") + " new, " + document.gone() + " gone";
    }

    /** One object for other programs. */
    public ObjectNode json() {
        ObjectNode node = JsonNodeFactory.instance.objectNode();
        node.put("format", 1);
        node.put("was", changes.was().source());
        node.put("is", changes.is().source());
        counts(node.putObject("callers"), Side.CALLERS);
        counts(node.putObject("service"), Side.SERVICE);
        ArrayNode all = node.putArray("changes");
        changes.changes().forEach(c -> json(all.addObject(), c));
        upkeep.ifPresent(u -> touched(node.putArray("touched"), u));
        ArrayNode documents = node.putArray("documents");
        for (DocumentChange document : changes.documents()) {
            ObjectNode one = documents.addObject().put("name", document.name());
            one.put("was", document.was().orElse(null)).put("is", document.is().orElse(null));
            one.put("linesNew", document.added()).put("linesGone", document.gone());
        }
        return node;
    }

    private void counts(ObjectNode node, Side side) {
        for (Effect effect : Effect.values()) {
            node.put(effect.code(), changes.count(side, effect));
        }
    }

    private void json(ObjectNode node, ContractChange change) {
        node.put("operation", change.operation().isEmpty() ? null : change.operation());
        node.put("half", kind(change.half().name()));
        node.put("path", change.path());
        node.put("kind", kind(change.kind().name()));
        node.put("before", change.before());
        node.put("after", change.after());
        node.put("callers", change.callers().code());
        node.put("service", change.service().code());
        node.put("sentence", change.sentence(Side.CALLERS));
        place(node, "was", change.was());
        place(node, "is", change.is());
    }

    private static String kind(String name) {
        return name.toLowerCase(Locale.ROOT);
    }

    private static void place(ObjectNode node, String field, Optional<Place> place) {
        if (place.isPresent()) {
            node.putObject(field)
                    .put("document", place.get().document())
                    .put("line", place.get().line())
                    .put("column", place.get().column());
        } else {
            node.putNull(field);
        }
    }

    private void touched(ArrayNode into, Upkeep of) {
        for (Touched touched : of.touched()) {
            ObjectNode node = into.addObject();
            node.put("kind", touched.kind().noun());
            node.put("name", touched.name());
            node.put("at", touched.at());
            node.put("words", touched.words());
            ArrayNode by = node.putArray("by");
            touched.by().forEach(c -> by.add(changes.changes().indexOf(c)));
            ArrayNode ways = node.putArray("ways");
            touched.ways().forEach(w -> ways.addObject().put("title", w.title()).put("does", w.does()));
        }
    }
}
