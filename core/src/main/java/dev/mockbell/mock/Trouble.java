package dev.mockbell.mock;

import dev.mockbell.choice.Choice;

/**
 * What is made wrong with an answer on purpose, to see how a client takes it.
 *
 * @param amount as its kind has it; 0 where it has none
 */
public record Trouble(Kind kind, int amount) {
    /** Nothing. */
    public static final Trouble NONE = new Trouble(Kind.NONE, 0);

    /** A kind of it. */
    public enum Kind implements Choice {
        NONE("none", "Nothing", "", 0, 0),
        /** The connection is closed in order, and nothing was said. */
        CLOSED("closed", "Closed without an answer", "", 0, 0),
        /** The connection is reset when so many percent of the bytes are out. */
        RESET("reset", "Reset in the middle", "percent sent before", 50, 100),
        /** So many bytes a second. */
        SLOW("slow", "Slow bytes", "bytes a second", 200, 10_000_000),
        /** So many percent of the body, as if it were all: HTTP is as it should be, the XML ends in the middle. */
        CUT("cut", "XML cut short", "percent of the body", 50, 99),
        /** The last end tag is another: HTTP is as it should be, the XML is not well-formed. */
        MALFORMED("malformed", "XML not well-formed", "", 0, 0),
        /** Content-Length says so many bytes more than there are; the connection is closed when those are out. */
        SAYS_MORE("length-too-large", "Content-Length too large", "bytes too many", 10, 1_000_000),
        /** Content-Length says so many bytes fewer than there are. */
        SAYS_LESS("length-too-small", "Content-Length too small", "bytes too few", 10, 1_000_000),
        /** The Content-Type is that of a page. */
        WRONG_TYPE("wrong-type", "Content-Type of a page", "", 0, 0);

        private final String code;
        private final String title;
        private final String unit;
        private final int usual;
        private final int most;

        Kind(String code, String title, String unit, int usual, int most) {
            this.code = code;
            this.title = title;
            this.unit = unit;
            this.usual = usual;
            this.most = most;
        }

        @Override
        public String code() {
            return code;
        }

        @Override
        public String title() {
            return title;
        }

        /** What its amount counts; empty where it has none. */
        public String unit() {
            return unit;
        }

        /** The amount that it has when none is given. */
        public int usual() {
            return usual;
        }

        public int most() {
            return most;
        }
    }

    public Trouble {
        amount = kind.unit.isEmpty() ? 0 : Math.max(1, Math.min(kind.most, amount));
    }

    /** One with its usual amount. */
    public static Trouble of(Kind kind) {
        return new Trouble(kind, kind.usual);
    }

    public boolean isNone() {
        return kind == Kind.NONE;
    }
}
