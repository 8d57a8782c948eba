package dev.mockbell.desktop.view.shared;

import dev.mockbell.choice.Choice;
import dev.mockbell.desktop.part.Parts;
import dev.mockbell.desktop.part.Toggle;
import java.io.File;
import java.util.List;
import java.util.function.Consumer;
import javafx.geometry.Insets;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Control;
import javafx.scene.control.Label;
import javafx.scene.control.Labeled;
import javafx.scene.control.PasswordField;
import javafx.scene.control.TextField;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.VBox;
import javafx.stage.FileChooser;
import javafx.util.StringConverter;

/** Rows of names and what they are set to, under headings. What is typed counts on Enter, and when the keyboard leaves. */
public final class Form extends VBox {
    private static final double KEY = 132;

    /** Takes all rows away. */
    public void clear() {
        getChildren().clear();
    }

    public void heading(String words) {
        HBox head = new HBox(Parts.text(words, "strong", "table-text", "second"));
        head.getStyleClass().addAll("panel-head", "inner");
        head.setPadding(new Insets(7, 12, 5, 12));
        getChildren().add(head);
    }

    /** A row of its own making; a field takes the room there is. */
    public void row(String key, Node value, Node... more) {
        boolean nameless = value instanceof Control && !(value instanceof Labeled) && value.getAccessibleText() == null;
        if (nameless && !key.isBlank()) {
            value.setAccessibleText(key);
        }
        Label name = Parts.text(key, "second", "table-text");
        name.setMinWidth(KEY);
        HBox row = new HBox(8, name, value);
        if (value instanceof TextField) {
            HBox.setHgrow(value, Priority.ALWAYS);
        }
        if (more.length > 0 && !(value instanceof TextField)) {
            row.getChildren().add(Parts.spring());
        }
        row.getChildren().addAll(more);
        row.setAlignment(Pos.CENTER_LEFT);
        row.setPadding(new Insets(4, 12, 4, 12));
        getChildren().add(row);
    }

    /** Words that say what follows from the rows above. */
    public void note(String words) {
        Label label = Parts.text(words, "third", "table-text");
        label.setWrapText(true);
        label.setPadding(new Insets(4, 12, 6, 12));
        getChildren().add(label);
    }

    public void text(String key, String id, String value, String prompt, Consumer<String> keep) {
        TextField field = field(id, value, prompt);
        onEnd(field, () -> keep.accept(field.getText().strip()));
        row(key, field);
    }

    /** A number that is not negative; 0 stands as an empty field. */
    public void number(String key, String id, int value, String prompt, Consumer<Integer> keep) {
        TextField field = field(id, value > 0 ? String.valueOf(value) : "", prompt);
        onEnd(field, () -> {
            String typed = field.getText().strip();
            if (typed.isEmpty() || typed.matches("[0-9]{1,7}")) {
                keep.accept(typed.isEmpty() ? 0 : Integer.parseInt(typed));
            } else {
                field.setText(value > 0 ? String.valueOf(value) : "");
            }
        });
        row(key, field);
    }

    /** A time; 0 stands as an empty field, which means the usual one. */
    public void seconds(String key, String id, double value, int usual, Consumer<Double> keep) {
        String shown = value > 0 ? String.valueOf(value).replaceFirst("\\.0$", "") : "";
        TextField field = field(id, shown, usual + " seconds");
        onEnd(field, () -> {
            String typed = field.getText().strip().replace(',', '.');
            if (typed.isEmpty() || typed.matches("[0-9]{1,6}(\\.[0-9]{1,3})?")) {
                keep.accept(typed.isEmpty() ? 0 : Double.parseDouble(typed));
            } else {
                field.setText(shown);
            }
        });
        row(key, field);
    }

    /** What is typed is kept on this machine; {@code standing} is what stands for it. */
    public void secret(String key, String id, String standing, Consumer<String> keep) {
        PasswordField field = new PasswordField();
        field.setId(id);
        field.getStyleClass().add("value");
        field.setPromptText(standing.isEmpty() ? "kept on this machine alone" : standing + "; type to change it");
        onEnd(field, () -> {
            if (!field.getText().isEmpty()) {
                String typed = field.getText();
                field.clear();
                keep.accept(typed);
            }
        });
        row(key, field);
    }

    public void file(
            String key, String id, String value, String prompt, Consumer<String> typed, Consumer<File> chosen) {
        TextField field = field(id, value, prompt);
        onEnd(field, () -> typed.accept(field.getText().strip()));
        row(key, field, link("Choose…", "Choose a file of this machine", () -> {
            FileChooser chooser = new FileChooser();
            chooser.setTitle(key);
            File file = chooser.showOpenDialog(getScene().getWindow());
            if (file != null) {
                chosen.accept(file);
            }
        }));
    }

    /** One of several. */
    public <T extends Choice> void choice(String key, String id, T[] all, T now, Consumer<T> choose) {
        ComboBox<T> box = new ComboBox<>();
        box.getItems().setAll(List.of(all));
        box.setConverter(new StringConverter<>() {
            @Override
            public String toString(T value) {
                return value == null ? "" : value.title();
            }

            @Override
            public T fromString(String text) {
                return null;
            }
        });
        box.setValue(now);
        box.setId(id);
        box.setOnAction(e -> choose.accept(box.getValue()));
        row(key, box);
    }

    /** On or off, with words that say what it is when on. */
    public void toggle(String key, String id, String words, boolean on, Consumer<Boolean> keep) {
        Toggle toggle = new Toggle(() -> keep.accept(!on));
        toggle.setId(id);
        toggle.show(on, (on ? "Not: " : "") + words);
        row(key, toggle, Parts.text(words, on ? "table-text" : "third", "table-text"));
        // the words stand beside the switch
        HBox row = (HBox) getChildren().get(getChildren().size() - 1);
        row.getChildren().remove(2);
    }

    /** As {@link #toggle}, with nothing before it, for a narrow place. */
    public void slimToggle(String id, String words, boolean on, Consumer<Boolean> keep) {
        Toggle toggle = new Toggle(() -> keep.accept(!on));
        toggle.setId(id);
        toggle.show(on, (on ? "Not: " : "") + words);
        Label label = Parts.text(words, on ? "table-text" : "third", "table-text");
        label.setMinWidth(0);
        HBox row = new HBox(8, toggle, label);
        row.setAlignment(Pos.CENTER_LEFT);
        getChildren().add(row);
    }

    public static TextField field(String id, String text, String prompt) {
        TextField field = new TextField(text);
        field.setId(id);
        field.setPromptText(prompt);
        field.getStyleClass().add("value");
        return field;
    }

    public static Button link(String words, String tip, Runnable action) {
        Button link = Parts.link(words, tip, action);
        link.getStyleClass().add("table-text");
        link.setMinWidth(USE_PREF_SIZE);
        return link;
    }

    /** Runs when what is typed counts, once for each text. */
    public static void onEnd(TextField field, Runnable action) {
        String[] last = {field.getText()};
        Runnable once = () -> {
            if (!field.getText().equals(last[0])) {
                last[0] = field.getText();
                action.run();
            }
        };
        field.setOnAction(e -> once.run());
        field.focusedProperty().addListener((o, was, now) -> {
            if (was && !now) {
                once.run();
            }
        });
    }
}
