package dev.mockbell.desktop.view.shared;

import dev.mockbell.check.Verdict;
import dev.mockbell.desktop.part.Mark;
import dev.mockbell.exchange.Exchange.Outcome;
import dev.mockbell.load.Plain;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.time.ZonedDateTime;
import java.time.format.DateTimeFormatter;
import java.util.Locale;

/** Numbers, sizes and times as people read them, and the mark of each result. */
public final class Numbers {
    private static final DateTimeFormatter CLOCK = DateTimeFormatter.ofPattern("HH:mm:ss", Locale.ENGLISH);
    private static final DateTimeFormatter MILLIS = DateTimeFormatter.ofPattern("HH:mm:ss.SSS", Locale.ENGLISH);
    private static final DateTimeFormatter SHORT = DateTimeFormatter.ofPattern("HH:mm", Locale.ENGLISH);
    private static final DateTimeFormatter DAY = DateTimeFormatter.ofPattern("d MMM", Locale.ENGLISH);
    private static final DateTimeFormatter YEAR = DateTimeFormatter.ofPattern("d MMM yyyy", Locale.ENGLISH);

    private Numbers() {}

    /** A moment to the second, in the zone of the machine; with its day when that is not today. */
    public static String clock(Instant at) {
        return clock(at.atZone(ZoneId.systemDefault()), LocalDate.now());
    }

    static String clock(ZonedDateTime at, LocalDate today) {
        return (at.toLocalDate().equals(today) ? "" : day(at, today) + " ") + CLOCK.format(at);
    }

    /** As {@link #clock}, today to the millisecond. */
    public static String clockMillis(Instant at) {
        ZonedDateTime there = at.atZone(ZoneId.systemDefault());
        LocalDate today = LocalDate.now();
        return there.toLocalDate().equals(today) ? MILLIS.format(there) : clock(there, today);
    }

    /** As {@link #clock}, to the minute. */
    public static String clockShort(Instant at) {
        ZonedDateTime there = at.atZone(ZoneId.systemDefault());
        LocalDate today = LocalDate.now();
        return (there.toLocalDate().equals(today) ? "" : day(there, today) + " ") + SHORT.format(there);
    }

    /** Where there is room for five letters: the minute of today, and of other days which it was. */
    public static String clockNarrow(Instant at) {
        ZonedDateTime there = at.atZone(ZoneId.systemDefault());
        LocalDate today = LocalDate.now();
        return there.toLocalDate().equals(today) ? SHORT.format(there) : DAY.format(there);
    }

    private static String day(ZonedDateTime at, LocalDate today) {
        return (at.getYear() == today.getYear() ? DAY : YEAR).format(at);
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
