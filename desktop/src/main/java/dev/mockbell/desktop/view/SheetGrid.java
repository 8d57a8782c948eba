package dev.mockbell.desktop.view;

import dev.mockbell.desktop.model.ExpressionValues;
import dev.mockbell.desktop.model.MessageModel;
import dev.mockbell.desktop.model.MessageModel.Line;
import dev.mockbell.desktop.part.Grid;
import dev.mockbell.desktop.part.Parts;
import dev.mockbell.desktop.part.Toggle;
import dev.mockbell.desktop.part.ValueField;
import dev.mockbell.expression.Braces;
import dev.mockbell.message.SheetRow;
import dev.mockbell.message.SheetRow.Kind;
import dev.mockbell.message.SheetRow.State;
import dev.mockbell.schema.SimpleType;
import java.math.BigDecimal;
import java.util.Optional;
import java.util.function.Consumer;
import javafx.beans.InvalidationListener;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.Label;
import javafx.scene.control.TextField;
import javafx.scene.control.TextInputControl;
import javafx.scene.input.KeyCode;
import javafx.scene.input.KeyEvent;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;

/** The sheet that is edited: a typed outline with a field in each row that has a value. */
final class SheetGrid extends VBox {
    /** From how many characters on a value is edited in a window of its own. */
    private static final int LONG = 60;

    private final MessageModel model;
    private final Optional<ExpressionValues> values;
    private final SheetActions actions;
    private final Grid<Line> grid = new Grid<>(28);
    private final HBox finding = new HBox(8);
    private final TextField filter = new TextField();
    private final SheetNote note = new SheetNote();

    /**
     * A sheet over a message.
     *
     * @param values what expressions give now; empty where that depends on what has yet to come
     */
    SheetGrid(String id, MessageModel model, Optional<ExpressionValues> values, Consumer<String> tell) {
        this.model = model;
        this.values = values;
        this.actions = new SheetActions(this, model, tell);
        grid.growing("Element", this::element)
                .column("Value", 176, this::value)
                .yielding("Type", 104, 470, l -> third(l.row().type()))
                .number("Occurs", 64, this::occurs)
                .flat();
        grid.setId(id);
        grid.setItems(model.lines());
        filter.setPromptText("Name, value, or a path such as /Trip/leg[2]");
        filter.setId("sheet-filter");
        filter.textProperty().addListener((o, was, now) -> {
            if (!now.startsWith("/")) {
                model.filterProperty().set(now);
            }
        });
        filter.setOnAction(e -> goTo(filter.getText()));
        finding.setAlignment(Pos.CENTER_LEFT);
        finding.getStyleClass().add("find-bar");
        finding.getChildren()
                .addAll(Parts.wide(filter), Parts.button("×", "Show all rows (Esc)", this::closeFilter, "tiny"));
        finding.setVisible(false);
        finding.managedProperty().bind(finding.visibleProperty());
        VBox.setVgrow(grid, Priority.ALWAYS);
        getChildren().addAll(finding, grid, note);
        model.changesProperty().addListener((InvalidationListener) o -> refresh());
        values.ifPresent(v -> v.changesProperty().addListener((InvalidationListener) o -> refreshValues()));
        model.filterProperty().addListener((o, was, now) -> {
            if (now.isEmpty() && !filter.getText().startsWith("/")) {
                filter.clear();
            }
        });
        grid.list().getSelectionModel().selectedItemProperty().addListener((o, was, now) -> note.show(chosen()));
        grid.list().focusedProperty().addListener((o, was, now) -> note.show(chosen()));
        addEventFilter(KeyEvent.KEY_PRESSED, this::key);
        grid.list()
                .setOnContextMenuRequested(
                        e -> chosen().ifPresent(r -> actions.menu(r).show(grid, e.getScreenX(), e.getScreenY())));
    }

    Grid<Line> grid() {
        return grid;
    }

    /** The row that the keyboard is in, or else the one that is chosen. */
    Optional<SheetRow> chosen() {
        return Optional.ofNullable(grid.list().getSelectionModel().getSelectedItem())
                .map(Line::row);
    }

    /** Chooses a row's line. */
    private void choose(SheetRow row) {
        for (int i = 0; i < model.lines().size(); i++) {
            if (model.lines().get(i).row().id().equals(row.id())) {
                grid.list().getSelectionModel().select(i);
                return;
            }
        }
    }

    private void refresh() {
        Optional<String> at = chosen().map(SheetRow::id);
        grid.refresh();
        at.flatMap(model::row).ifPresent(this::choose);
        note.show(chosen());
    }

