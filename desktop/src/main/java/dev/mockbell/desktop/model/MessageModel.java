package dev.mockbell.desktop.model;

import dev.mockbell.completion.Completions;
import dev.mockbell.message.MessageOutline;
import dev.mockbell.problem.Problem;
import dev.mockbell.sample.SampleBuilder.Detail;
import dev.mockbell.sheet.Sheet;
import dev.mockbell.sheet.SheetRow;
import dev.mockbell.sheet.SheetRow.Kind;
import dev.mockbell.sheet.Variant;
import dev.mockbell.validation.MessageValidator;
import dev.mockbell.xml.TextEncoding;
import dev.mockbell.xml.Xml;
import dev.mockbell.xml.XmlLimits;
import dev.mockbell.xml.XmlText;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.Callable;
import java.util.function.Consumer;
import javafx.beans.property.IntegerProperty;
import javafx.beans.property.ReadOnlyBooleanProperty;
import javafx.beans.property.ReadOnlyBooleanWrapper;
import javafx.beans.property.ReadOnlyStringProperty;
import javafx.beans.property.ReadOnlyStringWrapper;
import javafx.beans.property.SimpleIntegerProperty;
import javafx.beans.property.SimpleStringProperty;
import javafx.beans.property.StringProperty;
import javafx.collections.FXCollections;
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

    /** A row as shown; it changes with what it shows, so that a field that is being typed in stays. */
    public static final class Line {
        private final int depth;
        private boolean open;
        private SheetRow row;

        Line(SheetRow row, int depth, boolean open) {
            this.row = row;
            this.depth = depth;
            this.open = open;
        }

        public SheetRow row() {
            return row;
        }

        /** How far in. */
        public int depth() {
            return depth;
        }

        /** Whether what is below is shown. */
        public boolean open() {
            return open;
        }

        /** Whether it is the line of the same row; then it shows that as it is now. */
        private boolean takes(Line other) {
            boolean same = depth == other.depth && row.id().equals(other.row.id());
            if (same) {
                row = other.row;
                open = other.open;
            }
            return same;
        }
    }

    private final ObservableList<Line> lines = FXCollections.observableArrayList();
    private final ReadOnlyStringWrapper xml = new ReadOnlyStringWrapper("");
    private final ReadOnlyStringWrapper trouble = new ReadOnlyStringWrapper("");
    private final ReadOnlyBooleanWrapper reading = new ReadOnlyBooleanWrapper();
    private final ReadOnlyBooleanWrapper broken = new ReadOnlyBooleanWrapper();
    private final StringProperty filter = new SimpleStringProperty("");
    private final IntegerProperty changes = new SimpleIntegerProperty();
    private final Map<String, Line> shownById = new HashMap<>();
    private final Set<String> toggled = new HashSet<>();
    private final Undo undo = new Undo();
    private final Optional<Tasks> tasks;
    private final boolean received;
    private Consumer<String> edited = text -> {};
    private Runnable handingOver = () -> {};
    private Sheet sheet;
    private SheetRow pointed;
    private MessageOutline outline;
    private long loads;
    private boolean replacing;

    private MessageModel(Optional<Tasks> tasks, boolean received) {
        this.tasks = tasks;
        this.received = received;
        filter.addListener((o, was, now) -> refresh());
    }

    /** A message that is edited, all on the calling thread. */
    public MessageModel() {
        this(Optional.empty(), false);
    }

    /** A message that is edited; a large one is read by a task. */
    public static MessageModel edited(Tasks tasks) {
        return new MessageModel(Optional.of(tasks), false);
    }

    /** A message that was received, in which braces mean themselves. */
    public static MessageModel received(Tasks tasks) {
        return new MessageModel(Optional.of(tasks), true);
    }

    /** The rows that are not hidden in a folded one or by the filter. */
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
        return filter;
    }

    /** Whether the lines are just being replaced, so that what becomes of a selection is nobody's choice. */
    public boolean isReplacing() {
        return replacing;
    }

    /** Counts up whenever rows show something else than before. */
    public IntegerProperty changesProperty() {
        return changes;
    }

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

    /** Shows another message. */
    public void open(MessageOutline newOutline, String text) {
        outline = newOutline;
        undo.clear();
        toggled.clear();
        sheet = null;
        pointed = null;
        filter.set("");
        load(text);
    }

    /** Shows nothing. */
    public void clear() {
        loads++;
        sheet = null;
        pointed = null;
        outline = null;
        undo.clear();
        hide();
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
        Sheet made = received ? Sheet.openReceived(of, text) : Sheet.open(of, text);
        // laid out and written here, so that a large one is not on the interface thread
        made.root();
        made.text();
        return made;
    }

    private void took(Sheet made) {
        Set<String> paths = sheet == null ? Set.of() : toggledPaths();
        if (sheet != null) {
            made.remember(sheet);
        }
        if (pointed != null) {
            pointed = sheet.row(pointed.id()).flatMap(r -> made.at(r.path())).orElse(null);
        }
        sheet = made;
        broken.set(false);
        if (!paths.isEmpty()) {
            toggled.clear();
            paths.forEach(p -> sheet.at(p).ifPresent(r -> toggled.add(r.id())));
        }
        refresh();
    }

    /** Rows of a text that was read anew have other ids; what was folded is found again by its path. */
    private Set<String> toggledPaths() {
        Set<String> paths = new HashSet<>();
        toggled.forEach(id -> sheet.row(id).map(SheetRow::path).ifPresent(paths::add));
        return paths;
    }

    private void refused(Problem problem) {
        if (sheet == null) {
            hide();
        }
        trouble.set(problem.getMessage());
        broken.set(true);
    }

    private void hide() {
        lines.clear();
        shownById.clear();
    }

    private void refresh() {
        if (sheet == null) {
            return;
        }
        List<Line> shown = new ArrayList<>();
        String wanted = filter.get().strip().toLowerCase(Locale.ROOT);
        Optional<SheetRow> root = sheet.root();
        root.ifPresent(r -> {
            if (wanted.isEmpty()) {
                add(r, 0, Kind.GROUP, shown);
            } else {
                filtered(r, 0, wanted, shown);
            }
        });
        replacing = true;
        show(shown);
        replacing = false;
        judge();
        changes.set(changes.get() + 1);
    }

    /** Replaces only the stretch that differs, so that what is scrolled to and chosen stays. */
    private void show(List<Line> shown) {
        int least = Math.min(lines.size(), shown.size());
        int start = 0;
        while (start < least && lines.get(start).takes(shown.get(start))) {
            start++;
        }
        int tail = 0;
        while (tail < least - start && lines.get(lines.size() - 1 - tail).takes(shown.get(shown.size() - 1 - tail))) {
            tail++;
        }
        lines.subList(start, lines.size() - tail).forEach(l -> shownById.remove(l.row.id()));
        List<Line> come = shown.subList(start, shown.size() - tail);
        come.forEach(l -> shownById.put(l.row.id(), l));
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

    private void add(SheetRow row, int depth, Kind around, List<Line> into) {
        boolean open = isOpen(row, around);
        into.add(new Line(row, depth, open));
        if (open) {
            row.children().forEach(c -> add(c, depth + 1, row.kind(), into));
        }
    }

    /** Many of a kind start folded, and so does each of them. */
    private boolean isOpen(SheetRow row, Kind around) {
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

    /** Folds a row or opens it. */
    public void fold(SheetRow row) {
        if (!toggled.remove(row.id())) {
            toggled.add(row.id());
        }
        refresh();
    }

    /** Folds every row that has others below, or opens every one. */
    public void foldAll(boolean folded) {
        toggled.clear();
        if (sheet != null) {
            sheet.root().ifPresent(r -> r.children().forEach(c -> foldBelow(c, r.kind(), folded)));
        }
        refresh();
    }

    private void foldBelow(SheetRow row, Kind around, boolean folded) {
        if (!row.children().isEmpty()) {
            if (isOpen(row, around) == folded) {
                toggled.add(row.id());
            }
            row.children().forEach(c -> foldBelow(c, row.kind(), folded));
        }
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
        now.ifPresent(r -> {
            Line line = shownById.get(r.id());
            if (line != null) {
                line.row = r;
            }
        });
        judge();
        return now.flatMap(SheetRow::problem);
    }

    /** Gives a row a value from elsewhere than its own field, which shows it then. */
    public void put(SheetRow row, String value) {
        change(() -> sheet.setValue(row, value));
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
        return Optional.ofNullable(shownById.get(row.id()));
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

    /** Adds one more of the group that the row is part of. */
    public void repeatGroup(SheetRow row) {
        change(() -> sheet.addGroup(row));
    }

    public void duplicate(SheetRow row) {
        change(() -> sheet.duplicate(row));
    }

    /** Moves one of several up, by -1, or down, by 1. */
    public void move(SheetRow row, int by) {
        change(() -> sheet.move(row, by));
    }

    public void remove(SheetRow row) {
        change(() -> sheet.remove(row));
    }

    public void choose(SheetRow row, String branch) {
        change(() -> sheet.choose(row, branch));
    }

    public void setNil(SheetRow row, boolean nil) {
        change(() -> sheet.setNil(row, nil));
    }

    public void addText(SheetRow row) {
        change(() -> sheet.addText(row, "text"));
    }

    /**
     * Puts attributes on a row's element, written as in its tag.
     *
     * @throws Problem when they are none; nothing has changed then
     */
    public void addAttributes(SheetRow row, String text) {
        change(() -> sheet.addAttributes(row, text));
    }

    /** What may stand in the row's place. */
    public List<Variant> variants(SheetRow row) {
        return sheet == null ? List.of() : sheet.variants(row);
    }

    public void become(SheetRow row, Variant variant) {
        change(() -> sheet.become(row, variant));
    }

    /** The row and what is below as XML. */
    public String xml(SheetRow row) {
        return sheet.xml(row);
    }

    /**
     * Puts XML in at a row.
     *
     * @throws Problem when it has no place there; nothing has changed then
     */
    public void paste(SheetRow row, String text) {
        change(() -> sheet.pasteXml(row, text));
    }

    /**
     * Fills repeating rows from a table.
     *
     * @throws Problem when a line has too many cells; nothing has changed then
     */
    public void pasteRows(SheetRow row, List<List<String>> table) {
        change(() -> sheet.pasteRows(row, table));
    }

    /** Puts all optional parts in, or takes them all out. */
    public void fill(Detail detail) {
        change(() -> sheet.fill(detail));
    }

    /** Takes the optional parts out that still are as in a sample. */
    public void keepWhatDiffers() {
        change(sheet::keepWhatDiffers);
    }

    private void change(Runnable edit) {
        settle();
        if (!isCurrent()) {
            return;
        }
        String before = xml.get();
        edit.run();
        took("", before);
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
        filter.set("");
        sheet.root().ifPresent(r -> open(r, Kind.GROUP, wanted.get().id()));
        refresh();
        return lines.indexOf(shownById.get(wanted.get().id()));
    }

    private boolean open(SheetRow row, Kind around, String wanted) {
        if (row.id().equals(wanted)) {
            return true;
        }
        for (SheetRow child : row.children()) {
            if (open(child, row.kind(), wanted)) {
                if (!isOpen(row, around) && !toggled.remove(row.id())) {
                    toggled.add(row.id());
                }
                return true;
            }
        }
        return false;
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
        elsewhere(() -> textOf(file), this::replaceXml, problem -> tell.accept(problem.getMessage()));
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

    private static String textOf(Path file) {
        byte[] bytes = FileContent.bytes(file, MOST_FILE);
        return TextEncoding.of(bytes, "").decode(bytes).strip();
    }

    public void undo() {
        settle();
        undo.undo(xml.get()).ifPresent(this::restore);
    }

    public void redo() {
        settle();
        undo.redo(xml.get()).ifPresent(this::restore);
    }

    private void restore(String text) {
        load(text);
        edited.accept(text);
    }

    /** How many optional parts are left out. */
    public long leftOut() {
        return sheet == null ? 0 : sheet.root().map(r -> r.tally().leftOut()).orElse(0);
    }
}
