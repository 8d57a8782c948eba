package dev.mockbell.desktop.view.call;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.check.Check;
import dev.mockbell.desktop.drive.Hand;
import dev.mockbell.desktop.part.Grid;
import dev.mockbell.desktop.part.Parts;
import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.Labeled;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** What a case asks of its answers, beside them. */
class ChecksPaneTest {
    @TempDir
    private Path folder;

    private AnswerDesk desk;
    private Hand hand;

    @BeforeEach
    void open() throws IOException {
        desk = new AnswerDesk(folder);
        hand = desk.hand;
    }

    @AfterEach
    void close() {
        desk.close();
    }

    private List<Node> shown(String selector) {
        return Hand.on(() -> desk.desktop.window.stage().getScene().getRoot().lookupAll(selector).stream()
                .filter(Parts::isShown)
                .toList());
    }

    private List<String> words() {
        return Hand.on(() -> shown(".label").stream()
                .map(n -> String.valueOf(((Labeled) n).getText()))
                .toList());
    }

    /** Points at the first trail of the answer. */
    private void point() {
        Hand.run(() -> {
            Grid<?> grid = (Grid<?>) hand.find("#response-sheet").orElseThrow();
            int at = 0;
            while (!desk.call.response().lines().get(at).row().label().equals("trail")) {
                at++;
            }
            grid.list().getSelectionModel().clearAndSelect(at);
        });
    }

    private void checkAndCapture() {
        Hand.run(() -> desk.call.response().foldAll(false));
        hand.await(
                "its rows",
                () -> desk.call.response().lines().stream()
                        .anyMatch(l -> l.row().label().equals("trail")));
        point();
        hand.click("#check-this");
        hand.await("the check", () -> checks() == 3);
        point();
        hand.click("#capture-this");
        hand.await("what is captured", () -> hand.shows("$trail"));
    }

    private int checks() {
        return desk.call.currentProperty().get().checks().size();
    }

    @Test
    void whatCanBePressedBesideAnAnswerStaysWhenTheNextOneComes() {
        desk.answers(AnswerDesk.closures("")).send();
        checkAndCapture();
        desk.send();
        hand.await("all of it passed", () -> hand.text("#checks-passed").equals("3 of 3"));
        List<Node> before = new ArrayList<>(shown(".tiny"));
        for (String id : List.of("#add-check", "#try-against", "#new-case", "#all-cases")) {
            hand.find(id).ifPresent(before::add);
        }
        before.addAll(shown(".chip"));
        assertThat(before)
                .filteredOn(Button.class::isInstance)
                .extracting(b -> ((Button) b).getText())
                .contains("Edit", "×", "Add a check", "+ New case", "Sample");
        desk.answers(AnswerDesk.closures("").replace("Skarn ridge", "Tarn ridge"))
                .send();
        hand.await("one of them failed", () -> hand.text("#checks-passed").equals("2 of 3"));
        assertThat(words()).anySatisfy(w -> assertThat(w).startsWith("should be Skarn ridge, found Tarn ridge"));
        assertThat(words()).contains("Tarn ridge");
        assertThat(Hand.on(
                        () -> before.stream().filter(n -> n.getScene() == null).toList()))
                .isEmpty();
    }

    @Test
    void ofWhatIsCheckedAndCapturedHoweverLongItsStartIsShown() {
        String trail = "Skarn ridge ".repeat(100_000).strip();
        desk.answers(AnswerDesk.closures("").replace("Skarn ridge", trail)).send();
        checkAndCapture();
        desk.send();
        hand.await("all of it passed", () -> hand.text("#checks-passed").equals("3 of 3"));
        assertThat(Hand.on(() -> desk.call.currentProperty().get().checks()))
                .as("what is kept is whole")
                .anySatisfy(c -> assertThat(c)
                        .isInstanceOfSatisfying(
                                Check.Value.class, v -> assertThat(v.expected()).isEqualTo(trail)));
        desk.answers(AnswerDesk.closures("").replace("Skarn ridge", trail + "!"))
                .send();
        hand.await("one of them failed", () -> hand.text("#checks-passed").equals("2 of 3"));
        assertThat(words()).allSatisfy(w -> assertThat(w).hasSizeLessThanOrEqualTo(2_001));
        assertThat(words()).anySatisfy(w -> assertThat(w).startsWith("should be Skarn ridge"));
    }
}
