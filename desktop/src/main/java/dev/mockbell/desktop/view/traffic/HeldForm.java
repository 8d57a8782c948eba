package dev.mockbell.desktop.view.traffic;

import dev.mockbell.content.Content;
import dev.mockbell.desktop.model.HeldEdit;
import dev.mockbell.desktop.part.Parts;
import dev.mockbell.desktop.part.XmlArea;
import dev.mockbell.desktop.view.message.SheetGrid;
import dev.mockbell.desktop.view.shared.Asking;
import dev.mockbell.desktop.view.shared.Form;
import dev.mockbell.exchange.Message;
import dev.mockbell.problem.Problem;
import dev.mockbell.tap.Remade;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Optional;
import java.util.function.Consumer;
import javafx.geometry.Insets;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.Label;
import javafx.scene.control.TextArea;
import javafx.scene.layout.HBox;
import javafx.scene.layout.StackPane;

/** A message in the place of one that waits: its head as text, its body as a sheet or as XML. */
final class HeldForm {
    private static final double HEAD = 96;
    private static final double BODY = 260;

    /** How the body is changed. */
    private enum Face {
        SHEET("Sheet"),
        XML("XML");

        private final String words;

        Face(String words) {
            this.words = words;
        }

        String words() {
            return words;
        }
    }

    private final Optional<HeldEdit> edit;
    private final TextArea head;
    private final XmlArea xml = new XmlArea(true);
    private final StackPane body = new StackPane();
    private final Label why = Parts.text("", "second", "table-text");
    private final HBox faces;
    private Face face = Face.XML;

    HeldForm(Optional<HeldEdit> edit, String headText, String bodyText) {
        this.edit = edit;
        head = new TextArea(headText);
        head.setId("held-head");
        head.getStyleClass().add("mono");
        head.setPrefHeight(HEAD);
        head.setMinHeight(HEAD);
        xml.setId("held-body");
        xml.show(bodyText);
        body.setPrefHeight(BODY);
        body.getChildren().setAll(xml);
        faces = Parts.segments(List.of(Face.values()), Face::words, face, this::look);
        faces.setVisible(edit.isPresent());
        why.setMinWidth(0);
        // what can be laid out is
        if (edit.isPresent() && !bodyText.isBlank()) {
            toSheet(bodyText);
        }
    }

    private void look(Face chosen) {
        if (chosen == face) {
            return;
        }
        if (chosen == Face.SHEET) {
            toSheet(xml.text());
            return;
        }
        try {
            xml.show(edit.orElseThrow().text());
            show(Face.XML, xml, "");
        } catch (Problem problem) {
            show(Face.SHEET, body.getChildren().get(0), problem.getMessage());
        }
    }

    private void toSheet(String text) {
        HeldEdit now = edit.orElseThrow();
        now.layOut(
                text,
                () -> show(Face.SHEET, new SheetGrid("held-sheet", now.sheet(), Optional.empty(), why::setText), ""),
                problem -> show(Face.XML, xml, problem.getMessage()));
    }

    private void show(Face now, Node node, String words) {
        face = now;
        Parts.choose(faces, now.words());
        body.getChildren().setAll(node);
        why.setText(words);
    }

    private Message made() {
        if (head.getText().isBlank()) {
            throw Problem.input("The first line is missing", null, "A message begins with one.");
        }
        String text = face == Face.SHEET ? edit.orElseThrow().text() : xml.text();
        return Remade.of(head.getText(), Content.of(text.getBytes(StandardCharsets.UTF_8)));
    }

    /** @param then hears the message, once the form is gone */
    void ask(Node within, String title, String does, Consumer<Message> then) {
        Form form = new Form();
        HBox bar = new HBox(10, faces, why);
        bar.setAlignment(Pos.CENTER_LEFT);
        bar.setPadding(new Insets(4, 0, 4, 0));
        form.getChildren().addAll(head, bar, Parts.tall(body));
        form.note("The length is made anew; chunks and compression are undone.");
        Asking.ask(within, title, form, "held", does, this::made, then);
    }
}
