package dev.mockbell.desktop.view.frame;

import dev.mockbell.desktop.model.Desk;
import dev.mockbell.desktop.model.Station;
import dev.mockbell.desktop.part.Icon;
import dev.mockbell.desktop.part.Parts;
import java.util.EnumMap;
import java.util.Map;
import java.util.function.Consumer;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.Tooltip;
import javafx.scene.layout.VBox;

/** The stations to go to, in the order of the work. */
final class Rail extends VBox {
    private final Map<Station, Button> buttons = new EnumMap<>(Station.class);

    Rail(Desk desk, Consumer<Node> settings) {
        getStyleClass().add("rail");
        for (Station station : Station.values()) {
            VBox inside = new VBox(
                    4,
                    Icon.valueOf(station.name()).node(20),
                    Parts.text(station.title()),
                    Parts.text("Alt " + station.digit(), "small"));
            inside.setAlignment(Pos.CENTER);
            Button button = new Button();
            button.setGraphic(inside);
            button.getStyleClass().setAll("rail-item");
            button.setId("rail-" + station.title().toLowerCase(java.util.Locale.ROOT));
            button.setAccessibleText(station.title() + ", Alt " + station.digit());
            button.setTooltip(new Tooltip(station.title() + " (Alt+" + station.digit() + ")"));
            button.setOnAction(e -> desk.go(station));
            buttons.put(station, button);
            getChildren().add(button);
        }
        Button more = Parts.button("Settings ▾", "Light or dark, how large, the tape", () -> {}, "quiet", "small");
        more.setId("settings");
        more.setOnAction(e -> settings.accept(more));
        more.setMaxWidth(Double.MAX_VALUE);
        getChildren().addAll(Parts.spring(), more);
        desk.stationProperty().addListener((o, was, now) -> show(now));
        show(desk.stationProperty().get());
    }

    private void show(Station here) {
        buttons.forEach((station, button) -> {
            button.getStyleClass().remove("here");
            if (station == here) {
                button.getStyleClass().add("here");
            }
        });
    }
}
