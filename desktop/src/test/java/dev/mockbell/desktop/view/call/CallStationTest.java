package dev.mockbell.desktop.view.call;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.desktop.drive.Hand;
import dev.mockbell.desktop.model.CallModel;
import dev.mockbell.desktop.view.message.MessageEditor;
import dev.mockbell.suite.Case;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import javafx.scene.input.Clipboard;
import javafx.scene.input.KeyCode;
import org.fxmisc.richtext.CodeArea;
import org.junit.jupiter.api.Test;

/** The request editor and the cases, by their gestures. */
class CallStationTest extends OnCallDesk {
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
        List<Case> kept = desktop.onDisk().cases();
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
        assertThat(desktop.onDisk().cases().get(0).variables())
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
        assertThat(desktop.onDisk().cases(call.cases().get(0).contract(), "Reserve"))
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
        desktop.settled();
        desktop.desk.ledger().settle();
        Case kept = Hand.on(() -> call.currentProperty().get());
        CallModel fresh = Hand.on(() -> new CallModel(desktop.desk, desktop.models.mocks()));
        hand.await("the ledger's word", () -> fresh.earlier().of(kept).isPresent());
        assertThat(Hand.on(() -> fresh.earlier().of(kept))).contains(dev.mockbell.exchange.Exchange.Outcome.FINE);
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
