package dev.mockbell.change;

import dev.mockbell.schema.SimpleType;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;

/** In what the values of a simple type became others: its base, its enumeration, each facet. */
final class ValueChanges {
    /** Which types hold all values of another, as they are written: the type that is held, what holds it. */
    private static final Set<String> HELD = Set.of("float double", "decimal double", "decimal float");

    private final SimpleType was;
    private final SimpleType is;
    private final List<Aspect> found = new ArrayList<>();

    private ValueChanges(SimpleType was, SimpleType is) {
        this.was = was;
        this.is = is;
    }

    static List<Aspect> of(SimpleType was, SimpleType is) {
        ValueChanges changes = new ValueChanges(was, is);
        changes.compare();
        return changes.found;
    }

    private void compare() {
        if (was.variety() != is.variety()) {
            add(base(was), base(is), Relation.OTHER);
            return;
        }
        if (!was.enumeration().isEmpty() || !is.enumeration().isEmpty()) {
            enumerations();
            return;
        }
        switch (was.variety()) {
            case LIST -> items();
            case UNION -> members();
            case ATOMIC -> atoms();
        }
    }

    private void add(String before, String after, Relation relation) {
        if (relation != Relation.SAME || !before.equals(after)) {
            found.add(new Aspect(before, after, relation));
        }
    }

    private static String base(SimpleType type) {
        return switch (type.variety()) {
            case LIST -> "list of " + type.item().map(ValueChanges::base).orElse("values");
            case UNION -> "one of several types";
            case ATOMIC -> "xs:" + type.builtIn();
        };
    }

    private void enumerations() {
        List<String> before = was.enumeration();
        List<String> after = is.enumeration();
        Relation relation = Relation.of(allAccepted(before, is), allAccepted(after, was));
        if (before.isEmpty() || after.isEmpty()) {
            add(values(was), values(is), relation);
            return;
        }
        Set<String> old = new HashSet<>(before);
        Set<String> now = new HashSet<>(after);
        List<String> words = new ArrayList<>();
        after.stream().filter(v -> !old.contains(v)).forEach(v -> words.add("+ " + v));
        before.stream().filter(v -> !now.contains(v)).forEach(v -> words.add("− " + v));
        if (!words.isEmpty()) {
            String shown = String.join(", ", words.subList(0, Math.min(4, words.size())))
                    + (words.size() > 4 ? ", and " + (words.size() - 4) + " more" : "");
            add(before.size() + (before.size() == 1 ? " value" : " values"), shown, relation);
        } else {
            add(base(was), base(is), relation);
        }
    }

    /** An open type holds a value or not; one without an enumeration is never all of a list of values. */
    private static boolean allAccepted(List<String> values, SimpleType by) {
        return !values.isEmpty() && values.stream().allMatch(by::accepts);
    }

    private static String values(SimpleType type) {
        int count = type.enumeration().size();
        return count == 0 ? type.summary() : count + (count == 1 ? " value" : " values");
    }

    private void items() {
        if (was.item().isPresent() && is.item().isPresent()) {
            found.addAll(of(was.item().get(), is.item().get()));
        }
        lengths();
    }

    private void members() {
        List<SimpleType> before = was.members();
        List<SimpleType> after = is.members();
        Relation relation = Relation.of(
                before.stream().allMatch(b -> after.stream().anyMatch(a -> holds(a, b))),
                after.stream().allMatch(a -> before.stream().anyMatch(b -> holds(b, a))));
        add(names(before), names(after), relation);
    }

    private static boolean holds(SimpleType whole, SimpleType part) {
        return Aspect.relation(of(part, whole)).holdsOld();
    }

    private static String names(List<SimpleType> members) {
        return String.join(" or ", members.stream().map(SimpleType::summary).toList());
    }

    private void atoms() {
        String before = was.primitive();
        String after = is.primitive();
        if (!before.equals(after)) {
            add(was.summary(), is.summary(), primitives(before, after));
            return;
        }
        Relation bounds = Range.of(was).to(Range.of(is));
        boolean otherBase = !was.builtIn().equals(is.builtIn());
        if (otherBase) {
            // an int that became a long is wider by its bounds, and white space is all that normalizedString leaves out
            add(base(was), base(is), bounds.and(digits()).and(stringKinds()));
        }
        if (bounds != Relation.SAME && !was.range().equals(is.range())) {
            add(orAny(was.range()), orAny(is.range()), bounds);
        }
        if (!otherBase) {
            digitsInWords();
        }
        lengths();
        patterns();
    }

