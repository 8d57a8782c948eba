package dev.mockbell.problem;

import java.time.Duration;
import java.util.Locale;

/** How long something took, in words: one form wherever it is said. */
public final class Took {
    private Took() {}

    /** {@code 92 ms}, {@code 1.5 s}, {@code 60 s}, {@code 12 min}. */
    public static String words(Duration time) {
        long millis = Math.round(time.toNanos() / 1e6);
        if (millis < 1_000) {
            return millis + " ms";
        }
        if (millis < 600_000) {
            String seconds = String.format(Locale.ROOT, "%.1f", millis / 1_000.0);
            return (seconds.endsWith(".0") ? seconds.substring(0, seconds.length() - 2) : seconds) + " s";
        }
        return Math.round(millis / 60_000.0) + " min";
    }
}
