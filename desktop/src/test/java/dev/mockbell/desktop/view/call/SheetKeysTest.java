package dev.mockbell.desktop.view.call;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.desktop.drive.Hand;
import dev.mockbell.desktop.model.Line;
import dev.mockbell.desktop.part.Grid;
import dev.mockbell.desktop.part.ValueField;
import dev.mockbell.desktop.view.shared.Copying;
import dev.mockbell.sheet.SheetRow;
import java.util.Optional;
import javafx.scene.control.TextInputControl;
import javafx.scene.input.KeyCode;
import org.junit.jupiter.api.Test;

/** The sheet of the request by keyboard and by the menus of its rows. */
class SheetKeysTest extends OnCallDesk {
    private int guests() {
        return desk.xml().split("<\\w+:guest[ >]").length - 1;
    }

    private boolean shown(String label) {
        return Hand.on(() ->
                call.request().lines().stream().anyMatch(l -> l.row().label().equals(label)));
    }

    private String chosen() {
        return Hand.on(() -> ((Grid<?>) desk.scene().lookup("#request-sheet"))
                                .list()
                                .getSelectionModel()
                                .getSelectedItem()
                        instanceof Line line
                ? line.row().label()
                : "");
    }

    @Test
    void arrowsFoldAndOpenAndSpaceSwitches() {
        desk.point("guest");
        hand.press(KeyCode.LEFT);
        assertThat(shown("name")).isFalse();
        hand.press(KeyCode.RIGHT);
        assertThat(shown("name")).isTrue();
        hand.press(KeyCode.RIGHT);
        assertThat(chosen()).as("and then into it").isEqualTo("name");
        hand.press(KeyCode.LEFT);
        assertThat(chosen()).as("out to what it stands in").isEqualTo("guest");
        hand.press(KeyCode.LEFT);
        assertThat(shown("name")).isFalse();
        hand.press(KeyCode.LEFT);
        assertThat(chosen()).isEqualTo("Reserve");
        assertThat(shown("guest")).isTrue();
        desk.point("board");
        hand.press(KeyCode.SPACE);
        assertThat(desk.xml()).contains("<h:board>");
        hand.press(KeyCode.SPACE);
        assertThat(desk.xml()).doesNotContain("<h:board>");
        desk.point("nights");
        hand.press(KeyCode.SPACE);
        assertThat(desk.xml()).as("a required part has no switch").contains("<h:nights>");
    }

    @Test
    void theChosenRowIsFoundAgainByItsPathAndNotInAnotherCase() {
        desk.point("nights");
        Hand.run(() -> call.request().replaceXml(desk.xmlNow().replace("<h:hutId>", "<h:stray/><h:hutId>")));
        assertThat(chosen()).as("though every row was read anew").isEqualTo("nights");
        Hand.run(() -> call.request().filterProperty().set("hutId"));
        assertThat(chosen()).isEmpty();
        Hand.run(() -> call.request().filterProperty().set(""));
        assertThat(chosen()).as("hidden for a while").isEqualTo("nights");
        Hand.run(() -> call.add("Another", true));
        assertThat(chosen()).as("another message").isEmpty();
    }

    @Test
    void enterAndF2GoIntoTheFieldOfTheRow() {
        desk.point("hutId");
        hand.press(KeyCode.ENTER);
        assertThat(Hand.on(() -> desk.field("hutId").isTypedIn())).isTrue();
        desk.point("arrival");
        hand.press(KeyCode.F2);
        assertThat(Hand.on(() -> desk.field("arrival").isTypedIn())).isTrue();
        assertThat(Hand.on(() -> desk.field("hutId").isTypedIn())).isFalse();
    }

    @Test
    void tabGoesFromValueToValue() {
        hand.click("#value-hutId");
        hand.press(KeyCode.TAB);
        hand.await("the next field", () -> desk.field("arrival").isTypedIn());
        hand.press(KeyCode.TAB);
        hand.await("the one after", () -> desk.field("nights").isTypedIn());
        hand.press(KeyCode.SHIFT, KeyCode.TAB);
        hand.await("the one before", () -> desk.field("arrival").isTypedIn());
    }

