package dev.mockbell.suite;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Stream;

/** A step of a suite. Some hold others. */
public sealed interface Step {
    /** For people. */
    String name();

    /** Whether it is run; one that is switched off keeps its place. */
    boolean on();

    /** The full name of the case that it sends, as of {@link Case#reference()}; empty when it sends none. */
    default Optional<String> sends() {
        return Optional.empty();
    }

    /** The steps that it holds, in their order. */
    default List<Step> inner() {
        return List.of();
    }

    /** Whether steps can be put into it and taken out. */
    default boolean holds() {
        return false;
    }

    /** The same under another name. */
    Step named(String other);

    /** The same, switched on or off. */
    Step switched(boolean to);

    /** The same around other steps; itself where it holds none. */
    default Step around(List<Step> other) {
        return this;
    }

    /** Itself and all that it holds, at whatever depth. */
    default Stream<Step> all() {
        return Stream.concat(Stream.of(this), inner().stream().flatMap(Step::all));
    }

    /** Does what is due for its kind. */
    <R> R accept(Visitor<R> visitor);

    /** A step that sends a case. */
    static Step call(String name, String caseReference) {
        return new Call(name, true, caseReference, Optional.empty());
    }

    /**
     * Something that is done for each kind of step: running it, putting it under load, writing it. A new kind does not compile
     * before all know it.
     *
     * @param <R> what comes of it
     */
    interface Visitor<R> {
        R call(Call step);

        R pause(Pause step);

        R group(Group step);

        R until(Until step);

        R suite(RunSuite step);

        R choose(Choose step);

        R forEach(ForEach step);
    }

    /**
     * A case that is called, once or for each row of known values.
     *
     * @param caseReference the case's full name
     */
    record Call(String name, boolean on, String caseReference, Optional<KnownValues> known) implements Step {
        @Override
        public Optional<String> sends() {
            return Optional.of(caseReference);
        }

        @Override
        public Step named(String other) {
            return new Call(other, on, caseReference, known);
        }

        @Override
        public Step switched(boolean to) {
            return new Call(name, to, caseReference, known);
        }

        /** With other known values. */
        public Call with(Optional<KnownValues> other) {
            return new Call(name, on, caseReference, other);
        }

        @Override
        public <R> R accept(Visitor<R> visitor) {
            return visitor.call(this);
        }
    }

    /** Nothing is done for a while. */
    record Pause(String name, boolean on, long millis) implements Step {
        @Override
        public Step named(String other) {
            return new Pause(other, on, millis);
        }

        @Override
        public Step switched(boolean to) {
            return new Pause(name, to, millis);
        }

        @Override
        public <R> R accept(Visitor<R> visitor) {
            return visitor.pause(this);
        }
    }

    /** Steps that belong together. */
    record Group(String name, boolean on, List<Step> inner) implements Step {
        public Group {
            inner = List.copyOf(inner);
        }

        @Override
        public boolean holds() {
            return true;
        }

        @Override
        public Step named(String other) {
            return new Group(other, on, inner);
        }

        @Override
        public Step switched(boolean to) {
            return new Group(name, to, inner);
        }

        @Override
        public Step around(List<Step> other) {
            return new Group(name, on, other);
        }

        @Override
        public <R> R accept(Visitor<R> visitor) {
            return visitor.group(this);
        }
    }

    /**
     * Steps that are repeated until a condition holds.
     *
     * @param condition an XPath over the last answer and the variables
     * @param times at most
     * @param everyMillis between the start of one round and the next
     */
    record Until(String name, boolean on, String condition, int times, long everyMillis, List<Step> inner)
            implements Step {
        public Until {
            inner = List.copyOf(inner);
        }

        @Override
        public boolean holds() {
            return true;
        }

        @Override
        public Step named(String other) {
            return new Until(other, on, condition, times, everyMillis, inner);
        }

        @Override
        public Step switched(boolean to) {
            return new Until(name, to, condition, times, everyMillis, inner);
        }

        @Override
        public Step around(List<Step> other) {
            return new Until(name, on, condition, times, everyMillis, other);
        }

        @Override
        public <R> R accept(Visitor<R> visitor) {
            return visitor.until(this);
        }
    }

    /**
     * Another suite, with its set-up and clean-up; what it captures is carried on.
     *
     * @param suite its id
     * @param values of variables while it runs, with expressions in braces
     */
    record RunSuite(String name, boolean on, String suite, Map<String, String> values) implements Step {
        public RunSuite {
            values = Map.copyOf(values);
        }

        @Override
        public Step named(String other) {
            return new RunSuite(other, on, suite, values);
        }

        @Override
        public Step switched(boolean to) {
            return new RunSuite(name, to, suite, values);
        }

        @Override
        public <R> R accept(Visitor<R> visitor) {
            return visitor.suite(this);
        }
    }

    /**
     * One of two groups of steps, by a condition.
     *
     * @param condition an XPath over the last answer and the variables
     */
    record Choose(String name, boolean on, String condition, Group then, Group otherwise) implements Step {
        @Override
        public List<Step> inner() {
            return List.of(then, otherwise);
        }

        @Override
        public Step named(String other) {
            return new Choose(other, on, condition, then, otherwise);
        }

        @Override
        public Step switched(boolean to) {
            return new Choose(name, to, condition, then, otherwise);
        }

        @Override
        public Step around(List<Step> other) {
            return new Choose(name, on, condition, (Group) other.get(0), (Group) other.get(1));
        }

        @Override
        public <R> R accept(Visitor<R> visitor) {
            return visitor.choose(this);
        }
    }

    /**
     * Steps that are run for each row of a table, whose columns are variables then, or for each node of the last answer.
     *
     * @param table the rows; empty to go by nodes
     * @param nodes an XPath over the last answer and the variables; empty to go by rows
     * @param variable holds the node
     */
    record ForEach(String name, boolean on, Optional<DataTable> table, String nodes, String variable, List<Step> inner)
            implements Step {
        public ForEach {
            inner = List.copyOf(inner);
        }

        @Override
        public boolean holds() {
            return true;
        }

        @Override
        public Step named(String other) {
            return new ForEach(other, on, table, nodes, variable, inner);
        }

        @Override
        public Step switched(boolean to) {
            return new ForEach(name, to, table, nodes, variable, inner);
        }

        @Override
        public Step around(List<Step> other) {
            return new ForEach(name, on, table, nodes, variable, other);
        }

        @Override
        public <R> R accept(Visitor<R> visitor) {
            return visitor.forEach(this);
        }
    }
}
