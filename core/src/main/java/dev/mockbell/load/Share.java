package dev.mockbell.load;

import dev.mockbell.choice.Choice;

/**
 * A part of the mix: how often something is carried out, compared with the other parts.
 *
 * @param of the short name of a suite, or a case as {@code contract/operation/name}
 * @param weight more than 0
 */
public record Share(Kind kind, String of, double weight) {
    /** What is carried out. */
    public enum Kind implements Choice {
        SUITE("suite", "Suite"),
        CASE("case", "Case");

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
    }

    public static Share ofSuite(String id) {
        return new Share(Kind.SUITE, id, 1);
    }

    public Share withWeight(double other) {
        return new Share(kind, of, other);
    }
}
