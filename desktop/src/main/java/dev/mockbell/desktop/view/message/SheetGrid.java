package dev.mockbell.desktop.view.message;

import dev.mockbell.desktop.model.ExpressionValues;
import dev.mockbell.desktop.model.Line;
import dev.mockbell.desktop.model.MessageModel;
import dev.mockbell.desktop.part.Grid;
import dev.mockbell.desktop.part.Mark;
import dev.mockbell.desktop.part.Parts;
import dev.mockbell.desktop.part.ValueField;
import dev.mockbell.expression.Braces;
import dev.mockbell.schema.SimpleType;
import dev.mockbell.sheet.SheetRow;
import dev.mockbell.sheet.SheetRow.Kind;
import dev.mockbell.sheet.SheetRow.State;
import java.math.BigDecimal;
import java.util.Optional;
import java.util.function.Consumer;
import javafx.application.Platform;
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
public final class SheetGrid extends VBox {
    /** From how many characters on a value is edited in a window of its own. */
    private static final int LONG = 60;

    /** Beyond this it is edited nowhere else. */
    private static final int LONGEST = 10_000;

    private final MessageModel model;
    private final Optional<ExpressionValues> values;
    private final SheetActions actions;
    private final Grid<Line> grid = new Grid<>(28);
    private final HBox finding = new HBox(8);
    private final HBox behind = new HBox(8);
    private final TextField filter = new TextField();
    private final SheetNote note = new SheetNote();

    /**
     * A sheet over a message.
     *
     * @param values what expressions give now; empty where that depends on what has yet to come
     */
    public SheetGrid(String id, MessageModel model, Optional<ExpressionValues> values, Consumer<String> tell) {
        this.model = model;
        this.values = values;
        this.actions = new SheetActions(this, model, tell);
        grid.growing("Element", this::element)
                .again(SheetGrid::elementAgain)
                .column("Value", 194, this::value)
                .again(SheetGrid::valueAgain)
                .yielding("Type", 94, 470, l -> third(l.row().type()))
                .again((node, l) -> typeAgain((Label) node, l))
                .number("Occurs", 63, this::occurs)
                .again((node, l) -> occursAgain((HBox) node, l))
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
        behind.setId(id + "-behind");
        behind.getStyleClass().add("find-bar");
        behind.setAlignment(Pos.CENTER_LEFT);
        behind.managedProperty().bind(behind.visibleProperty());
        behind.visibleProperty().bind(model.brokenProperty().or(model.readingProperty()));
        grid.disableProperty().bind(behind.visibleProperty());
        model.brokenProperty().addListener((InvalidationListener) o -> showBehind());
        model.readingProperty().addListener((InvalidationListener) o -> showBehind());
        showBehind();
        getChildren().addAll(finding, behind, grid, note);
        model.changesProperty().addListener((InvalidationListener) o -> refresh());
        values.ifPresent(v -> v.changesProperty().addListener((InvalidationListener) o -> refreshValues()));
        model.filterProperty().addListener((o, was, now) -> {
            if (now.isEmpty() && !filter.getText().startsWith("/")) {
                filter.clear();
            }
        });
        grid.list().getSelectionModel().selectedItemProperty().addListener((o, was, now) -> {
            // what becomes of the selection while lines are replaced is nobody's choice
            if (!model.isReplacing() && now != null) {
                model.point(now.row());
                note.show(chosen());
            }
        });
        grid.list().focusedProperty().addListener((o, was, now) -> note.show(chosen()));
        addEventFilter(KeyEvent.KEY_PRESSED, this::key);
        grid.list()
                .setOnContextMenuRequested(
                        e -> chosen().ifPresent(r -> actions.menu(r).show(grid, e.getScreenX(), e.getScreenY())));
    }

    /** Says why the rows are not those of the text, and that they wait. */
    private void showBehind() {
        behind.getChildren().clear();
        if (model.readingProperty().get()) {
            behind.getChildren().add(Parts.text("The XML is being read; the sheet follows.", "second", "table-text"));
        } else if (model.brokenProperty().get()) {
            String what = model.lines().isEmpty()
                    ? "The XML cannot be read, so there is no sheet of it. Mend it there."
                    : "The XML cannot be read; the sheet waits.";
            Label label = Parts.marked(Mark.FAILED, what, "failed", "table-text");
            label.setMinWidth(0);
            behind.getChildren().add(Parts.wide(label));
            if (!model.lines().isEmpty()) {
                behind.getChildren()
                        .add(Parts.button(
                                "Go back to the sheet",
                                "Its rows take the place of the XML; undo brings that back",
                                model::takeSheet,
                                "quiet"));
            }
        }
    }

