package dev.mockbell.written;

import dev.mockbell.written.WrittenRow.Kind;
import java.util.ArrayList;
import java.util.List;

/**
 * Changes of a table of rows. Each gives other rows; a row moves, goes and is doubled with all that is in it.
 */
public final class RowEdits {
    private RowEdits() {}

    /** Rows, and the one to go on at. */
    public record Edited(List<WrittenRow> rows, int at) {
        public Edited {
            rows = List.copyOf(rows);
        }
    }

    /** The end, not included, of what belongs to a row: what is deeper, or what is in its operation or part. */
    public static int end(List<WrittenRow> rows, int at) {
        WrittenRow row = rows.get(at);
        int to = at + 1;
        while (to < rows.size() && isWithin(rows.get(to), row)) {
            to++;
        }
        return to;
    }

    private static boolean isWithin(WrittenRow one, WrittenRow of) {
        return switch (of.kind()) {
            case OPERATION -> one.kind() != Kind.OPERATION;
            case PART -> one.isField();
            case FIELD -> one.isField() && one.depth() > of.depth();
        };
    }

    /** A new field behind a row: in it where it is a part or a group, beside it otherwise. */
    public static Edited fieldAfter(List<WrittenRow> rows, int at) {
        WrittenRow row = rows.get(at);
        if (row.kind() == Kind.OPERATION) {
            return insert(rows, at + 1, List.of(WrittenRow.part(WrittenPart.Kind.TAKES, ""), empty(0)), at + 2);
        }
        boolean inside = row.kind() == Kind.PART || at + 1 < rows.size() && isWithin(rows.get(at + 1), row);
        int depth = row.kind() == Kind.PART ? 0 : inside ? row.depth() + 1 : row.depth();
        return insert(rows, at + 1, List.of(empty(depth)), at + 1);
    }

    private static WrittenRow empty(int depth) {
        return WrittenRow.field(depth, "", "", "", "", "");
    }

    private static Edited insert(List<WrittenRow> rows, int at, List<WrittenRow> more, int then) {
        List<WrittenRow> all = new ArrayList<>(rows);
        all.addAll(at, more);
        return new Edited(all, then);
    }

    /** A new operation behind the one that a row is of, with what it takes and gives. */
    public static Edited operationAfter(List<WrittenRow> rows, int at) {
        int to = rows.isEmpty() ? 0 : end(rows, operation(rows, Math.max(0, at)));
        return insert(
                rows,
                to,
                List.of(
                        WrittenRow.operation("", false, ""),
                        WrittenRow.part(WrittenPart.Kind.TAKES, ""),
                        empty(0),
                        WrittenRow.part(WrittenPart.Kind.GIVES, ""),
                        empty(0)),
                to);
    }

    /** The row of the operation that a row is of. */
    public static int operation(List<WrittenRow> rows, int at) {
        int index = at;
        while (index > 0 && rows.get(index).kind() != Kind.OPERATION) {
            index--;
        }
        return index;
    }

    /** A new part at the end of the operation that a row is of, with a field in it; a part that is there once is gone to. */
    public static Edited part(List<WrittenRow> rows, int at, WrittenPart.Kind kind) {
        int from = operation(rows, at);
        int to = end(rows, from);
        for (int i = from; i < to && kind != WrittenPart.Kind.FAILS; i++) {
            if (rows.get(i).kind() == Kind.PART && rows.get(i).part() == kind) {
                return fieldAfter(rows, i);
            }
        }
        return insert(
                rows, to, List.of(WrittenRow.part(kind, ""), empty(0)), kind == WrittenPart.Kind.FAILS ? to : to + 1);
    }

    /** Without a row and what is in it. */
    public static Edited without(List<WrittenRow> rows, int at) {
        List<WrittenRow> all = new ArrayList<>(rows);
        all.subList(at, end(rows, at)).clear();
        return new Edited(all, Math.max(0, Math.min(at, all.size() - 1)));
    }

