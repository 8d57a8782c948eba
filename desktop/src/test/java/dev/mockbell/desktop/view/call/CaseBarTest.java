package dev.mockbell.desktop.view.call;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.check.Check;
import dev.mockbell.check.Verdict;
import dev.mockbell.desktop.drive.Hand;
import dev.mockbell.expression.Variable;
import dev.mockbell.suite.Case;
import java.util.List;
import java.util.Map;
import javafx.geometry.Bounds;
import javafx.scene.Node;
import javafx.scene.control.ScrollPane;
import javafx.scene.input.Clipboard;
import javafx.scene.input.KeyCode;
import org.junit.jupiter.api.Test;

/** The chips of the cases, and what leaves the program by them. */
class CaseBarTest extends OnCallDesk {
    private List<String> titles() {
        return Hand.on(() -> call.cases().stream().map(Case::title).toList());
    }

    private String here() {
        return Hand.on(() -> call.currentProperty().get().title());
    }

    private void add(String title) {
        hand.click("#new-case");
        hand.type("#ask-name", title);
        hand.press(KeyCode.ENTER);
        hand.await(title, () -> call.currentProperty().get().title().equals(title));
    }

    private List<Case> onDisk() {
        return desk.desktop
                .onDisk()
                .cases(Hand.on(() -> call.currentProperty().get().contract()), "Reserve");
    }

    @Test
    void aNewCaseHasEverythingInAndEachKeepsItsOwnMessage() {
        hand.type("#value-hutId", "NF-21");
        add("Full board");
        assertThat(desk.xml()).contains("<h:board>").contains("<h:remark>");
        hand.type("#value-hutId", "NF-22");
        hand.click("#case-" + Hand.on(() -> id("Sample")));
        hand.await("the first", () -> call.request().xml().contains("NF-21"));
        hand.click("#case-" + Hand.on(() -> id("Full board")));
        hand.await("the second", () -> call.request().xml().contains("NF-22"));
        assertThat(onDisk()).extracting(Case::title).containsExactly("Sample", "Full board");
        assertThat(onDisk().get(1).body()).contains("NF-22");
    }

    @Test
    void chipsAreMovedAndTakenAwayByKeys() {
        add("Second");
        add("Third");
        Hand.run(() -> desk.scene().lookup("#case-" + id("Third")).requestFocus());
        hand.press(KeyCode.ALT, KeyCode.LEFT);
        hand.await("moved", () -> call.cases().get(1).title().equals("Third"));
        // it goes on having the keyboard
        hand.press(KeyCode.ALT, KeyCode.LEFT);
        hand.await("first", () -> call.cases().get(0).title().equals("Third"));
        Hand.run(() -> desk.scene().lookup("#case-" + id("Second")).requestFocus());
        hand.press(KeyCode.DELETE);
        hand.await("gone", () -> call.cases().size() == 2);
        assertThat(titles()).containsExactly("Third", "Sample");
        assertThat(onDisk()).extracting(Case::title).containsExactly("Third", "Sample");
        hand.clickText("Bring it back");
        hand.await("back", () -> call.cases().size() == 3);
        assertThat(onDisk()).hasSize(3);
    }

    private String id(String title) {
        return call.cases().stream()
                .filter(c -> c.title().equals(title))
                .findFirst()
                .orElseThrow()
                .id();
    }

    @Test
    void whenTheChipsDoNotFitAListOffersAll() {
        for (int i = 1; i <= 9; i++) {
            int number = i;
            Hand.run(() -> call.add("A case with rather a long name " + number, true));
        }
        hand.await("the list", () -> desk.scene().lookup("#all-cases").isVisible());
        assertThat(desk.words("#all-cases")).isEqualTo("All 10 ▾");
        hand.await("the current one in view", () -> {
            var chip =
                    desk.scene().lookup("#case-" + call.currentProperty().get().id());
            Node bar = chip;
            while (!(bar instanceof ScrollPane)) {
                bar = bar.getParent();
            }
            double middle = chip.localToScene(chip.getLayoutBounds()).getCenterX();
            Bounds shown = bar.localToScene(bar.getLayoutBounds());
            return middle > shown.getMinX() && middle < shown.getMaxX();
        });
        desk.shoot("cases-many");
        hand.click("#all-cases");
        hand.clickText("A case with rather a long name 4");
        hand.await("that one", () -> call.currentProperty().get().title().endsWith("name 4"));
        var chip = hand.find("#case-" + Hand.on(() -> id("A case with rather a long name 4")))
                .orElseThrow();
        assertThat(chip.getStyleClass()).contains("here");
    }

    @Test
    void aNameThatIsTakenOrEmptyIsNoTrouble() {
        add("Sample");
        assertThat(titles()).containsExactly("Sample", "Sample");
        assertThat(onDisk()).extracting(Case::id).doesNotHaveDuplicates();
        hand.click("#case-menu");
        hand.clickText("Name and description…");
        hand.type("#case-title", "   ");
        hand.click("#case-keep");
        assertThat(here()).isNotBlank();
        hand.click("#case-menu");
        hand.clickText("Name and description…");
        hand.type("#case-title", "../../Ærlig & <talt>: 100%");
        hand.click("#case-keep");
        hand.await("the name", () -> call.currentProperty().get().title().startsWith("../../Ærlig"));
        assertThat(onDisk()).anyMatch(c -> c.title().equals("../../Ærlig & <talt>: 100%"));
        assertThat(desk.desktop.project.resolve("cases")).isDirectoryRecursivelyContaining("glob:**.yaml");
    }

    @Test
    void theRequestIsCopiedInEveryFormAndASecretStandsAsAVariable() {
        Hand.run(() -> desk.desktop.desk.keepVariables(
                List.of(new Variable("permit", "", true)), List.of(), Map.of("permit", "open-sesame")));
        Hand.run(() -> call.request().edits().include(desk.row("remark")));
        Hand.run(() -> call.request().edits().put(desk.row("remark"), "{$secret:permit}"));
        for (String[] form : new String[][] {
            {"curl command", "curl "}, {"Raw HTTP", "POST /huts HTTP/1.1"}, {"Java program", "import java.net.http"}
        }) {
            hand.click("#copy-as");
            hand.clickText(form[0]);
            hand.await(
                    form[0],
                    () -> String.valueOf(Clipboard.getSystemClipboard().getString())
                            .contains(form[1]));
            String copied = Hand.on(() -> Clipboard.getSystemClipboard().getString());
            assertThat(copied).contains("NF-11").containsIgnoringCase("permit").doesNotContain("open-sesame");
        }
        assertThat(Hand.on(() -> desk.desktop.desk.notices().get(0).text())).contains("is on the clipboard");
    }

    @Test
    void aChipShowsHowItsLastCallWent() {
        String chip = "#case-" + Hand.on(() -> call.currentProperty().get().id());
        assertThat(call.lastResult(Hand.on(() -> call.currentProperty().get()))).isEmpty();
        hand.press(KeyCode.CONTROL, KeyCode.ENTER);
        hand.await(
                "the answer",
                () -> call.lastResult(call.currentProperty().get()).isPresent());
        assertThat(hand.find(chip)).isPresent();
        Hand.run(() -> call.checks().add(new Check.Condition("1 = 2")));
        hand.press(KeyCode.CONTROL, KeyCode.ENTER);
        hand.await(
                "the failure",
                () -> call.lastResult(call.currentProperty().get())
                        .filter(r -> r.verdict() == Verdict.FAILED)
                        .isPresent());
        hand.await("the count of calls, not of judgements", () -> desk.says("run 2"));
        desk.shoot("cases-failed");
    }
}
