package dev.mockbell.ledger;

import java.util.Locale;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** The numbers of a line, and how people write them. */
public enum Figure {
    /** The number on the ledger. */
    NUMBER("number", "id"),
    /** The status; 0 where no answer came. */
    STATUS("status", "status"),
    /** The whole time in nanoseconds. */
    TOOK("took", "nanos"),
    /** The size of the request's body in bytes. */
    SENT("sent", "sent"),
    /** The size of the response's body in bytes. */
    RECEIVED("received", "received");

    private static final Pattern AMOUNT = Pattern.compile("(\\d+(?:\\.\\d+)?)\\s*([a-zµ]*)");
    private static final Pattern CLASS = Pattern.compile("([1-5])xx");

    private final String word;
    private final String column;

    Figure(String word, String column) {
        this.word = word;
        this.column = column;
    }

    public String word() {
        return word;
    }

    String column() {
        return column;
    }

    /**
     * Reads {@code 500}, {@code 5xx}, {@code none}, {@code 200ms..1s}, {@code >10KB}, {@code <5ms}.
     *
     * @throws NumberFormatException when it is none of them; the message says what would be
     */
    Condition.Between read(String text) {
        String t = text.strip().toLowerCase(Locale.ROOT);
        Matcher whole = CLASS.matcher(t);
        if (this == STATUS && whole.matches()) {
            long first = Long.parseLong(whole.group(1)) * 100;
            return new Condition.Between(this, first, first + 99);
        }
        if (this == STATUS && "none".equals(t)) {
            return new Condition.Between(this, 0, 0);
        }
        if (t.startsWith(">=") || t.startsWith("<=")) {
            return t.charAt(0) == '>'
                    ? new Condition.Between(this, amount(t.substring(2)), Long.MAX_VALUE)
                    : new Condition.Between(this, 0, amount(t.substring(2)));
        }
        if (t.startsWith(">")) {
            return new Condition.Between(this, amount(t.substring(1)) + 1, Long.MAX_VALUE);
        }
        if (t.startsWith("<")) {
            return new Condition.Between(this, 0, Math.max(0, amount(t.substring(1)) - 1));
        }
        int dots = t.indexOf("..");
        if (dots >= 0) {
            String end = t.substring(dots + 2);
            return new Condition.Between(
                    this, dots == 0 ? 0 : amount(t.substring(0, dots)), end.isEmpty() ? Long.MAX_VALUE : amount(end));
        }
        long one = amount(t);
        return new Condition.Between(this, one, one);
    }

    private long amount(String text) {
        Matcher m = AMOUNT.matcher(text.strip());
        double factor = m.matches() ? factor(m.group(2)) : -1;
        if (factor < 0) {
            throw new NumberFormatException("“" + text.strip() + "” is no " + what());
        }
        return Math.round(Double.parseDouble(m.group(1)) * factor);
    }

    private double factor(String unit) {
        return switch (this) {
            case TOOK ->
                switch (unit) {
                    case "", "ms" -> 1e6;
                    case "ns" -> 1;
                    case "us", "µs" -> 1e3;
                    case "s" -> 1e9;
                    case "m", "min" -> 6e10;
                    default -> -1;
                };
            case SENT, RECEIVED ->
                switch (unit) {
                    case "", "b" -> 1;
                    case "k", "kb" -> 1e3;
                    case "mb" -> 1e6;
                    case "gb" -> 1e9;
                    default -> -1;
                };
            case NUMBER, STATUS -> unit.isEmpty() ? 1 : -1;
        };
    }

    private String what() {
        return switch (this) {
            case TOOK -> "time, such as 200ms, >1s or 50ms..2s";
            case SENT, RECEIVED -> "size, such as >10kB or 0..500";
            case STATUS -> "status, such as 500, 4xx, 400..499 or none";
            case NUMBER -> "number, such as 120 or 100..200";
        };
    }

    String written(long from, long to) {
        if (this == STATUS && from == 0 && to == 0) {
            return "none";
        }
        if (this == STATUS && from % 100 == 0 && to == from + 99) {
            return from / 100 + "xx";
        }
        if (from == to) {
            return one(from);
        }
        return (from == 0 ? "" : one(from)) + ".." + (to == Long.MAX_VALUE ? "" : one(to));
    }

    private String one(long amount) {
        if (this != TOOK) {
            return Long.toString(amount);
        }
        return amount % 1_000_000_000 == 0
                ? amount / 1_000_000_000 + "s"
                : amount % 1_000_000 == 0
                        ? amount / 1_000_000 + "ms"
                        : amount % 1_000 == 0 ? amount / 1_000 + "us" : amount + "ns";
    }
}
