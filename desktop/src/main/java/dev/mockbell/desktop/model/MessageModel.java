package dev.mockbell.desktop.model;

import dev.mockbell.completion.Completions;
import dev.mockbell.message.MessageOutline;
import dev.mockbell.problem.Problem;
import dev.mockbell.sheet.Sheet;
import dev.mockbell.sheet.SheetRow;
import dev.mockbell.sheet.Variant;
import dev.mockbell.validation.MessageValidator;
import dev.mockbell.xml.TextFile;
import dev.mockbell.xml.Xml;
import dev.mockbell.xml.XmlLimits;
import dev.mockbell.xml.XmlText;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.Callable;
import java.util.function.Consumer;
import javafx.beans.property.IntegerProperty;
import javafx.beans.property.ReadOnlyBooleanProperty;
import javafx.beans.property.ReadOnlyBooleanWrapper;
import javafx.beans.property.ReadOnlyStringProperty;
import javafx.beans.property.ReadOnlyStringWrapper;
import javafx.beans.property.SimpleIntegerProperty;
import javafx.beans.property.StringProperty;
import javafx.collections.ObservableList;

/**
 * One message with its two faces: rows of the sheet, and XML. An edit of either shows in the other at once; a large text
 * that was typed or opened is read off the interface thread, and the sheet follows when it has been.
 */
public final class MessageModel {
    /** From how many characters on a text is read off the interface thread. */
    private static final int LARGE = 100_000;

    /** In megabytes. */
    private static final int MOST_FILE = 64;

    private final SheetLines lines = new SheetLines();
    private final RowEdits edits = new RowEdits(this);
    private final ReadOnlyStringWrapper xml = new ReadOnlyStringWrapper("");
    private final ReadOnlyStringWrapper trouble = new ReadOnlyStringWrapper("");
    private final ReadOnlyBooleanWrapper reading = new ReadOnlyBooleanWrapper();
    private final ReadOnlyBooleanWrapper broken = new ReadOnlyBooleanWrapper();
    private final IntegerProperty changes = new SimpleIntegerProperty();
    private final Undo undo = new Undo();
    private final Optional<Tasks> tasks;
    private Consumer<String> edited = text -> {};
    private Runnable handingOver = () -> {};
    private Optional<PartTaker> parts = Optional.empty();
    private Sheet sheet;
    private SheetRow pointed;
    private MessageOutline outline;
    private long loads;

    private MessageModel(Optional<Tasks> tasks) {
        this.tasks = tasks;
        lines.filterProperty().addListener((o, was, now) -> refresh());
    }

    private boolean template;

    /** A message that is edited, all on the calling thread. */
    public MessageModel() {
        this(Optional.empty());
    }

    /** A message that is edited; a large one is read by a task. */
    public static MessageModel edited(Tasks tasks) {
        return new MessageModel(Optional.of(tasks));
    }

    /** A message of which a row may be written once for each of several things, or only if something holds. */
    public static MessageModel template(Tasks tasks) {
        MessageModel made = edited(tasks);
        made.template = true;
        return made;
    }

    /** Whether rows may say how often they are written. */
    public boolean isTemplate() {
        return template;
    }

    /** The rows that are not hidden in a folded one or by the filter. */
    public ObservableList<Line> lines() {
        return lines.lines();
    }

    /** The message as text, also one that cannot be read. */
    public ReadOnlyStringProperty xmlProperty() {
        return xml.getReadOnlyProperty();
    }

    /** As {@link #xmlProperty()}, its value now. */
    public String xml() {
        return xml.get();
    }

    /** What is not valid, in words; empty when all is. */
    public ReadOnlyStringProperty troubleProperty() {
        return trouble.getReadOnlyProperty();
    }

    /** Whether a large text is being read, so that the rows are those before it. */
    public ReadOnlyBooleanProperty readingProperty() {
        return reading.getReadOnlyProperty();
    }

    /**
     * Whether the text cannot be read, so that the rows are those before it. They cannot be edited then, which would
     * overwrite the text.
     */
    public ReadOnlyBooleanProperty brokenProperty() {
        return broken.getReadOnlyProperty();
    }

    /** Lets the rows that are shown take the place of a text that cannot be read. */
    public void takeSheet() {
        if (sheet != null) {
            replaceXml(sheet.text());
        }
    }

    /** Whether the rows show the text as it is now. */
    private boolean isCurrent() {
        return sheet != null && !broken.get() && !reading.get();
    }

    /** Rows whose name or value has this text are shown, with what they stand in; empty for all. */
    public StringProperty filterProperty() {
        return lines.filterProperty();
    }

    /** Whether the lines are just being replaced, so that what becomes of a selection is nobody's choice. */
    public boolean isReplacing() {
        return lines.isReplacing();
    }

