package dev.mockbell.desktop.view.call;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.desktop.drive.Hand;
import javafx.scene.control.TextField;
import javafx.scene.input.Clipboard;
import javafx.scene.input.KeyCode;
import org.junit.jupiter.api.Test;

/** The request editor and the cases, by their gestures. */
class SheetFieldsTest extends OnCallDesk {
    @Test
    void anEnumerationNarrowsAsOneTypesAndIsTakenByEnter() {
        Hand.run(() -> call.request().edits().include(desk.row("board")));
        hand.click("#value-board");
        Hand.run(() -> ((TextField) desktop.window.stage().getScene().lookup("#value-board")).clear());
        hand.type("#value-board", "fu");
        hand.await("the list", () -> true);
        desk.shoot("call-list");
        hand.press(KeyCode.ENTER);
        hand.await("the value", () -> call.request().xml().contains(">FULL<"));
    }

    @Test
    void anExpressionShowsWhatItGivesAndAMistakeIsMarkedWhileTyping() {
        hand.type("#value-nights", "{1 + 2}");
        hand.await(
                "the value it gives",
                () -> desktop.window.stage().getScene().getRoot().lookupAll(".gives").stream()
                        .anyMatch(n -> n instanceof javafx.scene.control.Label l
                                && l.getText().equals("= 3")));
        desk.shoot("call-expression");
        hand.type("#value-nights", "{1 + }");
        hand.await(
                "the mark",
                () -> desktop.window
                        .stage()
                        .getScene()
                        .lookup("#value-nights")
                        .getStyleClass()
                        .contains("wrong"));
        hand.type("#value-nights", "{20}");
        hand.await(
                "a value beyond the facet",
                () -> desktop.window
                        .stage()
                        .getScene()
                        .lookup("#value-nights")
                        .getStyleClass()
                        .contains("wrong"));
        hand.click("#value-nights");
    }

    @Test
    void theFilterFindsRowsAndAPathLeadsToOne() {
        hand.press(KeyCode.CONTROL, KeyCode.F);
        hand.type("#sheet-filter", "nights");
        hand.await("two rows", () -> call.request().lines().size() == 2);
        hand.type("#sheet-filter", "/h:Reserve/h:guest/h:name");
        hand.press(KeyCode.ENTER);
        hand.await("all rows and the one chosen", () -> call.request().lines().size() > 5);
        hand.press(KeyCode.F1);
        hand.await(
                "the note",
                () -> desktop.window.stage().getScene().lookup("#sheet-note").isVisible());
        desk.shoot("call-filter-note");
    }

    @Test
    void numbersStepWithinTheirBounds() {
        hand.type("#value-nights", "13");
        hand.press(KeyCode.UP);
        hand.press(KeyCode.UP);
        hand.await("the most", () -> call.request().xml().contains(">14<"));
        hand.press(KeyCode.DOWN);
        hand.await("one less", () -> call.request().xml().contains(">13<"));
    }

    @Test
    void rowsAreFilledFromATable() {
        Hand.run(() -> call.request()
                .edits()
                .pasteRows(
                        desk.row("guest"),
                        dev.mockbell.sheet.TableText.cells("name,age\n\"Okafor, Ines\",34\nTomas,\n")));
        assertThat(desk.xml()).contains("Okafor, Ines").contains(">34<").contains("Tomas");
        hand.press(KeyCode.CONTROL, KeyCode.Z);
        hand.await("undone", () -> !call.request().xml().contains("Tomas"));
    }

