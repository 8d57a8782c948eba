package dev.mockbell.desktop.view.call;

import dev.mockbell.desktop.model.CallModel;
import dev.mockbell.desktop.model.Line;
import dev.mockbell.desktop.part.Parts;
import dev.mockbell.sheet.SheetRow;
import javafx.beans.InvalidationListener;
import javafx.geometry.Insets;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.ScrollPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;

/** The request in brief, while the answer has its room. */
final class FoldedRequest extends VBox {
    private static final double WIDTH = 170;
    private static final int MOST = 40;
    private static final int LONGEST = 60;

    private final CallModel model;
    private final VBox rows = new VBox(4);

    /** @param open gives the request its room again */
    FoldedRequest(CallModel model, Runnable open) {
        this.model = model;
        getStyleClass().add("panel");
        setId("folded-request");
        setMinWidth(WIDTH);
        setMaxWidth(WIDTH);
        Button back = Parts.link("open", "Give the request its room again", open);
        back.setId("open-request");
        rows.setPadding(new Insets(10, 12, 10, 12));
        ScrollPane scroll = new ScrollPane(rows);
        scroll.setFitToWidth(true);
        getChildren().addAll(Parts.head("Request", Parts.spring(), back), Parts.tall(scroll));
        model.request().changesProperty().addListener((InvalidationListener) o -> {
            if (getScene() != null) {
                show();
            }
        });
    }

    void show() {
        rows.getChildren().clear();
        model.request().lines().stream().limit(MOST).forEach(this::add);
        if (model.request().lines().isEmpty()) {
            rows.getChildren().add(Parts.text("open it to see its XML", "third", "table-text"));
        }
    }

    private void add(Line line) {
        SheetRow row = line.row();
        Label name = Parts.text(row.label(), line.depth() == 0 ? "strong" : "second", "table-text");
        name.setMinWidth(0);
        HBox box = new HBox(6, name);
        box.setPadding(new Insets(0, 0, 0, line.depth() * 8.0));
        if (row.children().isEmpty()) {
            boolean out = row.state() == SheetRow.State.LEFT_OUT;
            boolean nil = row.state() == SheetRow.State.NIL;
            String value = row.value().strip();
            Label shown = out || nil
                    ? Parts.text(out ? "left out" : "nil", "third", "italic", "table-text")
                    : Parts.text(Parts.start(value, LONGEST), "mono", "small");
            shown.setMinWidth(0);
            box.getChildren().add(shown);
        }
        rows.getChildren().add(box);
    }
}
