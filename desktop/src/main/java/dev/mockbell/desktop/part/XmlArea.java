package dev.mockbell.desktop.part;

import dev.mockbell.xml.TagScan;
import java.lang.ref.SoftReference;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Collections;
import java.util.List;
import java.util.Optional;
import java.util.function.Function;
import java.util.function.IntFunction;
import java.util.function.Supplier;
import javafx.application.Platform;
import javafx.beans.property.ReadOnlyBooleanProperty;
import javafx.scene.AccessibleAttribute;
import javafx.scene.AccessibleRole;
import javafx.scene.Node;
import javafx.scene.control.Label;
import javafx.scene.image.WritableImage;
import javafx.scene.layout.StackPane;
import org.fxmisc.flowless.VirtualizedScrollPane;
import org.fxmisc.richtext.CodeArea;
import org.fxmisc.richtext.LineNumberFactory;
import org.fxmisc.richtext.model.EditableStyledDocument;
import org.fxmisc.richtext.model.ReadOnlyStyledDocument;
import org.fxmisc.richtext.model.SimpleEditableStyledDocument;
import org.fxmisc.richtext.model.StyleSpans;
import org.fxmisc.richtext.model.StyleSpansBuilder;
import org.fxmisc.richtext.util.UndoUtils;

/**
 * Shows or edits XML with colours and line numbers. Only what is in view is coloured, and a large text is made into lines
 * off the interface thread, so that 5 million characters stay fluid; a longer one is shown in part, says so and cannot be
 * edited.
 */
public final class XmlArea extends StackPane {
    private static final int MOST_SHOWN = 5_000_000;
    private static final int LARGE = 200_000;

    /** How far back before the first visible line a comment may begin for its colour to be seen. */
    private static final int BACK = 4_000;

    private static final int MOST_COLOURED = 16_000;

    /** The editor lays out a line as a whole, so that one of millions of characters would hold up the window. */
    private static final int LONGEST_LINE = 20_000;

    private static final int PIECE = 2_000;
    private static final int MOST_LINES = 300_000;

    private final boolean editable;
    private final Function<VirtualizedScrollPane<CodeArea>, Supplier<VirtualizedScrollPane<CodeArea>>> keeping;
    private CodeArea area;
    private VirtualizedScrollPane<CodeArea> pane;

    /** The lines of a large text that is not in view just now, as long as there is room for them. */
    private Optional<Resting> resting = Optional.empty();

    /** The line to begin with when those that are being made are there. */
    private int first;

    private IntFunction<Node> margin;
    private final Label waiting = Parts.text("Making the lines…", "third");
    private List<Squiggle> squiggles = List.of();
    private List<Squiggle> pair = List.of();
    private String wanted = "";
    private String source;
    private boolean editableThen;
    private boolean colouring;
    private boolean filling;
    private boolean styling;
    private long revision;
    private Coloured coloured = new Coloured(-1, 0, 0);

    /** What stands in for lines that may have to be made again, and the first of them that was in view. */
    private record Resting(Supplier<VirtualizedScrollPane<CodeArea>> pane, int first) {}

    /** What was coloured last; moving about tells of views that show the same. */
    private record Coloured(long revision, int start, int end) {}

    /**
     * What of a text is shown.
     *
     * @param whole whether that is all of it as it is, so that it can be edited
     */
    private record Part(String text, boolean whole) {
        static Part of(String text) {
            int most = most(text);
            if (text.length() > most) {
                return new Part(
                        broken(text.substring(0, most)) + "\n… shown in part: the whole has " + text.length()
                                + " characters",
                        false);
            }
            String broken = broken(text);
            return broken.length() == text.length()
                    ? new Part(text, true)
                    : new Part(
                            broken + "\n… lines of more than " + LONGEST_LINE
                                    + " characters are broken to be shown, and not edited so",
                            false);
        }

        /** How many characters are shown: each line costs the editor much more than its characters. */
        private static int most(String text) {
            int lines = 0;
            for (int at = text.indexOf('\n'); at >= 0 && at < MOST_SHOWN; at = text.indexOf('\n', at + 1)) {
                if (++lines > MOST_LINES) {
                    return at;
                }
            }
            return MOST_SHOWN;
        }

