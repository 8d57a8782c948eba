package dev.mockbell.desktop.view.contract;

import dev.mockbell.contract.Finding;
import dev.mockbell.desktop.part.Grid;
import dev.mockbell.desktop.part.Mark;
import dev.mockbell.desktop.part.Parts;
import java.util.Arrays;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.function.Consumer;
import java.util.stream.Stream;
import javafx.scene.Node;
import javafx.scene.control.Label;
import javafx.scene.input.KeyCode;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;

/** The findings of all contracts, the gravest first; choosing one leads to its place. */
final class FindingsList extends VBox {
    private final List<Finding> findings;
    private final Grid<Finding> grid = new Grid<>(44);

    FindingsList(List<Finding> all, Consumer<Finding> goTo) {
        this.findings =
                all.stream().sorted(Comparator.comparing(Finding::severity)).toList();
        setId("findings");
        getStyleClass().add("panel");
        grid.column("", 34, f -> mark(f.severity()).node())
                .column("Rule", 150, f -> Parts.text(f.rule(), "mono"))
                .growing("Finding", FindingsList::words)
                .column("Where", 170, f -> Parts.text(where(f), "second", "table-text"));
        grid.list().setOnMouseClicked(e -> choose(goTo));
        grid.list().setOnKeyPressed(e -> {
            if (e.getCode() == KeyCode.ENTER) {
                choose(goTo);
            }
        });
        grid.setPrefHeight(440);
        HBox kinds = Parts.<Optional<Finding.Severity>>segments(
                Stream.concat(
                                Stream.of(Optional.<Finding.Severity>empty()),
                                Arrays.stream(Finding.Severity.values()).map(Optional::of))
                        .toList(),
                kind -> kind.map(FindingsList::plural).orElse("All"),
                Optional.empty(),
                this::show);
        getChildren()
                .addAll(
                        Parts.head(
                                "Findings", Parts.text("a click goes to the place", "second"), Parts.spring(), kinds),
                        Parts.tall(grid));
        show(Optional.empty());
    }

    private void choose(Consumer<Finding> goTo) {
        Finding chosen = grid.list().getSelectionModel().getSelectedItem();
        if (chosen != null) {
            goTo.accept(chosen);
        }
    }

    private static String plural(Finding.Severity severity) {
        return switch (severity) {
            case ERROR -> "Errors";
            case WARNING -> "Warnings";
            case NOTE -> "Notes";
        };
    }

    private void show(Optional<Finding.Severity> kind) {
        grid.items()
                .setAll(findings.stream()
                        .filter(f -> kind.map(k -> k == f.severity()).orElse(true))
                        .toList());
        grid.setPlaceholder(Parts.empty("None of this kind."));
    }

    static Mark mark(Finding.Severity severity) {
        return switch (severity) {
            case ERROR -> Mark.FAILED;
            case WARNING -> Mark.FAULT;
            case NOTE -> Mark.NOT_RUN;
        };
    }

    private static Node words(Finding finding) {
        Label text = Parts.text(finding.text() + ". " + finding.advice(), "table-text");
        text.setWrapText(true);
        Parts.tip(text, finding.text() + ". " + finding.advice());
        return text;
    }

    private static String where(Finding finding) {
        String document = finding.place().document();
        String name = document.substring(document.lastIndexOf('/') + 1);
        return finding.place().line() > 0 ? name + ", line " + finding.place().line() : name;
    }
}
