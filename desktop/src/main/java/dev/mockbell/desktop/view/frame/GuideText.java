package dev.mockbell.desktop.view.frame;

import dev.mockbell.desktop.part.Parts;
import dev.mockbell.desktop.view.shared.Copying;
import dev.mockbell.guide.GuideBlock;
import dev.mockbell.guide.GuidePage;
import dev.mockbell.guide.GuideSpan;
import java.util.List;
import java.util.function.Consumer;
import javafx.geometry.Insets;
import javafx.geometry.Pos;
import javafx.scene.AccessibleRole;
import javafx.scene.Cursor;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.image.Image;
import javafx.scene.image.ImageView;
import javafx.scene.input.KeyCode;
import javafx.scene.layout.ColumnConstraints;
import javafx.scene.layout.GridPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.StackPane;
import javafx.scene.layout.VBox;
import javafx.scene.text.Text;
import javafx.scene.text.TextFlow;

/** A page of the guide as nodes. */
final class GuideText extends VBox {
    private final double width;
    private final Consumer<String> follow;

    /**
     * @param width how wide it may be
     * @param follow opens another page by its name
     */
    GuideText(GuidePage page, double width, Consumer<String> follow) {
        super(9);
        this.width = width;
        this.follow = follow;
        setMaxWidth(width);
        blocks(page.blocks(), this);
    }

    private void blocks(List<GuideBlock> blocks, VBox into) {
        blocks.forEach(b -> into.getChildren().add(node(b)));
    }

    private Node node(GuideBlock block) {
        if (block instanceof GuideBlock.Heading heading) {
            TextFlow flow = flow(heading.words(), heading.level() == 1 ? "title" : "strong");
            VBox.setMargin(flow, new Insets(heading.level() == 1 ? 0 : 9, 0, 0, 0));
            return flow;
        }
        if (block instanceof GuideBlock.Paragraph paragraph) {
            return flow(paragraph.words(), "");
        }
        if (block instanceof GuideBlock.Code code) {
            return code(code);
        }
        if (block instanceof GuideBlock.Items items) {
            return items(items);
        }
        if (block instanceof GuideBlock.Table table) {
            return table(table);
        }
        return picture((GuideBlock.Picture) block);
    }

    private TextFlow flow(List<GuideSpan> spans, String look) {
        TextFlow flow = new TextFlow();
        flow.setLineSpacing(2);
        StringBuilder heard = new StringBuilder();
        for (GuideSpan span : spans) {
            Text text = new Text(span.text());
            text.getStyleClass().add("guide-text");
            if (!look.isEmpty()) {
                text.getStyleClass().add(look);
            }
            switch (span.style()) {
                case CODE -> text.getStyleClass().add("mono");
                case STRONG -> text.getStyleClass().add("strong");
                case EMPHASIS -> text.getStyleClass().add("guide-name");
                case LINK -> link(text, span);
                case PLAIN -> {
                    // as it is
                }
            }
            heard.append(span.text());
            flow.getChildren().add(text);
        }
        flow.setAccessibleText(heard.toString());
        return flow;
    }

    private void link(Text text, GuideSpan span) {
        text.getStyleClass().add("guide-link");
        text.setCursor(Cursor.HAND);
        text.setFocusTraversable(true);
        text.setAccessibleRole(AccessibleRole.HYPERLINK);
        text.setAccessibleText(span.text());
        text.setOnMouseClicked(e -> follow.accept(span.target()));
        text.setOnKeyPressed(e -> {
            if (e.getCode() == KeyCode.ENTER) {
                follow.accept(span.target());
                e.consume();
            }
        });
    }

    private Node code(GuideBlock.Code code) {
        Label lines = Parts.text(code.text(), "mono");
        lines.setWrapText(true);
        lines.setMinHeight(Region.USE_PREF_SIZE);
        Parts.wide(lines);
        Button copy =
                Parts.button("Copy", "Puts these lines on the clipboard", () -> Copying.text(code.text()), "tiny");
        HBox box = new HBox(8, lines, copy);
        box.setAlignment(Pos.TOP_LEFT);
        box.getStyleClass().add("guide-code");
        return box;
    }

    private Node items(GuideBlock.Items items) {
        VBox list = new VBox(5);
        int number = 0;
        for (List<GuideBlock> item : items.items()) {
            number++;
            VBox inside = new VBox(5);
            HBox.setHgrow(inside, Priority.ALWAYS);
            blocks(item, inside);
            Label mark = Parts.text(items.numbered() ? number + "." : "–", "second");
            mark.setMinWidth(18);
            HBox row = new HBox(6, mark, inside);
            row.setAlignment(Pos.TOP_LEFT);
            list.getChildren().add(row);
        }
        return list;
    }

    private Node table(GuideBlock.Table table) {
        GridPane grid = new GridPane();
        grid.setHgap(14);
        grid.setVgap(5);
        int columns = table.rows().get(0).size();
        for (int c = 0; c < columns; c++) {
            ColumnConstraints column = new ColumnConstraints();
            boolean last = c == columns - 1;
            column.setHgrow(last ? Priority.ALWAYS : Priority.SOMETIMES);
            if (!last) {
                column.setMaxWidth(width / 3);
            }
            grid.getColumnConstraints().add(column);
        }
        for (int r = 0; r < table.rows().size(); r++) {
            for (int c = 0; c < columns; c++) {
                grid.add(flow(table.rows().get(r).get(c), r == 0 ? "strong" : ""), c, r);
            }
        }
        return grid;
    }

    private Node picture(GuideBlock.Picture picture) {
        ImageView view = new ImageView();
        view.setPreserveRatio(true);
        view.setFitWidth(width - 2);
        view.setSmooth(true);
        view.setAccessibleText(picture.words());
        var resource = GuidePage.class.getResource(picture.resource());
        if (resource != null) {
            view.setImage(new Image(resource.toExternalForm(), true));
        }
        StackPane framed = new StackPane(view);
        framed.getStyleClass().add("guide-picture");
        return framed;
    }
}