    @Test
    void repeatsAreAddedDuplicatedMovedAndTakenAway() {
        Hand.run(() -> call.request().edits().put(desk.row("name"), "First"));
        desk.point("guest");
        hand.press(KeyCode.INSERT);
        assertThat(guests()).isEqualTo(2);
        desk.point("guest");
        hand.press(KeyCode.CONTROL, KeyCode.D);
        assertThat(guests()).isEqualTo(3);
        assertThat(desk.xml().split(">First<"))
                .as("the copy holds what the first does")
                .hasSize(3);
        desk.point("guest");
        hand.press(KeyCode.ALT, KeyCode.DOWN);
        hand.press(KeyCode.ALT, KeyCode.DOWN);
        assertThat(desk.xml().lastIndexOf(">First<")).isGreaterThan(desk.xml().lastIndexOf("<h:guest>"));
        desk.point("guest");
        hand.press(KeyCode.DELETE);
        assertThat(guests()).isEqualTo(2);
        hand.press(KeyCode.CONTROL, KeyCode.Z);
        assertThat(guests()).isEqualTo(3);
        hand.press(KeyCode.CONTROL, KeyCode.SHIFT, KeyCode.Z);
        assertThat(guests()).isEqualTo(2);
    }

    @Test
    void valuesAndSubtreesAreCopiedAndPasted() {
        desk.point("hutId");
        hand.press(KeyCode.CONTROL, KeyCode.C);
        desk.awaitCopied("NF-11");
        Hand.run(() -> Copying.text("NF-07\n"));
        hand.press(KeyCode.CONTROL, KeyCode.V);
        desk.awaitXml("<h:hutId>NF-07</h:hutId>");
        Hand.run(() -> Copying.text("<g:guest xmlns:g='urn:huts'><g:name>Mira</g:name><g:age>40</g:age></g:guest>"));
        desk.point("guest");
        hand.press(KeyCode.CONTROL, KeyCode.V);
        desk.awaitXml(">Mira<");
        Hand.run(() -> Copying.text("name\tage\nIngrid\t30\nOle\t31\n"));
        desk.point("guest");
        hand.press(KeyCode.CONTROL, KeyCode.V);
        desk.awaitXml(">Ole<");
        assertThat(guests()).isEqualTo(2);
        Hand.run(() -> Copying.text("<wrong"));
        hand.press(KeyCode.CONTROL, KeyCode.V);
        hand.await(
                "the reason",
                () -> desk.desktop.desk.notices().stream()
                        .anyMatch(n -> n.text().contains("not well-formed")));
        assertThat(guests()).as("nothing has changed").isEqualTo(2);
    }

    @Test
    void pathsAndValuesAreCopiedFromTheMenu() {
        desk.menuOn("nights");
        hand.clickText("Copy path");
        desk.awaitCopied("/Reserve/nights");
        desk.menuOn("nights");
        hand.clickText("Copy value   (Ctrl+C)");
        desk.awaitCopied("2");
        desk.menuOn("guest");
        hand.clickText("Copy as XML   (Ctrl+C)");
        hand.await(
                "the guest",
                () -> String.valueOf(javafx.scene.input.Clipboard.getSystemClipboard()
                                .getString())
                        .startsWith("<h:guest xmlns:h=\"urn:huts\">"));
    }

    @Test
    void attributesAreAddedFromTheMenuAndWrongOnesToldAtOnce() {
        desk.menuOn("hutId");
        hand.clickText("Add attributes…");
        hand.type("#ask-text", "note=late");
        hand.click("#ask-text-done");
        hand.await("the reason", () -> desk.says("These are not attributes"));
        desk.shoot("call-attributes");
        hand.type("#ask-text", "note=\"late\"");
        hand.click("#ask-text-done");
        desk.awaitXml("<h:hutId note=\"late\">");
        hand.await("the flaw", () -> desk.row("@note").problem().isPresent());
        desk.point("@note");
        hand.press(KeyCode.DELETE);
        hand.await("gone", () -> !call.request().xml().contains("note="));
    }

    @Test
    void aTableFillsRowsFromTheMenuAndABadLineIsNamed() {
        desk.menuOn("guest");
        hand.clickText("Fill rows from a table…");
        hand.type("#ask-text", "name,age\nIngrid,30\nOle,31,too many\n");
        hand.click("#ask-text-done");
        hand.await("the reason", () -> desk.says("Line 2 has 3 cells"));
        hand.type("#ask-text", "name,age\nIngrid,30\n\"Ole, the younger\",31\n");
        hand.click("#ask-text-done");
        desk.awaitXml(">Ole, the younger<");
        assertThat(guests()).isEqualTo(2);
        Hand.run(() -> call.request().undo());
        assertThat(guests()).isEqualTo(1);
    }

