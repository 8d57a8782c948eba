package dev.mockbell.change;

import com.github.difflib.DiffUtils;
import com.github.difflib.algorithm.DiffAlgorithmListener;
import com.github.difflib.patch.AbstractDelta;
import com.github.difflib.patch.DeltaType;
import com.github.difflib.patch.Patch;
import dev.mockbell.contract.Contract;
import dev.mockbell.contract.DocumentNames;
import dev.mockbell.contract.SourceDocument;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/** The documents of both contracts, held against each other line by line. */
final class Documents {
    /** Lines by which two documents may differ to be held against each other line by line; the work grows with its square. */
    private static final int MOST_DIFFERENCES = 4_000;

    /** Ends a comparison that would take too long. */
    private static final class TooMany extends RuntimeException {
        private static final long serialVersionUID = 1L;

        TooMany() {
            super("too many differences", null, false, false);
        }
    }

    private static final DiffAlgorithmListener BOUND = new DiffAlgorithmListener() {
        @Override
        public void diffStart() {
            // nothing to begin
        }

        @Override
        public void diffStep(int value, int max) {
            if (value > MOST_DIFFERENCES) {
                throw new TooMany();
            }
        }

        @Override
        public void diffEnd() {
            // nothing to end
        }
    };

    private Documents() {}

    static List<DocumentChange> between(Contract was, Contract is) {
        Map<String, SourceDocument> before = named(was);
        Map<String, SourceDocument> after = named(is);
        // the first is the WSDL that was asked for, whatever it is called now
        List<DocumentChange> found = new ArrayList<>();
        Map<String, String> pairs = new LinkedHashMap<>();
        before.keySet().stream()
                .findFirst()
                .ifPresent(first -> after.keySet().stream().findFirst().ifPresent(now -> pairs.put(first, now)));
        for (String name : before.keySet()) {
            if (after.containsKey(name) && !pairs.containsValue(name)) {
                pairs.putIfAbsent(name, name);
            }
        }
        before.forEach((name, document) -> found.add(change(
                name,
                Optional.of(document),
                Optional.ofNullable(pairs.get(name)).map(after::get))));
        after.forEach((name, document) -> {
            if (!pairs.containsValue(name)) {
                found.add(change(name, Optional.empty(), Optional.of(document)));
            }
        });
        return found.stream().filter(d -> d.added() + d.gone() > 0).toList();
    }

    private static Map<String, SourceDocument> named(Contract contract) {
        Map<String, String> names = DocumentNames.of(contract.documents(), Set.of());
        Map<String, SourceDocument> found = new LinkedHashMap<>();
        contract.documents().forEach(d -> found.put(names.get(d.uri()), d));
        return found;
    }

    private static DocumentChange change(String name, Optional<SourceDocument> was, Optional<SourceDocument> is) {
        boolean same = was.isPresent()
                && is.isPresent()
                && was.get().sha256().equals(is.get().sha256());
        List<String> before = same ? List.of() : lines(was);
        List<String> after = same ? List.of() : lines(is);
        return new DocumentChange(
                name, was.map(SourceDocument::uri), is.map(SourceDocument::uri), lines(before, after));
    }

    private static List<String> lines(Optional<SourceDocument> document) {
        return document.map(d -> d.text().lines().toList()).orElseGet(List::of);
    }

    /** Two documents that differ in too much to be held against each other: what they do not share at either end. */
    private static List<DocumentChange.Line> whole(List<String> before, List<String> after) {
        int head = 0;
        while (head < before.size() && head < after.size() && before.get(head).equals(after.get(head))) {
            head++;
        }
        int tail = 0;
        while (tail < before.size() - head
                && tail < after.size() - head
                && before.get(before.size() - 1 - tail).equals(after.get(after.size() - 1 - tail))) {
            tail++;
        }
        List<DocumentChange.Line> lines = new ArrayList<>();
        for (int i = head; i < before.size() - tail; i++) {
            lines.add(DocumentChange.Line.gone(i + 1, head + 1, before.get(i)));
        }
        for (int i = head; i < after.size() - tail; i++) {
            lines.add(DocumentChange.Line.added(i + 1, before.size() - tail + 1, after.get(i)));
        }
        return lines;
    }

    static List<DocumentChange.Line> lines(List<String> before, List<String> after) {
        List<DocumentChange.Line> lines = new ArrayList<>();
        Patch<String> patch;
        try {
            patch = DiffUtils.diff(before, after, BOUND);
        } catch (TooMany tooMany) {
            return whole(before, after);
        }
        for (AbstractDelta<String> delta : patch.getDeltas()) {
            if (delta.getType() == DeltaType.EQUAL) {
                continue;
            }
            int old = delta.getSource().getPosition();
            for (String line : delta.getSource().getLines()) {
                lines.add(DocumentChange.Line.gone(++old, delta.getTarget().getPosition() + 1, line));
            }
            int now = delta.getTarget().getPosition();
            for (String line : delta.getTarget().getLines()) {
                lines.add(DocumentChange.Line.added(++now, old + 1, line));
            }
        }
        return lines;
    }
}
