package dev.mockbell.desktop.view.contract;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.desktop.OnDesktop;
import dev.mockbell.desktop.drive.Hand;
import dev.mockbell.desktop.part.Grid;
import dev.mockbell.project.ProjectStore;
import dev.mockbell.suite.Case;
import dev.mockbell.written.WrittenContract;
import dev.mockbell.written.WrittenDocuments;
import dev.mockbell.written.WrittenRow;
import java.nio.file.Path;
import java.time.Instant;
import java.util.List;
import java.util.function.UnaryOperator;
import javafx.scene.input.Clipboard;
import javafx.scene.input.ClipboardContent;
import javafx.scene.input.KeyCode;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

/** A contract that is written by hand, by gestures. */
class WrittenTest extends OnDesktop {
    private static final String TABLE = """
            Name	Type	How often	Limits	What it means
            ReportItem	operation
            takes
            hutId	text		NF-[0-9]{2}	where it was found
            item		1 to 20
              kind	one of		BOOT, POLE, GLOVE, OTHER
              description	text		at most 200
              foundOn	date
              photo	bytes	may be left out		as an attachment
            gives
            tag	text		L-[0-9]{4}	hang it on the item
            fails with UnknownHut
            hutId	text
            Discard	one-way
            takes
            tag	text
            """;

    @BeforeEach
    void begin() {
        hand.click("#write-contract");
        hand.type("#write-title", "Lost and found");
        hand.click("#write-keep");
        hand.await("the table", () -> hand.find("#written").isPresent());
    }

    private List<WrittenRow> rows() {
        return Hand.on(() -> desktop.models.written().rows());
    }

    private void shoot(String name) {
        String out = System.getProperty("mockbell.looks", "");
        if (!out.isEmpty()) {
            hand.shoot(Path.of(out, name + ".png"));
        }
    }

    private void paste() {
        Hand.run(() -> {
            ClipboardContent content = new ClipboardContent();
            content.putString(TABLE);
            Clipboard.getSystemClipboard().setContent(content);
        });
        hand.click("#written-paste");
        hand.await("the rows", () -> rows().size() == 15);
    }

    @Test
    void operationsAndFieldsAreTypedByTheKeyboardAlone() {
        hand.type("#written-0-name", "ReportItem");
        hand.press(KeyCode.DOWN);
        hand.press(KeyCode.DOWN);
        hand.type("#written-2-name", "item");
        hand.press(KeyCode.ENTER);
        hand.await("a new row", () -> rows().size() == 6);
        hand.type("#written-3-name", "kind");
        hand.press(KeyCode.TAB);
        hand.await("it went in", () -> rows().get(3).depth() == 1);
        hand.await("the field again", () -> hand.find("#written-3-name").isPresent());
        hand.type("#written-3-type", "one of");
        hand.type("#written-3-limits", "BOOT, POLE");
        hand.await(
                "the schema",
                () -> Hand.on(() -> desktop.models
                                .written()
                                .madeProperty()
                                .get()
                                .documents()
                                .xsd())
                        .contains("<xs:enumeration value=\"POLE\"/>"));
        hand.await("kept", () -> desktop.desk.project().contracts().size() == 1);
        var disk = desktop.onDisk();
        assertThat(disk.contracts().get(0).contract().operations()).containsKey("ReportItem");
        assertThat(new ProjectStore()
                        .written(desktop.project, "lost-and-found")
                        .orElseThrow()
                        .operations())
                .hasSize(1);
        hand.press(KeyCode.ESCAPE);
        hand.await("the board", () -> hand.find("#board").isPresent());
        hand.click("#edit-lost-and-found");
        hand.await("the table", () -> hand.find("#written").isPresent());
        assertThat(rows()).hasSize(6);
    }

    @Test
    void aPastedTableIsCleanAndSoonCallableAndMockable() {
        paste();
        hand.await("clean", () -> hand.shows("Valid WSDL 1.1 and XML Schema 1.0"));
        hand.click("#written-6-name");
        shoot("written");
        hand.clickText("WSDL");
        hand.clickText("Sample");
        hand.await(
                "a sample", () -> Hand.on(() -> hand.find("#written-documents").isPresent()));
        shoot("written-sample");
        hand.clickText("Settings");
        hand.type("#written-namespace", "urn:northfell:lost-and-found");
        hand.press(KeyCode.ENTER);
        shoot("written-settings");
        desktop.mockAnywhere();
        hand.click("#written-mock");
        hand.await(
                "the mock",
                () -> Hand.on(
                        () -> desktop.models.mocks().host("lost-and-found").isPresent()));
        var kept = desktop.onDisk().contract("lost-and-found").orElseThrow();
        assertThat(kept.contract().findings()).isEmpty();
        assertThat(kept.contract().services().get(0).name().getNamespaceURI())
                .isEqualTo("urn:northfell:lost-and-found");
    }

