package dev.mockbell.desktop.view.call;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.desktop.drive.Hand;
import dev.mockbell.desktop.model.CallModel;
import dev.mockbell.desktop.model.Flaws;
import dev.mockbell.desktop.view.message.MessageEditor;
import dev.mockbell.project.ProjectStore;
import dev.mockbell.suite.Case;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import javafx.scene.control.TextField;
import javafx.scene.input.Clipboard;
import javafx.scene.input.KeyCode;
import org.fxmisc.richtext.CodeArea;
import org.junit.jupiter.api.Test;

/** The request editor and the cases, by their gestures. */
class CallStationTest extends OnCallDesk {
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
        hand.await("the wire", () -> !call.faces().wire().isEmpty());
        assertThat(Hand.on(() -> call.faces().wire())).contains("NF-78</h:hutId>");
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

    @Test
    void boundaryCasesArePickedFromAListAndKept() {
        hand.click("#case-menu");
        hand.clickText("Boundary cases…");
        hand.await("the list", () -> !list().isEmpty());
        hand.type("#boundary-filter", "nights =");
        hand.clickText("Choose all shown");
        desk.shoot("call-boundary");
        int before = Hand.on(() -> call.cases().size());
        hand.click("#boundary-keep");
        hand.await("the cases", () -> call.cases().size() > before + 3);
        hand.await("saved", () -> desktop.desk.tasks().running() == 0);
        List<Case> kept = new ProjectStore().open(desktop.project).cases();
        assertThat(kept)
                .anyMatch(c -> c.title().contains("15") && c.description().contains("refused"));
        desk.shoot("call-boundary-kept");
        hand.clickText("Take them back");
        hand.await("gone", () -> call.cases().size() == before);
    }

    private javafx.collections.ObservableList<?> list() {
        var grid = (dev.mockbell.desktop.part.Grid<?>)
                desktop.window.stage().getScene().lookup("#boundary-list");
        return grid == null ? javafx.collections.FXCollections.observableArrayList() : grid.items();
    }

    @Test
    void variablesOfTheCaseAreKeptAndUsed() {
        hand.click("#variables");
        hand.click("#add-variable-case");
        hand.type("#variable-name-case-0", "much");
        hand.type("#variable-value-case-0", "4");
        desk.shoot("call-variables");
        hand.click("#variables-keep");
        hand.type("#value-nights", "{$much * 2}");
        hand.press(KeyCode.CONTROL, KeyCode.ENTER);
        hand.await("the answer", () -> call.calledProperty().get() != null);
        hand.await("the answer laid out", () -> call.faces().xml().contains("/8<"));
        hand.await("saved", () -> desktop.desk.tasks().running() == 0);
        assertThat(new ProjectStore().open(desktop.project).cases().get(0).variables())
                .extracting(v -> v.name())
                .containsExactly("much");
    }

    @Test
    void theRequestIsCopiedAsACommand() {
        hand.click("#copy-as");
        hand.clickText("curl command");
        hand.await("the clipboard", () -> {
            String text = Clipboard.getSystemClipboard().getString();
            return text != null && text.startsWith("curl ") && text.contains("Reserve");
        });
    }

    @Test
    void casesStandInTheOrderThatTheyAreMovedTo() {
        hand.click("#new-case");
        hand.type("#ask-name", "Another");
        hand.press(KeyCode.ENTER);
        hand.await("two", () -> call.cases().size() == 2);
        hand.click("#case-menu");
        hand.clickText("Move left   (Alt+Left)");
        hand.await("first", () -> call.cases().get(0).title().equals("Another"));
        hand.await("saved", () -> desktop.desk.tasks().running() == 0);
        assertThat(new ProjectStore()
                        .open(desktop.project)
                        .cases(call.cases().get(0).contract(), "Reserve"))
                .extracting(Case::title)
                .startsWith("Another");
    }

    @Test
    void aCaseThatNoLongerFitsIsMarkedAndMended() {
        Hand.run(() -> call.keep(
                call.currentProperty().get().withBody(call.request().xml().replace("hutId", "hut"))));
        Hand.run(() -> call.open(call.currentProperty().get()));
        hand.click("#mend");
        desk.shoot("call-mend");
        hand.click("#mend-now");
        hand.await("the new name", () -> call.request().xml().contains("hutId>"));
        hand.await("no mark", () -> call.actions().misfits().isEmpty());
    }

