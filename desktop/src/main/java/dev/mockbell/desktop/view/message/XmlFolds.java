package dev.mockbell.desktop.view.message;

import dev.mockbell.desktop.part.XmlArea;
import dev.mockbell.xml.TagScan;
import java.util.Optional;
import java.util.function.Supplier;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.Label;
import javafx.scene.layout.HBox;
import org.fxmisc.richtext.model.TwoDimensional.Bias;

/** Lets elements of a text be folded by what stands before their first line. */
public final class XmlFolds {
    private final XmlArea xml;
    private final Supplier<TagScan> scan;

    /** @param scan the tags of the text as it is now */
    public XmlFolds(XmlArea xml, Supplier<TagScan> scan) {
        this.xml = xml;
        this.scan = scan;
        xml.margin(this::margin);
    }

    private Node margin(int line) {
        Label number = new Label(String.format("%4d", line + 1));
        number.getStyleClass().add("lineno");
        Label fold = new Label(" ");
        fold.getStyleClass().add("fold");
        fold.setMinWidth(14);
        if (foldable(line).isPresent()) {
            fold.setText(isFolded(line) ? "▸" : "▾");
            fold.setOnMouseClicked(e -> {
                turn(line);
                e.consume();
            });
        }
        HBox box = new HBox(2, number, fold);
        box.setAlignment(Pos.TOP_LEFT);
        box.getStyleClass().add("margin");
        return box;
    }

    private void turn(int line) {
        if (isFolded(line)) {
            xml.area().unfoldParagraphs(line);
        } else {
            foldable(line).ifPresent(last -> xml.area().foldParagraphs(line, last));
        }
        xml.area().recreateParagraphGraphic(line);
    }

    /** Gives the lines in view their signs once the tags are known anew; one that has its sign keeps it. */
    public void refresh() {
        for (int i = 0; i < xml.area().getVisibleParagraphs().size(); i++) {
            int line = xml.area().visibleParToAllParIndex(i);
            boolean signed = xml.area().getParagraphGraphic(line) instanceof HBox box
                    && box.getChildren().get(1) instanceof Label fold
                    && !fold.getText().isBlank();
            if (signed != foldable(line).isPresent()) {
                xml.area().recreateParagraphGraphic(line);
            }
        }
    }

    private boolean isFolded(int line) {
        return line + 1 < xml.area().getParagraphs().size()
                && xml.area().getParagraph(line + 1).getParagraphStyle().contains("collapse");
    }

    /** The last line of the element that begins in a line and goes on below it. */
    private Optional<Integer> foldable(int line) {
        if (line >= xml.area().getParagraphs().size()) {
            return Optional.empty();
        }
        int start = xml.area().getAbsolutePosition(line, 0);
        int end = start + xml.area().getParagraphLength(line);
        String text = xml.area().getParagraph(line).getText();
        int bracket = text.indexOf('<');
        if (bracket < 0) {
            return Optional.empty();
        }
        TagScan tags = scan.get();
        // a long text is shown in part, and its longest lines are broken, so that a tag may stand elsewhere, or not at
        // all
        return tags.at(start + bracket + 1)
                .filter(t -> t.kind() == TagScan.Kind.OPEN && text.startsWith(t.name(), bracket + 1))
                .flatMap(tags::partner)
                .filter(p -> p.start() > end && p.start() < xml.area().getLength())
                .map(p -> xml.area().offsetToPosition(p.start(), Bias.Forward).getMajor());
    }
}
