package dev.mockbell.desktop.model;

import dev.mockbell.sheet.Sheet;
import dev.mockbell.sheet.SheetRow;
import java.util.Optional;
import javafx.beans.property.IntegerProperty;
import javafx.beans.property.SimpleIntegerProperty;
import javafx.collections.ObservableList;

/** The rows of a message that was received and is only looked at. */
public final class ReceivedModel {
    /** Where what is folded is looked for in the next answer; going through all rows of a larger one takes too long. */
    private static final int MOST_REMEMBERED = 5_000;

    private final SheetLines lines = new SheetLines();
    private final IntegerProperty changes = new SimpleIntegerProperty();
    private Optional<Sheet> sheet = Optional.empty();
    private String trouble = "";

    /** The rows that are not hidden in a folded one. */
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
        boolean remembered = like && rows(sheet) <= MOST_REMEMBERED && rows(shown.sheet()) <= MOST_REMEMBERED;
        if (!remembered) {
            lines.forget();
        }
        sheet = shown.sheet();
        trouble = shown.trouble();
        if (sheet.isPresent()) {
            lines.take(sheet.get());
            lines.refresh();
        } else {
            lines.hide();
        }
        changes.set(changes.get() + 1);
    }

    private static int rows(Optional<Sheet> of) {
        // rows that are laid out later are not among them, and neither are they folded
        return of.flatMap(Sheet::root).map(r -> r.tally().rows()).orElse(0);
    }

    void clear() {
        show(new Shown(Optional.empty(), ""), false);
    }

    /** Folds a row or opens it. */
    public void fold(SheetRow row) {
        lines.fold(row);
        refresh();
    }

    /** Folds every row that has others below, or opens every one. */
    public void foldAll(boolean folded) {
        if (sheet.isPresent()) {
            lines.foldAll(folded);
            refresh();
        }
    }

    private void refresh() {
        if (sheet.isPresent()) {
            lines.refresh();
            changes.set(changes.get() + 1);
        }
    }

    /** Shows the rows in view anew, since something beside them has become known. */
    void touched() {
        changes.set(changes.get() + 1);
    }

    /** The row at a path of names and positions. */
    public Optional<SheetRow> at(String path) {
        return sheet.flatMap(s -> s.at(path));
    }

    /**
     * Opens what hides the row at a path.
     *
     * @return its place among the lines; -1 when there is no such row
     */
    public int reveal(String path) {
        Optional<SheetRow> wanted = at(path);
        if (wanted.isEmpty()) {
            return -1;
        }
        lines.reveal(wanted.get());
        refresh();
        return lines.line(wanted.get().id()).map(lines.lines()::indexOf).orElse(-1);
    }
}
