package dev.mockbell.desktop.view.message;

import dev.mockbell.desktop.model.Elsewhere;
import dev.mockbell.desktop.part.Parts;
import dev.mockbell.desktop.part.XmlArea;
import dev.mockbell.problem.Problem;
import dev.mockbell.xml.TextFinder;
import dev.mockbell.xml.TextFinder.Range;
import java.util.List;
import java.util.Optional;
import java.util.function.BiConsumer;
import java.util.function.Consumer;
import javafx.geometry.Pos;
import javafx.scene.control.CheckBox;
import javafx.scene.control.Label;
import javafx.scene.control.TextField;
import javafx.scene.input.KeyCode;
import javafx.scene.input.KeyEvent;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;

/** Finds and replaces in a text, over the editor; Esc closes it. A pattern may take long, so it is tried elsewhere. */
public final class FindBar extends VBox {
    private final XmlArea area;
    private final Elsewhere elsewhere;
    private final Consumer<String> replaced;
    private final TextField wanted = new TextField();
    private final TextField instead = new TextField();
    private final CheckBox pattern = new CheckBox("pattern");
    private final CheckBox exact = new CheckBox("case");
    private final Label count = Parts.text("", "third", "table-text");
    private final Label reason = Parts.text("", "failed", "table-text");
    private final HBox replacing;
    private Optional<Query> answered = Optional.empty();
    private List<Range> places = List.of();
    private long turn;

    /** What is looked for, and in what. */
    private record Query(String text, String wanted, boolean pattern, boolean exact) {
        TextFinder finder() {
            return TextFinder.of(wanted, pattern, exact);
        }
    }

    /**
     * @param elsewhere looks off the interface thread
     * @param replaced takes over a text in which all has been replaced */
    public FindBar(XmlArea area, Elsewhere elsewhere, Consumer<String> replaced) {
        super(4);
        this.area = area;
        this.elsewhere = elsewhere;
        this.replaced = replaced;
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
        reason.managedProperty().bind(reason.textProperty().isNotEmpty());
        reason.setWrapText(true);
        getChildren().addAll(finding, replacing, reason);
        setVisible(false);
        managedProperty().bind(visibleProperty());
        wanted.textProperty().addListener((o, was, now) -> show());
        pattern.selectedProperty().addListener((o, was, now) -> show());
        exact.selectedProperty().addListener((o, was, now) -> show());
        wanted.setOnAction(e -> step(1));
        instead.setOnAction(e -> replace());
        // before the field, which takes Enter with any other key for plain Enter
        addEventFilter(KeyEvent.KEY_PRESSED, e -> {
            if (e.getCode() == KeyCode.ESCAPE) {
                close();
                e.consume();
            } else if (e.getCode() == KeyCode.ENTER && e.isShiftDown()) {
                step(-1);
                e.consume();
            }
        });
    }

    /** Shows itself, ready to be typed in. */
    public void open() {
        setVisible(true);
        Parts.shown(replacing, area.area().isEditable());
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

    /** Looks for it; {@code then} hears where it stands unless something else is looked for by then. */
    private void search(BiConsumer<Query, List<Range>> then) {
        long own = ++turn;
        reason.setText("");
        Parts.classed(wanted, "wrong", false);
        if (wanted.getText().isEmpty()) {
            count.setText("");
            return;
        }
        Query query = new Query(area.text(), wanted.getText(), pattern.isSelected(), exact.isSelected());
        if (answered.filter(query::equals).isPresent()) {
            then.accept(query, places);
            return;
        }
        count.setText("…");
        elsewhere.run(
                () -> query.finder().in(query.text()),
                all -> {
                    if (own == turn) {
                        answered = Optional.of(query);
                        places = all;
                        count.setText(
                                all.isEmpty()
                                        ? "none"
                                        : all.size() + (all.size() == TextFinder.MOST ? " or more" : ""));
                        then.accept(query, all);
                    }
                },
                problem -> {
                    if (own == turn) {
                        wrong(problem);
                    }
                });
    }

    private void wrong(Problem problem) {
        count.setText("");
        reason.setText(problem.getMessage());
        Parts.classed(wanted, "wrong", true);
    }

    private void show() {
        search((query, all) -> {
            int caret = area.area().getSelection().getStart();
            all.stream().filter(r -> r.start() >= caret).findFirst().ifPresent(r -> area.select(r.start(), r.end()));
        });
    }

    private void step(int by) {
        search((query, all) -> step(all, by));
    }

    private void step(List<Range> all, int by) {
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
        search((query, all) -> {
            Range selected = new Range(
                    area.area().getSelection().getStart(),
                    area.area().getSelection().getEnd());
            if (!all.contains(selected) || !area.area().isEditable()) {
                step(all, 1);
                return;
            }
            elsewhere.run(
                    () -> query.finder().replacement(query.text(), selected, instead.getText()),
                    text -> {
                        if (query.text().equals(area.text())) {
                            area.area().replaceText(selected.start(), selected.end(), text);
                        }
                        step(1);
                    },
                    this::wrong);
        });
    }

    private void replaceAll() {
        search((query, all) -> {
            if (all.isEmpty() || !area.area().isEditable()) {
                return;
            }
            elsewhere.run(
                    () -> query.finder().replaceAll(query.text(), instead.getText()),
                    changed -> {
                        if (query.text().equals(area.text())) {
                            replaced.accept(changed);
                            count.setText(all.size() + " replaced");
                        }
                    },
                    this::wrong);
        });
    }
}
