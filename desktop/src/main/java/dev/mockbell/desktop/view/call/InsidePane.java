package dev.mockbell.desktop.view.call;

import dev.mockbell.desktop.model.InsideModel;
import dev.mockbell.desktop.part.Grid;
import dev.mockbell.desktop.part.Parts;
import dev.mockbell.desktop.part.XmlArea;
import dev.mockbell.desktop.view.shared.Copying;
import dev.mockbell.desktop.view.shared.Numbers;
import dev.mockbell.inside.Kind;
import dev.mockbell.inside.Packed;
import dev.mockbell.inside.Separated;
import java.io.ByteArrayInputStream;
import java.io.File;
import java.util.ArrayList;
import java.util.List;
import javafx.geometry.Insets;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.ScrollPane;
import javafx.scene.image.Image;
import javafx.scene.image.ImageView;
import javafx.scene.layout.FlowPane;
import javafx.scene.layout.Priority;
import javafx.scene.layout.StackPane;
import javafx.scene.layout.VBox;
import javafx.stage.FileChooser;

/** What a value holds: a text, a table, XML, a picture, the files of an archive. */
final class InsidePane extends VBox {
    private static final int WIDEST = 90;

    private final InsideModel model;
    private final StackPane body = new StackPane();
    private boolean asText;

    InsidePane(InsideModel model) {
        this.model = model;
        setId("inside");
        VBox.setVgrow(body, Priority.ALWAYS);
        body.setMinWidth(0);
        model.openedProperty().addListener((o, was, now) -> {
            asText = false;
            show();
        });
    }

    private void show() {
        getChildren().clear();
        InsideModel.Opened opened = model.openedProperty().get();
        if (opened == null) {
            return;
        }
        Button close = Parts.button("×", "Close", model::close, "tiny");
        close.setId("inside-close");
        Label title = Parts.text("Inside " + opened.title(), "strong");
        title.setMinWidth(0);
        Label facts = Parts.text(facts(opened), "second", "table-text");
        facts.setId("inside-facts");
        facts.setWrapText(true);
        facts.setMinHeight(USE_PREF_SIZE);
        facts.setPadding(new Insets(6, 12, 6, 12));
        var head = Parts.head("", title, Parts.spring(), close);
        head.getChildren().remove(0);
        getChildren().addAll(head, facts, body, tools(opened));
        body.getChildren().setAll(content(opened));
    }

    private static String facts(InsideModel.Opened opened) {
        String size = Numbers.bytes(opened.inside().content().size());
        String more = opened.rows()
                .map(r -> ", " + name(r.separator()) + (r.header() ? ", names in the first line" : "") + ", "
                        + opened.inside().charset())
                .orElse("");
        return opened.inside().words() + " in " + opened.coding() + ", " + size + more;
    }

    private static String name(char separator) {
        return switch (separator) {
            case ',' -> "commas";
            case ';' -> "semicolons";
            case '\t' -> "tabs";
            default -> "bars";
        };
    }

    private Node content(InsideModel.Opened opened) {
        Kind kind = opened.inside().kind();
        if (kind == Kind.CSV && !asText && opened.rows().isPresent()) {
            return table(opened.rows().get());
        }
        if (kind.isText()) {
            XmlArea area = new XmlArea(false);
            area.area().setId("inside-text");
            area.show(opened.text());
            return area;
        }
        if (kind.isPicture()) {
            StackPane holder = new StackPane();
            model.picture(
                    bytes -> new Image(new ByteArrayInputStream(bytes)),
                    image -> holder.getChildren().setAll(picture(image)));
            return holder;
        }
        if (kind == Kind.ZIP) {
            return entries(opened.entries());
        }
        return Parts.empty(kind == Kind.EMPTY ? "It is empty." : "It can be saved, and opened by what knows it.");
    }

    private static Node picture(Image image) {
        if (image.isError()) {
            return Parts.empty("The picture is spoilt, or of a kind that is not shown here.");
        }
        ImageView view = new ImageView(image);
        view.setId("inside-picture");
        view.setPreserveRatio(true);
        view.setFitWidth(Math.min(300, Math.max(1, image.getWidth())));
        return new ScrollPane(view);
    }

    private static Node table(Separated separated) {
        Grid<List<String>> grid = new Grid<>(24);
        grid.setId("inside-table");
        List<List<String>> rows = new ArrayList<>(separated.rows());
        List<String> names = separated.header()
                ? rows.remove(0)
                : rows.get(0).stream().map(v -> "").toList();
        for (int i = 0; i < names.size(); i++) {
            int at = i;
            grid.column(names.get(i), WIDEST, r -> Parts.text(r.get(at), "mono", "table-text"));
        }
        grid.items().setAll(rows);
        return Parts.wider(grid, names.size() * WIDEST + 20);
    }

    private Node entries(List<Packed.Entry> entries) {
        Grid<Packed.Entry> grid = new Grid<>(24);
        grid.setId("inside-files");
        grid.growing("File", e -> Parts.link(e.name(), "Look into it", () -> model.entry(e)))
                .number("Size", 80, e -> Parts.text(e.size() < 0 ? "" : Numbers.bytes(e.size()), "table-text"));
        grid.items().setAll(entries);
        return grid;
    }

    private Node tools(InsideModel.Opened opened) {
        FlowPane tools = new FlowPane(8, 8);
        tools.setPadding(new Insets(8, 12, 8, 12));
        Kind kind = opened.inside().kind();
        if (kind == Kind.CSV) {
            Button text = Parts.button(asText ? "As a table" : "As text", "", () -> {
                asText = !asText;
                show();
            });
            text.setId("inside-as-text");
            tools.getChildren().add(text);
        }
        if (kind.isText()) {
            tools.getChildren().add(Parts.button("Copy", "The text", () -> Copying.text(opened.text())));
        }
        Button save = Parts.button("Save…", "The bytes as a file", () -> save(opened));
        save.setId("inside-save");
        tools.getChildren().add(save);
        return tools;
    }

    private void save(InsideModel.Opened opened) {
        FileChooser chooser = new FileChooser();
        chooser.setTitle("Save what " + opened.title() + " holds");
        String name = opened.title().replaceAll("[^\\p{L}\\p{N}._-]", "_");
        chooser.setInitialFileName(
                name.contains(".") ? name : name + opened.inside().kind().suffix());
        File file = chooser.showSaveDialog(getScene().getWindow());
        if (file != null) {
            model.save(file.toPath());
        }
    }
}