    @Test
    void anyElementIsPutInAsXmlAndOneThatMayNotStandIsRefused() {
        hand.clickText("Paste XML…");
        hand.type("#ask-text", "<h:hutId xmlns:h='urn:huts'>NF-01</h:hutId>");
        hand.click("#ask-text-done");
        hand.await("the reason", () -> desk.says("<h:hutId> cannot stand here"));
        hand.type("#ask-text", "<x:tag xmlns:x='urn:x'>red</x:tag>");
        hand.click("#ask-text-done");
        desk.awaitXml("<x:tag xmlns:x=\"urn:x\">red</x:tag>");
        hand.await("its row", () -> desk.row("tag").value().equals("red"));
    }

    private Optional<ValueField> still(String text) {
        return desk.scene().getRoot().lookupAll(".still").stream()
                .map(n -> n.getParent())
                .filter(ValueField.class::isInstance)
                .map(ValueField.class::cast)
                .filter(f -> text.equals(f.text()))
                .findFirst();
    }

    @Test
    void aChoiceIsTakenFromItsListAndKeepsWhatStoodInTheOther() {
        desk.point("one of");
        hand.press(KeyCode.SPACE);
        desk.awaitXml("<h:phone>");
        Hand.run(() -> call.request().edits().put(desk.row("phone"), "+47 1"));
        hand.await("its field", () -> still("phone").isPresent());
        Hand.run(() -> still("phone").orElseThrow().requestFocus());
        hand.press(KeyCode.DOWN);
        hand.press(KeyCode.DOWN);
        hand.press(KeyCode.ENTER);
        desk.awaitXml("<h:email>");
        assertThat(desk.xml()).doesNotContain("<h:phone>");
        Hand.run(() -> call.request().edits().choose(desk.row("one of"), "phone"));
        assertThat(desk.xml()).contains("<h:phone>+47 1</h:phone>");
    }

    @Test
    void foldingAllLeavesTheTopAndOpeningAllShowsEverything() {
        desk.menuOn("Reserve");
        hand.clickText("Fold all");
        hand.await(
                "folded",
                () -> call.request().lines().stream()
                        .noneMatch(l -> l.row().label().equals("name")));
        desk.menuOn("Reserve");
        hand.clickText("Open all");
        hand.await(
                "open",
                () -> call.request().lines().stream()
                        .anyMatch(l -> l.row().label().equals("name")));
    }

    @Test
    void aValueIsEmptiedAndTextAddedFromTheMenu() {
        desk.menuOn("hutId");
        hand.clickText("Empty");
        desk.awaitXml("<h:hutId/>");
        hand.await("the flaw", () -> desk.row("hutId").problem().isPresent());
        desk.menuOn("guest");
        hand.clickText("Add text");
        hand.await("a row of text", () -> desk.row("text").kind() == SheetRow.Kind.TEXT);
        assertThat(Hand.on(() -> desk.row("text").problem()))
                .hasValueSatisfying(p -> assertThat(p).contains("does not allow text"));
    }

    @Test
    void aPathThatLeadsNowhereIsMarkedAndEscShowsAllAgain() {
        hand.press(KeyCode.CONTROL, KeyCode.F);
        hand.type("#sheet-filter", "/Reserve/nowhere");
        hand.press(KeyCode.ENTER);
        TextInputControl filter = (TextInputControl) hand.find("#sheet-filter").orElseThrow();
        hand.await("the mark", () -> filter.getStyleClass().contains("wrong"));
        hand.type("#sheet-filter", "OKAFOR");
        hand.await("the row by its value", () -> call.request().lines().size() == 3);
        hand.press(KeyCode.ESCAPE);
        hand.await("all", () -> call.request().lines().size() > 8);
        assertThat(Hand.on(() -> filter.getText())).isEmpty();
    }

    @Test
    void whatTheFootOffersFillsAndEmptiesTheMessage() {
        hand.click("#include-all");
        desk.awaitXml("<h:remark>");
        assertThat(desk.xml()).contains("<h:board>").contains("channel=");
        Hand.run(() -> call.request().edits().put(desk.row("remark"), "skis in the porch"));
        Hand.run(() -> call.request().edits().keepWhatDiffers());
        assertThat(desk.xml()).contains("skis in the porch").doesNotContain("<h:board>");
        Hand.run(() -> call.request().edits().fill(dev.mockbell.sample.SampleBuilder.Detail.REQUIRED));
        assertThat(desk.xml()).doesNotContain("<h:remark>");
        hand.click("#include-all");
        desk.awaitXml("skis in the porch");
    }
}