    /** Values have come; the field that is typed in keeps the keyboard and only its mark changes. */
    private void refreshValues() {
        for (Node node : grid.list().lookupAll(".row-value")) {
            if (node instanceof ValueField field && node.getUserData() instanceof Line line) {
                mark(field, line.row().problem());
            }
        }
    }

    void toggleNote() {
        note.toggle();
        note.show(chosen());
    }

    void showFilter() {
        finding.setVisible(true);
        filter.requestFocus();
        filter.selectAll();
    }

    private void closeFilter() {
        finding.setVisible(false);
        filter.clear();
        model.filterProperty().set("");
        grid.list().requestFocus();
    }

    private void goTo(String path) {
        int at = path.startsWith("/") ? model.reveal(path) : model.lines().isEmpty() ? -1 : 0;
        if (at < 0) {
            filter.getStyleClass().add("wrong");
            return;
        }
        filter.getStyleClass().remove("wrong");
        grid.list().getSelectionModel().select(at);
        grid.list().scrollTo(Math.max(0, at - 4));
        grid.list().requestFocus();
    }

    private void key(KeyEvent e) {
        if (e.isShortcutDown() && e.getCode() == KeyCode.F) {
            showFilter();
            e.consume();
            return;
        }
        if (e.getCode() == KeyCode.ESCAPE && finding.isVisible()) {
            closeFilter();
            e.consume();
            return;
        }
        boolean typing = e.getTarget() instanceof TextInputControl;
        Line line = grid.list().getSelectionModel().getSelectedItem();
        if (line != null && actions.key(e, line.row(), typing)) {
            e.consume();
            return;
        }
        if (typing || line == null) {
            return;
        }
        boolean fold = e.getCode() == KeyCode.LEFT && line.open() || e.getCode() == KeyCode.RIGHT && !line.open();
        if (fold && !line.row().children().isEmpty()) {
            model.fold(line.row());
            e.consume();
        } else if (e.getCode() == KeyCode.SPACE && line.row().optional()) {
            flip(line.row());
            e.consume();
        } else if (e.getCode() == KeyCode.ENTER || e.getCode() == KeyCode.F2) {
            Node field = grid.list().lookup("#" + idOf(line.row()).replace("@", "\\@"));
            if (field != null) {
                field.requestFocus();
                e.consume();
            }
        }
    }

    private static Label third(String words) {
        Label label = Parts.text(words, "third", "table-text");
        label.setMinWidth(0);
        return label;
    }

    private void flip(SheetRow row) {
        if (row.state() == State.LEFT_OUT) {
            model.include(row);
        } else {
            model.leaveOut(row);
        }
    }

    private Node element(Line line) {
        SheetRow row = line.row();
        HBox box = new HBox(4);
        box.setAlignment(Pos.CENTER_LEFT);
        Region indent = new Region();
        indent.setMinWidth(Math.min(line.depth(), 14) * 12.0);
        box.getChildren().add(indent);
        if (row.optional() && row.count() <= 1) {
            boolean out = row.state() == State.LEFT_OUT;
            Toggle toggle = new Toggle(!out, out ? "Put in (Space)" : "Leave out (Space)", () -> flip(row));
            toggle.setId("include-" + row.label());
            box.getChildren().add(toggle);
        }
        boolean folds = !row.children().isEmpty();
        Label name = Parts.text((folds ? line.open() ? "▾ " : "▸ " : "") + row.label(), "table-text");
        if (line.depth() == 0) {
            name.getStyleClass().add("strong");
        }
        if (row.state() == State.LEFT_OUT) {
            name.getStyleClass().add("third");
        }
        boolean place = row.kind() == Kind.CHOICE || row.kind() == Kind.TEXT || row.kind() == Kind.WILDCARD;
        if (place) {
            name.getStyleClass().add("bronze");
        }
        if (folds) {
            name.setOnMouseClicked(e -> {
                choose(row);
                if (e.getButton() == javafx.scene.input.MouseButton.PRIMARY) {
                    model.fold(row);
                }
            });
        }
        box.getChildren().add(name);
        if (row.index() > 0) {
            box.getChildren().add(Parts.text(row.index() + " of " + row.count(), "third", "small"));
        }
        ContractView.tip(box, row.documentation().isEmpty() ? row.type() : row.type() + "\n" + row.documentation());
        box.setOnContextMenuRequested(e -> {
            choose(row);
            actions.menu(row).show(box, e.getScreenX(), e.getScreenY());
            e.consume();
        });
        return box;
    }

