package dev.mockbell.desktop;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.desktop.drive.Hand;
import dev.mockbell.suite.Case;
import dev.mockbell.suite.Suite;
import java.util.List;
import javafx.scene.input.KeyCode;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

/** Deletions and moves are taken back with Ctrl+Z, wherever one is by then. */
class TakenBackTest extends OnDesktop {
    @BeforeEach
    void threeCases() {
        desktop.addContract();
        hand.press(KeyCode.ALT, KeyCode.DIGIT2);
        hand.await("the sheet", () -> hand.find("#value-days").isPresent());
        hand.type("#value-peak", "Skarn");
        hand.press(KeyCode.ENTER);
        hand.await("the case", () -> desktop.desk.project().cases().size() == 1);
        Case first = desktop.desk.project().cases().get(0);
        Hand.run(() -> {
            desktop.desk.change(p -> p.withCase(first.withName("second", "Second")));
            desktop.desk.change(p -> p.withCase(first.withName("third", "Third")));
            desktop.desk.placeProperty().set(null);
            desktop.models.call().goTo(first);
        });
        hand.await("three", () -> titles().size() == 3);
        leaveField();
    }

    private void leaveField() {
        Hand.run(() -> desktop.window.frame().requestFocus());
    }

    private List<String> titles() {
        return Hand.on(
                () -> desktop.models.call().cases().stream().map(Case::title).toList());
    }

    private void undo() {
        hand.press(KeyCode.CONTROL, KeyCode.Z);
    }

    private void redo() {
        hand.press(KeyCode.CONTROL, KeyCode.SHIFT, KeyCode.Z);
    }

    @Test
    void aDeletedCaseIsThereAgainAndGoneAgainAlsoFromAnotherStation() {
        Hand.run(() -> desktop.models.call().open(desktop.models.call().cases().get(1)));
        Hand.run(() -> desktop.models.call().delete());
        hand.await("one less", () -> titles().size() == 2);
        hand.press(KeyCode.ALT, KeyCode.DIGIT6);
        leaveField();
        undo();
        hand.await("again", () -> titles().size() == 3);
        assertThat(Hand.on(() -> desktop.models.call().currentProperty().get().title()))
                .isEqualTo("Second");
        assertThat(Hand.on(() -> desktop.desk.stationProperty().get().title())).isEqualTo("Call");
        assertThat(hand.shows("Taken back: Deleted the case “Second”.")).isTrue();
        assertThat(desktop.onDisk().cases()).hasSize(3);
        redo();
        hand.await("gone again", () -> titles().size() == 2);
        assertThat(desktop.onDisk().cases()).hasSize(2);
    }

    @Test
    void whatWasDoneLastIsTakenBackFirst() {
        hand.type("#value-peak", "Pillar");
        hand.press(KeyCode.ENTER);
        hand.await("typed", () -> desktop.models.call().request().xml().contains("Pillar"));
        leaveField();
        Hand.run(() -> desktop.models.call().actions().move(1));
        List<String> moved = titles();
        assertThat(moved.get(0)).isEqualTo("Second");
        undo();
        hand.await("the order", () -> !titles().equals(moved));
        assertThat(Hand.on(() -> desktop.models.call().request().xml())).contains("Pillar");
        undo();
        hand.await("the value", () -> desktop.models.call().request().xml().contains("Skarn"));
        redo();
        hand.await(
                "the value again", () -> desktop.models.call().request().xml().contains("Pillar"));
        redo();
        hand.await("the order again", () -> titles().equals(moved));
    }

    @Test
    void aSuiteIsCopiedRenamedAndDeletedAndComesBack() {
        Hand.run(() -> desktop.models.check().add("Stay"));
        hand.press(KeyCode.ALT, KeyCode.DIGIT3);
        hand.click("#choose-suite");
        hand.clickText("Duplicate this suite");
        hand.await("two", () -> desktop.desk.project().suites().size() == 2);
        hand.click("#choose-suite");
        hand.clickText("Rename this suite…");
        hand.type("#ask-suite", "Another stay");
        hand.click("#suite-keep");
        hand.await("its title", () -> hand.shows("Another stay"));
        hand.click("#choose-suite");
        hand.clickText("Delete this suite");
        hand.await("one", () -> desktop.desk.project().suites().size() == 1);
        leaveField();
        undo();
        hand.await("both", () -> desktop.desk.project().suites().size() == 2);
        assertThat(Hand.on(() -> desktop.models.check().suiteProperty().get()))
                .extracting(Suite::title)
                .isEqualTo("Another stay");
        assertThat(desktop.onDisk().suites()).hasSize(2);
    }

    @Test
    void aRemovedContractComesBack() {
        Hand.run(() -> desktop.desk
                .contracts()
                .remove(desktop.desk.project().contracts().get(0)));
        hand.await("none", () -> desktop.desk.project().contracts().isEmpty());
        leaveField();
        undo();
        hand.await("again", () -> desktop.desk.project().contracts().size() == 1);
        redo();
        hand.await("none again", () -> desktop.desk.project().contracts().isEmpty());
        undo();
        hand.await("and again", () -> desktop.desk.project().contracts().size() == 1);
        assertThat(desktop.onDisk().contracts()).hasSize(1);
    }
}
