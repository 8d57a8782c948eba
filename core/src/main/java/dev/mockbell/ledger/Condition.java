package dev.mockbell.ledger;

import dev.mockbell.exchange.Exchange.Outcome;
import dev.mockbell.exchange.Exchange.Way;
import java.time.Duration;
import java.time.Instant;
import java.util.Locale;
import java.util.Optional;

/** One thing that is asked of an exchange on the ledger. Its {@link #typed} text is what a person types for it. */
public sealed interface Condition {
    /** The word before the colon: conditions of one kind are alternatives to each other, but for those of {@link #together}. */
    String kind();

    /** What stands behind the colon. */
    String value();

    /** As it is typed: {@code status:5xx}. */
    default String typed() {
        return kind() + ":" + quoted(value());
    }

    /** Whether several of its kind must all hold; else one of them is enough. */
    default boolean together() {
        return false;
    }

    /** What is quoted because it would fall apart otherwise. */
    static String quoted(String value) {
        boolean plain =
                !value.isEmpty() && value.chars().noneMatch(c -> Character.isWhitespace(c) || c == '"' || c == '\\');
        return plain ? value : '"' + value.replace("\\", "\\\\").replace("\"", "\\\"") + '"';
    }

    /** Who spoke first. */
    record ByWay(Way way) implements Condition {
        @Override
        public String kind() {
            return "way";
        }

        @Override
        public String value() {
            return way.name().toLowerCase(Locale.ROOT);
        }
    }

    /** How it went. */
    record ByResult(Outcome outcome) implements Condition {
        @Override
        public String kind() {
            return "result";
        }

        @Override
        public String value() {
            return outcome.name().toLowerCase(Locale.ROOT);
        }
    }

    /**
     * A text of its line; upper and lower case alike.
     *
     * @param wanted with {@code *} for anything; where the field holds a long text it is found anywhere in it
     */
    record Named(Field field, String wanted) implements Condition {
        @Override
        public String kind() {
            return field.word();
        }

        @Override
        public String value() {
            return wanted;
        }
    }

    /** The texts of a line. */
    enum Field {
        CONTRACT("contract", "contract", false),
        OPERATION("operation", "operation", false),
        ENDPOINT("endpoint", "endpoint", true),
        FROM("from", "origin", true),
        NOTE("note", "note", true),
        CALLER("caller", "caller", true),
        OF("of", "tie", true);

        private final String word;
        private final String column;
        private final boolean anywhere;

        Field(String word, String column, boolean anywhere) {
            this.word = word;
            this.column = column;
            this.anywhere = anywhere;
        }

        public String word() {
            return word;
        }

        String column() {
            return column;
        }

        boolean anywhere() {
            return anywhere;
        }
    }

    /**
     * A number of its line, both ends included.
     *
     * @param from in the unit of the figure
     * @param to as {@code from}; {@link Long#MAX_VALUE} for no end
     */
    record Between(Figure figure, long from, long to) implements Condition {
        @Override
        public String kind() {
            return figure.word();
        }

        @Override
        public String value() {
            return figure.written(from, to);
        }
    }

    /** When it began. */
    record During(Optional<Instant> from, Optional<Instant> until) implements Condition {
        @Override
        public String kind() {
            return "time";
        }

        @Override
        public String value() {
            return from.map(Instant::toString).orElse("") + ".."
                    + until.map(Instant::toString).orElse("");
        }

        @Override
        public boolean together() {
            return true;
        }
    }

    /** That it began no longer ago, by the clock when it is asked. */
    record Since(Duration past) implements Condition {
        @Override
        public String kind() {
            return "since";
        }

        @Override
        public String value() {
            long seconds = past.toSeconds();
            return seconds % 86_400 == 0
                    ? seconds / 86_400 + "d"
                    : seconds % 3_600 == 0
                            ? seconds / 3_600 + "h"
                            : seconds % 60 == 0 ? seconds / 60 + "m" : seconds + "s";
        }

        @Override
        public boolean together() {
            return true;
        }
    }

    /**
     * A text anywhere in its line, heads or messages; upper and lower case alike.
     *
     * @param whole whether it must be words of their own there, not parts of longer ones
     */
    record Holds(String text, boolean whole) implements Condition {
        @Override
        public String kind() {
            return whole ? "word" : "text";
        }

        @Override
        public String value() {
            return text;
        }

        @Override
        public boolean together() {
            return true;
        }

        @Override
        public String typed() {
            // a text needs no word before it unless it would be taken for one
            return whole || text.contains(":") || text.startsWith("-") ? Condition.super.typed() : quoted(text);
        }
    }

    /** A condition in XPath over {@code $request} and {@code $response}. */
    record Where(String xpath) implements Condition {
        @Override
        public String kind() {
            return "where";
        }

        @Override
        public String value() {
            return xpath;
        }

        @Override
        public boolean together() {
            return true;
        }
    }

    /** That it stays when others are let go. */
    record Pinned() implements Condition {
        @Override
        public String kind() {
            return "pinned";
        }

        @Override
        public String value() {
            return "yes";
        }
    }
}
