package dev.mockbell.desktop.view.frame;

import dev.mockbell.desktop.model.OtherPrograms;
import dev.mockbell.desktop.part.Parts;
import dev.mockbell.desktop.view.shared.DocumentLines;
import dev.mockbell.desktop.view.shared.Overlay;
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
        Label words = Parts.text(versions.words(), "second");
        words.setWrapText(true);
        DocumentLines lines = new DocumentLines(List.of(versions.differences()));
        lines.setPrefHeight(HIGH);
        Button mine = Parts.button(
                versions.oursGone() ? "Delete it all the same" : "Keep what is here",
                "Writes it over what is in the folder",
                () -> {
                    elsewhere.chose(versions.ours());
                    Overlay.close(within);
                });
        mine.setId("version-here");
        Button theirs = Parts.button(
                "Take what is in the folder",
                "What is here is given up",
                () -> {
                    elsewhere.chose(versions.theirs());
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
                () -> later(elsewhere, versions));
    }

    /** Closed without a choice. */
    private static void later(OtherPrograms elsewhere, OtherPrograms.Versions versions) {
        if (elsewhere.chosenProperty().get() == versions) {
            elsewhere.chose(versions.later());
        }
    }
}
