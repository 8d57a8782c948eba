package dev.mockbell.desktop.view.call;

import dev.mockbell.check.Check;
import dev.mockbell.desktop.model.AnswerFaces;
import dev.mockbell.desktop.model.CheckEdits;
import dev.mockbell.desktop.part.Parts;
import dev.mockbell.desktop.part.XmlArea;
import dev.mockbell.expression.Braces;
import java.io.File;
import java.util.List;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import javafx.geometry.Orientation;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.ContextMenu;
import javafx.scene.control.Label;
import javafx.scene.control.MenuItem;
import javafx.scene.control.SplitPane;
import javafx.scene.layout.VBox;
import javafx.stage.FileChooser;

/** Both sides byte by byte, and beside them what the answer came to where it was coded for the way. */
final class WireFace extends VBox {
    private static final Pattern STATUS = Pattern.compile("^HTTP/\\S+\\s+(\\d{3})");

    private final AnswerFaces model;
    private final XmlArea bytes = new XmlArea(false);
    private final XmlArea decoded = new XmlArea(false);
    private final Label how = Parts.text("", "second", "table-text");
    private final VBox below = new VBox(Parts.innerHead("Decoded", how), Parts.tall(decoded));
    private final SplitPane both = new SplitPane();
    private final Button save = Parts.button("Save the answer's bytes…", "Head and body as they came", this::save);
    private final List<Node> foot = List.of(Parts.text("what went over the connection", "third"), Parts.spring(), save);

    /** @param checks takes checks of the header that is pointed at */
    WireFace(AnswerFaces model, CheckEdits checks) {
        this.model = model;
        setId("wire");
        bytes.area().setId("wire-bytes");
        decoded.area().setId("wire-decoded");
        MenuItem copy = new MenuItem("Copy");
        copy.setOnAction(e -> bytes.area().copy());
        MenuItem check = new MenuItem("Check this header");
        check.setOnAction(e -> header().ifPresent(checks::add));
        ContextMenu menu = new ContextMenu(copy, check);
        menu.setOnShowing(e -> check.setDisable(header().isEmpty()));
        bytes.area().setContextMenu(menu);
        how.setId("wire-how");
        how.setMinWidth(0);
        save.setId("save-wire");
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

    /** A check of the header field, or the status, on the line where the caret is; the answer's head stands first. */
    private Optional<Check> header() {
        int line = bytes.area().getCurrentParagraph();
        List<String> head =
                bytes.text().lines().limit(200).takeWhile(l -> !l.isBlank()).toList();
        if (line >= head.size() || !head.get(0).startsWith("HTTP/")) {
            return Optional.empty();
        }
        Matcher status = STATUS.matcher(head.get(0));
        if (line == 0) {
            return status.find() ? Optional.of(new Check.StatusIs(status.group(1))) : Optional.empty();
        }
        int colon = head.get(line).indexOf(':');
        return colon < 1
                ? Optional.empty()
                : Optional.of(new Check.HeaderIs(
                        head.get(line).substring(0, colon).strip(),
                        Check.Match.IS,
                        Braces.literally(head.get(line).substring(colon + 1).strip())));
    }

    /** What can be done with the bytes, for the foot; the same each time, as it is now. */
    List<Node> actions() {
        save.setDisable(model.wire().bytes().isEmpty());
        return foot;
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
