package dev.mockbell.sheet;

import dev.mockbell.message.MessagePath;
import dev.mockbell.schema.AttributeDecl;
import dev.mockbell.schema.ElementDecl;
import dev.mockbell.schema.Occurs;
import dev.mockbell.schema.Particle;
import dev.mockbell.schema.SimpleType;
import java.util.List;
import java.util.Optional;
import org.w3c.dom.Element;
import org.w3c.dom.Node;

/**
 * One row of a sheet: a place in the message, filled or left out. A row is a picture of the message at one moment; after
 * an edit the sheet gives new ones, which keep their {@link #id()} where they stand for the same thing. Two rows are equal
 * only when they are the same object, so that comparing rows costs nothing.
 *
 * @param id names the row within its sheet, also a part that is left out
 * @param label the element's or attribute's local name
 * @param state whether and how the place is filled
 * @param value the text of a row without children; empty otherwise
 * @param type a short text on the type and its facets
 * @param index which of its like it is, from 1; 0 when it stands alone
 * @param count how many of its like there are
 * @param problem why the value is not valid, a sentence; empty when it is or when that is only known on sending
 * @param options values to choose from: of an enumeration, or the branches of a choice
 * @param tally what is so of this row and all below it
 */
public record SheetRow(
        String id,
        Kind kind,
        String label,
        State state,
        String value,
        String type,
        Occurs occurs,
        int index,
        int count,
        Optional<String> problem,
        List<String> options,
        String documentation,
        List<SheetRow> children,
        Tally tally,
        Target target) {
    /** What the row stands for. */
    public enum Kind {
        /** An element with other elements inside. */
        GROUP,
        /** An element with text. */
        VALUE,
        ATTRIBUTE,
        /** The place where one of several branches stands. */
        CHOICE,
        /** Many of one kind, gathered so that they can be folded. */
        REPEATS,
        /** Text between elements. */
        TEXT,
        /** The place where any element may stand. */
        WILDCARD,
        /** An element that the contract does not know here. */
        UNKNOWN
    }

    /** How the place is filled. */
    public enum State {
        PRESENT,
        /** Present and {@code xsi:nil}. */
        NIL,
        LEFT_OUT
    }

    /**
     * Sums over a row and all below it.
     *
     * @param problems how many are not valid
     * @param first the first of them: what and why; empty when all is valid
     * @param leftOut how many optional parts are left out
     * @param rows how many rows there are
     */
    public record Tally(int problems, String first, int leftOut, int rows) {
        private static final Tally FINE = new Tally(0, "", 0, 1);

        static Tally of(String label, State state, boolean optional, Optional<String> problem, List<SheetRow> below) {
            int problems = problem.isPresent() ? 1 : 0;
            String first = problem.map(p -> label + ": " + p).orElse("");
            int leftOut = state == State.LEFT_OUT && optional ? 1 : 0;
            if (problems + leftOut == 0 && below.isEmpty()) {
                return FINE;
            }
            int rows = 1;
            for (SheetRow child : below) {
                first = problems == 0 ? child.tally.first : first;
                problems += child.tally.problems;
                leftOut += child.tally.leftOut;
                rows += child.tally.rows;
            }
            return new Tally(problems, first, leftOut, rows);
        }
    }

    /**
     * One standing of a group of the content model that may be left out or may repeat.
     *
     * @param number which standing, from 0
     * @param nodes what stands of it; empty when nothing does
     */
    record Round(Particle.OfGroup group, int number, int rounds, List<Node> nodes) {
        boolean canGo() {
            return nodes.isEmpty()
                    ? group.occurs().optional()
                    : rounds > group.occurs().min();
        }
    }

    /**
     * Where in the document an edit of the row takes place; for the sheet alone.
     *
     * @param place names the place among the parent's, the same whether it is filled or not
     */
    public record Target(
            Element parent,
            Node before,
            Node node,
            Optional<ElementDecl> element,
            Optional<AttributeDecl> attribute,
            Optional<SimpleType> simple,
            List<Node> nodes,
            List<Particle> branches,
            Optional<Round> round,
            String place) {
        static Target of(Element parent, Node before, Node node, String place) {
            return new Target(
                    parent,
                    before,
                    node,
                    Optional.empty(),
                    Optional.empty(),
                    Optional.empty(),
                    List.of(),
                    List.of(),
                    Optional.empty(),
                    place);
        }

        Target declared(ElementDecl declared) {
            return new Target(
                    parent,
                    before,
                    node,
                    Optional.ofNullable(declared),
                    attribute,
                    simple,
                    nodes,
                    branches,
                    round,
                    place);
        }

        Target declared(AttributeDecl declared) {
            return new Target(
                    parent,
                    before,
                    node,
                    element,
                    Optional.ofNullable(declared),
                    simple,
                    nodes,
                    branches,
                    round,
                    place);
        }

        Target typed(Optional<SimpleType> type) {
            return new Target(parent, before, node, element, attribute, type, nodes, branches, round, place);
        }

        Target holding(List<Node> held, List<Particle> parts) {
            return new Target(parent, before, node, element, attribute, simple, held, parts, round, place);
        }

        Target in(Round standing) {
            return new Target(
                    parent, before, node, element, attribute, simple, nodes, branches, Optional.of(standing), place);
        }
    }

    @Override
    public boolean equals(Object other) {
        return this == other;
    }

    @Override
    public int hashCode() {
        return System.identityHashCode(this);
    }

    SheetRow numbered(int newIndex, int newCount) {
        return with(newIndex, newCount, problem, children, tally, target);
    }

    SheetRow at(Target newTarget) {
        return with(index, count, problem, children, tally, newTarget);
    }

    SheetRow flawed(String why) {
        Optional<String> flaw = Optional.of(why);
        return with(index, count, flaw, children, Tally.of(label, state, optional(), flaw, children), target);
    }

    /** The row over other rows than before; for a row that is there. */
    SheetRow over(List<SheetRow> newChildren) {
        return with(
                index, count, problem, newChildren, Tally.of(label, state, optional(), problem, newChildren), target);
    }

    private SheetRow with(
            int newIndex,
            int newCount,
            Optional<String> newProblem,
            List<SheetRow> newChildren,
            Tally newTally,
            Target newTarget) {
        return new SheetRow(
                id,
                kind,
                label,
                state,
                value,
                type,
                occurs,
                newIndex,
                newCount,
                newProblem,
                options,
                documentation,
                newChildren,
                newTally,
                newTarget);
    }

    /** Whether a switch belongs on the row: it may be there or not, alone or with the group that it is part of. */
    public boolean optional() {
        if (kind == Kind.UNKNOWN || kind == Kind.REPEATS || kind == Kind.TEXT || kind == Kind.WILDCARD) {
            return false;
        }
        return occurs.optional() || target.round().filter(Round::canGo).isPresent();
    }

    /** Whether it can be taken out of the message, whether or not the contract allows that. */
    public boolean removable() {
        return kind == Kind.UNKNOWN
                || kind == Kind.TEXT
                || kind == Kind.ATTRIBUTE && state == State.PRESENT
                || target.node() instanceof Element && target.parent() != null;
    }

    /** Whether text can be typed into it. */
    public boolean editable() {
        return state == State.PRESENT && (kind == Kind.VALUE || kind == Kind.ATTRIBUTE || kind == Kind.TEXT);
    }

    /** Whether one more of it may stand. */
    public boolean canRepeat() {
        return occurs.repeats()
                && kind != Kind.ATTRIBUTE
                && kind != Kind.WILDCARD
                && state != State.LEFT_OUT
                && occurs.allows(count);
    }

    /** Whether one more of the group that it is part of may stand. */
    public boolean canRepeatGroup() {
        return target.round()
                .filter(r -> !r.nodes().isEmpty()
                        && r.group().occurs().repeats()
                        && r.group().occurs().allows(r.rounds()))
                .isPresent();
    }

    /** Whether it may be marked as having no value. */
    public boolean canBeNil() {
        return target.element().filter(e -> e.nillable() && e.fixed().isEmpty()).isPresent()
                && state != State.LEFT_OUT
                && kind != Kind.REPEATS;
    }

    /** The type of the text, for an editor that suits it; empty for a row without text or without a type. */
    public Optional<SimpleType> simple() {
        return target.simple();
    }

    /** What says how often the element is written, {@code for $hut in //hut}; empty where nothing does. */
    public String instruction() {
        return InstructionEdits.of(target.node());
    }

    /** The names on the way to the element, as an XPath over the message; empty for a part that is left out. */
    public String path() {
        return target.node() == null ? "" : MessagePath.of(target.node());
    }

    /** As {@link #path()}, with the prefixes of the message. */
    public String prefixedPath() {
        return target.node() == null ? "" : MessagePath.prefixed(target.node());
    }

    /** The values of the first few fields below, for a row that is folded. */
    public String gist() {
        if (kind == Kind.REPEATS) {
            return "× " + count;
        }
        StringBuilder text = new StringBuilder();
        for (SheetRow child : children) {
            if (child.kind == Kind.VALUE && child.state == State.PRESENT && !child.value.isEmpty()) {
                if (text.length() > 0) {
                    text.append(", ");
                }
                text.append(child.value);
            }
            if (text.length() > 40) {
                break;
            }
        }
        return text.toString();
    }
}
