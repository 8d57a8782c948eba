package dev.mockbell.mock;

/** What a mock does with a value once an answer is made and before it is sent. */
public sealed interface MemoryStep {
    /** The name of the value, without the dollar sign. */
    String name();

    /**
     * An expression for what it is kept under, so that one name holds many values: {@code $name?(key)} gives one back. Empty for a
     * single value.
     */
    String key();

    /** Does what is due for its kind. */
    <R> R accept(Visitor<R> visitor);

    /**
     * Something that is done for each kind.
     *
     * @param <R> what comes of it
     */
    interface Visitor<R> {
        R remember(Remember step);

        R forget(Forget step);
    }

    /**
     * Keeps a value, in place of the one that there was.
     *
     * @param value an expression over what the answer could see, and {@code $answer}, the payload that is given
     */
    record Remember(String name, String key, String value) implements MemoryStep {
        @Override
        public <R> R accept(Visitor<R> visitor) {
            return visitor.remember(this);
        }
    }

    /** Lets go of a value, or of all under its name where no key is given. */
    record Forget(String name, String key) implements MemoryStep {
        @Override
        public <R> R accept(Visitor<R> visitor) {
            return visitor.forget(this);
        }
    }
}
