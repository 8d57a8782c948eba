package dev.mockbell.table;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.UnaryOperator;

/**
 * What is wanted of a table.
 *
 * @param rows an XPath over the message that leads to the elements which are rows
 * @param where an XPath over each row that must be true; empty for all
 * @param most how many rows are taken, after sorting; 0 for all
 * @param columns those that were seen so far, with what was chosen of them, in their order
 * @param sort by which column; empty for the message's order
 */
public record Shape(String rows, String where, int most, List<Column> columns, Optional<Sort> sort) {
    /** @param path the column's */
    public record Sort(String path, boolean down) {}

    public Shape {
        columns = List.copyOf(columns);
    }

    /** All columns of all rows. */
    public static Shape of(String rows) {
        return new Shape(rows, "", 0, List.of(), Optional.empty());
    }

    public Shape where(String other) {
        return new Shape(rows, other.strip(), most, columns, sort);
    }

    public Shape most(int other) {
        return new Shape(rows, where, Math.max(0, other), columns, sort);
    }

    public Shape with(List<Column> other) {
        return new Shape(rows, where, most, other, sort);
    }

    public Shape sorted(Optional<Sort> other) {
        return new Shape(rows, where, most, columns, other);
    }

    /** With a column changed. */
    public Shape change(String path, UnaryOperator<Column> change) {
        return with(columns.stream()
                .map(c -> c.path().equals(path) ? change.apply(c) : c)
                .toList());
    }

    /** With a column in another place. */
    public Shape move(String path, int to) {
        List<Column> all = new ArrayList<>(columns);
        for (int i = 0; i < all.size(); i++) {
            if (all.get(i).path().equals(path)) {
                Column moved = all.remove(i);
                all.add(Math.max(0, Math.min(to, all.size())), moved);
                break;
            }
        }
        return with(all);
    }
}
