package dev.mockbell.sheet;

import dev.mockbell.schema.Particle;
import dev.mockbell.sheet.SheetRow.Kind;
import dev.mockbell.sheet.SheetRow.State;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;

/** Leads along a path and puts in what is left out on the way: parts, branches of choices, elements that substitute. */
final class Reach {
    /** How many choices within choices may be taken for one step. */
    private static final int MOST_TURNS = 20;

    private static final int MOST_ADDED = 1_000;

    private final Sheet sheet;

    Reach(Sheet sheet) {
        this.sheet = sheet;
    }

    /** The row at a path of names and positions; empty when the contract has no such place. */
    Optional<SheetRow> at(String path) {
        String[] steps = path.strip().replaceFirst("^/+", "").split("/");
        Optional<SheetRow> at = sheet.root().filter(r -> r.label().equals(local(steps[0])) && position(steps[0]) == 1);
        for (int i = 1; i < steps.length && at.isPresent(); i++) {
            at = child(at.get(), steps[i]);
        }
        return at.map(sheet::now);
    }

    /** One of several comes with those before it, as far as the contract allows so many. */
    private Optional<SheetRow> child(SheetRow holder, String step) {
        Optional<SheetRow> there = standing(sheet.now(holder), step);
        int wanted = position(step);
        if (there.isPresent() || wanted < 2 || wanted > MOST_ADDED) {
            return there.filter(r -> r.state() != State.LEFT_OUT).or(() -> first(holder, step));
        }
        Optional<SheetRow> last = first(holder, local(step));
        for (int i = 2; i <= wanted && last.isPresent(); i++) {
            Optional<SheetRow> next = standing(sheet.now(holder), local(step) + "[" + i + "]");
            if (next.isEmpty() && (last.get().canRepeat() || last.get().canRepeatGroup())) {
                if (last.get().canRepeat()) {
                    sheet.addRepeat(last.get());
                } else {
                    sheet.addGroup(last.get());
                }
                next = standing(sheet.now(holder), local(step) + "[" + i + "]");
            }
            last = next;
        }
        return last;
    }

    private Optional<SheetRow> first(SheetRow holder, String step) {
        for (int turn = 0; turn < MOST_TURNS; turn++) {
            Optional<SheetRow> found = standing(sheet.now(holder), step);
            if (found.filter(r -> r.state() != State.LEFT_OUT).isPresent()) {
                return found;
            }
            String before = sheet.text();
            if (found.isPresent()) {
                sheet.include(found.get());
            } else {
                openUp(sheet.now(holder).children(), local(step));
            }
            if (sheet.text().equals(before)) {
                return Optional.empty();
            }
        }
        return Optional.empty();
    }

    /** What a step leads to: the one that stands at its position, or else what is left out. */
    private static Optional<SheetRow> standing(SheetRow holder, String step) {
        List<SheetRow> named = new ArrayList<>();
        collect(holder, local(step), named);
        List<SheetRow> present =
                named.stream().filter(r -> r.state() != State.LEFT_OUT).toList();
        int at = position(step) - 1;
        if (at >= 0 && at < present.size()) {
            return Optional.of(present.get(at));
        }
        return at == 0 ? named.stream().findFirst() : Optional.empty();
    }

    private static void collect(SheetRow holder, String name, List<SheetRow> into) {
        for (SheetRow row : holder.children()) {
            if (row.kind() == Kind.CHOICE || row.kind() == Kind.REPEATS) {
                collect(row, name, into);
            } else if (row.label().equals(name)) {
                into.add(row);
            }
        }
    }

    /** Takes one step towards an element of that name: a branch that has it, or the element in place of another. */
    private boolean openUp(List<SheetRow> rows, String name) {
        for (SheetRow row : rows) {
            boolean done = switch (row.kind()) {
                case CHOICE -> take(row, name);
                case REPEATS -> openUp(row.children(), name);
                default -> stand(row, name);
            };
            if (done) {
                return true;
            }
        }
        return false;
    }

    private boolean take(SheetRow choice, String name) {
        if (openUp(choice.children(), name)) {
            return true;
        }
        List<Particle> branches = choice.target().branches();
        for (int i = 0; i < branches.size(); i++) {
            String option = choice.options().get(i);
            if (has(branches.get(i), name) && !option.equals(choice.value())) {
                sheet.choose(choice, option);
                return true;
            }
        }
        return false;
    }

    private static boolean has(Particle branch, String name) {
        return SheetShape.places(branch).names().stream()
                .anyMatch(n -> n.getLocalPart().equals(name));
    }

    private boolean stand(SheetRow row, String name) {
        boolean substitutes = row.target()
                .element()
                .filter(e -> Stream.concat(Stream.of(e), e.substitutes().stream())
                        .anyMatch(s -> s.name().getLocalPart().equals(name)))
                .isPresent();
        if (!substitutes || row.kind() == Kind.ATTRIBUTE) {
            return false;
        }
        if (row.state() == State.LEFT_OUT) {
            sheet.include(row);
            return true;
        }
        Optional<Variant> variant = sheet.variants(row).stream()
                .filter(v -> !v.isType() && v.title().equals(name))
                .findFirst();
        variant.ifPresent(v -> sheet.become(row, v));
        return variant.isPresent();
    }

    private static String local(String step) {
        int bracket = step.indexOf('[');
        return (bracket < 0 ? step : step.substring(0, bracket)).replaceFirst("^(@?)[^:/]*:", "$1");
    }

    /** Which of several a step means, from 1; 0 when it does not say so in a way that can be read. */
    private static int position(String step) {
        int bracket = step.indexOf('[');
        if (bracket < 0) {
            return 1;
        }
        String digits = step.substring(bracket + 1).replace("]", "").strip();
        return digits.matches("[0-9]{1,9}") ? Integer.parseInt(digits) : 0;
    }
}
