package dev.mockbell.desktop.view.contract;

import dev.mockbell.desktop.model.FoundModel;
import dev.mockbell.desktop.part.Grid;
import dev.mockbell.desktop.part.Mark;
import dev.mockbell.desktop.part.Parts;
import dev.mockbell.listing.FoundContract;
import dev.mockbell.listing.Listing;
import dev.mockbell.problem.Counted;
import java.util.Locale;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.CheckBox;
import javafx.scene.control.Label;
import javafx.scene.input.KeyCode;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;

/** The contracts that a listing names: ticked ones are kept in the project. */
final class FoundPane extends VBox {
    private static final double ROW = 28;
    private static final int MOST_ROWS = 9;

    private final FoundModel model;
    private final Listing listing;
    private final Grid<FoundContract> grid = new Grid<>(ROW);
    private final Button add;
    private final Button all;

    FoundPane(FoundModel model, String project) {
        this.model = model;
        FoundModel.Shown shown = model.shownProperty().get();
        this.listing = shown.listing();
        setId("found");
        getStyleClass().add("panel");
        all = Parts.link("", "Tick all that can be read, or none", this::tickAll);
        all.setId("found-all");
        grid.headless()
                .column("", 34, this::tick)
                .column("Contract", 150, FoundPane::name)
                .growing("Offers", FoundPane::words)
                .column("Address", 170, this::address);
        grid.setId("found-list");
        grid.items().setAll(listing.contracts());
        double height = Math.min(MOST_ROWS, listing.contracts().size()) * ROW + 4;
        grid.setMinHeight(height);
        grid.setPrefHeight(height);
        grid.setMaxHeight(height);
        grid.list().setOnKeyPressed(e -> {
            FoundContract at = grid.list().getSelectionModel().getSelectedItem();
            if (e.getCode() == KeyCode.SPACE && at != null) {
                model.tick(at, !model.isTicked(at));
                refresh();
                e.consume();
            }
        });
        String many = Counted.of(listing.contracts().size(), "contract") + " found "
                + (listing.kind() == Listing.Kind.PAGE ? "on that " : "in that ")
                + listing.kind().noun();
        String took = String.format(Locale.ROOT, "read in %.1f s", shown.took().toMillis() / 1000.0)
                + (listing.more() > 0 ? "; " + listing.more() + " more were not read" : "");
        add = Parts.button("", "Keep them in the project (Enter)", model::add, "primary");
        add.setId("found-add");
        Button close = Parts.button("Put aside", "Choose none of them", model::forget);
        HBox foot = Parts.foot(Parts.text("into", "second"), Parts.text(project, "strong"), Parts.spring(), close, add);
        getChildren().addAll(Parts.head(many, Parts.text(took, "second"), Parts.spring(), all), grid, foot);
        refresh();
    }

    private void tickAll() {
        model.tickAll(model.count() == 0);
        refresh();
    }

    private void refresh() {
        grid.refresh();
        add.setText(model.count() == 1 ? "Add 1 contract" : "Add " + model.count() + " contracts");
        add.setDisable(model.count() == 0);
        all.setText(model.count() == 0 ? "tick all" : "untick all");
    }

    private Node tick(FoundContract found) {
        if (found.contract().isEmpty()) {
            return Mark.FAILED.node();
        }
        CheckBox box = new CheckBox();
        box.setSelected(model.isTicked(found));
        box.setAccessibleText("Keep " + found.name());
        box.setFocusTraversable(false);
        box.setOnAction(e -> {
            model.tick(found, box.isSelected());
            refresh();
        });
        return box;
    }

    private static Node name(FoundContract found) {
        Label name = Parts.text(found.name(), found.contract().isPresent() ? "strong" : "second", "table-text");
        Parts.tip(name, found.name());
        return name;
    }

    private static Node words(FoundContract found) {
        Label words = Parts.text(found.words(), found.contract().isPresent() ? "second" : "failed", "table-text");
        words.setMinWidth(0);
        Parts.tip(words, found.words());
        return words;
    }

    private Node address(FoundContract found) {
        if (found.instead().isPresent()) {
            Button use = Parts.link("use that one", found.instead().get(), () -> model.useInstead(found));
            use.getStyleClass().add("table-text");
            return use;
        }
        Label address = Parts.text(found.address().replaceFirst("^https?://[^/]+", ""), "mono", "second", "table-text");
        address.setMinWidth(0);
        Parts.tip(address, found.address());
        return address;
    }
}
