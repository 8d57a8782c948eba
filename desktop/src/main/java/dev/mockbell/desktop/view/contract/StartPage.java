package dev.mockbell.desktop.view.contract;

import dev.mockbell.desktop.model.Desk;
import dev.mockbell.desktop.part.Parts;
import java.nio.file.Path;
import javafx.beans.InvalidationListener;
import javafx.geometry.Insets;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;

/** A project with nothing in it: where a contract comes from, and what was worked on before. */
final class StartPage extends VBox {
    private static final int MOST_RECENT = 5;
    private static final double CARD = 272;

    private final Desk desk;
    private final VBox recent = new VBox();

    /**
     * @param progress what is being read, while something is
     * @param write begins a contract that is written by hand
     */
    StartPage(Desk desk, Node progress, Runnable write) {
        super(14);
        this.desk = desk;
        setId("start");
        setMaxWidth(980);
        setPadding(new Insets(44, 0, 20, 0));
        setAlignment(Pos.TOP_LEFT);
        Label words = Parts.text(
                "A WSDL's address, a file, a page that lists services, or the WSDL itself: paste or drop it anywhere.",
                "second");
        getChildren()
                .addAll(
                        Parts.text("What do you want to look at?", "title"),
                        words,
                        new ContractAdder(desk.contracts(), true),
                        progress,
                        cards(write));
        desk.recent().projects().addListener((InvalidationListener) o -> showRecent());
        showRecent();
    }

    private HBox cards(Runnable write) {
        VBox before = Parts.panel(Parts.head("Go on where you were"), recent);
        Button begin = Parts.button("Write a contract", "For a service that does not exist yet", write);
        begin.setId("write-contract");
        HBox cards = new HBox(
                12,
                Parts.wide(before),
                card("No service yet?", "Write the contract as a table of operations and fields, and mock it.", begin));
        if (desk.hasDemo()) {
            Button demo = Parts.button(
                    "Open the demo", "In a window of its own; nothing of it leaves this machine", desk::openDemo);
            demo.setId("open-demo");
            cards.getChildren()
                    .add(card(
                            "Just looking?",
                            "The huts of Northfell: two made-up services that run here, with cases, suites, a mock and"
                                    + " a load plan.",
                            demo));
        }
        cards.setAlignment(Pos.TOP_LEFT);
        return cards;
    }

    private static VBox card(String title, String words, Button action) {
        Label label = Parts.text(words, "second");
        label.setWrapText(true);
        label.setMinHeight(USE_PREF_SIZE);
        VBox inside = new VBox(10, label, action);
        inside.setPadding(new Insets(10, 12, 12, 12));
        VBox card = Parts.panel(Parts.head(title), inside);
        card.setMinWidth(CARD);
        card.setMaxWidth(CARD);
        return card;
    }

    private void showRecent() {
        recent.getChildren().clear();
        for (Path project : desk.recent().projects().stream().limit(MOST_RECENT).toList()) {
            Label folder = Parts.text(String.valueOf(project.getParent()), "second", "table-text");
            folder.setMinWidth(0);
            HBox row = new HBox(
                    10,
                    Parts.link(String.valueOf(project.getFileName()), "Open it", () -> desk.openProject(project)),
                    folder);
            row.setAlignment(Pos.CENTER_LEFT);
            row.setPadding(new Insets(2, 8, 2, 4));
            row.getStyleClass().add("ruled");
            recent.getChildren().add(row);
        }
        if (recent.getChildren().isEmpty()) {
            Label none = Parts.text("Projects that were open before are found here.", "third", "table-text");
            none.setPadding(new Insets(8, 12, 8, 12));
            recent.getChildren().add(none);
        }
    }
}
