package dev.mockbell.request;

import dev.mockbell.expression.Braces;
import java.util.List;
import java.util.Set;
import java.util.function.UnaryOperator;

/** One step in making a request. Stages run in a fixed order, each adding to the draft what later ones build on. */
sealed interface Stage permits AddressStage, EnvelopeStage, SecurityStage, HeadStage, CharsetStage {
    /**
     * When what the stage makes can change.
     *
     * @param captured names of the variables that steps capture
     */
    default Changes changes(Set<String> captured) {
        Changes all = Changes.NEVER;
        for (Braces text : texts()) {
            all = all.and(Changes.of(text, captured));
        }
        return all;
    }

    /** The texts with expressions that it fills. */
    List<Braces> texts();

    /** The same stage with other texts. */
    Stage with(UnaryOperator<Braces> change);

    /** Adds what the stage makes. */
    void apply(Draft draft);
}