    /** Counts up whenever rows show something else than before. */
    public IntegerProperty changesProperty() {
        return changes;
    }

    /** What the contract says the message may hold; empty when nothing is shown. */
    public Optional<MessageOutline> outline() {
        return Optional.ofNullable(outline);
    }

    /** Hears of every change that a person makes, with the new text. */
    public void onEdited(Consumer<String> listener) {
        edited = listener;
    }

    /**
     * Names what takes over what has been typed into the XML face and rests there for a moment. It runs before whatever
     * else changes the message or needs the whole of it, so that nothing typed is overtaken.
     */
    public void onSettle(Runnable face) {
        handingOver = face;
    }

    /** Takes over what is still being typed. */
    public void settle() {
        handingOver.run();
    }

    /** Takes a file to go as a part, and tells by which address the message refers to it. */
    public interface PartTaker {
        void take(Path file, Consumer<String> then);
    }

    /** Names what takes files as parts; without it values hold their bytes themselves. */
    public void onPart(PartTaker taker) {
        parts = Optional.of(taker);
    }

    /** What takes files as parts. */
    public Optional<PartTaker> parts() {
        return parts;
    }

    /** Shows another message. */
    public void open(MessageOutline newOutline, String text) {
        outline = newOutline;
        undo.clear();
        sheet = null;
        pointed = null;
        lines.forget();
        load(text);
    }

    /** Shows nothing. */
    public void clear() {
        loads++;
        sheet = null;
        pointed = null;
        outline = null;
        undo.clear();
        lines.hide();
        xml.set("");
        trouble.set("");
        reading.set(false);
        broken.set(false);
    }

    private void load(String text) {
        long turn = ++loads;
        xml.set(text);
        MessageOutline of = outline;
        if (tasks.isEmpty() || text.length() < LARGE) {
            reading.set(false);
            try {
                took(read(of, text));
            } catch (Problem problem) {
                refused(problem);
            }
            return;
        }
        reading.set(true);
        tasks.get()
                .run(
                        () -> read(of, text),
                        made -> {
                            if (turn == loads) {
                                reading.set(false);
                                took(made);
                            }
                        },
                        problem -> {
                            if (turn == loads) {
                                reading.set(false);
                                refused(problem);
                            }
                        });
    }

    private Sheet read(MessageOutline of, String text) {
        Sheet made = Sheet.open(of, text);
        // laid out and written here, so that a large one is not on the interface thread
        made.root();
        made.text();
        return made;
    }

    private void took(Sheet made) {
        if (sheet != null) {
            made.remember(sheet);
        }
        if (pointed != null) {
            pointed = sheet.row(pointed.id()).flatMap(r -> made.at(r.path())).orElse(null);
        }
        lines.take(made);
        sheet = made;
        broken.set(false);
        refresh();
    }

    private void refused(Problem problem) {
        if (sheet == null) {
            lines.hide();
        }
        trouble.set(problem.getMessage());
        broken.set(true);
    }

    private void refresh() {
        if (sheet == null) {
            return;
        }
        lines.refresh();
        judge();
        changes.set(changes.get() + 1);
    }

    private void judge() {
        if (broken.get()) {
            // what is wrong with the text is not told by rows of another
            return;
        }
        SheetRow root = sheet.root().orElse(null);
        if (root == null) {
            trouble.set(outline.root()
                    .map(r -> "The body is empty, " + r.name().getLocalPart() + " is expected")
                    .orElse(""));
            return;
        }
        int problems = root.tally().problems();
        trouble.set(
                problems == 0 ? "" : root.tally().first() + (problems > 1 ? " and " + (problems - 1) + " more" : ""));
    }

    /** What the schema's own validator says of the message as it stands; for a message without expressions. */
    public List<MessageValidator.Breach> breaches() {
        return new MessageValidator(outline.schemas())
                .validate(outline, Xml.parse(xml.get(), "message", XmlLimits.MESSAGE));
    }

    /** What can be done to the rows beyond typing in them. */
    public RowEdits edits() {
        return edits;
    }

    /** Folds a row or opens it. */
    public void fold(SheetRow row) {
        lines.fold(row);
        refresh();
    }

    /** Folds every row that has others below, or opens every one. */
    public void foldAll(boolean folded) {
        if (sheet != null) {
            lines.foldAll(folded);
        }
        refresh();
    }

    /**
     * Opens what hides the row at a path.
     *
     * @return its place among the lines; -1 when there is no such row
     */
    public int reveal(String path) {
        Optional<SheetRow> wanted = sheet == null ? Optional.empty() : sheet.at(path.strip());
        if (wanted.isEmpty()) {
            return -1;
        }
        lines.reveal(wanted.get());
        refresh();
        return line(wanted.get()).map(lines.lines()::indexOf).orElse(-1);
    }

