package dev.mockbell.desktop.view.call;

import dev.mockbell.check.Answer;
import dev.mockbell.check.Check;
import dev.mockbell.check.CheckResult;
import dev.mockbell.desktop.part.Mark;
import dev.mockbell.desktop.part.Parts;
import dev.mockbell.desktop.view.shared.Numbers;
import java.util.Optional;
import javafx.geometry.Insets;
import javafx.scene.control.Label;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;

/** A check of the case, with what it found. It stays when another answer comes, for it may just be pressed. */
final class CheckRow extends VBox {
    /** Of what is asked for and of what was found. */
    private static final int MOST_SHOWN = 500;

    private final Label title;
    private final Label found = Parts.text("", "table-text");

    CheckRow(Check check, Runnable edit, Runnable remove) {
        title = Parts.marked(Mark.STALE, Parts.start(check.title(), MOST_SHOWN));
        title.setWrapText(true);
        title.setMinWidth(0);
        HBox first = new HBox(title, Parts.spring());
        if (check.stops()) {
            Label stops = Parts.text("ends the run", "tag");
            stops.setMinWidth(Region.USE_PREF_SIZE);
            first.getChildren().add(stops);
        }
        first.getChildren()
                .addAll(
                        Parts.button("Edit", "Change this check", edit, "tiny"),
                        Parts.button("×", "Take this check away", remove, "tiny"));
        found.setWrapText(true);
        found.setPadding(new Insets(0, 0, 0, 18));
        found.managedProperty().bind(found.visibleProperty());
        getChildren().addAll(first, found);
    }

    /**
     * Shows what it found in an answer; empty for nothing yet.
     *
     * @param answer the one that is shown
     */
    void show(Optional<CheckResult> result, Optional<Answer> answer) {
        Parts.mark(title, result.map(r -> Numbers.mark(r.verdict())).orElse(Mark.STALE));
        boolean passed = result.map(CheckResult::passed).orElse(false);
        String words =
                result.filter(r -> isAnswered(r, answer)).map(CheckRow::words).orElse("");
        found.setVisible(!words.isEmpty());
        if (!words.isEmpty()) {
            found.setText(Parts.start(words, MOST_SHOWN));
            Parts.classed(found, "second", passed);
            Parts.classed(found, "failed", !passed);
        }
    }

    /** Why there is no answer stands once, where the answer would. */
    private static boolean isAnswered(CheckResult result, Optional<Answer> answer) {
        return answer.flatMap(a -> a.exchange().response()).isPresent()
                && !result.found().equals(answer.get().flaw().orElse(""));
    }

    private static String words(CheckResult result) {
        String words = result.passed() ? result.found() : result.finding();
        return words.isEmpty() || words.equals("true") ? "" : result.passed() ? "found " + words : words;
    }
}
