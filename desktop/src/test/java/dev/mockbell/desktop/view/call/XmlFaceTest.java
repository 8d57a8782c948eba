package dev.mockbell.desktop.view.call;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.desktop.drive.Hand;
import dev.mockbell.desktop.part.Parts;
import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;
import javafx.scene.control.Label;
import javafx.scene.control.ListView;
import javafx.scene.input.KeyCode;
import javafx.stage.Window;
import org.fxmisc.richtext.CodeArea;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

/** The XML face of the request by its keys: finding, replacing, folding, going to the other tag, completing. */
class XmlFaceTest extends OnCallDesk {
    private CodeArea editor;

    @BeforeEach
    void showXml() {
        hand.click("#segment-xml");
        editor = desk.editor();
        Hand.run(editor::requestFocus);
    }

    private String selected() {
        return Hand.on(editor::getSelectedText);
    }

    private String text() {
        return Hand.on(editor::getText);
    }

    private int line() {
        return Hand.on(editor::getCurrentParagraph);
    }

    private void find(String text) {
        hand.press(KeyCode.CONTROL, KeyCode.F);
        hand.type("#find-text", text);
    }

    @Test
    void enterGoesToTheNextPlaceAndRoundAndShiftEnterBack() {
        find("h:name");
        hand.await("the first", () -> editor.getSelectedText().equals("h:name"));
        int first = Hand.on(() -> editor.getSelection().getStart());
        hand.press(KeyCode.ENTER);
        hand.await("the second", () -> editor.getSelection().getStart() > first);
        assertThat(selected()).isEqualTo("h:name");
        hand.await("its number", () -> desk.says("2 of 2"));
        hand.press(KeyCode.ENTER);
        hand.await("round to the first", () -> editor.getSelection().getStart() == first);
        hand.press(KeyCode.SHIFT, KeyCode.ENTER);
        hand.await("back round to the last", () -> editor.getSelection().getStart() > first);
        find("no such words");
        hand.await("that there is none", () -> desk.says("none"));
        hand.press(KeyCode.ESCAPE);
        hand.await("the editor", editor::isFocused);
        assertThat(hand.find("#find-text")).isEmpty();
    }

    @Test
    void oneIsReplacedAtATimeAndTheNextChosen() {
        find("h:name");
        hand.await("the first", () -> editor.getSelectedText().equals("h:name"));
        hand.type("#find-instead", "h:title");
        hand.clickText("Replace");
        hand.await("one of two", () -> editor.getText().split("h:title", -1).length == 2);
        hand.await("the next", () -> editor.getSelectedText().equals("h:name"));
        hand.clickText("Replace");
        hand.await("both", () -> !editor.getText().contains("h:name"));
        desk.awaitXml("<h:title>Ines Okafor</h:title>");
    }

    @Test
    void aPatternThatCannotBeReadIsToldInWords() {
        hand.press(KeyCode.CONTROL, KeyCode.F);
        hand.click("#find-pattern");
        hand.type("#find-text", "([a-z");
        hand.await("the reason", () -> hasStyle("#find-text", "wrong"));
        hand.type("#find-text", "[a-z]+:name");
        hand.await("fine again", () -> !hasStyle("#find-text", "wrong"));
        hand.await("found", () -> editor.getSelectedText().equals("h:name"));
    }

    private boolean hasStyle(String selector, String style) {
        return desk.scene().lookup(selector).getStyleClass().contains(style);
    }

    @Test
    void aMessageIsLaidOutAnewAndUndoBringsTheOtherBack() {
        String laidOut = desk.xml();
        String tight = laidOut.replaceAll(">\\s+<", "><");
        Hand.run(() -> editor.replaceText(tight));
        hand.press(KeyCode.CONTROL, KeyCode.SHIFT, KeyCode.F);
        hand.await("laid out", () -> call.request().xml().equals(laidOut));
        assertThat(text()).isEqualTo(laidOut);
        hand.press(KeyCode.CONTROL, KeyCode.Z);
        hand.await("as it was", () -> editor.getText().equals(tight));
        hand.press(KeyCode.CONTROL, KeyCode.SHIFT, KeyCode.Z);
        hand.await("and again", () -> editor.getText().equals(laidOut));
    }

    @Test
    void whatIsBrokenIsNotLaidOutAndTheReasonIsTold() {
        Hand.run(() -> editor.replaceText("<h:Reserve><oops"));
        hand.press(KeyCode.CONTROL, KeyCode.SHIFT, KeyCode.F);
        hand.await(
                "the reason",
                () -> desktop.desk.notices().stream().anyMatch(n -> n.text().contains("not well-formed")));
        assertThat(text()).isEqualTo("<h:Reserve><oops");
    }

    @Test
    void theKeyboardGoesToTheTagThatBelongsToOne() {
        Hand.run(() -> editor.moveTo(editor.getText().indexOf("<h:guest>") + 2));
        int open = line();
        hand.press(KeyCode.CONTROL, KeyCode.M);
        hand.await("the end", () -> editor.getCurrentParagraph() > open);
        String there = Hand.on(() ->
                editor.getParagraph(editor.getCurrentParagraph()).getText().strip());
        assertThat(there).isEqualTo("</h:guest>");
        hand.press(KeyCode.CONTROL, KeyCode.M);
        hand.await("back", () -> editor.getCurrentParagraph() == open);
    }