        private static String broken(String text) {
            StringBuilder out = null;
            int start = 0;
            for (int at = text.indexOf('\n'); start < text.length(); at = text.indexOf('\n', start)) {
                int end = at < 0 ? text.length() : at + 1;
                if (end - start > LONGEST_LINE && out == null) {
                    out = new StringBuilder(text.length() + 1_000).append(text, 0, start);
                }
                if (out != null) {
                    for (int i = start; i < end; i += PIECE) {
                        int stop = end - start > LONGEST_LINE ? Math.min(end, i + PIECE) : end;
                        out.append(text, i, stop);
                        if (stop < end) {
                            out.append('\n');
                        } else {
                            break;
                        }
                    }
                }
                start = end;
            }
            return out == null ? text : out.toString();
        }
    }

    /** A stretch with a flaw, for {@link #squiggle}. */
    public record Squiggle(int start, int end, String text) {}

    public XmlArea(boolean editable) {
        this(editable, lines -> new SoftReference<>(lines)::get);
    }

    /** @param keeping keeps lines that are not in view for as long as it likes; gives null when they are gone */
    XmlArea(
            boolean editable,
            Function<VirtualizedScrollPane<CodeArea>, Supplier<VirtualizedScrollPane<CodeArea>>> keeping) {
        this.editable = editable;
        this.keeping = keeping;
        waiting.setVisible(false);
        getChildren().add(waiting);
        lay(new Heard());
        // while a scene is gone through, nothing in it can be exchanged
        sceneProperty()
                .addListener((o, was, now) -> Platform.runLater(() -> {
                    if (getScene() == null) {
                        rest();
                    } else {
                        wake();
                    }
                }));
    }

    /** Keeps the lines of a large text that is only looked at no longer than there is room for them. */
    private void rest() {
        if (resting.isEmpty() && !editable && !filling && area.getLength() >= LARGE) {
            int at = area.getVisibleParagraphs().isEmpty() ? 0 : area.visibleParToAllParIndex(0);
            resting = Optional.of(new Resting(keeping.apply(pane), at));
            put(new VirtualizedScrollPane<>(prepared(new Heard())));
            // what is out of a scene is drawn no more, and what draws it would hold the lines that it drew last
            snapshot(null, new WritableImage(1, 1));
        }
    }

    /** Shows them again as they were, or makes them anew and goes to where one was. */
    private void wake() {
        if (resting.isEmpty()) {
            return;
        }
        Resting was = resting.get();
        resting = Optional.empty();
        VirtualizedScrollPane<CodeArea> there = was.pane().get();
        if (there != null) {
            put(there);
        } else {
            first = was.first();
            fill(source, () -> Part.of(source).text());
        }
    }

    /** An editor that a screen reader can read: the library's own says nothing of itself. */
    private static final class Heard extends CodeArea {
        /** What a reader is given at once. */
        private static final int MOST_HEARD = 100_000;

        Heard() {
            speak();
        }

        Heard(EditableStyledDocument<Collection<String>, String, Collection<String>> document) {
            super(document);
            speak();
        }

        private void speak() {
            setAccessibleRole(AccessibleRole.TEXT_AREA);
            setAccessibleText("XML");
        }

        @Override
        public Object queryAccessibleAttribute(AccessibleAttribute attribute, Object... parameters) {
            return switch (attribute) {
                case TEXT -> getText(0, Math.min(getLength(), MOST_HEARD));
                case CARET_OFFSET -> getCaretPosition();
                case SELECTION_START -> getSelection().getStart();
                case SELECTION_END -> getSelection().getEnd();
                case EDITABLE -> isEditable();
                default -> super.queryAccessibleAttribute(attribute, parameters);
            };
        }
    }

    /** Shows one more editor in the place of the one that stood. */
    private void lay(CodeArea other) {
        CodeArea before = area;
        put(new VirtualizedScrollPane<>(prepared(other)));
        if (before != null) {
            before.dispose();
        }
    }

    private void put(VirtualizedScrollPane<CodeArea> other) {
        revision++;
        boolean focused = area != null && area.isFocused();
        if (area != null) {
            other.getContent().setId(area.getId());
            other.getContent().setContextMenu(area.getContextMenu());
            getChildren().remove(0);
        }
        pane = other;
        area = other.getContent();
        // where one writes, the line of the caret is there at once
        getChildren()
                .add(
                        0,
                        editable
                                ? other
                                : new Unrolled(
                                        other, () -> other.getContent().getLength() == 0 ? 0 : Integer.MAX_VALUE));
        if (focused) {
            area.requestFocus();
        }
    }