    /** What may stand in the row's place. */
    public List<Variant> variants(SheetRow row) {
        return sheet == null ? List.of() : sheet.variants(row);
    }

    /** The row and what is below as XML. */
    public String xml(SheetRow row) {
        return sheet.xml(row);
    }

    /** Types into a row. The lines stay as they are, so that the field being typed in keeps the keyboard. */
    public Optional<String> type(SheetRow row, String value) {
        settle();
        if (!isCurrent()) {
            return Optional.empty();
        }
        String before = xml.get();
        sheet.setValue(row, value);
        Optional<SheetRow> now = sheet.standing(row);
        took("type " + row.id(), before);
        now.ifPresent(r -> lines.line(r.id()).ifPresent(l -> l.show(r)));
        judge();
        return now.flatMap(SheetRow::problem);
    }

    private void took(String kind, String before) {
        String text = sheet.text();
        xml.set(text);
        undo.changed(before, text, kind, sheet.sameBefore(before), sheet.sameAfter(before));
        edited.accept(text);
    }

    /** The row of that id as it is now. */
    public Optional<SheetRow> row(String id) {
        return sheet == null ? Optional.empty() : sheet.row(id);
    }

    /** Notes the row that somebody chose; null for none. It stays so while rows come and go, until another message is opened. */
    public void point(SheetRow row) {
        pointed = row;
    }

    /** The line of the row that was chosen last; empty when it is gone or hidden. */
    public Optional<Line> pointed() {
        return Optional.ofNullable(pointed).flatMap(this::line);
    }

    /** The line that shows a row; empty when it is hidden in a folded one or by the filter. */
    public Optional<Line> line(SheetRow row) {
        return lines.line(row.id());
    }

    /** Edits the sheet, where that shows the text as it is. */
    void change(Consumer<Sheet> edit) {
        settle();
        if (!isCurrent()) {
            return;
        }
        String before = xml.get();
        edit.accept(sheet);
        took("", before);
        refresh();
    }

    /** Takes over XML that was typed. What is not well-formed is kept as text and told of; the sheet waits. */
    public void typeXml(String text) {
        if (text.equals(xml.get())) {
            return;
        }
        undo.changed(xml.get(), text, "xml");
        load(text);
        edited.accept(text);
    }

    /** Takes over a whole text at once, such as that of a file. */
    public void replaceXml(String text) {
        settle();
        if (!text.equals(xml.get())) {
            undo.changed(xml.get(), text, "");
            load(text);
            edited.accept(text);
        }
    }

    /**
     * Takes over the text of a file, read off the interface thread where there are tasks.
     *
     * @param tell hears why it cannot be read
     */
    public void replaceByFile(Path file, Consumer<String> tell) {
        elsewhere(
                () -> TextFile.read(file, "The file", MOST_FILE).strip(),
                this::replaceXml,
                problem -> tell.accept(problem.getMessage()));
    }

    /** Lays the message out anew, off the interface thread; what is not well-formed stays, and so does what has changed since. */
    public void layOut(Consumer<String> tell) {
        settle();
        String text = xml();
        elsewhere(
                () -> XmlText.laidOut(Xml.parse(text.strip(), "message", XmlLimits.MESSAGE)),
                laidOut -> {
                    if (xml().equals(text)) {
                        replaceXml(laidOut);
                    }
                },
                problem -> tell.accept(problem.getMessage()));
    }

    /**
     * What the contract allows at a caret, found off the interface thread.
     *
     * @param done hears of it; of nothing when no contract says what the message may hold
     */
    public void complete(String text, int caret, Consumer<Completions.At> done) {
        outline()
                .ifPresentOrElse(
                        o -> elsewhere(() -> Completions.at(o, text, caret), done, problem -> {}),
                        () -> done.accept(new Completions.At(caret, List.of())));
    }

    /** Does what may take long off the interface thread, where there are tasks, and tells of it on that. */
    public <T> void elsewhere(Callable<T> work, Consumer<T> done, Consumer<Problem> failed) {
        if (tasks.isPresent()) {
            tasks.get().run(work, done, failed);
            return;
        }
        T made;
        try {
            made = work.call();
        } catch (Problem problem) {
            failed.accept(problem);
            return;
        } catch (Exception e) {
            throw new IllegalStateException(e);
        }
        done.accept(made);
    }

    /** Takes the last change back. */
    public boolean undo() {
        settle();
        return undo.undo(xml.get()).map(this::restore).isPresent();
    }

    /** Makes the change that was taken back last again. */
    public boolean redo() {
        settle();
        return undo.redo(xml.get()).map(this::restore).isPresent();
    }

    private String restore(String text) {
        load(text);
        edited.accept(text);
        return text;
    }

    /** How many optional parts are left out. */
    public long leftOut() {
        return sheet == null ? 0 : sheet.root().map(r -> r.tally().leftOut()).orElse(0);
    }
}
