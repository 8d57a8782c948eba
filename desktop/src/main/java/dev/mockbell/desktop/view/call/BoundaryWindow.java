package dev.mockbell.desktop.view.call;

import dev.mockbell.desktop.model.CallModel;
import dev.mockbell.desktop.part.Grid;
import dev.mockbell.desktop.part.Mark;
import dev.mockbell.desktop.part.Parts;
import dev.mockbell.desktop.view.shared.Overlay;
import dev.mockbell.task.StopSignal;
import dev.mockbell.validation.BoundaryCases.Boundary;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import javafx.collections.FXCollections;
import javafx.collections.ObservableList;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.CheckBox;
import javafx.scene.control.Label;
import javafx.scene.control.TextField;
import javafx.scene.input.KeyCode;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;

/** The boundary cases of an operation, to pick from before they are kept. */
final class BoundaryWindow {
    private final CallModel model;
    private final Node within;
    private final ObservableList<Boundary> shown = FXCollections.observableArrayList();
    private final Set<String> chosen = new HashSet<>();
    private final Grid<Boundary> grid = new Grid<>(26);
    private final TextField filter = new TextField();
    private final Label count = Parts.text("", "second");
    private final Button keep;
    private final StopSignal stop = new StopSignal();
    private List<Boundary> all = List.of();

    private BoundaryWindow(Node within, CallModel model) {
        this.model = model;
        this.within = within;
        keep = Parts.button("Keep", "Keep the chosen ones as cases", this::keep, "primary");
        keep.setId("boundary-keep");
    }

    static void show(Node within, CallModel model) {
        new BoundaryWindow(within, model).open();
    }

    private void open() {
        grid.column("", 34, this::box)
                .growing("Case", b -> cut(b.title(), "table-text"))
                .column(
                        "Expected",
                        92,
                        b -> b.accepted()
                                ? Parts.marked(Mark.PASSED, "accepted", "table-text")
                                : Parts.marked(Mark.FAULT, "refused", "table-text"))
                .growing("Why", b -> cut(b.reason(), "third", "table-text"));
        grid.setItems(shown);
        grid.setId("boundary-list");
        grid.setPrefHeight(380);
        grid.setPlaceholder(Parts.empty("Working them out…"));
        grid.list().setOnKeyPressed(e -> {
            Boundary b = grid.list().getSelectionModel().getSelectedItem();
            if (e.getCode() == KeyCode.SPACE && b != null) {
                flip(b);
                e.consume();
            }
        });
        filter.setPromptText("Filter: a field, missing, one too many, refused");
        filter.setId("boundary-filter");
        filter.textProperty().addListener((o, was, now) -> filter());
        HBox tools = new HBox(
                6,
                Parts.wide(filter),
                Parts.button("Choose all shown", "", () -> choose(true), "quiet"),
                Parts.button("Choose none", "", () -> choose(false), "quiet"));
        tools.setAlignment(Pos.CENTER_LEFT);
        HBox foot = new HBox(8, count, Parts.spring(), keep);
        foot.setAlignment(Pos.CENTER_LEFT);
        VBox box = new VBox(
                8,
                Parts.text("Boundary cases", "title"),
                Parts.text(
                        "Each is the full sample with one thing changed. The contract's own validator says what to expect.",
                        "second"),
                tools,
                grid,
                foot);
        box.sceneProperty().addListener((o, was, now) -> {
            if (now == null) {
                stop.stop();
            }
        });
        Overlay.show(within, box, 860);
        tell();
        model.actions().boundary(stop, found -> {
            all = found;
            grid.setPlaceholder(Parts.empty(
                    found.isEmpty()
                            ? "The request has no body, so it has no limits to try."
                            : "Nothing fits the filter."));
            filter();
        });
    }

    private static Label cut(String words, String... classes) {
        Label label = Parts.text(words, classes);
        label.setMinWidth(0);
        Parts.tip(label, words);
        return label;
    }

    private Node box(Boundary b) {
        CheckBox box = new CheckBox();
        box.setAccessibleText("Keep: " + b.title());
        box.setSelected(chosen.contains(b.title()));
        box.setOnAction(e -> flip(b));
        return box;
    }

    private void flip(Boundary b) {
        if (!chosen.remove(b.title())) {
            chosen.add(b.title());
        }
        grid.refresh();
        tell();
    }

    private void choose(boolean on) {
        shown.forEach(b -> {
            if (on) {
                chosen.add(b.title());
            } else {
                chosen.remove(b.title());
            }
        });
        grid.refresh();
        tell();
    }

    private void filter() {
        String part = filter.getText().strip().toLowerCase(Locale.ROOT);
        shown.setAll(all.stream()
                .filter(b -> part.isEmpty()
                        || (b.title() + " " + b.path() + " " + (b.accepted() ? "accepted" : "refused"))
                                .toLowerCase(Locale.ROOT)
                                .contains(part))
                .toList());
        tell();
    }

    private void tell() {
        count.setText(shown.size() + " shown · " + chosen.size() + " chosen");
        keep.setDisable(chosen.isEmpty());
        keep.setText(chosen.isEmpty() ? "Keep" : "Keep " + chosen.size());
    }

    private void keep() {
        List<Boundary> picked =
                all.stream().filter(b -> chosen.contains(b.title())).toList();
        Overlay.close(within);
        model.actions().keep(picked);
    }
}