    private CodeArea prepared(CodeArea made) {
        made.getStyleClass().add("code");
        // the editor's own stylesheet names a family, so ours must be set on the node itself
        made.setStyle("-fx-font-family: 'JetBrains Mono'; -fx-font-size: 12px");
        made.setEditable(editable);
        made.setParagraphGraphicFactory(margin == null ? LineNumberFactory.get(made) : margin);
        if (!editable) {
            // each would make one text of all the lines again
            made.setUndoManager(UndoUtils.noOpUndoManager());
        }
        made.richChanges().subscribe(change -> {
            if (!styling) {
                changed();
            }
        });
        made.viewportDirtyEvents().subscribe(e -> colourSoon());
        return made;
    }

    /** What stands before each line, in place of the line's number alone. */
    public void margin(IntFunction<Node> factory) {
        margin = factory;
        area.setParagraphGraphicFactory(factory);
    }

    /** Makes what stands before the lines in view anew. */
    public void margins() {
        for (int i = 0; i < area.getVisibleParagraphs().size(); i++) {
            area.recreateParagraphGraphic(area.visibleParToAllParIndex(i));
        }
    }

    private void changed() {
        revision++;
        colourSoon();
    }

    private void colourSoon() {
        if (!colouring) {
            colouring = true;
            Platform.runLater(() -> {
                colouring = false;
                colour();
            });
        }
    }

    private void colour() {
        if (area.getLength() == 0 || area.getVisibleParagraphs().isEmpty()) {
            return;
        }
        int first = area.visibleParToAllParIndex(0);
        int last = area.visibleParToAllParIndex(area.getVisibleParagraphs().size() - 1);
        int start = area.getAbsolutePosition(first, 0);
        int end = end(last, start + MOST_COLOURED);
        int back = Math.max(0, start - BACK);
        Coloured now = new Coloured(revision, start, end);
        if (now.equals(coloured)) {
            return;
        }
        coloured = now;
        String before = area.getText(back, start);
        // from the start of the last comment or section that may reach into view, or else from the first visible line
        int open = Math.max(before.lastIndexOf("<!--"), before.lastIndexOf("<![CDATA["));
        int from = back == 0 ? 0 : open >= 0 ? back + open : start;
        StyleSpans<Collection<String>> spans = XmlColours.of(area.getText(from, end), start - from);
        StyleSpans<Collection<String>> shown = marked(spans, start, end);
        // lines that are set anew are made anew, so only those are that are to look different
        int low = first;
        while (low <= last && isColoured(low, shown, start, end)) {
            low++;
        }
        int high = last;
        while (high > low && isColoured(high, shown, start, end)) {
            high--;
        }
        if (low <= high) {
            int at = area.getAbsolutePosition(low, 0);
            styling = true;
            area.setStyleSpans(at, shown.subView(at - start, end(high, end) - start));
            styling = false;
        }
    }

    private boolean isColoured(int line, StyleSpans<Collection<String>> shown, int start, int end) {
        int at = Math.min(area.getAbsolutePosition(line, 0), end);
        int to = end(line, end);
        return at == to || shown.subView(at - start, to - start).equals(area.getStyleSpans(at, to));
    }

    /** Where a line ends, or where no more is coloured. */
    private int end(int line, int most) {
        return Math.min(area.getAbsolutePosition(line, area.getParagraphLength(line)), most);
    }

    private StyleSpans<Collection<String>> marked(StyleSpans<Collection<String>> spans, int start, int end) {
        StyleSpans<Collection<String>> out = spans;
        for (Squiggle s : squiggles) {
            out = over(out, s, "squiggle", start, end);
        }
        for (Squiggle s : pair) {
            out = over(out, s, "pair", start, end);
        }
        return out;
    }

    private static StyleSpans<Collection<String>> over(
            StyleSpans<Collection<String>> spans, Squiggle stretch, String style, int start, int end) {
        if (stretch.end() <= start || stretch.start() >= end) {
            return spans;
        }
        int from = Math.max(stretch.start(), start) - start;
        int to = Math.min(stretch.end(), end) - start;
        StyleSpansBuilder<Collection<String>> over = new StyleSpansBuilder<>();
        over.add(Collections.emptyList(), from);
        over.add(List.of(style), to - from);
        over.add(Collections.emptyList(), end - start - to);
        return spans.overlay(over.create(), XmlArea::both);
    }

