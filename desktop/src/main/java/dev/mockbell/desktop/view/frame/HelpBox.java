package dev.mockbell.desktop.view.frame;

import dev.mockbell.desktop.model.GuideModel;
import dev.mockbell.desktop.model.Station;
import dev.mockbell.desktop.part.Parts;
import dev.mockbell.desktop.view.shared.Overlay;
import dev.mockbell.guide.Guide;
import dev.mockbell.guide.GuidePage;
import javafx.beans.value.ChangeListener;
import javafx.geometry.Insets;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.ScrollPane;
import javafx.scene.input.KeyCode;
import javafx.scene.input.KeyEvent;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.StackPane;
import javafx.scene.layout.VBox;

/** What F1 shows: the guide's page of the station, the other pages beside it, and the keys in groups. */
final class HelpBox extends HBox {
    private static final double WIDTH = 1_170;
    private static final double HIGH = 640;
    private static final double PAGES = 196;
    private static final double KEYS = 340;
    private static final double TEXT = 556;

    private final GuideModel guide;
    private final VBox pages = new VBox(2);
    private final Button back = Parts.button("← Back", "To the page before (Alt+Left)", () -> {}, "quiet");
    private final ScrollPane text = new ScrollPane();
    private final ChangeListener<GuidePage> turned = (o, was, now) -> show(now);

    private HelpBox(GuideModel guide, Station station, String mainThing) {
        super(18);
        this.guide = guide;
        setId("help");
        back.setId("guide-back");
        back.setOnAction(e -> guide.back());
        VBox left = new VBox(8, Parts.text("Guide", "strong"), pages, Parts.spring(), back);
        left.setMinWidth(PAGES);
        left.setMaxWidth(PAGES);
        text.setFitToWidth(true);
        text.setId("guide-page");
        text.setAccessibleText("The page");
        HBox.setHgrow(text, Priority.ALWAYS);
        ScrollPane keys = new ScrollPane(
                new VBox(10, Parts.text("Keys in " + station.title(), "strong"), Keys.of(station, mainThing)));
        keys.setFitToWidth(true);
        keys.setMinWidth(KEYS);
        keys.setMaxWidth(KEYS);
        keys.setId("keys");
        getChildren().addAll(left, text, keys);
        setMinHeight(HIGH);
        setPrefHeight(HIGH);
        addEventHandler(KeyEvent.KEY_PRESSED, e -> {
            if (e.isAltDown() && e.getCode() == KeyCode.LEFT) {
                guide.back();
                e.consume();
            }
        });
        guide.pageProperty().addListener(turned);
        show(guide.pageProperty().get());
    }

    /** Over the window that shows {@code over}, at the page of a station. */
    static void show(StackPane over, GuideModel guide, Station station, String mainThing) {
        guide.open(station);
        HelpBox box = new HelpBox(guide, station, mainThing);
        // the guide outlives what shows it
        Overlay.show(over, box, WIDTH, () -> guide.pageProperty().removeListener(box.turned));
    }

    private void show(GuidePage page) {
        if (page == null) {
            return;
        }
        GuideText shown = new GuideText(page, TEXT, guide::follow);
        shown.setPadding(new Insets(0, 12, 16, 2));
        text.setContent(shown);
        text.setVvalue(0);
        back.setDisable(!guide.canGoBack());
        showPages();
    }

    private void showPages() {
        pages.getChildren().clear();
        GuidePage here = guide.pageProperty().get();
        for (Guide.Entry entry : guide.contentsProperty().get()) {
            Button link = Parts.link(entry.title(), "", () -> guide.follow(entry.name()));
            link.setId("guide-" + entry.name());
            link.setWrapText(true);
            link.setAlignment(Pos.CENTER_LEFT);
            link.setMaxWidth(PAGES);
            Parts.classed(link, "strong", here != null && here.name().equals(entry.name()));
            pages.getChildren().add(link);
        }
    }
}
