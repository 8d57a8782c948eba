package dev.mockbell.desktop.view;

import dev.mockbell.desktop.part.Parts;
import dev.mockbell.desktop.part.XmlArea;
import dev.mockbell.problem.Problem;
import dev.mockbell.xml.TextFinder;
import dev.mockbell.xml.TextFinder.Range;
import java.util.List;
import javafx.geometry.Pos;
import javafx.scene.control.CheckBox;
import javafx.scene.control.Label;
import javafx.scene.control.TextField;
import javafx.scene.input.KeyCode;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;

/** Finds and replaces in a text, over the editor; Esc closes it. */
final class FindBar extends VBox {
    private final XmlArea area;
    private final TextField wanted = new TextField();
    private final TextField instead = new TextField();
    private final CheckBox pattern = new CheckBox("pattern");
    private final CheckBox exact = new CheckBox("case");
    private final Label count = Parts.text("", "third", "table-text");
    private final HBox replacing;

    FindBar(XmlArea area) {
        super(4);
        this.area = area;
        getStyleClass().add("find-bar");
        wanted.setPromptText("Find");
        wanted.setId("find-text");
        instead.setPromptText("Replace by");
        instead.setId("find-instead");
        count.setMinWidth(USE_PREF_SIZE);
        pattern.setMinWidth(USE_PREF_SIZE);
        exact.setMinWidth(USE_PREF_SIZE);
        pattern.setId("find-pattern");
        HBox finding = new HBox(
                6,
                Parts.wide(wanted),
                count,
                pattern,
                exact,
                Parts.button("↑", "The one before (Shift+Enter)", () -> step(-1), "tiny"),
                Parts.button("↓", "The next (Enter)", () -> step(1), "tiny"),
                Parts.button("×", "Close (Esc)", this::close, "tiny"));
        finding.setAlignment(Pos.CENTER_LEFT);
        var all = Parts.button("Replace all", "", this::replaceAll, "quiet");
        all.setId("replace-all");
        replacing = new HBox(
                6, Parts.wide(instead), Parts.button("Replace", "This one (Enter)", this::replace, "quiet"), all);
        replacing.setAlignment(Pos.CENTER_LEFT);
        getChildren().addAll(finding, replacing);
        setVisible(false);
        managedProperty().bind(visibleProperty());
        wanted.textProperty().addListener((o, was, now) -> show());
        pattern.selectedProperty().addListener((o, was, now) -> show());
        exact.selectedProperty().addListener((o, was, now) -> show());
        wanted.setOnAction(e -> step(1));
        instead.setOnAction(e -> replace());
        setOnKeyPressed(e -> {
            if (e.getCode() == KeyCode.ESCAPE) {
                close();
                e.consume();
            } else if (e.getCode() == KeyCode.ENTER && e.isShiftDown()) {
                step(-1);
                e.consume();
            }
        });
    }

    void open() {
        setVisible(true);
        replacing.setVisible(area.area().isEditable());
        replacing.setManaged(area.area().isEditable());
        String selected = area.area().getSelectedText();
        if (!selected.isEmpty() && selected.indexOf('\n') < 0) {
            wanted.setText(selected);
        }
        wanted.requestFocus();
        wanted.selectAll();
        show();
    }

    private void close() {
        setVisible(false);
        area.area().requestFocus();
    }

    private TextFinder finder() {
        return TextFinder.of(wanted.getText(), pattern.isSelected(), exact.isSelected());
    }

    private List<Range> found() {
        if (wanted.getText().isEmpty()) {
            count.setText("");
            return List.of();
        }
        try {
            List<Range> all = finder().in(area.text());
            count.setText(all.isEmpty() ? "none" : all.size() + (all.size() == TextFinder.MOST ? " or more" : ""));
            wanted.getStyleClass().remove("wrong");
            return all;
        } catch (Problem problem) {
            wrong(problem);
            return List.of();
        }
    }

    private void wrong(Problem problem) {
        count.setText(problem.what());
        wanted.getStyleClass().add("wrong");
    }

    private void show() {
        List<Range> all = found();
        int caret = area.area().getSelection().getStart();
        all.stream().filter(r -> r.start() >= caret).findFirst().ifPresent(r -> area.select(r.start(), r.end()));
    }

    private void step(int by) {
        List<Range> all = found();
        if (all.isEmpty()) {
            return;
        }
        int start = area.area().getSelection().getStart();
        int end = area.area().getSelection().getEnd();
        Range next = by > 0
                ? all.stream().filter(r -> r.start() >= end).findFirst().orElse(all.get(0))
                : all.stream().filter(r -> r.end() <= start).reduce((a, b) -> b).orElse(all.get(all.size() - 1));
        area.select(next.start(), next.end());
        count.setText((all.indexOf(next) + 1) + " of " + all.size());
    }

    private void replace() {
        Range selected = new Range(
                area.area().getSelection().getStart(),
                area.area().getSelection().getEnd());
        if (found().contains(selected)) {
            try {
                area.area()
                        .replaceText(
                                selected.start(),
                                selected.end(),
                                finder().replacement(area.text(), selected, instead.getText()));
            } catch (Problem problem) {
                wrong(problem);
                return;
            }
        }
        step(1);
    }

    private void replaceAll() {
        List<Range> all = found();
        if (all.isEmpty() || !area.area().isEditable()) {
            return;
        }
        try {
            String changed = finder().replaceAll(area.text(), instead.getText());
            area.area().replaceText(changed);
            count.setText(all.size() + " replaced");
        } catch (Problem problem) {
            wrong(problem);
        }
    }
}
