package dev.mockbell.change;

import dev.mockbell.contract.Contract;
import dev.mockbell.contract.SourceDocument;
import dev.mockbell.xml.Place;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.function.Function;

/** The lines of a document around a change: those of now, with what is new marked and what went put in between. */
public final class Excerpt {
    private static final int BEFORE = 2;
    private static final int AFTER = 14;

    /** How far below the place of a declaration the line that changed is looked for. */
    private static final int NEAR = 40;

    private Excerpt() {}

    /**
     * A line of an excerpt.
     *
     * @param number in its own document
     */
    public record Line(Kind kind, int number, String text) {}

    /** Whether a line is in both documents, or in one. */
    public enum Kind {
        SAME,
        NEW,
        GONE
    }

    /** The lines about one change; empty where no place of it is known. Work, for a large document. */
    public static List<Line> of(ContractChanges changes, ContractChange change) {
        return change.is()
                .flatMap(p -> around(changes, changes.is(), p, DocumentChange::is, true))
                .or(() -> change.was().flatMap(p -> around(changes, changes.was(), p, DocumentChange::was, false)))
                .orElseGet(List::of);
    }

    private static Optional<List<Line>> around(
            ContractChanges changes,
            Contract contract,
            Place place,
            Function<DocumentChange, Optional<String>> uri,
            boolean ofNow) {
        Optional<SourceDocument> document = contract.documents().stream()
                .filter(d -> d.uri().equals(place.document()))
                .findFirst();
        if (document.isEmpty() || place.line() < 1) {
            return Optional.empty();
        }
        List<DocumentChange.Line> marked = changes.documents().stream()
                .filter(d -> uri.apply(d).filter(place.document()::equals).isPresent())
                .findFirst()
                .map(DocumentChange::lines)
                .orElseGet(List::of);
        int centre = marked.stream()
                .map(l -> l.isNew() == ofNow ? l.number() : l.other())
                .filter(n -> n >= place.line() && n <= place.line() + NEAR)
                .min(Comparator.naturalOrder())
                .orElse(place.line());
        List<String> lines = document.get().text().lines().toList();
        int from =
                Math.max(1, Math.min(place.line(), centre > place.line() + AFTER / 2 ? centre : place.line()) - BEFORE);
        int to = Math.min(lines.size(), from + BEFORE + AFTER);
        List<Line> found = new ArrayList<>();
        for (int number = from; number <= to; number++) {
            int at = number;
            marked.stream()
                    .filter(l -> l.isNew() != ofNow && l.other() == at)
                    .forEach(l -> found.add(new Line(l.isNew() ? Kind.NEW : Kind.GONE, l.number(), l.text())));
            boolean alone = marked.stream().anyMatch(l -> l.isNew() == ofNow && l.number() == at);
            Kind kind = alone ? ofNow ? Kind.NEW : Kind.GONE : Kind.SAME;
            found.add(new Line(kind, number, lines.get(number - 1)));
        }
        return Optional.of(outdented(found));
    }

    /** Without the white space that all lines begin with. */
    private static List<Line> outdented(List<Line> lines) {
        int common = lines.stream()
                .filter(l -> !l.text().isBlank())
                .mapToInt(l -> l.text().length() - l.text().stripLeading().length())
                .min()
                .orElse(0);
        return lines.stream()
                .map(l -> new Line(
                        l.kind(),
                        l.number(),
                        l.text().substring(Math.min(common, l.text().length()))))
                .toList();
    }
}
