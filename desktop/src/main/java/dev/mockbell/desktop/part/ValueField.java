package dev.mockbell.desktop.part;

import dev.mockbell.expression.ExpressionWords;
import java.time.LocalDate;
import java.time.format.DateTimeParseException;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.function.BiFunction;
import java.util.function.Consumer;
import java.util.function.UnaryOperator;
import javafx.geometry.Bounds;
import javafx.geometry.Point2D;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.Control;
import javafx.scene.control.DatePicker;
import javafx.scene.control.Label;
import javafx.scene.control.ListView;
import javafx.scene.control.TextField;
import javafx.scene.control.Tooltip;
import javafx.scene.control.skin.DatePickerSkin;
import javafx.scene.control.skin.TextFieldSkin;
import javafx.scene.input.KeyCode;
import javafx.scene.input.KeyEvent;
import javafx.scene.input.MouseEvent;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.stage.Popup;

/**
 * A field for one value. Whatever helps to fill it, a list, a calendar, steps by the arrow keys, is beside the text and
 * never in place of it, so that an expression can stand in any field.
 *
 * <p>Until the pointer or the keyboard comes to it, it is a still picture of itself: a text field costs some 4 ms to make,
 * which rows that are scrolled past do not have.
 */
public final class ValueField extends HBox {
    private static final int ROW = 24;
    private static final int MOST_ROWS = 9;
    private static final int MOST_TYPED = 10_000;
    private static final int SHOWN = 200;

    private final Label still = new Label();
    private final List<Consumer<TextField>> habits = new ArrayList<>();
    private final List<Sign> signs = new ArrayList<>();
    private Consumer<String> typed;
    private String text;
    private String name = "";
    private String heard;
    private Optional<String> problem = Optional.empty();
    private boolean expression;
    private boolean calm;
    private String prompt = "";
    private Optional<Label> gives = Optional.empty();
    private TextField field;
    private Popup popup;

    /** A small button behind the text. */
    private record Sign(String words, String tip, Runnable action) {}

    /** @param typed hears of each change of the text */
    public ValueField(String value, Consumer<String> typed) {
        this.typed = typed;
        this.text = value;
        showStill();
        still.getStyleClass().addAll("still", "value");
        still.setFocusTraversable(true);
        still.focusedProperty().addListener((o, was, now) -> {
            if (now) {
                field().requestFocus();
            }
        });
        wide(still);
        setAlignment(Pos.CENTER_LEFT);
        setSpacing(2);
        getChildren().add(still);
        addEventFilter(MouseEvent.MOUSE_ENTERED, e -> field());
        addEventFilter(MouseEvent.MOUSE_PRESSED, this::pressed);
    }

    /** A press on a picture puts the caret where the pointer is, as it would in a field. */
    private void pressed(MouseEvent e) {
        boolean woke = field == null && still.contains(still.sceneToLocal(e.getSceneX(), e.getSceneY()));
        field();
        if (woke && field.getSkin() instanceof TextFieldSkin skin) {
            Point2D at = field.sceneToLocal(e.getSceneX(), e.getSceneY());
            field.requestFocus();
            skin.positionCaret(skin.getIndex(at.getX(), at.getY()), e.isShiftDown());
        }
    }

    /** What a field can show: one line, and no more of it than is laid out in no time. */
    private static String shown(String value) {
        if (value.length() > MOST_TYPED) {
            return shown(Parts.start(value, SHOWN));
        }
        return value.chars().noneMatch(c -> c < ' ') ? value : value.replaceAll("[\\t\\r\\n]+", " ");
    }

    private void showStill() {
        boolean none = text.isEmpty() && !prompt.isEmpty();
        still.setText(none ? prompt : shown(text));
        still.setAccessibleText(heard == null ? null : heard + ": " + still.getText());
        Parts.classed(still, "third", none);
    }

    private static void wide(Control control) {
        control.setMinWidth(30);
        control.setMaxWidth(Double.MAX_VALUE);
        HBox.setHgrow(control, Priority.ALWAYS);
    }

    /** The field itself, no longer a picture. */
    public TextField field() {
        if (field == null) {
            boolean whole = text.length() <= MOST_TYPED;
            field = new TextField(whole ? text : shown(text));
            field.setEditable(whole);
            field.getStyleClass().add("value");
            field.setPrefColumnCount(8);
            field.setPromptText(prompt);
            field.setId(name);
            field.setAccessibleText(heard);
            wide(field);
            still.setId(null);
            getChildren().set(0, field);
            habits.forEach(h -> h.accept(field));
            TextField own = field;
            field.textProperty().addListener((o, was, now) -> {
                if (field == own && whole) {
                    text = now;
                    typed.accept(now);
                }
            });
            showSigns();
            showMark();
            if (getScene() != null) {
                // so that the very press that woke it finds it in its place
                applyCss();
                layout();
            }
        }
        return field;
    }

