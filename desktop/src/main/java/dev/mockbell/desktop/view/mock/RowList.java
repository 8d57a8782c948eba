package dev.mockbell.desktop.view.mock;

import dev.mockbell.desktop.part.Parts;
import dev.mockbell.desktop.view.shared.Form;
import java.util.ArrayList;
import java.util.List;
import java.util.function.Consumer;
import java.util.function.Function;
import javafx.geometry.Insets;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.TextField;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;

/**
 * A list of small things in a form, a row of fields for each, with one to take it away and one to add another.
 *
 * @param <T> the things
 */
final class RowList<T> {
    private static final double LINK = 64;

    private final String id;
    private final List<Column<T>> columns;
    private final Function<List<String>, T> make;
    private final Consumer<List<T>> keep;

    /**
     * A field of each row.
     *
     * @param width 0 for what is left
     */
    record Column<T>(String prompt, double width, Function<T, String> text) {}

    /**
     * @param id stands before the names of its fields: {@code id-ROW-COLUMN}, {@code id-add}
     * @param make makes a thing of the texts of a row
     * @param keep hears of the changed list
     */
    RowList(String id, List<Column<T>> columns, Function<List<String>, T> make, Consumer<List<T>> keep) {
        this.id = id;
        this.columns = columns;
        this.make = make;
        this.keep = keep;
    }

    /** Puts the rows into a form, and under them what adds one. */
    void show(Form form, List<T> things, String add, T fresh) {
        for (int i = 0; i < things.size(); i++) {
            form.getChildren().add(row(things, i));
        }
        Button more = Form.link(add, "", () -> {
            List<T> all = new ArrayList<>(things);
            all.add(fresh);
            keep.accept(all);
        });
        more.setId(id + "-add");
        HBox foot = new HBox(more);
        foot.setPadding(new Insets(4, 12, 6, 6));
        form.getChildren().add(foot);
    }

    private HBox row(List<T> things, int index) {
        HBox row = new HBox(6);
        row.setAlignment(Pos.CENTER_LEFT);
        row.setPadding(new Insets(3, 12, 3, 12));
        List<TextField> fields = new ArrayList<>();
        for (int c = 0; c < columns.size(); c++) {
            Column<T> column = columns.get(c);
            TextField field =
                    Form.field(id + "-" + index + "-" + c, column.text().apply(things.get(index)), column.prompt());
            if (column.width() > 0) {
                field.setMinWidth(column.width());
                field.setMaxWidth(column.width());
            } else {
                HBox.setHgrow(field, Priority.ALWAYS);
            }
            Form.onEnd(field, () -> {
                List<T> all = new ArrayList<>(things);
                all.set(
                        index,
                        make.apply(fields.stream().map(f -> f.getText().strip()).toList()));
                keep.accept(all);
            });
            fields.add(field);
            row.getChildren().add(field);
        }
        Button away = Form.link("Remove", "", () -> {
            List<T> all = new ArrayList<>(things);
            all.remove(index);
            keep.accept(all);
        });
        away.setId(id + "-" + index + "-remove");
        away.setMinWidth(LINK);
        row.getChildren().add(away);
        Parts.classed(row, "rows", true);
        return row;
    }
}
