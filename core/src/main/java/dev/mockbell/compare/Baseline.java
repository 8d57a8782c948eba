package dev.mockbell.compare;

import java.time.Instant;
import java.util.List;

/**
 * An answer that is known to be right, which later ones are held against.
 *
 * @param taken when it came
 * @param leftOut XPaths to what is not compared
 * @param xml its payload, without the values of secrets
 */
public record Baseline(Instant taken, List<String> leftOut, String xml) {
    public Baseline {
        leftOut = List.copyOf(leftOut);
    }

    /** With other parts left out. */
    public Baseline leaving(List<String> other) {
        return new Baseline(taken, other, xml);
    }
}
