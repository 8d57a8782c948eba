package dev.mockbell.desktop.view.call;

import dev.mockbell.desktop.model.CallModel;
import dev.mockbell.desktop.model.Flaws;
import dev.mockbell.desktop.model.MessageModel;
import dev.mockbell.desktop.part.Mark;
import dev.mockbell.desktop.part.Parts;
import dev.mockbell.desktop.view.shared.Face;
import dev.mockbell.sample.SampleBuilder.Detail;
import dev.mockbell.validation.Fit;
import java.util.List;
import java.util.Optional;
import java.util.function.Consumer;
import javafx.geometry.Side;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.ContextMenu;
import javafx.scene.control.Label;
import javafx.scene.control.MenuItem;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Region;

/**
 * Below the request: whether it is valid, and what can be done with all of it. Its parts stay the same nodes, so that a
 * button that is being pressed is not taken away by news of the message.
 */
final class RequestFoot extends HBox {
    private final CallModel model;
    private final Label validity = new Label();
    private final Label leftOut = Parts.text("", "third", "table-text");
    private final Button mend =
            Parts.button("Mend…", "See what no longer fits and how it can be mended", () -> {}, "dense");
    private final Button all;
    private final Button required;
    private final Button more = Parts.button("▾", "More on optional parts", () -> {}, "tiny");
    private final Button parts = Parts.button("", "Put optional parts in or out", () -> {}, "quiet", "dense");
    private final Button file;
    private final Button format;

    /**
     * A foot that shows nothing yet.
     *
     * @param mending hears of the wish to mend what no longer fits
     */
    RequestFoot(CallModel model, Runnable fromFile, Runnable laidOut, Consumer<Fit> mending) {
        this.model = model;
        getStyleClass().add("panel-foot");
        MessageModel request = model.request();
        all = Parts.button(
                "Include all",
                "Put every optional part in; what was there comes back with its values",
                () -> request.edits().fill(Detail.FULL),
                "quiet",
                "dense");
        required = Parts.button(
                "Required only",
                "Leave every optional part out",
                () -> request.edits().fill(Detail.REQUIRED),
                "quiet",
                "dense");
        file = Parts.button("From a file…", "Take a file's text as the message", fromFile, "quiet", "dense");
        format = Parts.button("Format", "Lay it out anew (Ctrl+Shift+F)", laidOut, "quiet", "dense");
        validity.setGraphicTextGap(6);
        validity.setId("request-validity");
        Parts.tip(validity, () -> trouble().orElse("Valid against the contract"));
        leftOut.setMinWidth(Region.USE_PREF_SIZE);
        all.setId("include-all");
        required.setId("required-only");
        more.setId("more-parts");
        parts.setId("optional-parts");
        mend.setId("mend");
        mend.setOnAction(e -> fit().ifPresent(mending));
        MenuItem differs = item("Only what differs from the sample", request.edits()::keepWhatDiffers);
        more.setOnAction(e -> new ContextMenu(differs).show(more, Side.TOP, 0, 0));
        parts.setOnAction(
                e -> new ContextMenu(item("Include all", all::fire), item("Required only", required::fire), differs)
                        .show(parts, Side.TOP, 0, 0));
        getChildren().addAll(validity, Parts.spring(), mend, leftOut, all, required, more, parts, file, format);
    }

    private static MenuItem item(String words, Runnable action) {
        MenuItem item = new MenuItem(words);
        item.setOnAction(e -> action.run());
        return item;
    }

    private Optional<String> trouble() {
        String trouble = model.request().troubleProperty().get();
        List<Flaws.Flaw> flaws = model.flaws().found().get();
        return !trouble.isEmpty()
                ? Optional.of(trouble)
                : flaws.stream()
                        .map(Flaws.Flaw::text)
                        .findFirst()
                        .or(() -> Optional.of(model.headers().troubleProperty().get())
                                .filter(t -> !t.isEmpty()));
    }

    /** What no longer fits of the case; empty when there is nothing to mend. */
    private Optional<Fit> fit() {
        return Optional.ofNullable(model.currentProperty().get())
                .map(c -> model.actions().misfits().get(c.reference()))
                .filter(f -> !f.steps().isEmpty());
    }

    /** Shows how the request is now, with what belongs to one of its faces. */
    void show(Face face) {
        Optional<String> trouble = trouble();
        Mark mark = trouble.isEmpty() ? Mark.PASSED : Mark.FAILED;
        if (validity.getUserData() != mark) {
            validity.setUserData(mark);
            validity.setGraphic(mark.node());
        }
        validity.setText(trouble.orElse("Valid"));
        Parts.classed(validity, "fine", trouble.isEmpty());
        Parts.classed(validity, "failed", trouble.isPresent());
        validity.setMinWidth(trouble.isEmpty() ? Region.USE_PREF_SIZE : 0);
        long out = model.request().leftOut();
        leftOut.setText(out == 0 ? "" : out + " left out");
        parts.setText(out + " left out ▾");
        boolean sheet = face == Face.SHEET;
        boolean xml = face == Face.XML;
        // what is wrong needs the room
        boolean room = sheet && trouble.isEmpty();
        shown(room, leftOut, all, required, more);
        shown(sheet && !room && !model.request().brokenProperty().get(), parts);
        shown(xml, file, format);
        shown(fit().isPresent(), mend);
    }

    private static void shown(boolean on, Node... nodes) {
        for (Node node : nodes) {
            Parts.shown(node, on);
        }
    }
}
