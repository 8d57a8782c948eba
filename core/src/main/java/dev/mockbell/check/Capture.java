package dev.mockbell.check;

import dev.mockbell.choice.Choice;

/**
 * Something of a call that later steps use.
 *
 * @param name the variable's name, without the dollar sign
 * @param path an XPath over the payload
 * @param takes what of what is there is taken
 * @param fromRequest whether it is taken of the request as it was sent, not of the answer
 */
public record Capture(String name, String path, Takes takes, boolean fromRequest) {
    /** What a capture takes. */
    public enum Takes implements Choice {
        /** The text of what is there. */
        VALUE("value", "one value"),
        /** The texts of all that is there, one after the other. */
        LIST("list", "a list of values"),
        /** The elements as they are, which a later request takes in whole. */
        XML("xml", "a piece of XML");

        private final String code;
        private final String title;

        Takes(String code, String title) {
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

    /** One value of the answer. */
    public Capture(String name, String path) {
        this(name, path, Takes.VALUE, false);
    }
}