    Grid<Line> grid() {
        return grid;
    }

    /** The row that the keyboard is in, or else the one that is chosen. */
    Optional<SheetRow> chosen() {
        return Optional.ofNullable(grid.list().getSelectionModel().getSelectedItem())
                .map(Line::row);
    }

    private void choose(Line line) {
        if (grid.list().getSelectionModel().getSelectedItem() != line) {
            grid.list().getSelectionModel().select(line);
        }
    }

    private void refresh() {
        Optional<ValueField> typedIn = typedIn();
        Optional<Line> there = typedIn.map(f -> (Line) f.getUserData());
        int caret = typedIn.map(f -> f.field().getCaretPosition()).orElse(0);
        grid.refresh();
        model.pointed()
                .ifPresentOrElse(
                        this::choose, () -> grid.list().getSelectionModel().clearSelection());
        note.show(chosen());
        // its cell may be given to another row when rows come or go
        there.ifPresent(line -> Platform.runLater(() -> returnTo(line, caret)));
    }

    private Optional<ValueField> typedIn() {
        return grid.list().lookupAll(".row-value").stream()
                .map(n -> (ValueField) n)
                .filter(ValueField::isTypedIn)
                .findFirst();
    }

    private void returnTo(Line line, int caret) {
        Node owner = getScene() == null ? null : getScene().getFocusOwner();
        boolean lost = owner == null
                || owner == grid.list()
                || typedIn().isEmpty() && owner instanceof TextField f && f.getScene() == null;
        if (lost && model.lines().contains(line)) {
            grid.list().layout();
            fieldOf(line).ifPresent(f -> {
                f.requestFocus();
                f.field().positionCaret(caret);
            });
        }
    }

    /** Values have come; the field that is typed in keeps the keyboard and only its mark changes. */
    private void refreshValues() {
        for (Node node : grid.list().lookupAll(".row-value")) {
            if (node instanceof ValueField field && node.getUserData() instanceof Line line) {
                mark(field, line.row().problem());
            }
        }
    }

    /** Shows or hides what the contract says of the row that is pointed at. */
    public void toggleNote() {
        note.toggle();
        note.show(chosen());
    }

    /** Shows the field that filters rows and goes to paths, with the keyboard in it. */
    public void showFilter() {
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
        if (e.getCode() == KeyCode.LEFT || e.getCode() == KeyCode.RIGHT) {
            along(line, e.getCode() == KeyCode.RIGHT);
            e.consume();
        } else if (e.getCode() == KeyCode.SPACE && line.row().optional()) {
            flip(line.row());
            e.consume();
        } else if (e.getCode() == KeyCode.ENTER || e.getCode() == KeyCode.F2) {
            fieldOf(line).ifPresent(f -> {
                f.requestFocus();
                e.consume();
            });
        }
    }

    /** Opens a row and then goes into it; folds it and then goes out to what it stands in. */
    private void along(Line line, boolean in) {
        boolean holds = !line.row().children().isEmpty();
        if (holds && line.open() != in) {
            model.fold(line.row());
            return;
        }
        int at = model.lines().indexOf(line);
        int to = at + (in ? 1 : -1);
        while (!in && to >= 0 && model.lines().get(to).depth() >= line.depth()) {
            to--;
        }
        if (to >= 0 && to < model.lines().size() && (!in || holds)) {
            grid.list().getSelectionModel().clearAndSelect(to);
            grid.list().scrollTo(Math.max(0, to - 4));
        }
    }

    private Optional<ValueField> fieldOf(Line line) {
        return grid.list().lookupAll(".row-value").stream()
                .filter(n -> n.getUserData() == line && Parts.isShown(n))
                .map(n -> (ValueField) n)
                .findFirst();
    }

    private static Label third(String words) {
        Label label = Parts.text(words, "third", "table-text");
        label.setMinWidth(0);
        return label;
    }

    private void flip(SheetRow row) {
        if (row.state() == State.LEFT_OUT) {
            model.edits().include(row);
        } else {
            model.edits().leaveOut(row);
        }
    }

    private Node element(Line line) {
        SheetRowName name = new SheetRowName(
                this::flip,
                row -> {
                    model.line(row).ifPresent(this::choose);
                    model.fold(row);
                },
                (row, e) -> {
                    model.line(row).ifPresent(this::choose);
                    actions.menu(row).show(this, e.getScreenX(), e.getScreenY());
                });
        name.show(line);
        return name;
    }

