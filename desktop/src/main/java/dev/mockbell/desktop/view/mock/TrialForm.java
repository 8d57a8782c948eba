package dev.mockbell.desktop.view.mock;

import dev.mockbell.content.Content;
import dev.mockbell.desktop.model.MocksModel;
import dev.mockbell.desktop.part.Mark;
import dev.mockbell.desktop.part.Parts;
import dev.mockbell.desktop.part.XmlArea;
import dev.mockbell.desktop.view.shared.Overlay;
import dev.mockbell.mock.MockEvent;
import dev.mockbell.mock.Trial;
import java.nio.charset.StandardCharsets;
import java.util.Optional;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.VBox;

/** A request, and what the mock would answer to it: tried without a client, as often as one likes. */
final class TrialForm {
    private static final double WIDTH = 1_080;
    private static final double HIGH = 400;

    private final MocksModel model;
    private final MockEvent.Kept came;
    private final String shown;
    private final XmlArea request = new XmlArea(true);
    private final XmlArea answer = new XmlArea(false);
    private final VBox words = new VBox(3);

    private TrialForm(MocksModel model, MockEvent.Kept came) {
        this.model = model;
        this.came = came;
        this.shown = model.shown(new String(came.body().bytes(), StandardCharsets.UTF_8));
    }

    /** @param came a request that came; empty for the sample of the operation looked at */
    static void ask(Node within, MocksModel model, Optional<MockEvent.Kept> came) {
        if (came.isPresent()) {
            open(within, model, came.get());
        } else {
            model.sampleRequest(text -> open(within, model, Trial.typed(text)));
        }
    }

    private static void open(Node within, MocksModel model, MockEvent.Kept came) {
        TrialForm form = new TrialForm(model, came);
        form.request.show(form.shown);
        form.request.setId("trial-request");
        form.answer.setId("trial-answer");
        form.words.setId("trial-words");
        Button again = Parts.button("Try it", "Ctrl+Enter", form::run, "primary");
        again.setId("trial-run");
        VBox left = new VBox(6, Parts.text("Request", "strong"), Parts.tall(form.request));
        VBox right = new VBox(6, Parts.text("Answer", "strong"), form.words, Parts.tall(form.answer));
        for (VBox side : new VBox[] {left, right}) {
            HBox.setHgrow(side, Priority.ALWAYS);
            side.setPrefWidth(WIDTH / 2);
            side.setMinWidth(0);
        }
        HBox both = new HBox(12, left, right);
        both.setPrefHeight(HIGH);
        VBox all = new VBox(
                10,
                Parts.text("What would be answered", "strong"),
                both,
                new HBox(
                        8,
                        Parts.text("Nothing is counted, remembered or passed on.", "third", "table-text"),
                        Parts.spring(),
                        again));
        all.setOnKeyPressed(e -> {
            if (e.isControlDown() && e.getCode() == javafx.scene.input.KeyCode.ENTER) {
                form.run();
                e.consume();
            }
        });
        Overlay.show(within, all, WIDTH);
        form.run();
    }

    private void run() {
        String text = request.text();
        // what is shown has its credentials masked: as long as nobody changed it, what came is tried
        model.tried(
                text.equals(shown)
                        ? came
                        : new MockEvent.Kept(
                                came.path(),
                                came.contentType(),
                                came.action(),
                                Content.of(text.getBytes(StandardCharsets.UTF_8))),
                this::show);
    }

    private void show(Trial trial) {
        words.getChildren().clear();
        boolean given = trial.answer() >= 0;
        String title = given
                ? "Answer " + (trial.answer() + 1) + " of " + trial.operation()
                        + (trial.status() > 0 ? ", status " + trial.status() : "")
                : "Nothing matches" + (trial.status() > 0 ? ", status " + trial.status() : "");
        words.getChildren().add(Parts.marked(given ? Mark.PASSED : Mark.FAILED, title, "table-text"));
        if (!trial.why().isEmpty()) {
            words.getChildren().add(wrapped(model.shown(trial.why()), given ? "fault" : "failed"));
        }
        for (Trial.Verdict verdict : trial.verdicts()) {
            if (!verdict.fits() && (trial.answer() < 0 || verdict.answer() < trial.answer())) {
                words.getChildren()
                        .add(wrapped(
                                "Not answer " + (verdict.answer() + 1) + ": "
                                        + model.shown(String.join(", ", verdict.why())),
                                "second"));
            }
        }
        answer.show(model.shown(trial.body()));
    }

    private static Label wrapped(String text, String look) {
        Label label = Parts.text(text, look, "table-text");
        label.setWrapText(true);
        return label;
    }
}
