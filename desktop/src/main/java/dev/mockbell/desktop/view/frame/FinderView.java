package dev.mockbell.desktop.view.frame;

import dev.mockbell.desktop.model.FinderModel;
import dev.mockbell.desktop.model.FinderModel.Hit;
import dev.mockbell.desktop.part.Grid;
import dev.mockbell.desktop.part.Parts;
import dev.mockbell.desktop.view.shared.Overlay;
import javafx.beans.InvalidationListener;
import javafx.scene.Node;
import javafx.scene.control.TextField;
import javafx.scene.input.KeyCode;
import javafx.scene.layout.VBox;

/** One field for everything: type, go with the arrows, Enter. */
final class FinderView {
    private FinderView() {}

    static void show(Node within, FinderModel model) {
        TextField field = new TextField();
        field.setId("finder-field");
        field.setPromptText("Find an operation, case, suite, exchange or action");
        Grid<Hit> list = new Grid<>(30);
        list.headless()
                .column("", 84, h -> Parts.text(h.kind(), "tag"))
                .growing("", h -> Parts.text(h.title(), "strong"))
                .column("", 220, h -> Parts.text(h.detail(), "third", "table-text"));
        list.setPrefHeight(330);
        list.setId("finder-list");
        list.setPlaceholder(Parts.empty("Nothing has these words."));
        Runnable search = () -> {
            list.items().setAll(model.find(field.getText()));
            list.list().getSelectionModel().selectFirst();
        };
        Runnable open = () -> {
            Hit hit = list.list().getSelectionModel().getSelectedItem();
            if (hit != null) {
                Overlay.close(within);
                hit.open().run();
            }
        };
        field.textProperty().addListener((InvalidationListener) o -> search.run());
        field.setOnAction(e -> open.run());
        field.setOnKeyPressed(e -> {
            int by = e.getCode() == KeyCode.DOWN ? 1 : e.getCode() == KeyCode.UP ? -1 : 0;
            if (by != 0) {
                var selection = list.list().getSelectionModel();
                int to = Math.max(0, Math.min(list.items().size() - 1, selection.getSelectedIndex() + by));
                selection.select(to);
                list.list().scrollTo(Math.max(0, to - 6));
                e.consume();
            }
        });
        list.list().setOnMouseClicked(e -> open.run());
        VBox box = new VBox(field, list);
        search.run();
        Overlay.show(within, box, 640);
    }
}