    private static boolean elementAgain(Node node, Line line) {
        ((SheetRowName) node).show(line);
        return true;
    }

    private Node value(Line line) {
        SheetRowValue value = new SheetRowValue(this::fill, actions::pasteXml);
        value.show(line);
        return value;
    }

    private static boolean valueAgain(Node node, Line line) {
        ((SheetRowValue) node).show(line);
        return true;
    }

    private static boolean typeAgain(Label label, Line line) {
        label.setText(line.row().type());
        return true;
    }

    private static String idOf(SheetRow row) {
        return "value-" + row.label() + (row.index() > 0 ? "-" + row.index() : "");
    }

    /** Makes a field one for a row. */
    private void fill(ValueField field, Line line) {
        if (line.row().kind() == Kind.CHOICE) {
            offer(field, line);
            return;
        }
        SheetRow row = line.row();
        boolean typing = Parts.holdsKeyboard(field)
                && field.getUserData() instanceof Line before
                && before.row().path().equals(row.path());
        field.again(
                row.value(),
                now -> model.type(line.row(), now)
                        .ifPresentOrElse(p -> mark(field, Optional.of(p)), () -> mark(field, Optional.empty())));
        Parts.classed(field, "row-value", true);
        field.setUserData(line);
        field.named(idOf(row)).heardAs(row.label()).onEntered(() -> choose(line));
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
        if (row.value().length() > LONGEST || row.value().chars().anyMatch(c -> c < ' ')) {
            // a field of one line would drop line ends and tabs at the first key
            field.readOnly(() -> actions.edit(line.row()));
        }
        values.ifPresent(v -> field.completing(v::words));
        mark(field, row.problem());
        if (typing) {
            // the message was read anew, as by undo; the keyboard stays where it was in it
            field.field().requestFocus();
            field.field().end();
        }
    }

    /** The branches of a choice. */
    private void offer(ValueField field, Line line) {
        field.again(line.row().value(), chosen -> {
            SheetRow now = line.row();
            if (now.options().contains(chosen) && !chosen.equals(now.value())) {
                model.edits().choose(now, chosen);
            }
        });
        Parts.classed(field, "row-value", false);
        field.named(null)
                .heardAs(line.row().label())
                .readOnly(() -> {})
                .offering(line.row().options());
        field.mark(Optional.empty(), false, Optional.empty());
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
        Optional<String> wrong = shown.filter(s -> !s.problem().isEmpty()).map(s -> pointed(text, s));
        Optional<String> gives = shown.filter(s -> s.problem().isEmpty()).map(ExpressionValues.Shown::value);
        if (gives.isPresent() && field.getUserData() instanceof Line line) {
            wrong = line.row().simple().flatMap(t -> t.whyNot(gives.get())).map(p -> "it gives " + p);
        }
        field.mark(wrong, true, gives);
    }

    /** A text, a mark under the character that is wrong, and why. */
    private static String pointed(String text, ExpressionValues.Shown shown) {
        boolean oneLine = text.length() < LONG && text.chars().noneMatch(c -> c < ' ');
        return oneLine
                ? text + "\n" + " ".repeat(Math.min(text.length(), shown.at())) + "↑\n" + shown.problem()
                : shown.problem();
    }

    private Node occurs(Line line) {
        Label words = third("");
        words.setMinWidth(Region.USE_PREF_SIZE);
        HBox box = new HBox(2, words);
        box.setAlignment(Pos.CENTER_RIGHT);
        occursAgain(box, line);
        return box;
    }

    private boolean occursAgain(HBox box, Line line) {
        SheetRow row = line.row();
        ((Label) box.getChildren().get(0)).setText(row.occurs().toString());
        // on the last of several
        boolean more = row.canRepeat() && (row.index() == 0 || row.index() == row.count());
        if (more && box.getChildren().size() == 1) {
            box.getChildren()
                    .add(Parts.button(
                            "+",
                            "Add one more (Insert)",
                            () -> model.edits().repeat(((Line) box.getUserData()).row()),
                            "tiny"));
        }
        box.setUserData(line);
        if (box.getChildren().size() > 1) {
            Node add = box.getChildren().get(1);
            Parts.shown(add, more);
            add.setId(more ? "repeat-" + row.label() : null);
        }
        return true;
    }
}
