package dev.mockbell.written;

import dev.mockbell.choice.Choice;
import java.util.List;

/**
 * A part of an operation: what it takes, gives, fails with, or has in a header.
 *
 * @param name of a fault; empty for the others
 */
public record WrittenPart(Kind kind, String name, List<WrittenField> fields) {
    public WrittenPart {
        fields = List.copyOf(fields);
    }

    /** What it is. */
    public enum Kind implements Choice {
        TAKES("takes", "takes"),
        GIVES("gives", "gives"),
        FAILS("fails", "fails with"),
        HEADER("header", "header of the request"),
        ANSWER_HEADER("answerHeader", "header of the answer");

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
}