    /** Becomes a field for another value, without any of its helps, and a picture again; to be followed by a mark. */
    public void again(String value, Consumer<String> nowTyped) {
        typed = nowTyped;
        text = value;
        showStill();
        habits.clear();
        signs.clear();
        close();
        if (field != null) {
            field = null;
            still.setId(name);
            getChildren().setAll(still);
        }
    }

    /** The id of the field, for finding it. */
    public ValueField named(String id) {
        name = id;
        still.setId(id);
        return this;
    }

    /** What a screen reader calls it. */
    public ValueField heardAs(String words) {
        heard = words;
        still.setAccessibleText(words + ": " + still.getText());
        if (field != null) {
            field.setAccessibleText(words);
        }
        return this;
    }

    /** Runs when the keyboard comes to it. */
    public ValueField onEntered(Runnable action) {
        habits.add(f -> f.focusedProperty().addListener((o, was, now) -> {
            if (now) {
                action.run();
            }
        }));
        return this;
    }

    /** Shows the text without letting it be typed in; a click does something else. */
    public ValueField readOnly(Runnable clicked) {
        habits.add(f -> {
            f.setEditable(false);
            f.setOnMouseClicked(e -> clicked.run());
        });
        return this;
    }

    public String text() {
        return text;
    }

    /** Offers a list that narrows as one types; Down or the button opens it. */
    public ValueField offering(List<String> options) {
        add("▾", "Choose from the list (Down)", () -> open(options, ""));
        habits.add(f -> {
            f.addEventFilter(KeyEvent.KEY_PRESSED, e -> {
                if (e.getCode() == KeyCode.DOWN && popup == null && !e.isAltDown()) {
                    open(options, "");
                    e.consume();
                }
            });
            f.textProperty().addListener((o, was, now) -> {
                if (f.isFocused() && !options.contains(now)) {
                    open(options, now);
                }
            });
        });
        return this;
    }

    /** Goes on with what is typed within braces: variables and functions. */
    public ValueField completing(BiFunction<String, Integer, ExpressionWords.At> words) {
        habits.add(f -> f.caretPositionProperty().addListener((o, was, now) -> {
            if (!f.isFocused() || now.intValue() != was.intValue() + 1) {
                return;
            }
            ExpressionWords.At at = words.apply(f.getText(), now.intValue());
            close();
            if (!at.words().isEmpty()) {
                list(at.words(), at.words().get(0), word -> {
                    f.setText(text.substring(0, at.from()) + word + text.substring(f.getCaretPosition()));
                    f.positionCaret(at.from() + word.length());
                });
            }
        }));
        return this;
    }

    private void open(List<String> options, String narrowed) {
        String part = narrowed.toLowerCase(Locale.ROOT);
        List<String> fitting = options.stream()
                .filter(o -> o.toLowerCase(Locale.ROOT).contains(part))
                .toList();
        close();
        list(fitting, text, this::put);
    }

    private void put(String value) {
        field().setText(value);
        field().positionCaret(value.length());
    }

    private void list(List<String> fitting, String first, Consumer<String> then) {
        if (fitting.isEmpty() || getScene() == null) {
            return;
        }
        ListView<String> list = new ListView<>();
        list.getItems().setAll(fitting);
        list.setFixedCellSize(ROW);
        list.getStyleClass().addAll("choices", "mono");
        list.setId("choices");
        list.setPrefHeight(Math.min(MOST_ROWS, fitting.size()) * ROW + 4.0);
        list.setPrefWidth(Math.max(140, getWidth()));
        list.getSelectionModel().select(Math.max(0, fitting.indexOf(first)));
        list.setOnMouseClicked(e -> take(list.getSelectionModel().getSelectedItem(), then));
        show(list);
        popup.addEventFilter(KeyEvent.KEY_PRESSED, e -> {
            int at = list.getSelectionModel().getSelectedIndex();
            switch (e.getCode()) {
                case DOWN -> list.getSelectionModel().select(Math.min(at + 1, fitting.size() - 1));
                case UP -> list.getSelectionModel().select(Math.max(0, at - 1));
                case ENTER -> take(list.getSelectionModel().getSelectedItem(), then);
                case TAB, ESCAPE -> close();
                default -> {
                    return;
                }
            }
            list.scrollTo(list.getSelectionModel().getSelectedIndex());
            e.consume();
        });
    }

    private void take(String value, Consumer<String> then) {
        close();
        if (value != null) {
            then.accept(value);
        }
    }

