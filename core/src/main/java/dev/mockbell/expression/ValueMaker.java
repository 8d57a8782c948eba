package dev.mockbell.expression;

import java.util.Optional;
import java.util.random.RandomGenerator;

/** Makes values of the types that are known where an expression stands. */
@FunctionalInterface
public interface ValueMaker {
    /** Knows no type. */
    ValueMaker NONE = (type, random) -> Optional.empty();

    /**
     * A value of a type.
     *
     * @param type a name as the contract writes it, {@code hb:HutId}, or of a built-in type, {@code xs:date}
     * @return empty when there is no such type
     */
    Optional<String> value(String type, RandomGenerator random);
}
