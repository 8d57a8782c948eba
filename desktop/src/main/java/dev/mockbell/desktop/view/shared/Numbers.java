package dev.mockbell.desktop.view.shared;

import dev.mockbell.check.Verdict;
import dev.mockbell.desktop.part.Mark;
import dev.mockbell.exchange.Exchange.Outcome;
import dev.mockbell.load.Plain;
import java.util.Locale;

/** Numbers, sizes and times as people read them, and the mark of each result. */
public final class Numbers {
    private Numbers() {}

    /** A size in the unit that suits it, of a thousand each. */
    public static String bytes(long count) {
        if (count < 1_000) {
            return count + " B";
        }
        return count < 1_000_000
                ? String.format(Locale.ROOT, "%.1f KB", count / 1_000.0)
                : String.format(Locale.ROOT, "%.1f MB", count / 1_000_000.0);
    }

    /** A number with its thousands apart. */
    public static String whole(long number) {
        return String.format(Locale.ROOT, "%,d", number).replace(',', '\u2009');
    }

    /** Milliseconds, with as many digits as mean something. */
    public static String millis(double value) {
        return value < 10 ? String.format(Locale.ROOT, "%.1f", value) : whole(Math.round(value));
    }

    /** As short as it can be written: whole when it is. */
    public static String plain(double value) {
        return Plain.number(value);
    }

    /** The mark of a verdict. */
    public static Mark mark(Verdict verdict) {
        return switch (verdict) {
            case PASSED -> Mark.PASSED;
            case FAILED -> Mark.FAILED;
            case NOT_RUN, OFF -> Mark.STALE;
        };
    }

    /** The mark of how an exchange went. */
    public static Mark mark(Outcome outcome) {
        return switch (outcome) {
            case FINE -> Mark.PASSED;
            case FAULT -> Mark.FAULT;
            case FAILED -> Mark.FAILED;
        };
    }
}
