package dev.mockbell.desktop.view.call;

import dev.mockbell.content.Part;
import dev.mockbell.desktop.model.PartsModel;
import dev.mockbell.desktop.part.Parts;
import dev.mockbell.desktop.view.shared.Numbers;
import java.io.File;
import java.util.List;
import javafx.geometry.Insets;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.ScrollPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.VBox;
import javafx.stage.DirectoryChooser;
import javafx.stage.FileChooser;

/** The parts that came beside an answer. */
final class AnswerParts extends VBox {
    private final PartsModel model;
    private final VBox rows = new VBox();

    AnswerParts(PartsModel model) {
        this.model = model;
        setId("answer-parts");
        ScrollPane scroll = new ScrollPane(rows);
        scroll.setFitToWidth(true);
        VBox.setVgrow(scroll, Priority.ALWAYS);
        getChildren().add(scroll);
        model.changesProperty().addListener((o, was, now) -> show());
    }

    /** Shows those of the last answer. */
    void show() {
        rows.getChildren().clear();
        List<Part> all = model.came();
        if (all.isEmpty()) {
            rows.getChildren().add(Parts.empty("Nothing came beside the envelope."));
            return;
        }
        all.forEach(p -> rows.getChildren().add(row(p)));
        Button save =
                Parts.button("Save all…", "Each to a file of a folder; none is overwritten", this::saveAll, "quiet");
        save.setId("save-parts");
        HBox foot = new HBox(save);
        foot.setPadding(new Insets(6, 8, 6, 8));
        rows.getChildren().add(foot);
    }

    private VBox row(Part part) {
        Label id = Parts.text(part.id().map(i -> "cid:" + i).orElse("without an id"), "mono", "strong");
        Parts.tip(id, part.id().orElse(""));
        id.setMinWidth(0);
        String type = part.header("Content-Type").orElse("no type");
        Label facts = Parts.text(type + ", " + Numbers.bytes(part.content().size()), "table-text", "second");
        HBox line = new HBox(10, facts, Parts.spring());
        line.getChildren().add(small("Look into it", "Beside the answer", () -> model.open(part)));
        line.getChildren().add(small("Save…", "Keep it as a file", () -> save(part)));
        line.setAlignment(Pos.CENTER_LEFT);
        VBox row = new VBox(3, id, line);
        row.setPadding(new Insets(7, 12, 7, 12));
        row.getStyleClass().add("ruled");
        return row;
    }

    private static Button small(String words, String tip, Runnable action) {
        Button button = Parts.link(words, tip, action);
        button.getStyleClass().add("table-text");
        return button;
    }

    private void save(Part part) {
        FileChooser chooser = new FileChooser();
        chooser.setInitialFileName(model.name(part));
        File file = chooser.showSaveDialog(getScene().getWindow());
        if (file != null) {
            model.save(part, file.toPath());
        }
    }

    private void saveAll() {
        File folder = new DirectoryChooser().showDialog(getScene().getWindow());
        if (folder != null) {
            model.saveAll(folder.toPath());
        }
    }
}
