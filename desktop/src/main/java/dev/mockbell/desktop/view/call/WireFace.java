package dev.mockbell.desktop.view.call;

import dev.mockbell.desktop.model.AnswerFaces;
import dev.mockbell.desktop.part.Parts;
import dev.mockbell.desktop.part.XmlArea;
import java.io.File;
import java.util.List;
import javafx.geometry.Orientation;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.SplitPane;
import javafx.scene.layout.VBox;
import javafx.stage.FileChooser;

/** Both sides byte by byte, and beside them what the answer came to where it was coded for the way. */
final class WireFace extends VBox {
    private final AnswerFaces model;
    private final XmlArea bytes = new XmlArea(false);
    private final XmlArea decoded = new XmlArea(false);
    private final Label how = Parts.text("", "second", "table-text");
    private final VBox below = new VBox(Parts.innerHead("Decoded", how), Parts.tall(decoded));
    private final SplitPane both = new SplitPane();

    WireFace(AnswerFaces model) {
        this.model = model;
        setId("wire");
        bytes.area().setId("wire-bytes");
        decoded.area().setId("wire-decoded");
        how.setId("wire-how");
        how.setMinWidth(0);
        both.setOrientation(Orientation.VERTICAL);
        getChildren().add(Parts.tall(both));
        both.getItems().add(bytes);
    }

    void show() {
        AnswerFaces.Wire wire = model.wire();
        bytes.show(wire.bytes());
        decoded.show(wire.decoded());
        how.setText("from " + wire.how());
        boolean two = !wire.decoded().isEmpty();
        if (two != both.getItems().contains(below)) {
            if (two) {
                both.getItems().add(below);
                both.setDividerPositions(0.6);
            } else {
                both.getItems().remove(below);
            }
        }
    }

    /** What can be done with the bytes, for the foot. */
    List<Node> actions() {
        Button save = Parts.button("Save the answer's bytes…", "Head and body as they came", this::save);
        save.setId("save-wire");
        save.setDisable(model.wire().bytes().isEmpty());
        return List.of(Parts.text("what went over the connection", "third"), Parts.spring(), save);
    }

    private void save() {
        FileChooser chooser = new FileChooser();
        chooser.setTitle("Write the answer's bytes to");
        chooser.setInitialFileName("answer.http");
        File file = chooser.showSaveDialog(getScene().getWindow());
        if (file != null) {
            model.saveWire(file.toPath());
        }
    }
}
