package dev.mockbell.desktop.model;

import dev.mockbell.problem.Problem;
import dev.mockbell.sheet.Sheet;
import dev.mockbell.sheet.SheetRow;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.atomic.AtomicReference;
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
            lines.showMany(all, SheetLines.byId(all));
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
        Set<String> toggled = lines.toggled();
        refresh(() -> toggled, rows -> {});
    }

    /** Folds every row that has others below, or opens every one. */
    public void foldAll(boolean folded) {
        sheet.ifPresent(s -> refresh(() -> SheetLines.toggledAll(s, folded), rows -> {}));
    }

    /** Lays the lines out elsewhere, since there may be very many, and shows them unless something else is wanted by then. */
    private void refresh(Supplier<Set<String>> toggled, Consumer<Set<String>> then) {
        Sheet of = sheet.orElse(null);
        if (of == null) {
            return;
        }
        long turn = ++turns;
        int before = lines.lines().size();
        tasks.run(
                () -> {
                    Set<String> wanted = toggled.get();
                    List<Line> all = SheetLines.laid(of, wanted);
                    boolean many = Math.abs(all.size() - before) > MANY;
                    return new Laid(wanted, all, many ? Optional.of(SheetLines.byId(all)) : Optional.empty());
                },
                laid -> {
                    if (turn == turns) {
                        lines.toggle(laid.toggled());
                        laid.byId()
                                .ifPresentOrElse(
                                        byId -> lines.showMany(laid.lines(), byId), () -> lines.show(laid.lines()));
                        changes.set(changes.get() + 1);
                        then.accept(laid.toggled());
                    }
                },
                failed);
    }

    private record Laid(Set<String> toggled, List<Line> lines, Optional<Map<String, Line>> byId) {}

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
        AtomicReference<SheetRow> wanted = new AtomicReference<>();
        refresh(
                () -> {
                    Set<String> toggled = new HashSet<>(before);
                    of.at(path).ifPresent(row -> {
                        wanted.set(row);
                        SheetLines.reveal(of, row, toggled);
                    });
                    return toggled;
                },
                toggled -> Optional.ofNullable(wanted.get())
                        .flatMap(row -> lines.line(row.id()))
                        .map(lines.lines()::indexOf)
                        .ifPresent(then::accept));
    }
}
