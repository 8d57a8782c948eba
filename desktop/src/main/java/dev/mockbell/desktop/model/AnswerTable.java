package dev.mockbell.desktop.model;

import dev.mockbell.expression.Expressions;
import dev.mockbell.sheet.SheetRow;
import dev.mockbell.suite.Case;
import dev.mockbell.table.Column;
import dev.mockbell.table.DatabaseTable;
import dev.mockbell.table.Shape;
import dev.mockbell.table.Table;
import dev.mockbell.table.TableWriter;
import dev.mockbell.table.TableWriter.Form;
import dev.mockbell.table.Type;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Consumer;
import java.util.function.UnaryOperator;
import javafx.beans.property.IntegerProperty;
import javafx.beans.property.SimpleIntegerProperty;
import org.w3c.dom.Document;

/** Repeated elements of the last answer as a table; what was chosen of it stays with the case while the program runs. */
public final class AnswerTable {
    private final Desk desk;
    private final CallModel call;
    private final Derived<Wanted, Table> tables;
    private final Derived<Same<Document>, List<Table.Repeated>> repeated;
    private final Map<String, Shape> shapes = new HashMap<>();
    private final IntegerProperty changes = new SimpleIntegerProperty();
    private Optional<Table> shown = Optional.empty();
    private Same<Document> of;
    private String trouble = "";

    private record Wanted(Same<Document> document, Shape shape) {}

    AnswerTable(Desk desk, CallModel call) {
        this.desk = desk;
        this.call = call;
        Expressions expressions = desk.expressions().looking();
        this.tables = new Derived<>(
                desk.tasks(),
                2,
                w -> Table.of(w.document().thing(), w.shape(), expressions, call.lookingScope()),
                problem -> {
                    trouble = problem.getMessage();
                    changes.set(changes.get() + 1);
                });
        this.repeated = new Derived<>(desk.tasks(), 3, d -> Table.repeated(d.thing(), 12), desk::tell);
        tables.changesProperty().addListener((o, was, now) -> changes.set(changes.get() + 1));
        repeated.changesProperty().addListener((o, was, now) -> changes.set(changes.get() + 1));
    }

    /** Lets go of the tables of an answer that is not shown any more. */
    void forget() {
        tables.forget();
        repeated.forget();
        shown = Optional.empty();
        of = null;
    }

    /** Grows when a table has come, or cannot be made. */
    public IntegerProperty changesProperty() {
        return changes;
    }

    private Optional<Same<Document>> document() {
        return Optional.ofNullable(call.calledProperty().get())
                .flatMap(c -> c.answer().content())
                .map(Same::new);
    }

    /** What repeats in the answer, the most first. */
    public List<Table.Repeated> repeated() {
        return document().flatMap(repeated::of).orElse(List.of());
    }

    private Optional<String> key() {
        return Optional.ofNullable(call.currentProperty().get()).map(Case::reference);
    }

    /** Whether it is still being looked for what repeats, so that nobody can say yet that nothing does. */
    public boolean isLooking() {
        return shape().isEmpty()
                && document().filter(d -> repeated.of(d).isEmpty()).isPresent();
    }

    /** What is wanted; by itself what repeats most. Empty when nothing does. */
    public Optional<Shape> shape() {
        return key().map(shapes::get).or(() -> repeated().stream().findFirst().map(r -> Shape.of(r.path())));
    }

    /** The table as it is wanted; the one before while it is being made, unless that is of another answer. */
    public Optional<Table> table() {
        Optional<Same<Document>> document = document();
        Optional<Shape> shape = shape();
        if (document.isEmpty() || shape.isEmpty()) {
            shown = Optional.empty();
            return shown;
        }
        Optional<Table> made = tables.of(new Wanted(document.get(), shape.get()));
        if (made.isPresent() || !document.get().equals(of)) {
            shown = made;
            of = document.get();
        }
        if (made.isPresent()) {
            trouble = "";
        }
        return shown;
    }

    /** Why there is no table of what is wanted; empty for nothing. */
    public String trouble() {
        return trouble;
    }

    /** Wants something else. */
    public void want(Shape other) {
        trouble = "";
        key().ifPresent(k -> shapes.put(k, other));
        changes.set(changes.get() + 1);
    }

    /** Wants other rows; what was chosen of the columns of the old ones is forgotten. */
    public void rows(String path) {
        String wanted = path.strip();
        if (!wanted.isEmpty() && shape().filter(s -> s.rows().equals(wanted)).isEmpty()) {
            want(Shape.of(wanted));
        }
    }

    /** Wants the repeated element that a row of the sheet is, or stands in. */
    public boolean around(SheetRow row) {
        Optional<String> path =
                row.kind() == SheetRow.Kind.REPEATS && !row.children().isEmpty()
                        ? Table.rowsAround(row.children().get(0).target().node())
                        : Optional.ofNullable(row.target().node()).flatMap(Table::rowsAround);
        path.ifPresent(this::rows);
        return path.isPresent();
    }

    /** Changes what is wanted last, also while that is being made, with the columns that are known by now. */
    public void change(UnaryOperator<Shape> change) {
        shape().map(s -> table().map(Table::shape)
                        .filter(t -> t.rows().equals(s.rows()))
                        .map(t -> s.with(joined(s.columns(), t.columns())))
                        .orElse(s))
                .ifPresent(s -> want(change.apply(s)));
    }

    private static List<Column> joined(List<Column> wanted, List<Column> known) {
        List<Column> all = new ArrayList<>(wanted);
        known.stream()
                .filter(k -> wanted.stream().noneMatch(w -> w.path().equals(k.path())))
                .forEach(all::add);
        return all;
    }

    /** Sorts by a column: up, down, and as the answer has it. */
    public void sort(Column column) {
        change(s -> {
            Optional<Shape.Sort> was = s.sort().filter(o -> o.path().equals(column.path()));
            return s.sorted(
                    was.isEmpty()
                            ? Optional.of(new Shape.Sort(column.path(), false))
                            : was.get().down() ? Optional.empty() : Optional.of(new Shape.Sort(column.path(), true)));
        });
    }

    /** Gives a column another type, which stays with other answers. */
    public void type(Column column, Type type) {
        change(s -> s.change(column.path(), c -> c.withType(type)));
    }

    /** The rows as text, for the clipboard. */
    public void text(Form form, Consumer<String> then) {
        shown.ifPresent(t -> desk.tasks().run(() -> TableWriter.text(t, form), then, desk::tell));
    }

    /** Writes the rows to a file, in place of one that is there. */
    public void write(Form form, Path file) {
        shown.ifPresent(t -> desk.tasks()
                .run(
                        () -> {
                            TableWriter.write(t, form, file);
                            return t.rows().size();
                        },
                        count -> desk.tell(Notice.good("Wrote " + count + " rows to " + file.getFileName() + ".")),
                        desk::tell));
    }

    /** Writes the rows into a table of a database. */
    public void write(DatabaseTable database) {
        shown.ifPresent(t -> desk.tasks()
                .run(
                        () -> database.write(t),
                        count -> desk.tell(Notice.good("Wrote " + count + " rows into " + database.name() + ".")),
                        desk::tell));
    }
}
