package dev.mockbell.desktop.view.call;

import dev.mockbell.compare.Baseline;
import dev.mockbell.compare.Comparison;
import dev.mockbell.compare.Difference;
import dev.mockbell.desktop.model.CallModel;
import dev.mockbell.desktop.model.ComparedModel;
import dev.mockbell.desktop.model.Moments;
import dev.mockbell.desktop.part.Mark;
import dev.mockbell.desktop.part.Parts;
import dev.mockbell.desktop.view.shared.Numbers;
import dev.mockbell.ledger.Listing;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.Consumer;
import javafx.beans.InvalidationListener;
import javafx.geometry.Insets;
import javafx.geometry.Pos;
import javafx.geometry.Side;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.ContextMenu;
import javafx.scene.control.Label;
import javafx.scene.control.MenuItem;
import javafx.scene.control.OverrunStyle;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;

/** How the answer differs from the case's baseline, and from another exchange. */
final class ComparePane extends VBox {
    private static final int MOST = 60;

    /** Characters of a value that one points at. */
    private static final int MOST_TOLD = 1_000;

    private final CallModel call;
    private final ComparedModel model;
    private final Consumer<String> reveal;

    /** @param reveal shows the row at a path */
    ComparePane(CallModel call, Consumer<String> reveal) {
        this.call = call;
        this.model = call.compared();
        this.reveal = reveal;
        setId("compare");
        model.changesProperty().addListener((InvalidationListener) o -> show());
        call.calledProperty().addListener((InvalidationListener) o -> show());
        call.currentProperty().addListener((InvalidationListener) o -> show());
        show();
    }

    private void show() {
        getChildren().clear();
        boolean answered = Optional.ofNullable(call.calledProperty().get())
                .flatMap(c -> c.answer().content())
                .isPresent();
        model.otherTitle().ifPresent(t -> other(t));
        Optional<Baseline> baseline = model.baseline();
        if (baseline.isEmpty() && !answered) {
            return;
        }
        Button keep = Parts.link(
                baseline.isPresent() ? "renew" : "keep",
                "Hold later answers of this case against this one",
                model::keepBaseline);
        keep.setId("keep-baseline");
        keep.setDisable(!answered);
        Button against = Parts.link("against another exchange…", "One of the ledger, of this operation", () -> {});
        against.getStyleClass().add("dense");
        against.setId("compare-with");
        against.setDisable(!answered);
        against.setOnAction(e -> offer(against));
        HBox head = Parts.innerHead("Baseline", Parts.spring(), keep);
        VBox box = new VBox(6);
        box.setPadding(new Insets(8, 12, 8, 12));
        getChildren().addAll(head, box);
        baseline.ifPresent(b -> {
            Button drop = Parts.button("×", "Forget the baseline", model::dropBaseline, "tiny");
            drop.setId("drop-baseline");
            head.getChildren().add(drop);
            box.getChildren().add(Parts.text("of " + Moments.toTheSecond(b.taken()), "third", "table-text"));
            if (answered) {
                box.getChildren().addAll(differences(model.withBaseline(), true));
            }
            b.leftOut().forEach(p -> box.getChildren().add(leftOut(p)));
        });
        box.getChildren().add(against);
    }

    private void offer(Button beside) {
        model.choices(found -> {
            ContextMenu menu = new ContextMenu();
            for (Listing each : found) {
                MenuItem item = new MenuItem(each.id() + "   " + Moments.toTheSecond(each.started()) + "   "
                        + each.status() + "   " + Numbers.bytes(each.received()) + "   " + each.origin());
                item.setOnAction(e -> model.with(each));
                menu.getItems().add(item);
            }
            if (found.isEmpty()) {
                MenuItem none = new MenuItem("No other answer of this operation is on the ledger");
                none.setDisable(true);
                menu.getItems().add(none);
            }
            menu.show(beside, Side.BOTTOM, 0, 0);
        });
    }

    private void other(String title) {
        Button close = Parts.button("×", "Compare with it no more", model::withoutOther, "tiny");
        Label name = Parts.text("Against " + title, "heading");
        name.setMinWidth(0);
        HBox head = Parts.innerHead("", name, Parts.spring(), close);
        head.getChildren().remove(0);
        VBox box = new VBox(6);
        box.setPadding(new Insets(8, 12, 8, 12));
        box.getChildren().addAll(differences(model.withOther(), false));
        getChildren().addAll(head, box);
    }

    private List<Node> differences(Optional<Comparison> comparison, boolean baseline) {
        if (comparison.isEmpty()) {
            return List.of(Parts.text("Comparing…", "third", "table-text"));
        }
        Comparison found = comparison.get();
        List<Node> nodes = new ArrayList<>();
        Label words = Parts.marked(found.isSame() ? Mark.PASSED : Mark.FAULT, found.words());
        words.setId(baseline ? "baseline-words" : "other-words");
        words.setWrapText(true);
        nodes.add(words);
        found.differences().stream().limit(MOST).forEach(d -> nodes.add(difference(d, baseline)));
        int more = found.differences().size() - MOST;
        if (more > 0) {
            nodes.add(Parts.text(more + " more are not listed", "third", "table-text"));
        }
        return nodes;
    }

    private Node difference(Difference d, boolean baseline) {
        Button path = Parts.link(d.path(), "Show it in the answer", () -> reveal.accept(d.path()));
        path.getStyleClass().addAll("mono", "small");
        path.setMinWidth(0);
        path.setTextOverrun(OverrunStyle.LEADING_ELLIPSIS);
        Parts.tip(path, d.path());
        path.setDisable(d.kind() == Difference.Kind.GONE);
        HBox line = new HBox(4, path);
        line.setAlignment(Pos.CENTER_LEFT);
        if (baseline) {
            Button out =
                    Parts.button("leave out", "Compare this no more, wherever it repeats", () -> leaveOut(d), "tiny");
            out.setId("leave-out");
            line.getChildren().addAll(Parts.spring(), out);
        }
        VBox box = new VBox(1, line);
        switch (d.kind()) {
            case CHANGED -> box.getChildren().add(values(d.before(), d.now()));
            case MORE -> box.getChildren().add(value("more: " + d.now(), "fine"));
            case GONE -> box.getChildren().add(value("gone: " + d.before(), "failed"));
            case ORDER, WHITE_SPACE -> box.getChildren().add(Parts.text(d.kind().title(), "third", "table-text"));
        }
        return box;
    }

    private static Node values(String before, String now) {
        return new VBox(1, value(before, "failed"), value("→ " + now, "fine"));
    }

    private static Label value(String text, String kind) {
        Label label = Parts.text(Parts.line(text, 80), "mono", "small", kind);
        label.setMinWidth(0);
        label.setPadding(new Insets(0, 0, 0, 8));
        Parts.tip(label, Parts.line(text, MOST_TOLD));
        return label;
    }

    private void leaveOut(Difference d) {
        model.leaveOut(d.path().replaceAll("\\[\\d+]", ""));
    }

    private Node leftOut(String path) {
        Label label = Parts.text("left out: " + path, "third", "small");
        label.setMinWidth(0);
        Parts.tip(label, path);
        HBox line = new HBox(
                4,
                label,
                Parts.spring(),
                Parts.button("compare", "Compare it again", () -> model.takeIn(path), "tiny"));
        line.setAlignment(Pos.CENTER_LEFT);
        return line;
    }
}
