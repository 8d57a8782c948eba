package dev.mockbell.sheet;

import dev.mockbell.problem.Problem;
import dev.mockbell.sheet.SheetRow.Kind;
import dev.mockbell.sheet.SheetRow.State;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;

/** Fills repeating elements from a table. */
final class PastedRows {
    private final Sheet sheet;

    PastedRows(Sheet sheet) {
        this.sheet = sheet;
    }

    int paste(SheetRow given, List<List<String>> table) {
        SheetRow row = given;
        if (row.state() == State.LEFT_OUT) {
            sheet.include(row);
            row = standing(row);
        }
        if (row.kind() == Kind.REPEATS) {
            row = row.children().get(0);
        }
        List<String> names = fields(row);
        List<List<String>> lines = new ArrayList<>(table);
        Set<String> known = new HashSet<>(names);
        boolean headed = !lines.isEmpty() && lines.get(0).stream().allMatch(c -> known.contains(c.strip()));
        List<String> columns =
                headed ? lines.remove(0).stream().map(String::strip).toList() : names;
        for (int i = 0; i < lines.size(); i++) {
            if (lines.get(i).size() > columns.size()) {
                throw Problem.input(
                        "Line " + (i + 1) + " has " + lines.get(i).size() + " cells, but " + row.label() + " has "
                                + columns.size() + " fields",
                        null,
                        "Name the columns in the first line: " + String.join(", ", names) + ".");
            }
        }
        SheetRow at = row;
        for (int i = 0; i < lines.size(); i++) {
            fill(at, columns, lines.get(i));
            if (i + 1 < lines.size()) {
                at = next(at);
            }
        }
        return lines.size();
    }

    private SheetRow standing(SheetRow leftOut) {
        return sheet.holder(leftOut).orElseThrow().children().stream()
                .filter(c -> c.target().place().equals(leftOut.target().place()))
                .findFirst()
                .orElseThrow();
    }

    /** The element itself when it has text, or else its attributes and the elements with text right in it. */
    private static List<String> fields(SheetRow row) {
        if (row.kind() == Kind.VALUE) {
            return List.of(row.label());
        }
        List<String> names = new ArrayList<>();
        for (SheetRow child : flat(row)) {
            if (child.kind() == Kind.VALUE || child.kind() == Kind.ATTRIBUTE) {
                names.add(child.label());
            }
        }
        return names;
    }

    private static List<SheetRow> flat(SheetRow row) {
        List<SheetRow> all = new ArrayList<>();
        for (SheetRow child : row.children()) {
            if (child.kind() == Kind.CHOICE) {
                all.addAll(child.children());
            } else {
                all.add(child);
            }
        }
        return all;
    }

    private void fill(SheetRow row, List<String> columns, List<String> cells) {
        for (int i = 0; i < cells.size(); i++) {
            if (row.kind() == Kind.VALUE) {
                sheet.setValue(row, cells.get(i));
                continue;
            }
            String name = columns.get(i);
            SheetRow now = sheet.now(row);
            Optional<SheetRow> field =
                    flat(now).stream().filter(c -> c.label().equals(name)).findFirst();
            boolean leaveOut =
                    cells.get(i).isEmpty() && field.filter(SheetRow::optional).isPresent();
            if (field.isEmpty() || leaveOut && field.get().state() == State.LEFT_OUT) {
                continue;
            }
            if (leaveOut) {
                sheet.leaveOut(field.get());
                continue;
            }
            if (field.get().state() == State.LEFT_OUT) {
                sheet.include(field.get());
                now = sheet.now(row);
                field = flat(now).stream().filter(c -> c.label().equals(name)).findFirst();
            }
            sheet.setValue(field.orElseThrow(), cells.get(i));
        }
    }

    /** The next one of the same kind, added when there is none. */
    private SheetRow next(SheetRow row) {
        Optional<SheetRow> following = following(row);
        if (following.isEmpty()) {
            sheet.addRepeat(row);
            following = following(row);
        }
        return following.orElseThrow();
    }

    private Optional<SheetRow> following(SheetRow row) {
        List<SheetRow> all = new ArrayList<>();
        sheet.holder(row).ifPresent(h -> level(h, all));
        for (int i = 0; i < all.size() - 1; i++) {
            if (all.get(i).id().equals(row.id())) {
                SheetRow next = all.get(i + 1);
                return next.label().equals(row.label()) && next.state() != State.LEFT_OUT
                        ? Optional.of(next)
                        : Optional.empty();
            }
        }
        return Optional.empty();
    }

    private static void level(SheetRow holder, List<SheetRow> into) {
        for (SheetRow child : holder.children()) {
            if (child.kind() == Kind.REPEATS) {
                level(child, into);
            } else {
                into.add(child);
            }
        }
    }
}