    @Test
    void headersOfBothKindsAreSent() {
        hand.click("#segment-headers");
        hand.click("#add-header");
        hand.type("#header-name-0", "X-Trip");
        hand.type("#header-value-0", "{1 + 1}");
        CodeArea blocks = (CodeArea) hand.find("#soap-headers").orElseThrow();
        Hand.run(() -> {
            blocks.requestFocus();
            blocks.replaceText("<t:Trace xmlns:t=\"urn:trace\">{bell:base64('x')}</t:Trace>");
        });
        hand.await("kept", () -> !call.currentProperty().get().soapHeaders().isEmpty());
        desk.shoot("call-headers");
        Hand.run(() -> call.preview().refresh());
        hand.await("the preview", () -> call.preview().textProperty().get().contains("X-Trip: 2"));
        assertThat(Hand.on(() -> call.preview().textProperty().get()))
                .contains("<soap:Header>")
                .contains(">eA==<");
    }

    @Test
    void aFileTakesThePlaceOfTheMessage() throws IOException {
        Path file = Files.writeString(
                folder.resolve("body.xml"),
                "<h:Reserve xmlns:h='urn:huts'><h:hutId>NF-42</h:hutId><h:arrival>2027-01-01</h:arrival><h:nights>2</h:nights><h:guest><h:name>Kari</h:name></h:guest></h:Reserve>");
        hand.click("#segment-xml");
        MessageEditor editor = Hand.on(() -> {
            javafx.scene.Node n = desktop.window.stage().getScene().lookup("#request-xml");
            while (!(n instanceof MessageEditor)) {
                n = n.getParent();
            }
            return (MessageEditor) n;
        });
        Hand.run(() -> editor.open(file.toFile()));
        hand.await(
                "the sheet",
                () -> call.request().lines().stream()
                        .anyMatch(l -> l.row().value().equals("NF-42")));
        Hand.run(editor::format);
        desk.awaitXml("\n  <h:hutId>");
    }

    @Test
    void aMocksAnswerIsEditedOnASheetToo() {
        hand.press(KeyCode.ALT, KeyCode.DIGIT4);
        Hand.run(() -> desktop.models
                .mocks()
                .start(
                        desktop.desk.project().contracts().get(0),
                        desktop.models.mocks().plan().orElseThrow().withPort(0)));
        hand.await("the mock", () -> desktop.models.mocks().host().isPresent());
        hand.type("#value-code", "R-{$hits}");
        desk.shoot("mock-sheet");
        hand.await("kept", () -> desktop.models.mocks().answers().get(0).body().contains(">R-{$hits}<"));
        Hand.run(() -> desktop.models.mocks().startOrStop());
    }

    @Test
    void theLastResultOfACaseIsKnownFromTheLedger() {
        hand.type("#value-nights", "3");
        hand.press(KeyCode.CONTROL, KeyCode.ENTER);
        hand.await("the answer", () -> call.calledProperty().get() != null);
        hand.await("all saved", () -> desktop.desk.tasks().running() == 0);
        desktop.desk.ledger().settle();
        Case kept = Hand.on(() -> call.currentProperty().get());
        CallModel fresh = Hand.on(() -> new CallModel(desktop.desk));
        hand.await("the ledger's word", () -> fresh.earlier().of(kept).isPresent());
        assertThat(Hand.on(() -> fresh.earlier().of(kept))).contains(dev.mockbell.exchange.Exchange.Outcome.FINE);
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

    @Test
    void helpNamesTheKeysAndTheFunctions() {
        hand.press(KeyCode.F1);
        hand.await("the help", () -> desktop.window.stage().getScene().lookup("#overlay") != null);
        desk.shoot("call-help");
        hand.await(
                "the functions",
                () -> desktop.window.stage().getScene().getRoot().lookupAll(".label").stream()
                        .anyMatch(n -> n instanceof javafx.scene.control.Label l
                                && l.getText().equals("bell:uuid()")));
    }
}
