package dev.mockbell.desktop.view.frame;

import dev.mockbell.desktop.model.OtherPrograms;
import dev.mockbell.desktop.part.Parts;
import dev.mockbell.desktop.view.shared.DocumentLines;
import dev.mockbell.desktop.view.shared.Overlay;
import dev.mockbell.project.Clash;
import java.util.List;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;

/** Two versions of a part of the project, by what differs, of which one is chosen. */
final class VersionsBox {
    private static final double WIDTH = 820;
    private static final double HIGH = 420;

    private VersionsBox() {}

    static void show(Node within, OtherPrograms elsewhere, OtherPrograms.Versions versions) {
        Clash clash = versions.clash();
        Label words = Parts.text(clash.words(), "second");
        words.setWrapText(true);
        DocumentLines lines = new DocumentLines(List.of(versions.differences()));
        lines.setPrefHeight(HIGH);
        Button mine = Parts.button(
                clash.ours().isPresent() ? "Keep what is here" : "Delete it all the same",
                "Writes it over what is in the folder",
                () -> {
                    elsewhere.keepOurs(clash);
                    Overlay.close(within);
                });
        mine.setId("version-here");
        Button theirs = Parts.button(
                "Take what is in the folder",
                "What is here is given up",
                () -> {
                    elsewhere.takeTheirs(clash);
                    Overlay.close(within);
                },
                "primary");
        theirs.setId("version-folder");
        Button later = Parts.button("Later", "Esc", () -> Overlay.close(within));
        later.setId("version-later");
        Overlay.show(
                within,
                new VBox(
                        10,
                        Parts.text("Two versions", "strong"),
                        words,
                        lines,
                        new HBox(8, later, Parts.spring(), mine, theirs)),
                WIDTH,
                () -> elsewhere.later(clash));
    }
}