    private static String orAny(String words) {
        return words.isEmpty() ? "any value" : words;
    }

    private Relation primitives(String before, String after) {
        boolean openAfter = "string".equals(after) && isOpen(is) || "anySimpleType".equals(after);
        boolean openBefore = "string".equals(before) && isOpen(was) || "anySimpleType".equals(before);
        return Relation.of(
                openAfter || HELD.contains(before + " " + after) && isOpen(is),
                openBefore || HELD.contains(after + " " + before) && isOpen(was));
    }

    private static boolean isOpen(SimpleType type) {
        Range range = Range.of(type);
        return type.patterns().isEmpty()
                && type.length().isEmpty()
                && type.minLength().orElse(0) == 0
                && type.maxLength().isEmpty()
                && range.low().isEmpty()
                && range.high().isEmpty()
                && type.totalDigits().isEmpty()
                && type.fractionDigits().isEmpty();
    }

    /** Names and tokens are strings that are held to a form; built-in patterns do not tell it to everybody. */
    private Relation stringKinds() {
        if (!"string".equals(was.primitive())) {
            return Relation.SAME;
        }
        List<String> plain = List.of("string", "normalizedString", "token");
        return Relation.of(plain.contains(is.builtIn()), plain.contains(was.builtIn()));
    }

    private Relation digits() {
        return most(was.totalDigits(), is.totalDigits()).and(most(was.fractionDigits(), is.fractionDigits()));
    }

    private void digitsInWords() {
        add("digits", was.totalDigits(), is.totalDigits());
        add("digits after the point", was.fractionDigits(), is.fractionDigits());
    }

    private void lengths() {
        if (was.length().isPresent() || is.length().isPresent()) {
            int low = was.length().or(was::minLength).orElse(0);
            int high = was.length().or(was::maxLength).orElse(Integer.MAX_VALUE);
            int lowNow = is.length().or(is::minLength).orElse(0);
            int highNow = is.length().or(is::maxLength).orElse(Integer.MAX_VALUE);
            Relation relation = Relation.of(lowNow <= low && highNow >= high, low <= lowNow && high >= highNow);
            if (relation != Relation.SAME) {
                add(length(low, high), length(lowNow, highNow), relation);
            }
            return;
        }
        int least = was.minLength().orElse(0);
        int leastNow = is.minLength().orElse(0);
        if (least != leastNow) {
            add(
                    "at least " + least + " long",
                    "at least " + leastNow + " long",
                    Relation.of(leastNow < least, least < leastNow));
        }
        add("long", was.maxLength(), is.maxLength());
    }

    private static String length(int low, int high) {
        if (low == high) {
            return "length " + low;
        }
        return high == Integer.MAX_VALUE
                ? low == 0 ? "any length" : "at least " + low + " long"
                : low + " to " + high + " long";
    }

    private static Relation most(Optional<Integer> before, Optional<Integer> after) {
        int old = before.orElse(Integer.MAX_VALUE);
        int now = after.orElse(Integer.MAX_VALUE);
        return Relation.of(now >= old, old >= now);
    }

    private void add(String of, Optional<Integer> before, Optional<Integer> after) {
        Relation relation = most(before, after);
        if (relation != Relation.SAME) {
            add(atMost(before, of), atMost(after, of), relation);
        }
    }

    private static String atMost(Optional<Integer> count, String of) {
        return count.map(n -> "at most " + n + " " + of)
                .orElse("long".equals(of) ? "any length" : "any number of " + of);
    }

    private void patterns() {
        Set<String> before = new HashSet<>(was.patterns());
        Set<String> after = new HashSet<>(is.patterns());
        if (before.equals(after) || !was.builtIn().equals(is.builtIn())) {
            return;
        }
        boolean oldHolds = before.containsAll(after);
        boolean newHeld = after.containsAll(before);
        add(pattern(was), pattern(is), oldHolds || newHeld ? Relation.of(oldHolds, newHeld) : Relation.UNKNOWN);
    }

    private static String pattern(SimpleType type) {
        return type.patterns().isEmpty() ? "any form" : String.join(" and ", type.patterns());
    }
}