    private Node value(Line line) {
        SheetRow row = line.row();
        if (row.kind() == Kind.WILDCARD) {
            return Parts.button(
                    "Paste XML…", "Any element " + row.type(), () -> actions.pasteXml(row), "quiet", "link");
        }
        if (row.state() == State.LEFT_OUT) {
            return Parts.text(
                    row.problem().isPresent() ? "missing" : "left out",
                    row.problem().isPresent() ? "failed" : "third",
                    "italic",
                    "table-text");
        }
        if (row.state() == State.NIL) {
            return Parts.text("nil", "tag", "link");
        }
        if (row.kind() == Kind.CHOICE) {
            ValueField field = new ValueField(row.value(), chosen -> {
                if (row.options().contains(chosen) && !chosen.equals(row.value())) {
                    model.choose(row, chosen);
                }
            });
            field.field().setEditable(false);
            field.offering(row.options());
            return field;
        }
        if (!row.editable()) {
            boolean tell = !line.open() || row.kind() == Kind.REPEATS;
            Label gist = Parts.text(
                    row.problem().isPresent() ? row.problem().get() : tell ? row.gist() : "",
                    row.problem().isPresent() ? "failed" : "third",
                    "table-text");
            gist.setMinWidth(0);
            ContractView.tip(gist, row.problem().orElse(""));
            return gist;
        }
        return field(line);
    }

    private static String idOf(SheetRow row) {
        return "value-" + row.label() + (row.index() > 0 ? "-" + row.index() : "");
    }

    private ValueField field(Line line) {
        SheetRow row = line.row();
        ValueField[] self = new ValueField[1];
        ValueField field = new ValueField(
                row.value(),
                now -> model.type(line.row(), now)
                        .ifPresentOrElse(p -> mark(self[0], Optional.of(p)), () -> mark(self[0], Optional.empty())));
        self[0] = field;
        field.getStyleClass().add("row-value");
        field.setUserData(line);
        field.field().setId(idOf(row));
        field.field().focusedProperty().addListener((o, was, now) -> {
            if (now) {
                choose(line.row());
            }
        });
        Optional<SimpleType> type = row.simple();
        String primitive = type.map(SimpleType::primitive).orElse("string");
        boolean binary = "base64Binary".equals(primitive) || "hexBinary".equals(primitive);
        if (!row.options().isEmpty()) {
            field.offering(row.options());
        } else if ("date".equals(primitive) || "dateTime".equals(primitive)) {
            field.withCalendar();
        } else if ("decimal".equals(primitive) || "float".equals(primitive) || "double".equals(primitive)) {
            field.stepping(t -> step(type.get(), t, 1), t -> step(type.get(), t, -1));
        } else if (binary || row.value().length() > LONG || row.value().chars().anyMatch(c -> c < ' ')) {
            field.add("…", binary ? "From a file or a text" : "Edit in full (F4)", () -> actions.edit(line.row()));
        }
        if (row.value().chars().anyMatch(c -> c < ' ')) {
            // a field of one line would drop line ends and tabs at the first key
            field.field().setEditable(false);
            field.field().setOnMouseClicked(e -> actions.edit(line.row()));
        }
        values.ifPresent(v -> field.completing(v::words));
        mark(field, row.problem());
        return field;
    }

    /** The next number; null beyond the bounds of the type or from what is no number. */
    private static String step(SimpleType type, String text, int by) {
        try {
            String next =
                    new BigDecimal(text.strip()).add(BigDecimal.valueOf(by)).toPlainString();
            return type.accepts(next) || !type.accepts(text) ? next : null;
        } catch (NumberFormatException noNumber) {
            return null;
        }
    }

    private void mark(ValueField field, Optional<String> problem) {
        String text = field.text();
        boolean expression = Braces.hasExpression(text);
        if (!expression || problem.isPresent() || values.isEmpty()) {
            field.mark(problem, expression, Optional.empty());
            return;
        }
        Optional<ExpressionValues.Shown> shown = values.get().of(text);
        Optional<String> wrong = shown.map(ExpressionValues.Shown::problem).filter(p -> !p.isEmpty());
        Optional<String> gives = shown.filter(s -> s.problem().isEmpty()).map(ExpressionValues.Shown::value);
        if (gives.isPresent() && field.getUserData() instanceof Line line) {
            wrong = line.row().simple().flatMap(t -> t.whyNot(gives.get())).map(p -> "it gives " + p);
        }
        field.mark(wrong, true, gives);
    }

    private Node occurs(Line line) {
        SheetRow row = line.row();
        HBox box = new HBox(2, third(row.occurs().toString()));
        box.setAlignment(Pos.CENTER_RIGHT);
        boolean last = row.index() == 0 || row.index() == row.count();
        if (row.canRepeat() && last) {
            var add = Parts.button("+", "Add one more " + row.label() + " (Insert)", () -> model.repeat(row), "tiny");
            add.setId("repeat-" + row.label());
            box.getChildren().add(add);
        }
        return box;
    }
}
