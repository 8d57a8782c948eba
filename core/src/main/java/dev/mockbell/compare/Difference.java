package dev.mockbell.compare;

import dev.mockbell.choice.Choice;

/**
 * One thing that is not as it was.
 *
 * @param path where, an XPath over the newer message; over the older one for what is gone
 * @param before what was there; empty for what is more
 * @param now what is there; empty for what is gone
 */
public record Difference(Kind kind, String path, String before, String now) {
    /** What kind of difference it is. */
    public enum Kind implements Choice {
        CHANGED("changed", "another value"),
        MORE("more", "more"),
        GONE("gone", "gone"),
        ORDER("order", "stands elsewhere"),
        WHITE_SPACE("white-space", "spaced otherwise");

        private final String code;
        private final String title;

        Kind(String code, String title) {
            this.code = code;
            this.title = title;
        }

        @Override
        public String code() {
            return code;
        }

        @Override
        public String title() {
            return title;
        }

        /** Whether what the message says is different, not only how it is written. */
        public boolean counts() {
            return this == CHANGED || this == MORE || this == GONE;
        }
    }

    /** On one line. */
    public String words() {
        return switch (kind) {
            case CHANGED -> path + ": " + shown(before) + " → " + shown(now);
            case MORE -> path + ": more, " + shown(now);
            case GONE -> path + ": gone, " + shown(before);
            case ORDER -> path + ": " + kind.title;
            case WHITE_SPACE -> path + ": " + kind.title;
        };
    }

    private static String shown(String value) {
        String line = value.strip().replaceAll("\\s+", " ");
        String part = line.length() > 120 ? line.substring(0, 119) + "…" : line;
        return part.isEmpty() ? "(empty)" : part;
    }
}
