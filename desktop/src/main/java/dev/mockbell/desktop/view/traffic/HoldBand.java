package dev.mockbell.desktop.view.traffic;

import dev.mockbell.desktop.model.TapsModel;
import dev.mockbell.desktop.model.TapsModel.Waiting;
import dev.mockbell.desktop.part.Mark;
import dev.mockbell.desktop.part.Parts;
import dev.mockbell.desktop.view.shared.Numbers;
import dev.mockbell.tap.Held;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import javafx.animation.KeyFrame;
import javafx.animation.Timeline;
import javafx.beans.InvalidationListener;
import javafx.geometry.Insets;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;

/** What waits, on top of everything: since when, and what can be done with it. Gone when nothing waits. */
final class HoldBand extends VBox {
    /** So many are shown; the others wait their turn. */
    private static final int MOST = 4;

    private final TapsModel model;

    /** By what waits: what waits for longer stays where it is when something else comes or goes. */
    private final Map<Held, Row> rows = new LinkedHashMap<>();

    private final Label more = Parts.text("", "second", "table-text");
    private final HBox foot;

    /** @param clock says anew for how long it has waited */
    private record Row(HBox box, Runnable clock) {}

    private final Timeline ticking = new Timeline(new KeyFrame(javafx.util.Duration.seconds(1), e -> pass()));

    HoldBand(TapsModel model) {
        this.model = model;
        this.foot = foot();
        setId("hold-band");
        getStyleClass().addAll("panel", "hold-band");
        ticking.setCycleCount(Timeline.INDEFINITE);
        model.waiting().addListener((InvalidationListener) o -> show());
        // nothing ticks that nobody sees
        sceneProperty().addListener((o, was, now) -> tick());
        show();
    }

    private void tick() {
        if (getScene() != null && !model.waiting().isEmpty()) {
            ticking.play();
        } else {
            ticking.stop();
        }
    }

    private void pass() {
        rows.values().forEach(r -> r.clock().run());
    }

    private void show() {
        List<Waiting> all = List.copyOf(model.waiting());
        List<Held> shown = all.stream().limit(MOST).map(Waiting::held).toList();
        rows.keySet().retainAll(shown);
        shown.forEach(held -> rows.computeIfAbsent(held, this::row));
        List<Node> wanted =
                new ArrayList<>(shown.stream().map(held -> rows.get(held).box()).toList());
        if (all.size() > 1) {
            more.setText(all.size() > MOST ? Numbers.whole(all.size() - MOST) + " more wait" : "");
            wanted.add(foot);
        }
        Parts.keep(this, wanted);
        Parts.shown(this, !all.isEmpty());
        tick();
    }

    private HBox foot() {
        Button every = Parts.link(
                "Let all through",
                "Everything that waits goes on as it is",
                () -> List.copyOf(model.waiting()).forEach(w -> w.held().letThrough()));
        every.setId("held-all");
        HBox box = new HBox(10, more, Parts.spring(), every);
        box.setAlignment(Pos.CENTER_LEFT);
        box.setPadding(new Insets(2, 12, 2, 12));
        return box;
    }

    private Row row(Held held) {
        String what = held.operation().isEmpty() ? held.request().title() : held.operation();
        Label name = Parts.marked(
                Mark.FAULT, (held.isAnswer() ? "The answer to " : "The request ") + what + " waits", "strong");
        Label since = Parts.text("", "second", "table-text");
        since.setMinWidth(USE_PREF_SIZE);
        Runnable clock = () -> since.setText(since(held));
        clock.run();
        Label from = Parts.text("from " + held.caller(), "second", "table-text");
        from.setMinWidth(0);
        Button through = Parts.button("Let through", "It goes on as it is", held::letThrough);
        Button change = Parts.button(
                "Change…", "Something else goes on in its place", () -> HoldForm.change(this, model, held));
        Button answer = Parts.button(
                "Answer…",
                "The client gets an answer from here; the mock’s to begin with",
                () -> HoldForm.answer(this, model, held));
        Button drop = Parts.button("Drop", "Nothing goes on, and the connection ends", held::drop);
        through.setId("held-through-" + held.number());
        change.setId("held-change-" + held.number());
        answer.setId("held-answer-" + held.number());
        drop.setId("held-drop-" + held.number());
        HBox row = new HBox(8, name, since, from, Parts.spring(), through, change, answer, drop);
        row.setAlignment(Pos.CENTER_LEFT);
        row.setPadding(new Insets(4, 12, 4, 12));
        return new Row(row, clock);
    }

    private static String since(Held held) {
        long seconds = Duration.between(held.since(), Instant.now()).toSeconds();
        String until = held.patience()
                .map(p -> " · such a client gave up after " + Math.max(1, p.toSeconds()) + " s before")
                .orElse("");
        return "for " + seconds + " s"
                + (held.isCallerDone() ? " · its client sends no more and may have given up" : until);
    }
}
