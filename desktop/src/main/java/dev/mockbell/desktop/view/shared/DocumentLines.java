package dev.mockbell.desktop.view.shared;

import dev.mockbell.change.DocumentChange;
import dev.mockbell.desktop.part.Grid;
import dev.mockbell.desktop.part.Parts;
import dev.mockbell.report.ChangesReport;
import java.util.ArrayList;
import java.util.List;
import javafx.scene.Node;
import javafx.scene.control.Label;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;

/** The lines that are new and those that went, a document after the other. */
public final class DocumentLines extends VBox {
    /** A row of the list. */
    private sealed interface Row {
        record Heading(DocumentChange document) implements Row {}

        record One(DocumentChange.Line line) implements Row {}
    }

    public DocumentLines(List<DocumentChange> documents) {
        Grid<Row> grid = new Grid<>(22);
        grid.number(
                        "Line",
                        60,
                        r -> Parts.text(String.valueOf(((Row.One) r).line().number()), "third", "table-text"))
                .growing("Text", r -> text(((Row.One) r).line()))
                .grouped(r -> r instanceof Row.Heading, r -> heading(((Row.Heading) r).document()));
        grid.setId("document-lines");
        List<Row> rows = new ArrayList<>();
        for (DocumentChange document : documents) {
            rows.add(new Row.Heading(document));
            document.lines().forEach(l -> rows.add(new Row.One(l)));
        }
        grid.items().setAll(rows);
        grid.setPlaceholder(Parts.empty("Every document is byte for byte as it was fetched."));
        getChildren().add(Parts.tall(grid));
    }

    private static Node heading(DocumentChange document) {
        return new HBox(
                8,
                Parts.text(document.name(), "strong", "table-text", "second"),
                Parts.text(ChangesReport.words(document), "third", "table-text"));
    }

    private static Node text(DocumentChange.Line line) {
        Label label = Parts.text((line.isNew() ? "+ " : "− ") + line.text().replace("\t", "  "), "mono", "table-text");
        label.getStyleClass().add(line.isNew() ? "wanted" : "got");
        label.setMinWidth(0);
        Parts.tip(label, line.text());
        return label;
    }
}
