package dev.mockbell.desktop.part;

import dev.mockbell.expression.ExpressionWords;
import java.time.LocalDate;
import java.time.format.DateTimeParseException;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.function.BiFunction;
import java.util.function.Consumer;
import java.util.function.UnaryOperator;
import javafx.geometry.Bounds;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.DatePicker;
import javafx.scene.control.Label;
import javafx.scene.control.ListView;
import javafx.scene.control.TextField;
import javafx.scene.control.Tooltip;
import javafx.scene.control.skin.DatePickerSkin;
import javafx.scene.input.KeyCode;
import javafx.scene.input.KeyEvent;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.stage.Popup;

/**
 * A field for one value. Whatever helps to fill it, a list, a calendar, steps by the arrow keys, is beside the text and
 * never in place of it, so that an expression can stand in any field.
 */
public final class ValueField extends HBox {
    private static final int ROW = 24;
    private static final int MOST_ROWS = 9;

    private final TextField field;
    private final Label gives = new Label();
    private final Consumer<String> typed;
    private Popup popup;

    /** @param typed hears of each change of the text */
    public ValueField(String value, Consumer<String> typed) {
        this.typed = typed;
        field = new TextField(value);
        field.getStyleClass().add("value");
        field.setMinWidth(30);
        field.setPrefColumnCount(8);
        HBox.setHgrow(field, Priority.ALWAYS);
        gives.getStyleClass().addAll("mono", "link", "gives");
        gives.setMinWidth(0);
        gives.setManaged(false);
        gives.setVisible(false);
        setAlignment(Pos.CENTER_LEFT);
        setSpacing(2);
        getChildren().addAll(field, gives);
        field.textProperty().addListener((o, was, now) -> typed.accept(now));
    }

    public TextField field() {
        return field;
    }

    public String text() {
        return field.getText();
    }

    /** Offers a list that narrows as one types; Down or the button opens it. */
    public ValueField offering(List<String> options) {
        add("▾", "Choose from the list (Down)", () -> open(options, ""));
        field.addEventFilter(KeyEvent.KEY_PRESSED, e -> {
            if (e.getCode() == KeyCode.DOWN && popup == null && !e.isAltDown()) {
                open(options, "");
                e.consume();
            }
        });
        field.textProperty().addListener((o, was, now) -> {
            if (field.isFocused() && !options.contains(now)) {
                open(options, now);
            }
        });
        return this;
    }

    /** Goes on with what is typed within braces: variables and functions. */
    public ValueField completing(BiFunction<String, Integer, ExpressionWords.At> words) {
        field.caretPositionProperty().addListener((o, was, now) -> {
            if (!field.isFocused() || now.intValue() != was.intValue() + 1) {
                return;
            }
            ExpressionWords.At at = words.apply(field.getText(), now.intValue());
            close();
            if (!at.words().isEmpty()) {
                list(at.words(), at.words().get(0), word -> {
                    String text = field.getText();
                    field.setText(text.substring(0, at.from()) + word + text.substring(field.getCaretPosition()));
                    field.positionCaret(at.from() + word.length());
                });
            }
        });
        return this;
    }

    private void open(List<String> options, String narrowed) {
        String part = narrowed.toLowerCase(Locale.ROOT);
        List<String> fitting = options.stream()
                .filter(o -> o.toLowerCase(Locale.ROOT).contains(part))
                .toList();
        close();
        list(fitting, field.getText(), this::put);
    }

    private void put(String value) {
        field.setText(value);
        field.positionCaret(value.length());
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

    private void show(javafx.scene.Node content) {
        popup = new Popup();
        popup.setAutoHide(true);
        popup.setHideOnEscape(true);
        javafx.scene.layout.StackPane ground = new javafx.scene.layout.StackPane(content);
        ground.getStyleClass().addAll("popup-ground");
        ground.getStylesheets().setAll(getScene().getStylesheets());
        ground.getStyleClass().addAll(getScene().getRoot().getStyleClass());
        popup.getContent().add(ground);
        popup.setOnHidden(e -> popup = null);
        Bounds at = field.localToScreen(field.getBoundsInLocal());
        popup.show(field, at.getMinX(), at.getMaxY() + 1);
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
        javafx.scene.Node content = new DatePickerSkin(picker).getPopupContent();
        content.setId("calendar");
        show(content);
        picker.valueProperty().addListener((o, was, now) -> {
            close();
            String rest = day().isPresent() ? field.getText().substring(10) : "";
            field.setText(now + rest);
        });
    }

    private Optional<LocalDate> day() {
        try {
            String text = field.getText();
            return text.length() < 10 ? Optional.empty() : Optional.of(LocalDate.parse(text.substring(0, 10)));
        } catch (DateTimeParseException notADay) {
            return Optional.empty();
        }
    }

    /** Lets Alt+Up and Alt+Down change the value by a step; a step gives null when there is none from there. */
    public ValueField stepping(UnaryOperator<String> up, UnaryOperator<String> down) {
        field.addEventFilter(KeyEvent.KEY_PRESSED, e -> {
            boolean plain = !e.isAltDown() && !e.isShiftDown() && !e.isShortcutDown();
            String next = !plain
                    ? null
                    : e.getCode() == KeyCode.UP
                            ? up.apply(field.getText())
                            : e.getCode() == KeyCode.DOWN ? down.apply(field.getText()) : null;
            if (next != null) {
                field.setText(next);
                field.positionCaret(next.length());
                e.consume();
            }
        });
        return this;
    }

    /** Adds a small button behind the text. */
    public ValueField add(String sign, String tip, Runnable action) {
        Button button = Parts.button(sign, tip, action, "tiny", "beside");
        button.setFocusTraversable(false);
        button.setId("beside-" + (field.getId() == null ? "" : field.getId()));
        getChildren().add(getChildren().indexOf(gives), button);
        return this;
    }

    /**
     * Shows what the text is: valid or why not, an expression or not, and what it gives.
     *
     * @param value what the expression gives now; empty when it is none or that is not known yet
     */
    public void mark(Optional<String> problem, boolean expression, Optional<String> value) {
        field.getStyleClass().removeAll("wrong", "expression");
        if (expression) {
            field.getStyleClass().add("expression");
        }
        if (problem.isPresent()) {
            field.getStyleClass().add("wrong");
        }
        field.setTooltip(problem.map(Tooltip::new).orElse(null));
        // an expression needs the room, and a calendar would only overwrite it
        getChildren().stream().filter(n -> n.getStyleClass().contains("beside")).forEach(n -> {
            n.setVisible(!expression);
            n.setManaged(!expression);
        });
        gives.setText(value.map(v -> "= " + v).orElse(""));
        gives.setTooltip(value.filter(v -> v.length() > 8).map(Tooltip::new).orElse(null));
        gives.setManaged(value.isPresent());
        gives.setVisible(value.isPresent());
    }

    /** Whether it has the keyboard. */
    public boolean isTypedIn() {
        return field.isFocused();
    }

    @Override
    public void requestFocus() {
        field.requestFocus();
    }
}