    /** Marks a tag and the one that belongs to it; none when there is no pair. */
    public void matching(Optional<TagScan.Tag> one, Optional<TagScan.Tag> other) {
        List<Squiggle> tags = new ArrayList<>();
        if (one.isPresent() && other.isPresent()) {
            tags.add(new Squiggle(one.get().start(), one.get().end(), ""));
            tags.add(new Squiggle(other.get().start(), other.get().end(), ""));
        }
        if (!tags.equals(pair)) {
            pair = tags;
            changed();
        }
    }

    private static Collection<String> both(Collection<String> one, Collection<String> other) {
        if (other.isEmpty()) {
            return one;
        }
        List<String> all = new ArrayList<>(one);
        all.addAll(other);
        return all;
    }

    /** Underlines stretches; those shown before go. */
    public void squiggle(List<Squiggle> marks) {
        squiggles = List.copyOf(marks);
        changed();
    }

    public List<Squiggle> squiggles() {
        return squiggles;
    }

    /** Shows a text from its start, if it is another than the one that stands. */
    public void show(String text) {
        if (!editable) {
            // nobody else changes it, so that what stands need not be asked for
            if (text.equals(source)) {
                wake();
                return;
            }
            resting = Optional.empty();
            first = 0;
            source = text;
            if (text.length() >= LARGE) {
                fill(text, () -> Part.of(text).text());
                return;
            }
            if (area.getLength() >= LARGE) {
                lay(new Heard());
            }
        }
        Part part = Part.of(text);
        boolean whole = part.whole();
        String shown = part.text();
        if (shown.equals(wanted) && (filling || shown.length() == area.getLength() && shown.equals(area.getText()))) {
            return;
        }
        wanted = shown;
        squiggles = List.of();
        revision++;
        area.setEditable(editable && whole);
        if (shown.length() < LARGE) {
            filling = false;
            waiting.setVisible(false);
            if (!shown.equals(area.getText())) {
                if (area.getLength() == 0 && getChildren().get(0) instanceof Unrolled box) {
                    // no line has been made yet
                    box.again();
                }
                area.replaceText(shown);
                shown();
            }
            return;
        }
        fill(shown, () -> shown);
        editableThen = editable && whole;
    }

    /** Has the lines of a large text made elsewhere. */
    private void fill(String text, Supplier<String> part) {
        filling = true;
        editableThen = false;
        waiting.setVisible(true);
        area.setEditable(false);
        wanted = text;
        Thread making = new Thread(() -> make(text, part), "lines");
        making.setDaemon(true);
        making.start();
    }

    private void make(String text, Supplier<String> part) {
        var document = ReadOnlyStyledDocument.fromString(
                part.get(), area.getInitialParagraphStyle(), area.getInitialTextStyle(), area.getSegOps());
        Platform.runLater(() -> {
            if (text.equals(wanted) && filling) {
                if (editable) {
                    area.replace(document);
                } else {
                    // putting it in the place of what stood would make one text of all the lines, here, several times
                    // over
                    lay(new Heard(new SimpleEditableStyledDocument<>(document)));
                }
                filling = false;
                waiting.setVisible(false);
                area.setEditable(editableThen);
                shown();
            }
        });
    }

    private void shown() {
        if (editable) {
            area.getUndoManager().forgetHistory();
        }
        area.moveTo(0);
        if (first > 0) {
            area.showParagraphAtTop(Math.min(first, area.getParagraphs().size() - 1));
            first = 0;
        } else {
            area.requestFollowCaret();
        }
    }

    /** Whether a large text is still being made into lines. */
    public boolean isFilling() {
        return filling;
    }

    public String text() {
        return filling ? wanted : resting.isPresent() ? source : area.getText();
    }

    /** Runs after each change, by anyone, of a text that can be edited. */
    public void onChange(Runnable action) {
        area.plainTextChanges().subscribe(change -> action.run());
    }

    /** Whether the keyboard writes here, where the text can be edited. */
    public ReadOnlyBooleanProperty typing() {
        return area.focusedProperty();
    }

    /** Brings a line into view and marks it. */
    public void goTo(int line) {
        int index = Math.max(0, Math.min(area.getParagraphs().size() - 1, line - 1));
        area.showParagraphAtTop(Math.max(0, index - 4));
        area.moveTo(index, 0);
        area.selectLine();
    }

    /** Brings a stretch into view and selects it. */
    public void select(int start, int end) {
        area.selectRange(start, end);
        area.requestFollowCaret();
    }

    /** The editor itself; another one after {@link #show} of a large text that is only looked at. */
    public CodeArea area() {
        return area;
    }
}