    @Test
    void whatCannotBeSoIsSaidAndUndoneStepByStep() {
        paste();
        int at = rows().stream().map(WrittenRow::name).toList().indexOf("foundOn");
        hand.type("#written-" + at + "-type", "dat");
        hand.press(KeyCode.ESCAPE);
        hand.await("the flaw", () -> hand.shows("“dat” is no type"));
        shoot("written-flaw");
        hand.press(KeyCode.CONTROL, KeyCode.Z);
        hand.await("undone", () -> rows().get(at).type().equals("date"));
        int before = rows().size();
        hand.click("#written-" + at + "-name");
        hand.press(KeyCode.CONTROL, KeyCode.DELETE);
        hand.await("gone", () -> rows().size() == before - 1);
        hand.press(KeyCode.CONTROL, KeyCode.Z);
        hand.await("back", () -> rows().size() == before);
    }

    @Test
    void theFieldsOfASampleComeInAndCasesAreTold() {
        paste();
        hand.await("kept", () -> desktop.desk.project().contracts().size() == 1);
        Hand.run(() -> desktop.desk.change(p -> p.withCase(new Case(
                "boot",
                "Boot",
                "",
                "lost-and-found",
                "Discard",
                "",
                "<Discard xmlns='urn:lost-and-found'><tag>L-1</tag></Discard>",
                List.of(),
                List.of(),
                List.of()))));
        hand.click("#written-sample");
        hand.type(
                "#sample-text",
                "<FindItemsResponse><item><tag>L-1</tag></item><item><tag>L-2</tag></item></FindItemsResponse>");
        hand.click("#sample-keep");
        hand.await("the operation", () -> rows().stream().anyMatch(r -> r.name().equals("FindItems")));
        int discard = rows().stream().map(WrittenRow::name).toList().indexOf("Discard");
        Hand.run(() ->
                ((Grid<?>) hand.find("#written-table").orElseThrow()).list().scrollTo(discard));
        hand.click("#written-" + discard + "-name");
        hand.await("the case", () -> hand.shows("1 case uses Discard; it still fits"));
        hand.type("#written-" + (discard + 2) + "-name", "label");
        hand.await(
                "kept again",
                () -> desktop.desk
                        .project()
                        .contract("lost-and-found")
                        .orElseThrow()
                        .contract()
                        .documents()
                        .get(1)
                        .text()
                        .contains("label"));
        assertThat(desktop.onDisk().cases()).hasSize(1);
    }

    private void byAnother(UnaryOperator<WrittenContract> change) {
        ProjectStore store = new ProjectStore();
        WrittenContract theirs =
                change.apply(store.written(desktop.project, "lost-and-found").orElseThrow());
        store.saveWritten(
                desktop.project,
                "lost-and-found",
                "Lost and found",
                theirs,
                WrittenDocuments.of(theirs),
                Instant.EPOCH);
    }

    @Test
    void aTableThatAnotherProgramChangesIsShownAsItIsThereOrBothAreShownToChooseFrom() {
        paste();
        hand.await("kept", () -> desktop.desk.project().contracts().size() == 1);
        desktop.settled();
        byAnother(c -> c.withService("Theirs"));
        hand.await("theirs", () -> desktop.models.written().contract().service().equals("Theirs"));
        desktop.settled();
        Hand.run(() -> {
            byAnother(c -> c.withService("TheirsAgain"));
            desktop.models.written().settings(c -> c.withService("Ours"));
        });
        hand.await(
                "both", () -> hand.shows("was changed here and changed by another program. Nothing is overwritten."));
        hand.clickText("Choose a version…");
        hand.click("#version-here");
        hand.await(
                "ours",
                () -> new ProjectStore()
                        .written(desktop.project, "lost-and-found")
                        .orElseThrow()
                        .service()
                        .equals("Ours"));
    }
}
