package dev.mockbell.desktop.model;

import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.time.ZonedDateTime;
import java.time.format.DateTimeFormatter;
import java.util.Locale;

/** Moments as people read them: a time of day alone is today's. */
public final class Moments {
    private static final DateTimeFormatter CLOCK = DateTimeFormatter.ofPattern("HH:mm:ss", Locale.ENGLISH);
    private static final DateTimeFormatter MILLIS = DateTimeFormatter.ofPattern("HH:mm:ss.SSS", Locale.ENGLISH);
    private static final DateTimeFormatter SHORT = DateTimeFormatter.ofPattern("HH:mm", Locale.ENGLISH);
    private static final DateTimeFormatter DAY = DateTimeFormatter.ofPattern("d MMM", Locale.ENGLISH);
    private static final DateTimeFormatter YEAR = DateTimeFormatter.ofPattern("d MMM yyyy", Locale.ENGLISH);

    private Moments() {}

    /** A moment to the second, in the zone of the machine; with its day when that is not today. */
    public static String toTheSecond(Instant at) {
        return toTheSecond(at.atZone(ZoneId.systemDefault()), LocalDate.now());
    }

    static String toTheSecond(ZonedDateTime at, LocalDate today) {
        return (at.toLocalDate().equals(today) ? "" : day(at, today) + " ") + CLOCK.format(at);
    }

    /** A moment to the second with its day and year, for what is kept. */
    public static String withDay(Instant at) {
        ZonedDateTime there = at.atZone(ZoneId.systemDefault());
        return YEAR.format(there) + " " + CLOCK.format(there);
    }

    /** As {@link #toTheSecond}, today to the millisecond. */
    public static String toTheMillisecond(Instant at) {
        ZonedDateTime there = at.atZone(ZoneId.systemDefault());
        LocalDate today = LocalDate.now();
        return there.toLocalDate().equals(today) ? MILLIS.format(there) : toTheSecond(there, today);
    }

    /** As {@link #toTheSecond}, to the minute. */
    public static String toTheMinute(Instant at) {
        ZonedDateTime there = at.atZone(ZoneId.systemDefault());
        LocalDate today = LocalDate.now();
        return (there.toLocalDate().equals(today) ? "" : day(there, today) + " ") + SHORT.format(there);
    }

    /** Where there is room for five letters: the minute of today, and of other days which it was. */
    public static String narrow(Instant at) {
        ZonedDateTime there = at.atZone(ZoneId.systemDefault());
        LocalDate today = LocalDate.now();
        return there.toLocalDate().equals(today) ? SHORT.format(there) : DAY.format(there);
    }

    private static String day(ZonedDateTime at, LocalDate today) {
        return (at.getYear() == today.getYear() ? DAY : YEAR).format(at);
    }
}
