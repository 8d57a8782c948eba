package dev.mockbell.sheet;

import dev.mockbell.message.Prefixes;
import dev.mockbell.sample.SampleValues;
import dev.mockbell.schema.ElementDecl;
import dev.mockbell.sheet.SheetRow.Kind;
import dev.mockbell.sheet.SheetRow.State;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/** Puts optional parts in and out over a whole message, by the same steps as one by one. */
final class Filling {
    private static final int MOST = 4_000;
    private static final int DEEPEST = 24;

    private final Sheet sheet;
    private int added;

    Filling(Sheet sheet) {
        this.sheet = sheet;
    }

    /** Puts in what is left out, as a full sample would: recursion ends where a type comes back. */
    void all() {
        sheet.root().ifPresent(r -> fill(r, Set.of(), 0));
    }

    private void fill(SheetRow given, Set<ElementDecl> around, int depth) {
        if (depth > DEEPEST) {
            return;
        }
        Set<String> tried = new HashSet<>();
        Optional<SheetRow> next = missing(given, around, tried);
        while (next.isPresent() && added < MOST) {
            sheet.include(next.get());
            added++;
            next = missing(given, around, tried);
        }
        SheetRow row = sheet.now(given);
        Set<ElementDecl> inside = new HashSet<>(around);
        row.target().element().ifPresent(inside::add);
        for (SheetRow child : row.children()) {
            if (!child.children().isEmpty()) {
                fill(child, inside, depth + 1);
            }
        }
    }

    private Optional<SheetRow> missing(SheetRow given, Set<ElementDecl> around, Set<String> tried) {
        return sheet.now(given).children().stream()
                .filter(c -> c.state() == State.LEFT_OUT && c.optional())
                .filter(c -> !tried.contains(c.id()) && !isRecursive(c, around))
                .findFirst()
                .map(c -> {
                    tried.add(c.id());
                    return c;
                });
    }

    private static boolean isRecursive(SheetRow row, Set<ElementDecl> around) {
        return row.target()
                .element()
                .filter(d -> around.stream()
                        .anyMatch(a -> a == d
                                || a.type().name().isPresent()
                                        && a.type().name().equals(d.type().name())))
                .isPresent();
    }

    /** Takes out what may be left out. What was typed there comes back when it is put in again. */
    void requiredOnly() {
        sheet.root().ifPresent(r -> strip(r, row -> true));
    }

    /** Takes out what may be left out and still has the values of a sample. */
    void whatDiffers() {
        sheet.root().ifPresent(r -> strip(r, row -> !differs(row)));
    }

    private interface Wish {
        boolean out(SheetRow row);
    }

    private void strip(SheetRow given, Wish wish) {
        List<SheetRow> children = sheet.now(given).children();
        // from the end, so that extra repeats go from the last one on
        for (int i = children.size() - 1; i >= 0; i--) {
            SheetRow child = sheet.standing(children.get(i)).orElse(null);
            if (child == null || child.state() == State.LEFT_OUT) {
                continue;
            }
            boolean extra = child.count() > Math.max(child.occurs().min(), 1)
                    && child.target().node() != null;
            boolean spare = child.optional() || extra;
            if (spare && isKnown(child) && wish.out(child)) {
                sheet.leaveOut(child);
            } else if (!child.children().isEmpty()) {
                strip(child, wish);
            }
        }
    }

    private static boolean isKnown(SheetRow row) {
        return row.kind() == Kind.CHOICE
                || row.kind() != Kind.REPEATS && row.target().element().isPresent()
                || row.target().attribute().isPresent();
    }

    /** Whether a value below the row is another than a sample has there. */
    private static boolean differs(SheetRow row) {
        if (row.state() == State.NIL || row.kind() == Kind.TEXT) {
            return true;
        }
        if (row.state() == State.LEFT_OUT) {
            return false;
        }
        boolean value = row.kind() == Kind.VALUE || row.kind() == Kind.ATTRIBUTE;
        if (value && isTyped(row)) {
            return true;
        }
        return row.kind() == Kind.UNKNOWN || row.children().stream().anyMatch(c -> differs(c));
    }

    private static boolean isTyped(SheetRow row) {
        String name = row.label().replaceFirst("^@", "");
        Optional<String> given = row.target()
                .element()
                .flatMap(e -> e.fixed().or(e::byDefault))
                .or(() -> row.target().attribute().flatMap(a -> a.fixed().or(a::byDefault)));
        if (given.isPresent()) {
            return !given.get().equals(row.value());
        }
        if (row.simple().isEmpty()) {
            return !row.value().equals(SampleValues.words(name));
        }
        for (int variant = 0; variant <= Math.min(row.index(), 3); variant++) {
            String sample =
                    new SampleValues(new Prefixes(Map.of())).of(row.simple().get(), name, variant);
            if (sample.equals(row.value())) {
                return false;
            }
        }
        return true;
    }
}
