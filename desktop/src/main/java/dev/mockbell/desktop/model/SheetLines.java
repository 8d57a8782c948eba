package dev.mockbell.desktop.model;

import dev.mockbell.sheet.RowPaths;
import dev.mockbell.sheet.Sheet;
import dev.mockbell.sheet.SheetRow;
import dev.mockbell.sheet.SheetRow.Kind;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import javafx.beans.property.SimpleStringProperty;
import javafx.beans.property.StringProperty;
import javafx.collections.FXCollections;
import javafx.collections.ObservableList;

/** The rows of a message that are shown: those not hidden in a folded one or by a filter. */
final class SheetLines {
    private ObservableList<Line> lines = FXCollections.observableArrayList();
    private final StringProperty filter = new SimpleStringProperty("");

    /** The lines by the ids of their rows, once one was asked for; of very many that are only looked at, none is. */
    private Optional<Map<String, Line>> byId = Optional.empty();

    private Set<String> toggled = new HashSet<>();
    private Sheet sheet;
    private boolean replacing;

    ObservableList<Line> lines() {
        return lines;
    }

    StringProperty filterProperty() {
        return filter;
    }

    /** Whether the lines are just being replaced, so that what becomes of a selection is nobody's choice. */
    boolean isReplacing() {
        return replacing;
    }

    /** The line that shows a row; empty when it is hidden. */
    Optional<Line> line(String id) {
        if (byId.isEmpty()) {
            Map<String, Line> all = new HashMap<>(lines.size() * 4 / 3 + 1);
            lines.forEach(l -> all.put(l.row().id(), l));
            byId = Optional.of(all);
        }
        return byId.map(m -> m.get(id));
    }

    /** Shows nothing; what is folded stays so. */
    void hide() {
        lines.clear();
        byId = Optional.empty();
    }

    /** Forgets what is folded and filtered, for another message. */
    void forget() {
        sheet = null;
        toggled = new HashSet<>();
        filter.set("");
    }

    /** Goes over to another sheet of the same message, whose rows have other ids: what was folded is found again by its path. */
    void take(Sheet other) {
        Set<String> paths = new HashSet<>();
        if (sheet != null && !toggled.isEmpty()) {
            sheet.root()
                    .ifPresent(root -> RowPaths.of(root).each((row, path) -> {
                        if (toggled.contains(row.id())) {
                            paths.add(path);
                        }
                    }));
        }
        sheet = other;
        if (!paths.isEmpty()) {
            toggled.clear();
            sheet.root()
                    .ifPresent(root -> RowPaths.of(root).each((row, path) -> {
                        if (paths.contains(path)) {
                            toggled.add(row.id());
                        }
                    }));
        }
    }

    /** Shows the sheet as it is now. */
    void refresh() {
        String wanted = filter.get().strip().toLowerCase(Locale.ROOT);
        if (wanted.isEmpty()) {
            show(laid(sheet, toggled));
        } else {
            List<Line> shown = new ArrayList<>();
            sheet.root().ifPresent(r -> filtered(r, 0, wanted, shown));
            show(shown);
        }
    }

    /** The lines of a sheet with the rows that were folded or opened by hand; works on nothing else, so anywhere. */
    static List<Line> laid(Sheet sheet, Set<String> toggled) {
        List<Line> shown = new ArrayList<>();
        sheet.root().ifPresent(r -> add(r, 0, Kind.GROUP, toggled, shown));
        return shown;
    }

    /** Shows lines that were laid out. */
    void show(List<Line> shown) {
        replacing = true;
        replace(shown);
        replacing = false;
    }

    /**
     * Shows very many lines that were laid out elsewhere, as a list of their own. What is chosen is chosen no more.
     *
     * @param shown becomes this one's own
     */
    void showMany(List<Line> shown) {
        replacing = true;
        byId = Optional.empty();
        // filling the list that there is would tell of each line
        lines = FXCollections.observableList(shown);
        replacing = false;
    }

    /** The rows that were folded or opened by hand. */
    Set<String> toggled() {
        return new HashSet<>(toggled);
    }

