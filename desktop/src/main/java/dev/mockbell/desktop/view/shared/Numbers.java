package dev.mockbell.desktop.view.shared;

import dev.mockbell.check.Verdict;
import dev.mockbell.desktop.part.Mark;
import dev.mockbell.exchange.Exchange.Outcome;
import java.time.Instant;
import java.time.ZoneId;
import java.time.format.DateTimeFormatter;
import java.util.Locale;

/** Numbers, sizes and times as people read them, and the mark of each result. */
public final class Numbers {
    private static final DateTimeFormatter CLOCK =
            DateTimeFormatter.ofPattern("HH:mm:ss").withZone(ZoneId.systemDefault());
    private static final DateTimeFormatter MILLIS =
            DateTimeFormatter.ofPattern("HH:mm:ss.SSS").withZone(ZoneId.systemDefault());
    private static final DateTimeFormatter SHORT =
            DateTimeFormatter.ofPattern("HH:mm").withZone(ZoneId.systemDefault());

    private Numbers() {}

    /** A moment of this day to the second, in the zone of the machine. */
    public static String clock(Instant at) {
        return CLOCK.format(at);
    }

    /** As {@link #clock}, to the millisecond. */
    public static String clockMillis(Instant at) {
        return MILLIS.format(at);
    }

    /** As {@link #clock}, to the minute. */
    public static String clockShort(Instant at) {
        return SHORT.format(at);
    }

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
        return value == Math.rint(value) ? String.valueOf((long) value) : String.valueOf(value);
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