    /** A field with what is in it so much deeper, or less deep; no deeper than the one above it allows. */
    public static Edited deeper(List<WrittenRow> rows, int at, int by) {
        WrittenRow row = rows.get(at);
        WrittenRow above = at == 0 ? row : rows.get(at - 1);
        int most = above.isField() ? above.depth() + 1 : 0;
        int depth = Math.max(0, Math.min(most, row.depth() + by));
        if (!row.isField() || depth == row.depth()) {
            return new Edited(rows, at);
        }
        List<WrittenRow> all = new ArrayList<>(rows);
        for (int i = at; i < end(rows, at); i++) {
            all.set(i, rows.get(i).at(rows.get(i).depth() + depth - row.depth()));
        }
        return new Edited(all, at);
    }

    /** A row with what is in it before the one that it follows, or behind the one that follows it, of those beside it. */
    public static Edited moved(List<WrittenRow> rows, int at, boolean up) {
        int to = end(rows, at);
        int from = up ? before(rows, at) : at;
        int middle = up ? at : to;
        boolean follows = !up && to < rows.size() && isBeside(rows.get(to), rows.get(at));
        if (up ? from < 0 : !follows) {
            return new Edited(rows, at);
        }
        int last = up ? to : end(rows, to);
        List<WrittenRow> all = new ArrayList<>(rows.subList(0, from));
        all.addAll(rows.subList(middle, last));
        all.addAll(rows.subList(from, middle));
        all.addAll(rows.subList(last, rows.size()));
        return new Edited(all, up ? from : at + last - middle);
    }

    private static int before(List<WrittenRow> rows, int at) {
        for (int i = at - 1; i >= 0; i--) {
            if (isBeside(rows.get(i), rows.get(at))) {
                return i;
            }
            if (!isWithin(
                    rows.get(i),
                    new WrittenRow(rows.get(at).kind(), rows.get(at).depth(), "", "", "", "", ""))) {
                return -1;
            }
        }
        return -1;
    }

    private static boolean isBeside(WrittenRow one, WrittenRow other) {
        return one.kind() == other.kind() && (!one.isField() || one.depth() == other.depth());
    }

    /** A row with what is in it, once more behind it; an operation's name gets a number. */
    public static Edited doubled(List<WrittenRow> rows, int at) {
        int to = end(rows, at);
        List<WrittenRow> copy = new ArrayList<>(rows.subList(at, to));
        copy.set(0, copy.get(0).with(WrittenRow.Column.NAME, copy.get(0).name() + "2"));
        return insert(rows, to, copy, to);
    }

    /** Rows put in behind a row: fields in the part that it is of, operations behind the operation that it is of. */
    public static Edited pasted(List<WrittenRow> rows, int at, List<WrittenRow> more) {
        if (more.isEmpty()) {
            return new Edited(rows, at);
        }
        if (rows.isEmpty() || more.get(0).kind() == Kind.OPERATION) {
            int to = rows.isEmpty() ? 0 : end(rows, operation(rows, at));
            return insert(rows, to, more, to);
        }
        if (more.get(0).kind() == Kind.PART) {
            int to = end(rows, operation(rows, at));
            return insert(rows, to, more, to);
        }
        WrittenRow row = rows.get(at);
        if (row.kind() == Kind.OPERATION) {
            List<WrittenRow> all = new ArrayList<>(List.of(WrittenRow.part(WrittenPart.Kind.TAKES, "")));
            all.addAll(more);
            return insert(rows, at + 1, all, at + 2);
        }
        int depth = row.isField() ? row.depth() : 0;
        // a row that was begun and left empty gives way
        boolean begun = row.isField() && row.name().isBlank() && row.type().isBlank() && end(rows, at) == at + 1;
        List<WrittenRow> all = new ArrayList<>(rows);
        int to = begun ? at : end(rows, at);
        if (begun) {
            all.remove(at);
        }
        all.addAll(to, more.stream().map(m -> m.at(m.depth() + depth)).toList());
        return new Edited(all, to);
    }
}
