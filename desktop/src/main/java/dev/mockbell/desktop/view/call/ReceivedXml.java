package dev.mockbell.desktop.view.call;

import dev.mockbell.desktop.model.CallModel;
import dev.mockbell.desktop.model.Elsewhere;
import dev.mockbell.desktop.part.Parts;
import dev.mockbell.desktop.part.XmlArea;
import dev.mockbell.desktop.view.message.FindBar;
import dev.mockbell.desktop.view.message.XmlFolds;
import dev.mockbell.desktop.view.shared.Copying;
import dev.mockbell.problem.Problem;
import dev.mockbell.xml.TagScan;
import java.util.List;
import java.util.Optional;
import javafx.geometry.Pos;
import javafx.scene.control.ContextMenu;
import javafx.scene.control.Label;
import javafx.scene.control.MenuItem;
import javafx.scene.control.SeparatorMenuItem;
import javafx.scene.control.TextField;
import javafx.scene.input.KeyCode;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;

/** The answer as XML: folded, searched by text and by XPath, with the path of where one is. */
final class ReceivedXml extends VBox {
    private final CallModel model;
    private final Elsewhere elsewhere;
    private final XmlArea xml = new XmlArea(false);
    private final FindBar find;
    private final TextField path = new TextField();
    private final Label hits = Parts.text("", "third", "table-text");
    private final XmlFolds folds;
    private TagScan scan = TagScan.of("");
    private String scanned = "";
    private List<Integer> lines = List.of();
    private int at;

    ReceivedXml(CallModel model, Elsewhere elsewhere) {
        this.model = model;
        this.elsewhere = elsewhere;
        this.find = new FindBar(xml, elsewhere, text -> {});
        path.setPromptText("Find by XPath: //name[. = 'Skarn']");
        path.setId("answer-xpath");
        hits.setId("answer-xpath-hits");
        hits.setMinWidth(USE_PREF_SIZE);
        path.setOnAction(e -> findByPath());
        path.setOnKeyPressed(e -> {
            if (e.getCode() == KeyCode.DOWN || e.getCode() == KeyCode.UP) {
                step(e.getCode() == KeyCode.DOWN ? 1 : -1);
                e.consume();
            }
        });
        var copy = Parts.button("Copy path", "The XPath of where the caret is (Ctrl+Shift+C)", this::copyPath, "quiet");
        copy.setId("copy-path");
        HBox bar = new HBox(6, Parts.wide(path), hits, copy);
        bar.setAlignment(Pos.CENTER_LEFT);
        bar.getStyleClass().add("find-bar");
        xml.area().setId("response-xml");
        folds = new XmlFolds(xml, () -> scan);
        MenuItem paths = new MenuItem("Copy path");
        paths.setOnAction(e -> copyPath());
        MenuItem text = new MenuItem("Copy");
        text.setOnAction(e -> xml.area().copy());
        MenuItem check = new MenuItem("Check this");
        check.setOnAction(e -> pathHere().ifPresent(model.checks()::addValueAt));
        MenuItem capture = new MenuItem("Capture");
        capture.setOnAction(e -> pathHere().ifPresent(model.checks()::captureAt));
        xml.area().setContextMenu(new ContextMenu(text, paths, new SeparatorMenuItem(), check, capture));
        setOnKeyPressed(e -> {
            if (e.isShortcutDown() && e.isShiftDown() && e.getCode() == KeyCode.C) {
                copyPath();
                e.consume();
            }
        });
        getChildren().addAll(bar, find, Parts.tall(xml));
    }

    void show() {
        String text = model.faces().xml();
        xml.show(text);
        if (text.equals(scanned)) {
            return;
        }
        scanned = text;
        scan = TagScan.of("");
        lines = List.of();
        hits.setText("");
        elsewhere.run(
                () -> TagScan.of(text),
                found -> {
                    if (text.equals(scanned)) {
                        scan = found;
                        folds.refresh();
                    }
                },
                problem -> {});
    }

    /** Opens the search for text. */
    void find() {
        find.open();
    }

    private void findByPath() {
        String wanted = path.getText().strip();
        if (wanted.isEmpty()) {
            hits.setText("");
            return;
        }
        hits.setText("…");
        String in = scanned;
        model.faces()
                .find(
                        in,
                        wanted,
                        found -> {
                            if (in.equals(scanned)) {
                                lines = found;
                                at = -1;
                                Parts.classed(hits, "failed", false);
                                hits.setText(
                                        found.isEmpty()
                                                ? "no hit"
                                                : found.size() + (found.size() == 1 ? " hit" : " hits"));
                                step(1);
                            }
                        },
                        problem -> {
                            Parts.classed(hits, "failed", true);
                            hits.setText(problem.kind() == Problem.Kind.EXPRESSION ? "no XPath" : "not read as XML");
                            Parts.tip(hits, problem::getMessage);
                        });
    }

    private void step(int by) {
        if (!lines.isEmpty()) {
            at = Math.floorMod(at + by, lines.size());
            String which = lines.size() == 1 ? "1 hit" : (at + 1) + " of " + lines.size();
            boolean there = lines.get(at) <= xml.area().getParagraphs().size();
            hits.setText(there ? which : which + ", beyond what is shown");
            if (there) {
                xml.goTo(lines.get(at));
            }
        }
    }

    /** The path of where the caret is, from the payload. */
    private Optional<String> pathHere() {
        var selected = xml.area().getSelection();
        int caret = xml.area().getCaretPosition();
        if (selected.getLength() > 0) {
            // what is meant begins there; the caret stands behind it, in the element around
            String text = xml.area().getSelectedText();
            caret = selected.getStart() + (text.length() - text.stripLeading().length()) + 1;
        }
        return scan.pathAt(caret).map(p -> p.replaceFirst("^/Envelope/Body/", "/"));
    }

    private void copyPath() {
        pathHere().ifPresent(Copying::text);
    }
}
