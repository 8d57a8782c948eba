package dev.mockbell.desktop.model;

import dev.mockbell.message.MessageOutline;
import dev.mockbell.message.MessageValidator;
import dev.mockbell.message.SampleBuilder.Detail;
import dev.mockbell.message.Sheet;
import dev.mockbell.message.SheetRow;
import dev.mockbell.problem.Problem;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.function.Consumer;
import javafx.beans.property.ReadOnlyStringProperty;
import javafx.beans.property.ReadOnlyStringWrapper;
import javafx.collections.FXCollections;
import javafx.collections.ObservableList;

/** One message with its two faces: rows of the sheet, and XML. An edit of either shows in the other at once. */
public final class MessageModel {
    /**
     * A row as shown.
     *
     * @param depth how far in
     * @param open whether what is below is shown
     */
    public record Line(SheetRow row, int depth, boolean open) {}

    private final ObservableList<Line> lines = FXCollections.observableArrayList();
    private final ReadOnlyStringWrapper xml = new ReadOnlyStringWrapper("");
    private final ReadOnlyStringWrapper trouble = new ReadOnlyStringWrapper("");
    private final Set<String> folded = new HashSet<>();
    private final Undo undo = new Undo();
    private Consumer<String> edited = text -> {};
    private Sheet sheet;
    private MessageOutline outline;

    /** The rows that are not hidden in a folded one. */
    public ObservableList<Line> lines() {
        return lines;
    }

    public ReadOnlyStringProperty xmlProperty() {
        return xml.getReadOnlyProperty();
    }

    public String xml() {
        return xml.get();
    }

    /** What is not valid, in words; empty when all is. */
    public ReadOnlyStringProperty troubleProperty() {
        return trouble.getReadOnlyProperty();
    }

    /** Hears of every change that a person makes, with the new text. */
    public void onEdited(Consumer<String> listener) {
        edited = listener;
    }

    /** Shows another message. */
    public void open(MessageOutline newOutline, String text) {
        outline = newOutline;
        undo.clear();
        folded.clear();
        load(text);
    }

    /** Shows nothing. */
    public void clear() {
        sheet = null;
        outline = null;
        lines.clear();
        xml.set("");
        trouble.set("");
    }

    private void load(String text) {
        xml.set(text);
        try {
            sheet = Sheet.open(outline, text);
            refresh();
        } catch (Problem problem) {
            trouble.set(problem.getMessage());
        }
    }

    private void refresh() {
        List<Line> shown = new ArrayList<>();
        Optional<SheetRow> root = sheet.root();
        root.ifPresent(r -> add(r, 0, shown));
        lines.setAll(shown);
        judge();
    }

    private void add(SheetRow row, int depth, List<Line> into) {
        boolean open = !folded.contains(row.id());
        into.add(new Line(row, depth, open));
        if (open) {
            row.children().forEach(c -> add(c, depth + 1, into));
        }
    }

    private void judge() {
        List<String> problems = new ArrayList<>();
        sheet.root().ifPresent(r -> problems(r, problems));
        trouble.set(
                problems.isEmpty()
                        ? ""
                        : problems.get(0) + (problems.size() > 1 ? " and " + (problems.size() - 1) + " more" : ""));
    }

    private static void problems(SheetRow row, List<String> into) {
        row.problem().ifPresent(p -> into.add(row.label() + ": " + p));
        row.children().forEach(c -> problems(c, into));
    }

    /** What the schema's own validator says of the message as it stands; for a message without expressions. */
    public List<MessageValidator.Breach> breaches() {
        return new MessageValidator(outline.schemas())
                .validate(
                        outline, dev.mockbell.xml.Xml.parse(xml.get(), "message", dev.mockbell.xml.XmlLimits.MESSAGE));
    }

    /** Folds a row or opens it. */
    public void fold(SheetRow row) {
        if (!folded.remove(row.id())) {
            folded.add(row.id());
        }
        refresh();
    }

    /** Types into a row. The rows stay as they are, so that the field being typed in keeps the keyboard. */
    public Optional<String> type(SheetRow row, String value) {
        undo.before(xml.get(), "type " + row.id());
        sheet.setValue(row, value);
        xml.set(sheet.text());
        judge();
        edited.accept(xml.get());
        return sheet.row(row.id()).flatMap(SheetRow::problem);
    }

    public void include(SheetRow row) {
        change(() -> sheet.include(row));
    }

    public void leaveOut(SheetRow row) {
        change(() -> sheet.leaveOut(row));
    }

    public void repeat(SheetRow row) {
        change(() -> sheet.addRepeat(row));
    }

    public void remove(SheetRow row) {
        change(() -> sheet.leaveOut(row));
    }

    public void choose(SheetRow row, String branch) {
        change(() -> sheet.choose(row, branch));
    }

    public void setNil(SheetRow row, boolean nil) {
        change(() -> sheet.setNil(row, nil));
    }

    /** Puts all optional parts in, or takes them all out. */
    public void fill(Detail detail) {
        change(() -> sheet.fill(detail));
    }

    private void change(Runnable edit) {
        if (sheet == null) {
            return;
        }
        undo.before(xml.get(), "");
        edit.run();
        xml.set(sheet.text());
        refresh();
        edited.accept(xml.get());
    }

    /** Takes over XML that was typed. What is not well-formed is kept as text and told of; the sheet waits. */
    public void typeXml(String text) {
        if (text.equals(xml.get())) {
            return;
        }
        undo.before(xml.get(), "xml");
        load(text);
        edited.accept(text);
    }

    public void undo() {
        undo.undo(xml.get()).ifPresent(this::restore);
    }

    public void redo() {
        undo.redo(xml.get()).ifPresent(this::restore);
    }

    private void restore(String text) {
        load(text);
        edited.accept(text);
    }

    /** How many optional parts are left out. */
    public long leftOut() {
        return lines.stream()
                .filter(l -> l.row().state() == SheetRow.State.LEFT_OUT)
                .count();
    }
}
