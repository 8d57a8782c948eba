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

    public static String clock(Instant at) {
        return CLOCK.format(at);
    }

    public static String clockMillis(Instant at) {
        return MILLIS.format(at);
    }

    public static String clockShort(Instant at) {
        return SHORT.format(at);
    }

    public static String bytes(long count) {
        if (count < 1_000) {
            return count + " B";
        }
        return count < 1_000_000
                ? String.format(Locale.ROOT, "%.1f KB", count / 1_000.0)
                : String.format(Locale.ROOT, "%.1f MB", count / 1_000_000.0);
    }

    public static String whole(long number) {
        return String.format(Locale.ROOT, "%,d", number).replace(',', '\u2009');
    }

    public static String millis(double value) {
        return value < 10 ? String.format(Locale.ROOT, "%.1f", value) : whole(Math.round(value));
    }

    public static Mark mark(Verdict verdict) {
        return switch (verdict) {
            case PASSED -> Mark.PASSED;
            case FAILED -> Mark.FAILED;
            case NOT_RUN -> Mark.STALE;
        };
    }

    public static Mark mark(Outcome outcome) {
        return switch (outcome) {
            case FINE -> Mark.PASSED;
            case FAULT -> Mark.FAULT;
            case FAILED -> Mark.FAILED;
        };
    }
}
