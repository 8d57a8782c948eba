package dev.mockbell.desktop.view.call;

import dev.mockbell.desktop.model.CallModel;
import dev.mockbell.desktop.model.PartsModel;
import dev.mockbell.desktop.part.Mark;
import dev.mockbell.desktop.part.Parts;
import dev.mockbell.desktop.view.shared.Form;
import dev.mockbell.desktop.view.shared.Numbers;
import dev.mockbell.request.PartText;
import java.io.File;
import java.nio.file.Path;
import java.util.List;
import javafx.geometry.Insets;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.ScrollPane;
import javafx.scene.control.TextField;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;
import javafx.stage.FileChooser;

/** The files that go with a request. */
final class PartsFace extends VBox {
    private final CallModel call;
    private final PartsModel model;
    private final VBox rows = new VBox();
    private List<PartText> shown = List.of();

    PartsFace(CallModel call) {
        this.call = call;
        this.model = call.parts();
        setId("parts-face");
        ScrollPane scroll = new ScrollPane(rows);
        scroll.setFitToWidth(true);
        VBox.setVgrow(scroll, Priority.ALWAYS);
        getChildren().add(scroll);
        Parts.dropped(this, this::take);
        model.sizesProperty().addListener((o, was, now) -> show());
        call.currentProperty().addListener((o, was, now) -> {
            if (now != null && !now.parts().equals(shown)) {
                show();
            }
        });
    }

    /** Shows what goes along now. */
    void show() {
        shown = model.going();
        rows.getChildren().clear();
        Button add = Parts.button("+ File…", "Have a file go with the request", this::choose, "quiet");
        add.setId("add-part");
        if (shown.isEmpty()) {
            rows.getChildren()
                    .add(Parts.empty(
                            "No files go with this request. One that does goes beside the envelope; a binary value"
                                    + " cid:ID becomes its place. Choose one, or drop it here.",
                            add));
            return;
        }
        shown.forEach(p -> rows.getChildren().add(row(p)));
        HBox foot = new HBox(add);
        foot.setPadding(new Insets(6, 8, 6, 8));
        Form form = new Form();
        form.number(
                "Inline up to",
                "parts-inline",
                call.currentProperty().get().delivery().inlineKilobytes(),
                "kilobytes; all go beside the envelope",
                kb -> call.keep(call.currentProperty()
                        .get()
                        .withDelivery(call.currentProperty().get().delivery().inliningUpTo(kb))));
        rows.getChildren().addAll(foot, form);
    }

    private VBox row(PartText part) {
        TextField id = Form.field("part-id-" + part.id(), part.id(), "id");
        Form.onEnd(id, () -> {
            model.change(part, new PartText(id.getText().strip(), part.file(), part.type()));
            show();
        });
        TextField type = Form.field("part-type-" + part.id(), part.type(), "type by the file's name");
        Form.onEnd(
                type,
                () -> model.change(
                        part,
                        new PartText(part.id(), part.file(), type.getText().strip())));
        HBox.setHgrow(id, Priority.ALWAYS);
        HBox.setHgrow(type, Priority.ALWAYS);
        id.setPrefWidth(120);
        type.setPrefWidth(120);
        HBox names = new HBox(
                6,
                Parts.text("cid:", "mono", "second"),
                id,
                type,
                Parts.button("×", "Leave it out; the file stays in the project", () -> model.remove(part), "tiny"));
        names.setAlignment(Pos.CENTER_LEFT);
        boolean referred = model.isReferred(part);
        Label place = referred
                ? Parts.marked(Mark.PASSED, "in the place of a value", "table-text")
                : Parts.marked(Mark.NOT_RUN, "beside the message; no value refers to it", "table-text", "second");
        Label file = Parts.text(part.file(), "mono", "table-text", "second");
        Parts.tip(file, part.file());
        Label size = Parts.text(model.size(part).map(Numbers::bytes).orElse(""), "table-text", "second");
        size.setMinWidth(Region.USE_PREF_SIZE);
        HBox facts = new HBox(10, file, size, Parts.spring(), place);
        place.setMinWidth(Region.USE_PREF_SIZE);
        facts.setAlignment(Pos.CENTER_LEFT);
        VBox row = new VBox(3, names, facts);
        row.setPadding(new Insets(7, 12, 7, 12));
        row.getStyleClass().add("ruled");
        return row;
    }

    private void choose() {
        FileChooser chooser = new FileChooser();
        chooser.setTitle("A file to go with the request");
        File file = chooser.showOpenDialog(getScene().getWindow());
        if (file != null) {
            take(file.toPath());
        }
    }

    private void take(Path file) {
        model.add(file, address -> show());
    }
}