    @Test
    void anElementFoldsAndOpensAtItsLine() {
        int guest = Hand.on(() -> editor.getText()
                        .substring(0, editor.getText().indexOf("<h:guest>"))
                        .split("\n", -1)
                        .length)
                - 1;
        hand.await("a sign", () -> signs().findAny().isPresent());
        clickFold();
        hand.await("folded", () -> isFolded(guest + 1) || isFolded(1));
        assertThat(desk.xml()).as("the text is whole").contains("Ines Okafor");
        clickFold();
        hand.await("open", () -> !isFolded(guest + 1) && !isFolded(1));
    }

    private boolean isFolded(int line) {
        return editor.getParagraph(line).getParagraphStyle().contains("collapse");
    }

    private Stream<Label> signs() {
        return editor.lookupAll(".fold").stream()
                .map(Label.class::cast)
                .filter(l -> Parts.isShown(l) && !l.getText().isBlank());
    }

    @Test
    void whatCanBeFoldedIsSignedAgainWhenItEndsElsewhere() {
        hand.await("signs", () -> signs().count() > 1);
        long before = Hand.on(() -> signs().count());
        int guest = Hand.on(() -> editor.getText().indexOf("</h:guest>"));
        Hand.run(() -> editor.replaceText(guest, guest + "</h:guest>".length(), ""));
        hand.await("one sign less, far from what was typed", () -> signs().count() < before);
        Hand.run(() -> editor.insertText(guest, "</h:guest>"));
        hand.await("it is back", () -> signs().count() == before);
    }

    /** Clicks the first sign that something can be folded. */
    private void clickFold() {
        double[] at = Hand.on(() -> {
            Label sign = signs().min((a, b) -> Double.compare(
                            a.localToScreen(0, 0).getY(), b.localToScreen(0, 0).getY()))
                    .orElseThrow();
            var bounds = sign.localToScreen(sign.getBoundsInLocal());
            return new double[] {bounds.getCenterX(), bounds.getCenterY()};
        });
        hand.clickAt(at[0], at[1]);
    }

    private static Optional<ListView<?>> proposals() {
        return Window.getWindows().stream()
                .filter(w -> w.isShowing() && w.getScene() != null)
                .map(w -> w.getScene().lookup("#completions"))
                .filter(n -> n != null)
                .<ListView<?>>map(n -> (ListView<?>) n)
                .findFirst();
    }

    @Test
    void proposalsAreChosenByTheArrowsAndLeftByEsc() {
        Hand.run(() -> {
            int at = editor.getText().indexOf("</h:Reserve>");
            editor.insertText(at, "<h:");
            editor.moveTo(at + 3);
        });
        hand.press(KeyCode.CONTROL, KeyCode.SPACE);
        hand.await("the proposals", () -> proposals().isPresent());
        List<String> titles = Hand.on(() -> proposals().orElseThrow().getItems().stream()
                .map(Object::toString)
                .toList());
        assertThat(titles).hasSizeGreaterThan(5);
        hand.press(KeyCode.DOWN);
        hand.press(KeyCode.DOWN);
        hand.press(KeyCode.UP);
        assertThat(Hand.on(() -> proposals().orElseThrow().getSelectionModel().getSelectedIndex()))
                .isEqualTo(1);
        hand.press(KeyCode.ESCAPE);
        hand.await("gone", () -> proposals().isEmpty());
        String before = text();
        hand.press(KeyCode.CONTROL, KeyCode.SPACE);
        hand.await("the proposals again", () -> proposals().isPresent());
        hand.press(KeyCode.DOWN);
        hand.press(KeyCode.TAB);
        hand.await("the second taken", () -> editor.getText().contains("<h:arrival></h:arrival>"));
        assertThat(before).doesNotContain("<h:arrival></h:arrival>");
        String behind = Hand.on(() -> editor.getText(editor.getCaretPosition(), editor.getCaretPosition() + 2));
        assertThat(behind).as("the caret is inside").isEqualTo("</");
    }

    @Test
    void bytesAreTypedAsTheTextThatTheyEncode() {
        hand.click("#segment-sheet");
        Hand.run(() -> call.request().edits().include(desk.row("plan")));
        desk.point("plan");
        hand.press(KeyCode.F4);
        hand.type("#long-value", "two nights, Lower Fell");
        hand.clickText("Encode the text");
        hand.await("the bytes", () -> shownValue().equals("dHdvIG5pZ2h0cywgTG93ZXIgRmVsbA=="));
        hand.clickText("Decode to text");
        hand.await("the text", () -> shownValue().equals("two nights, Lower Fell"));
        hand.clickText("Decode to text");
        hand.await("the reason", () -> desk.says("This is not base64"));
        hand.clickText("Encode the text");
        hand.await("the bytes again", () -> shownValue().startsWith("dHdv"));
        hand.click("#long-value-keep");
        desk.awaitXml("<h:plan>dHdvIG5pZ2h0cywgTG93ZXIgRmVsbA==</h:plan>");
    }

    private String shownValue() {
        return ((javafx.scene.control.TextArea) desk.scene().lookup("#long-value")).getText();
    }
}