    /** Takes over what was folded and opened elsewhere; it becomes this one's own. */
    void toggle(Set<String> rows) {
        toggled = rows;
    }

    /** Replaces only the stretch that differs, so that what is scrolled to and chosen stays. */
    private void replace(List<Line> shown) {
        int least = Math.min(lines.size(), shown.size());
        int start = 0;
        while (start < least && lines.get(start).takes(shown.get(start))) {
            start++;
        }
        int tail = 0;
        while (tail < least - start && lines.get(lines.size() - 1 - tail).takes(shown.get(shown.size() - 1 - tail))) {
            tail++;
        }
        List<Line> go = lines.subList(start, lines.size() - tail);
        List<Line> come = shown.subList(start, shown.size() - tail);
        byId.ifPresent(known -> {
            go.forEach(l -> known.remove(l.row().id()));
            come.forEach(l -> known.put(l.row().id(), l));
        });
        if (start == 0 && tail == 0) {
            lines.setAll(shown);
            return;
        }
        if (lines.size() - tail > start) {
            lines.remove(start, lines.size() - tail);
        }
        if (!come.isEmpty()) {
            lines.addAll(start, come);
        }
    }

    private static void add(SheetRow row, int depth, Kind around, Set<String> toggled, List<Line> into) {
        boolean open = isOpen(row, around, toggled);
        into.add(new Line(row, depth, open));
        if (open) {
            row.children().forEach(c -> add(c, depth + 1, row.kind(), toggled, into));
        }
    }

    /** Many of a kind start folded, and so does each of them. */
    private static boolean isOpen(SheetRow row, Kind around, Set<String> toggled) {
        boolean usual = row.kind() != Kind.REPEATS && around != Kind.REPEATS;
        return usual != toggled.contains(row.id());
    }

    private static boolean filtered(SheetRow row, int depth, String wanted, List<Line> into) {
        int at = into.size();
        into.add(new Line(row, depth, true));
        boolean found = row.label().toLowerCase(Locale.ROOT).contains(wanted)
                || row.value().toLowerCase(Locale.ROOT).contains(wanted);
        for (SheetRow child : row.children()) {
            found |= filtered(child, depth + 1, wanted, into);
        }
        if (!found) {
            into.subList(at, into.size()).clear();
        }
        return found;
    }

    /** Folds a row or opens it. */
    void fold(SheetRow row) {
        if (!toggled.remove(row.id())) {
            toggled.add(row.id());
        }
    }

    /** Folds every row that has others below, or opens every one. */
    void foldAll(boolean folded) {
        toggle(toggledAll(sheet, folded));
    }

    /** What is to be toggled for that. */
    static Set<String> toggledAll(Sheet sheet, boolean folded) {
        Set<String> all = new HashSet<>();
        sheet.root().ifPresent(r -> r.children().forEach(c -> foldBelow(c, r.kind(), folded, all)));
        return all;
    }

    private static void foldBelow(SheetRow row, Kind around, boolean folded, Set<String> toggled) {
        if (!row.children().isEmpty()) {
            if (isOpen(row, around, toggled) == folded) {
                toggled.add(row.id());
            }
            row.children().forEach(c -> foldBelow(c, row.kind(), folded, toggled));
        }
    }

    /** Opens what hides a row. */
    void reveal(SheetRow wanted) {
        filter.set("");
        reveal(sheet, wanted, toggled);
    }

    /** As {@link #reveal(SheetRow)}, of any sheet and what is toggled of it. */
    static void reveal(Sheet sheet, SheetRow wanted, Set<String> toggled) {
        sheet.root().ifPresent(r -> open(r, Kind.GROUP, wanted.id(), toggled));
    }

    private static boolean open(SheetRow row, Kind around, String wanted, Set<String> toggled) {
        if (row.id().equals(wanted)) {
            return true;
        }
        for (SheetRow child : row.children()) {
            if (open(child, row.kind(), wanted, toggled)) {
                if (!isOpen(row, around, toggled) && !toggled.remove(row.id())) {
                    toggled.add(row.id());
                }
                return true;
            }
        }
        return false;
    }
}