    @Test
    void aLongValueIsEditedWithRoomAndADayTakenFromTheCalendar() {
        hand.click("#value-name");
        hand.press(KeyCode.F4);
        hand.type("#long-value", "Ines\nof the long name");
        desk.shoot("call-long-value");
        hand.click("#long-value-keep");
        hand.await("the value", () -> call.request().xml().contains(">Ines\nof the long name<"));
        hand.await(
                "a field that cannot lose the line end",
                () -> !desk.field("name").field().isEditable());
        Hand.run(() -> {
            desk.field("arrival").requestFocus();
            ((javafx.scene.control.Button) desk.field("arrival").lookup(".beside")).fire();
        });
        hand.await(
                "the calendar",
                () -> javafx.stage.Window.getWindows().stream()
                        .anyMatch(w -> w.isShowing()
                                && w.getScene() != null
                                && w.getScene().lookup("#calendar") != null));
        hand.clickText("27");
        hand.await("the day", () -> call.request().xml().contains("-27</h:arrival>"));
    }

    @Test
    void theFieldThatIsTypedInKeepsTheKeyboardWhileRowsComeAndGo() {
        hand.type("#value-nights", "12");
        hand.press(KeyCode.LEFT);
        Hand.run(() -> call.request().edits().include(desk.row("board")));
        Hand.run(() -> call.request().edits().leaveOut(desk.row("board")));
        hand.await("the keyboard where it was", () -> desk.field("nights").isTypedIn());
        hand.press(KeyCode.DELETE);
        hand.await("a digit less", () -> call.request().xml().contains(">1</h:nights>"));
    }

    @Test
    void aValueTooLongForAFieldIsShownInPartAndKeptWhole() {
        String value = "Ines of the long name ".repeat(9_000);
        Hand.run(() -> call.request().edits().put(desk.row("name"), value));
        hand.click("#value-name");
        hand.await("the window", () -> desktop.window.stage().getScene().lookup("#long-value-note") != null);
        assertThat(hand.text("#long-value-note")).isEqualTo("The first 4,000 of 198,000 characters. It is kept whole.");
        assertThat(Hand.on(() -> desk.field("name").field().isEditable())).isFalse();
        assertThat(Hand.on(() -> desk.field("name").field().getText())).hasSizeLessThan(300);
        desk.shoot("call-too-long");
        hand.click("#long-value-keep");
        assertThat(Hand.on(() -> call.request().xml())).contains(">" + value + "<");
    }

    @Test
    void aPatternThatTakesTooLongIsGivenUpInWords() {
        Hand.run(() -> call.request().edits().put(desk.row("name"), "a".repeat(60)));
        hand.click("#segment-xml");
        hand.click("#request-xml");
        hand.press(KeyCode.CONTROL, KeyCode.F);
        hand.click("#find-pattern");
        hand.type("#find-text", "(.*a){20}c");
        hand.await(
                "the reason",
                () -> desktop.window.stage().getScene().getRoot().lookupAll(".label").stream()
                        .anyMatch(n -> n instanceof javafx.scene.control.Label l
                                && l.getText().startsWith("The pattern takes too long")));
        desk.shoot("call-find-slow");
        hand.type("#find-text", "a{60}");
        hand.press(KeyCode.ENTER);
        hand.await(
                "the place",
                () -> ((org.fxmisc.richtext.CodeArea)
                                        desktop.window.stage().getScene().lookup("#request-xml"))
                                .getSelectedText()
                                .length()
                        == 60);
    }

    @Test
    void aRowsMenuAddsTakesAwayAndMarksAsNil() {
        Hand.run(() -> call.request().edits().include(desk.row("remark")));
        desk.menuOn("remark");
        hand.clickText("Nil");
        hand.await("nil", () -> call.request().xml().contains("nil=\"true\""));
        desk.menuOn("guest");
        desk.shoot("call-row-menu");
        hand.clickText("Add one more   (Insert)");
        hand.await("two guests", () -> call.request().xml().split("<h:guest>").length == 3);
        desk.menuOn("guest");
        hand.clickText("Remove   (Delete)");
        hand.await("one guest", () -> call.request().xml().split("<h:guest>").length == 2);
        desk.menuOn("name");
        hand.clickText("Copy path with prefixes");
        hand.await(
                "the path",
                () -> "/h:Reserve/h:guest/h:name"
                        .equals(Clipboard.getSystemClipboard().getString()));
    }
}
