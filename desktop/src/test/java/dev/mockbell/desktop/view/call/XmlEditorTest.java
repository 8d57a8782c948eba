package dev.mockbell.desktop.view.call;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.desktop.drive.Hand;
import dev.mockbell.desktop.model.Flaws;
import java.util.List;
import javafx.scene.control.TextField;
import javafx.scene.input.KeyCode;
import org.fxmisc.richtext.CodeArea;
import org.junit.jupiter.api.Test;

/** The request editor and the cases, by their gestures. */
class XmlEditorTest extends OnCallDesk {
    @Test
    void theXmlFaceCompletesElementsAndUnderlinesWhatIsWrong() {
        hand.click("#segment-xml");
        CodeArea editor = desk.editor();
        String start = desk.xml();
        Hand.run(() -> {
            editor.requestFocus();
            int at = editor.getText().indexOf("</h:Reserve>");
            editor.moveTo(at);
            editor.insertText(at, "<");
            editor.moveTo(at + 1);
        });
        hand.press(KeyCode.CONTROL, KeyCode.SPACE);
        hand.await(
                "proposals",
                () -> javafx.stage.Window.getWindows().stream()
                        .anyMatch(w -> w.isShowing()
                                && w.getScene() != null
                                && w.getScene().lookup("#completions") != null));
        desk.shoot("call-completion");
        hand.press(KeyCode.DOWN);
        hand.press(KeyCode.ENTER);
        hand.await("an element", () -> editor.getText().contains("></h:"));
        Hand.run(() -> editor.replaceText(start.replaceAll("<h:nights>[^<]*", "<h:nights>99")));
        hand.await(
                "the flaw at its line",
                () -> call.flaws().found().get().stream().anyMatch(f -> f.line() == 4));
        assertThat(Hand.on(() -> call.flaws().found().get().get(0).line())).isEqualTo(4);
        hand.await(
                "the strip",
                () -> desktop.window.stage().getScene().lookup("#xml-flaws").isVisible());
        desk.shoot("call-xml-flaw");
    }

    @Test
    void anExpressionIsCompletedInTheXmlTooAndItsMistakeUnderlinedAtTheCharacter() {
        Hand.run(() -> desktop.desk.keepVariables(
                List.of(new dev.mockbell.expression.Variable("permit", "P-7", false)), List.of(), java.util.Map.of()));
        hand.click("#segment-xml");
        CodeArea editor = desk.editor();
        Hand.run(() -> {
            editor.requestFocus();
            int at = editor.getText().indexOf("</h:hutId>");
            editor.replaceText(at - 5, at, "{1 + $per}");
            editor.moveTo(at + 4);
        });
        hand.press(KeyCode.CONTROL, KeyCode.SPACE);
        hand.await(
                "the words",
                () -> javafx.stage.Window.getWindows().stream()
                        .anyMatch(w -> w.isShowing()
                                && w.getScene() != null
                                && w.getScene().lookup("#completions") != null));
        hand.press(KeyCode.ENTER);
        hand.await("the variable", () -> editor.getText().contains("{1 + $permit}"));
        Hand.run(() -> {
            int at = editor.getText().indexOf("$permit}");
            editor.replaceText(at, at + 7, "* $");
        });
        // until it has been looked at anew, the flaw of the text before stands
        hand.await(
                "the flaw behind the star",
                () -> call.flaws().found().get().stream()
                        .anyMatch(f -> f.text().startsWith("The expression does not parse")
                                && before(editor, f).contains("{1 + *")));
        desk.shoot("call-xml-expression");
    }

    /** What stands in its line before a flaw. */
    private static String before(CodeArea editor, Flaws.Flaw flaw) {
        String line = editor.getText().lines().toList().get(Math.max(1, flaw.line()) - 1);
        return line.substring(0, Math.min(line.length(), Math.max(0, flaw.column() - 1)));
    }

    @Test
    void findAndReplaceWorkByPatternAndOneUndoTakesItBack() {
        hand.click("#segment-xml");
        CodeArea editor = desk.editor();
        Hand.run(editor::requestFocus);
        hand.press(KeyCode.CONTROL, KeyCode.F);
        hand.type("#find-text", "<h:nights>(\\d+)<");
        hand.click("#find-pattern");
        hand.type("#find-instead", "<h:nights>1$1<");
        desk.shoot("call-find");
        hand.click("#replace-all");
        hand.await("the change", () -> call.request().xml().matches("(?s).*<h:nights>1\\d+<.*"));
        hand.await(
                "the change in the editor",
                () -> editor.getText().equals(call.request().xml()));
        Hand.run(editor::requestFocus);
        hand.await("the keyboard", editor::isFocused);
        hand.press(KeyCode.CONTROL, KeyCode.Z);
        hand.await("undone", () -> !call.request().xml().matches("(?s).*<h:nights>1\\d+<.*"));
    }

    @Test
    void whatWasTypedAMomentAgoIsSentAndUndone() {
        hand.click("#segment-xml");
        CodeArea editor = desk.editor();
        String before = desk.xml();
        Hand.run(() -> {
            editor.requestFocus();
            int at = editor.getText().indexOf("</h:hutId>");
            editor.replaceText(at - 2, at, "77");
            call.request().undo();
            assertThat(call.request().xml()).isEqualTo(before);
            assertThat(editor.getText()).isEqualTo(before);
            editor.replaceText(at - 2, at, "78");
            call.sendOrStop();
        });
        hand.await("the answer", () -> call.calledProperty().get() != null);
        hand.await("the wire", () -> !call.faces().wire().bytes().isEmpty());
        assertThat(Hand.on(() -> call.faces().wire().bytes())).contains("NF-78</h:hutId>");
    }

    @Test
    void theSheetWaitsWhileTheXmlCannotBeRead() {
        String before = desk.xml();
        hand.click("#segment-xml");
        CodeArea editor = desk.editor();
        Hand.run(() -> {
            editor.requestFocus();
            editor.replaceText(before.replace("</h:hutId>", "</h:hut>"));
        });
        hand.click("#segment-sheet");
        hand.await("the reason", () -> desk.says("The XML cannot be read;"));
        assertThat(Hand.on(() -> desk.scene().lookup("#request-sheet").isDisabled()))
                .isTrue();
        desk.shoot("call-sheet-waits");
        hand.clickText("Go back to the sheet");
        hand.await("the sheet's own text", () -> call.request().xml().equals(before));
        assertThat(Hand.on(() -> desk.scene().lookup("#request-sheet").isDisabled()))
                .isFalse();
        Hand.run(() -> call.request().undo());
        assertThat(desk.xml()).contains("</h:hut>");
    }

    @Test
    void theFindFieldHasAHistoryOfItsOwn() {
        Hand.run(() -> call.request().edits().put(desk.row("nights"), "5"));
        hand.click("#segment-xml");
        Hand.run(desk.editor()::requestFocus);
        hand.press(KeyCode.CONTROL, KeyCode.F);
        hand.type("#find-text", "nights");
        hand.press(KeyCode.CONTROL, KeyCode.Z);
        hand.await(
                "the field undone",
                () -> ((TextField) desk.scene().lookup("#find-text")).getText().isEmpty());
        assertThat(desk.xml()).contains(">5</h:nights>");
    }
}
