package dev.mockbell.desktop.model;

import dev.mockbell.problem.Problem;
import dev.mockbell.sheet.Sheet;
import dev.mockbell.sheet.SheetRow;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.function.Consumer;
import java.util.function.IntConsumer;
import java.util.function.Supplier;
import javafx.beans.property.IntegerProperty;
import javafx.beans.property.SimpleIntegerProperty;
import javafx.collections.ObservableList;

/** The rows of a message that was received and is only looked at. */
public final class ReceivedModel {
    /** Where what is folded is looked for in the next answer; going through all rows of a larger one takes too long. */
    private static final int MOST_REMEMBERED = 5_000;

    /** So many lines more or less are shown anew, not put between the others. */
    private static final int MANY = 5_000;

    private final Tasks tasks;
    private final Consumer<Problem> failed;
    private final SheetLines lines = new SheetLines();
    private final IntegerProperty changes = new SimpleIntegerProperty();
    private Optional<Sheet> sheet = Optional.empty();
    private String trouble = "";
    private long turns;

    /** @param failed hears why rows cannot be shown */
    ReceivedModel(Tasks tasks, Consumer<Problem> failed) {
        this.tasks = tasks;
        this.failed = failed;
    }

    /** The rows that are not hidden in a folded one; another list where very many others come, which is told as a change. */
    public ObservableList<Line> lines() {
        return lines.lines();
    }

    /** Counts up whenever rows show something else than before. */
    public IntegerProperty changesProperty() {
        return changes;
    }

    /** Why there are no rows of the XML that came; empty for nothing. */
    public String trouble() {
        return trouble;
    }

    /** @param like whether it is one more answer of the same kind, in which the same is folded as before */
    void show(Shown shown, boolean like) {
        boolean remembered = like && size(sheet) <= MOST_REMEMBERED && size(shown.sheet()) <= MOST_REMEMBERED;
        if (!remembered) {
            lines.forget();
        }
        turns++;
        sheet = shown.sheet();
        trouble = shown.trouble();
        if (sheet.isPresent() && remembered) {
            lines.take(sheet.get());
            lines.refresh();
        } else {
            // taking many lines away one by one would be told of each
            List<Line> all = sheet.map(s -> SheetLines.laid(s, Set.of())).orElseGet(ArrayList::new);
            lines.showMany(all);
            sheet.ifPresent(lines::take);
        }
        changes.set(changes.get() + 1);
    }

    private static int size(Optional<Sheet> of) {
        return of.map(Sheet::elements).orElse(0);
    }

    void clear() {
        show(new Shown(Optional.empty(), ""), false);
    }

    /** Folds a row or opens it. */
    public void fold(SheetRow row) {
        lines.fold(row);
        Opened as = new Opened(lines.toggled(), Optional.empty());
        refresh(() -> as, place -> {});
    }

    /** Folds every row that has others below, or opens every one. */
    public void foldAll(boolean folded) {
        sheet.ifPresent(s ->
                refresh(() -> new Opened(SheetLines.toggledAll(s, folded), Optional.empty()), place -> {}));
    }

    /**
     * Lays the lines out elsewhere, since there may be very many, and shows them unless something else is wanted by then.
     *
     * @param then hears the place of the row that is wanted, if there is one
     */
    private void refresh(Supplier<Opened> opening, IntConsumer then) {
        Sheet of = sheet.orElse(null);
        if (of == null) {
            return;
        }
        long turn = ++turns;
        tasks.run(
                () -> {
                    Opened opened = opening.get();
                    List<Line> all = SheetLines.laid(of, opened.toggled());
                    return new Laid(opened.toggled(), all, opened.wanted().flatMap(r -> place(all, r)));
                },
                laid -> {
                    if (turn == turns) {
                        show(laid);
                        laid.place().ifPresent(then::accept);
                    }
                },
                failed);
    }

    private void show(Laid laid) {
        lines.toggle(laid.toggled());
        if (Math.abs(laid.lines().size() - lines().size()) > MANY) {
            lines.showMany(laid.lines());
        } else {
            lines.show(laid.lines());
        }
        changes.set(changes.get() + 1);
    }

    private static Optional<Integer> place(List<Line> lines, SheetRow row) {
        for (int i = 0; i < lines.size(); i++) {
            if (lines.get(i).row().id().equals(row.id())) {
                return Optional.of(i);
            }
        }
        return Optional.empty();
    }

    /** Which rows are folded or opened by hand, and one that is to be looked at. */
    private record Opened(Set<String> toggled, Optional<SheetRow> wanted) {}

    /** The lines of that, and which of them is looked at. */
    private record Laid(Set<String> toggled, List<Line> lines, Optional<Integer> place) {}

    /** Shows the rows in view anew, since something beside them has become known. */
    void touched() {
        changes.set(changes.get() + 1);
    }

    /**
     * Opens what hides the row at a path.
     *
     * @param then hears its place among the lines; is not called when there is no such row
     */
    public void reveal(String path, IntConsumer then) {
        Sheet of = sheet.orElse(null);
        if (of == null) {
            return;
        }
        Set<String> before = lines.toggled();
        refresh(
                () -> {
                    Optional<SheetRow> wanted = of.at(path);
                    wanted.ifPresent(row -> SheetLines.reveal(of, row, before));
                    return new Opened(before, wanted);
                },
                then);
    }
}
