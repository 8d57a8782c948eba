package dev.mockbell.check;

import java.util.Optional;
import java.util.OptionalLong;

/** Something that an answer must hold to. */
public sealed interface Check {
    /** In a few words, for a list. */
    String title();

    /** Whether it is met by a fault alone, so that the fault of a case that has it is what was asked for. */
    default boolean wantsFault() {
        return false;
    }

    /** Whether it decides on what a fault means, one way or the other. */
    default boolean judgesFaults() {
        return wantsFault();
    }

    /** Whether the body of an answer that came in time with a good status must be read for it. */
    default boolean readsBody() {
        return true;
    }

    /** The time after which an answer fails it whatever it says, in milliseconds; empty when it may come at any time. */
    default OptionalLong latestMillis() {
        return OptionalLong.empty();
    }

    /** The path of the one value that it judges; empty when it judges more, or other things. */
    default Optional<String> judgedPath() {
        return Optional.empty();
    }

    /** Does what is due for its kind. */
    <R> R accept(Visitor<R> visitor);

    /**
     * Something that is done for each kind of check. A new kind does not compile before all who do something with checks know
     * it: its judgement, its form in a file, its words.
     *
     * @param <R> what comes of it
     */
    interface Visitor<R> {
        R valid(Valid check);

        R noFault(NoFault check);

        R fault(FaultIs check);

        R value(Value check);

        R condition(Condition check);

        R within(Within check);
    }

    /** The answer's body is valid against the contract; a fault's detail is where it is declared. */
    record Valid() implements Check {
        @Override
        public String title() {
            return "Valid against the contract";
        }

        @Override
        public <R> R accept(Visitor<R> visitor) {
            return visitor.valid(this);
        }
    }

    /** The answer is not a fault and its status says success. */
    record NoFault() implements Check {
        @Override
        public String title() {
            return "No fault";
        }

        @Override
        public boolean judgesFaults() {
            return true;
        }

        @Override
        public boolean readsBody() {
            return false;
        }

        @Override
        public <R> R accept(Visitor<R> visitor) {
            return visitor.noFault(this);
        }
    }

    /**
     * The answer is this fault.
     *
     * @param name local name of the element in the detail, or the code without its prefix; empty for any fault
     */
    record FaultIs(String name) implements Check {
        @Override
        public String title() {
            return name.isEmpty() ? "Some fault" : "Fault " + name;
        }

        @Override
        public boolean wantsFault() {
            return true;
        }

        @Override
        public <R> R accept(Visitor<R> visitor) {
            return visitor.fault(this);
        }
    }

    /**
     * A value in the answer.
     *
     * @param path an XPath over the payload
     * @param expected the text it must have; expressions in braces are filled. Numbers are compared as numbers
     */
    record Value(String path, String expected) implements Check {
        @Override
        public String title() {
            return path.substring(path.lastIndexOf('/') + 1) + " = " + expected;
        }

        @Override
        public Optional<String> judgedPath() {
            return Optional.of(path);
        }

        @Override
        public boolean judgesFaults() {
            return true;
        }

        @Override
        public <R> R accept(Visitor<R> visitor) {
            return visitor.value(this);
        }
    }

    /** A condition on the answer, an XPath that must be true. */
    record Condition(String xpath) implements Check {
        @Override
        public String title() {
            return xpath;
        }

        @Override
        public boolean judgesFaults() {
            return true;
        }

        @Override
        public <R> R accept(Visitor<R> visitor) {
            return visitor.condition(this);
        }
    }

    /** The whole answer came within a time, in milliseconds. */
    record Within(long millis) implements Check {
        @Override
        public String title() {
            return "Answered within " + millis + " ms";
        }

        @Override
        public OptionalLong latestMillis() {
            return OptionalLong.of(millis);
        }

        @Override
        public boolean readsBody() {
            return false;
        }

        @Override
        public <R> R accept(Visitor<R> visitor) {
            return visitor.within(this);
        }
    }
}
