package dev.mockbell.desktop.part;

import java.util.Collection;
import java.util.Collections;
import java.util.List;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import javafx.beans.property.ReadOnlyBooleanProperty;
import javafx.scene.layout.StackPane;
import org.fxmisc.flowless.VirtualizedScrollPane;
import org.fxmisc.richtext.CodeArea;
import org.fxmisc.richtext.LineNumberFactory;
import org.fxmisc.richtext.model.StyleSpans;
import org.fxmisc.richtext.model.StyleSpansBuilder;

/** Shows or edits XML with colours and line numbers. A text over a bound is shown in part and says so. */
public final class XmlArea extends StackPane {
    private static final int MOST_SHOWN = 5_000_000;
    private static final int MOST_COLOURED = 300_000;
    private static final Pattern PIECES = Pattern.compile(
            "(?<comment><!--.*?-->)"
                    + "|(?<expression>\\{[^{}<>]*\\})"
                    + "|(?<tag></?[A-Za-z_][\\w:.-]*|/?>|<\\?[^>]*\\?>)"
                    + "|(?<attribute>[A-Za-z_][\\w:.-]*(?==[\"']))"
                    + "|(?<value>\"[^\"<]*\"|'[^'<]*')"
                    + "|(?<head>\\A(?:[A-Z]+ [^\\n]*HTTP/1\\.[01]|HTTP/1[^\\n]*)(?:\\r?\\n[^\\n]+)*)",
            Pattern.DOTALL);
    private static final List<String> NAMES = List.of("comment", "expression", "tag", "attribute", "value", "head");

    private final CodeArea area = new CodeArea();

    public XmlArea(boolean editable) {
        area.getStyleClass().add("code");
        // the editor's own stylesheet names a family, so ours must be set on the node itself
        area.setStyle("-fx-font-family: 'JetBrains Mono'; -fx-font-size: 12px");
        area.setEditable(editable);
        area.setParagraphGraphicFactory(LineNumberFactory.get(area));
        area.plainTextChanges().subscribe(change -> colour());
        getChildren().add(new VirtualizedScrollPane<>(area));
    }

    private void colour() {
        String text = area.getText();
        if (!text.isEmpty() && text.length() <= MOST_COLOURED) {
            area.setStyleSpans(0, spans(text));
        }
    }

    private static StyleSpans<Collection<String>> spans(String text) {
        StyleSpansBuilder<Collection<String>> spans = new StyleSpansBuilder<>();
        Matcher matcher = PIECES.matcher(text);
        int last = 0;
        while (matcher.find()) {
            String style = "tag-name";
            for (String name : NAMES) {
                if (matcher.group(name) != null) {
                    style = "tag".equals(name) ? "tag-name" : name;
                }
            }
            spans.add(Collections.emptyList(), matcher.start() - last);
            spans.add(List.of(style), matcher.end() - matcher.start());
            last = matcher.end();
        }
        spans.add(Collections.emptyList(), text.length() - last);
        return spans.create();
    }

    /** Shows a text from its start, if it is another than the one that stands. */
    public void show(String text) {
        String shown = text.length() > MOST_SHOWN
                ? text.substring(0, MOST_SHOWN) + "\n… shown in part: the whole has " + text.length() + " characters"
                : text;
        if (!shown.equals(area.getText())) {
            area.replaceText(shown);
            area.getUndoManager().forgetHistory();
            area.moveTo(0);
            area.requestFollowCaret();
        }
    }

    public String text() {
        return area.getText();
    }

    /** Runs after each change of the text by anyone. */
    public void onChange(Runnable action) {
        area.plainTextChanges().subscribe(change -> action.run());
    }

    /** Whether the keyboard writes here. */
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

    public CodeArea area() {
        return area;
    }
}
