package dev.mockbell.suite;

import java.util.Optional;

/** A step of a suite. */
public sealed interface Step {
    /** For people. */
    String name();

    /** The full name of the case that it sends, as of {@link Case#reference()}; empty when it sends none. */
    Optional<String> sends();

    /** Does what is due for its kind. */
    <R> R accept(Visitor<R> visitor);

    /** A step that sends a case. */
    static Step call(String name, String caseReference) {
        return new Call(name, caseReference);
    }

    /**
     * Something that is done for each kind of step: running it, putting it under load, writing it. A new kind does not compile
     * before all know it.
     *
     * @param <R> what comes of it
     */
    interface Visitor<R> {
        R call(Call step);
    }

    /**
     * A case that is called.
     *
     * @param caseReference the case's full name
     */
    record Call(String name, String caseReference) implements Step {
        @Override
        public Optional<String> sends() {
            return Optional.of(caseReference);
        }

        @Override
        public <R> R accept(Visitor<R> visitor) {
            return visitor.call(this);
        }
    }
}