    private void show(Node content) {
        popup = new Popup();
        popup.setAutoHide(true);
        popup.setHideOnEscape(true);
        javafx.scene.layout.StackPane ground = new javafx.scene.layout.StackPane(content);
        ground.getStyleClass().addAll("popup-ground");
        ground.getStylesheets().setAll(getScene().getStylesheets());
        ground.getStyleClass().addAll(getScene().getRoot().getStyleClass());
        popup.getContent().add(ground);
        popup.setOnHidden(e -> popup = null);
        Bounds at = field().localToScreen(field().getBoundsInLocal());
        popup.show(field(), at.getMinX(), at.getMaxY() + 1);
    }

    private void close() {
        if (popup != null) {
            popup.hide();
            popup = null;
        }
    }

    /** Offers a calendar for the first ten characters, as dates and points in time have them. */
    public ValueField withCalendar() {
        add("▦", "Choose a day", this::calendar);
        return this;
    }

    private void calendar() {
        close();
        DatePicker picker = new DatePicker(day().orElse(LocalDate.now()));
        Node content = new DatePickerSkin(picker).getPopupContent();
        content.setId("calendar");
        show(content);
        picker.valueProperty().addListener((o, was, now) -> {
            close();
            String rest = day().isPresent() ? text.substring(10) : "";
            field().setText(now + rest);
        });
    }

    private Optional<LocalDate> day() {
        try {
            return text.length() < 10 ? Optional.empty() : Optional.of(LocalDate.parse(text.substring(0, 10)));
        } catch (DateTimeParseException notADay) {
            return Optional.empty();
        }
    }

    /** Lets Up and Down change the value by a step; a step gives null when there is none from there. */
    public ValueField stepping(UnaryOperator<String> up, UnaryOperator<String> down) {
        habits.add(f -> f.addEventFilter(KeyEvent.KEY_PRESSED, e -> {
            boolean plain = !e.isAltDown() && !e.isShiftDown() && !e.isShortcutDown();
            String next = !plain
                    ? null
                    : e.getCode() == KeyCode.UP
                            ? up.apply(text)
                            : e.getCode() == KeyCode.DOWN ? down.apply(text) : null;
            if (next != null) {
                put(next);
                e.consume();
            }
        }));
        return this;
    }

    /** Says what an empty one means. */
    public ValueField prompting(String words) {
        prompt = words;
        showStill();
        return this;
    }

    /** Looks like plain text, without what helps to fill it, until the pointer or the keyboard comes to it. */
    public ValueField calm() {
        calm = true;
        still.getStyleClass().add("calm");
        return this;
    }

    /** Adds a small button behind the text. */
    public ValueField add(String sign, String tip, Runnable action) {
        signs.add(new Sign(sign, tip, action));
        return this;
    }

    /** An expression needs their room, and a calendar would only overwrite it. */
    private void showSigns() {
        List<Sign> shown = expression ? List.of() : signs;
        if (field == null && gives.isEmpty() && getChildren().size() == 1 && shown.isEmpty()) {
            return;
        }
        getChildren().remove(1, getChildren().size());
        for (Sign sign : shown) {
            if (field == null && calm) {
                continue;
            }
            if (field == null) {
                getChildren().add(Parts.text(sign.words(), "still-sign"));
                continue;
            }
            Button button = Parts.button(sign.words(), sign.tip(), sign.action(), "tiny", "beside");
            button.setFocusTraversable(false);
            button.setId("beside-" + name);
            getChildren().add(button);
        }
        gives.ifPresent(getChildren()::add);
    }

    /**
     * Shows what the text is: valid or why not, an expression or not, and what it gives.
     *
     * @param value what the expression gives now; empty when it is none or that is not known yet
     */
    public void mark(Optional<String> why, boolean isExpression, Optional<String> value) {
        problem = why;
        boolean same = field != null && isExpression == expression && gives.isEmpty() && value.isEmpty();
        expression = isExpression;
        gives = value.map(ValueField::giving);
        if (!same) {
            showSigns();
        }
        showMark();
    }

    private static Label giving(String value) {
        Label label = Parts.text("= " + value, "mono", "link", "gives");
        label.setMinWidth(0);
        if (value.length() > 8) {
            Parts.tip(label, value);
        }
        return label;
    }

    private void showMark() {
        Control shown = field == null ? still : field;
        Parts.classed(shown, "expression", expression);
        Parts.classed(shown, "wrong", problem.isPresent());
        if (field != null) {
            field.setTooltip(problem.map(ValueField::reason).orElse(null));
        }
    }

    /** In the field's own face, so that a mark on a second line stands under its character. */
    private static Tooltip reason(String words) {
        Tooltip tip = new Tooltip(words);
        tip.getStyleClass().add("mono");
        tip.setWrapText(true);
        tip.setMaxWidth(480);
        return tip;
    }

    /** Whether it has the keyboard. */
    public boolean isTypedIn() {
        return field != null && field.isFocused();
    }

    @Override
    public void requestFocus() {
        field().requestFocus();
    }
}
