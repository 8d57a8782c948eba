package dev.mockbell.ledger;

import dev.mockbell.exchange.Exchange.Outcome;
import dev.mockbell.exchange.Exchange.Way;
import dev.mockbell.ledger.Condition.Field;
import dev.mockbell.problem.Problem;
import java.time.DateTimeException;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.time.OffsetDateTime;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.function.Function;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Stream;

/** Takes a typed filter apart. */
final class FilterReader {
    private static final Pattern PAST = Pattern.compile("(\\d{1,9})\\s*(s|m|min|h|d)");
    private static final int LONGEST = 20_000;

    private final String text;
    private int at;

    FilterReader(String text) {
        this.text = text;
        if (text.length() > LONGEST) {
            throw Problem.input("The filter has " + text.length() + " characters, too many", null, null);
        }
    }

    List<LedgerFilter.Term> terms() {
        List<LedgerFilter.Term> terms = new ArrayList<>();
        skip();
        while (at < text.length()) {
            boolean not = text.charAt(at) == '-' && at + 1 < text.length() && !blank(at + 1);
            if (not) {
                at++;
            }
            LedgerFilter.Term term = new LedgerFilter.Term(condition(), not);
            if (!terms.contains(term)) {
                terms.add(term);
            }
            skip();
        }
        return terms;
    }

    private void skip() {
        while (at < text.length() && blank(at)) {
            at++;
        }
    }

    private boolean blank(int index) {
        return Character.isWhitespace(text.charAt(index));
    }

    private Condition condition() {
        int colon = at;
        while (colon < text.length() && Character.isLetter(text.charAt(colon))) {
            colon++;
        }
        if (colon > at && colon < text.length() && text.charAt(colon) == ':') {
            Optional<Function<String, Condition>> kind =
                    kind(text.substring(at, colon).toLowerCase(Locale.ROOT));
            if (kind.isPresent()) {
                String word = text.substring(at, colon);
                at = colon + 1;
                String value = value();
                try {
                    return kind.get().apply(value);
                } catch (IllegalArgumentException | DateTimeException e) {
                    throw Problem.input("“" + word + ":" + value + "” cannot be asked: " + e.getMessage(), null, null);
                }
            }
        }
        // a word before a colon that is none of ours is text, such as urn:huts
        return new Condition.Holds(value(), false);
    }

    /** Up to the next blank, or what stands between quotes. */
    private String value() {
        StringBuilder value = new StringBuilder();
        boolean quoted = false;
        while (at < text.length() && (quoted || !blank(at))) {
            char c = text.charAt(at++);
            if (c == '\\' && quoted && at < text.length()) {
                value.append(text.charAt(at++));
            } else if (c == '"') {
                quoted = !quoted;
            } else {
                value.append(c);
            }
        }
        return value.toString();
    }

    private static Optional<Function<String, Condition>> kind(String word) {
        return Optional.ofNullable(
                switch (word) {
                    case "way" -> v -> new Condition.ByWay(one(Way.class, v));
                    case "result" -> v -> new Condition.ByResult(one(Outcome.class, v));
                    case "text" -> v -> new Condition.Holds(some(v), false);
                    case "word" -> v -> new Condition.Holds(some(v), true);
                    case "where" -> v -> new Condition.Where(some(v));
                    case "pinned" -> FilterReader::pinned;
                    case "time" -> FilterReader::during;
                    case "since" -> v -> new Condition.Since(past(v));
                    default ->
                        Stream.of(Field.values())
                                .filter(f -> f.word().equals(word))
                                .findFirst()
                                .<Function<String, Condition>>map(f -> v -> new Condition.Named(f, some(v)))
                                .or(() -> Stream.of(Figure.values())
                                        .filter(f -> f.word().equals(word))
                                        .findFirst()
                                        .map(f -> f::read))
                                .orElse(null);
                });
    }

    private static String some(String value) {
        if (value.isEmpty()) {
            throw new IllegalArgumentException("nothing stands behind the colon");
        }
        return value;
    }

    private static Condition pinned(String value) {
        if (!"yes".equals(value)) {
            throw new IllegalArgumentException("it is pinned:yes, or -pinned:yes for what is not");
        }
        return new Condition.Pinned();
    }

    private static <E extends Enum<E>> E one(Class<E> kind, String value) {
        return Stream.of(kind.getEnumConstants())
                .filter(e -> e.name().equalsIgnoreCase(value))
                .findFirst()
                .orElseThrow(() -> new IllegalArgumentException("it is one of "
                        + String.join(
                                ", ",
                                Stream.of(kind.getEnumConstants())
                                        .map(e -> e.name().toLowerCase(Locale.ROOT))
                                        .toList())));
    }

    private static Duration past(String value) {
        Matcher m = PAST.matcher(value.strip().toLowerCase(Locale.ROOT));
        if (!m.matches()) {
            throw new IllegalArgumentException("it takes a time such as 30s, 10m, 2h or 3d");
        }
        long amount = Long.parseLong(m.group(1));
        return switch (m.group(2)) {
            case "s" -> Duration.ofSeconds(amount);
            case "h" -> Duration.ofHours(amount);
            case "d" -> Duration.ofDays(amount);
            default -> Duration.ofMinutes(amount);
        };
    }

    private static Condition during(String value) {
        int dots = value.indexOf("..");
        if (dots < 0) {
            throw new IllegalArgumentException(
                    "it takes a span such as 10:15..10:20, 2026-11-28.. or 2026-11-28T10:15:00Z..2026-11-28T11:00:00Z");
        }
        return new Condition.During(moment(value.substring(0, dots)), moment(value.substring(dots + 2)));
    }

    /** A moment with its zone; without one, or without a date, by the clock of this machine. */
    private static Optional<Instant> moment(String text) {
        String t = text.strip();
        ZoneId here = ZoneId.systemDefault();
        if (t.isEmpty()) {
            return Optional.empty();
        }
        if (!t.contains("-")) {
            return Optional.of(
                    LocalTime.parse(t).atDate(LocalDate.now(here)).atZone(here).toInstant());
        }
        if (!t.contains("T")) {
            return Optional.of(LocalDate.parse(t).atStartOfDay(here).toInstant());
        }
        boolean zoned = t.endsWith("Z") || t.matches(".*[+-]\\d\\d:?\\d\\d$");
        return Optional.of(
                zoned
                        ? OffsetDateTime.parse(t).toInstant()
                        : LocalDateTime.parse(t).atZone(here).toInstant());
    }
}
