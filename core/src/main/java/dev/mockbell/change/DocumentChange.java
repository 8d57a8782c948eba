package dev.mockbell.change;

import java.util.List;
import java.util.Optional;

/**
 * A document of a contract that is another now.
 *
 * @param name its file's name
 * @param was the URI of the one that was; empty when it is new
 * @param is the URI of the one that is; empty when it is gone
 * @param lines what is new and what went, in order
 */
public record DocumentChange(String name, Optional<String> was, Optional<String> is, List<Line> lines) {
    public DocumentChange {
        lines = List.copyOf(lines);
    }

    /** Two texts of a name, held against each other line by line. */
    public static DocumentChange between(String name, String was, String is) {
        return new DocumentChange(
                name,
                Optional.of(name),
                Optional.of(name),
                Documents.lines(was.lines().toList(), is.lines().toList()));
    }

    /**
     * A line that is in one of the two only.
     *
     * @param number from 1, in the document that has it
     * @param other before which line of the other document it would stand
     */
    public record Line(boolean isNew, int number, int other, String text) {
        static Line added(int number, int other, String text) {
            return new Line(true, number, other, text);
        }

        static Line gone(int number, int other, String text) {
            return new Line(false, number, other, text);
        }
    }

    /** How many lines are new. */
    public long added() {
        return lines.stream().filter(Line::isNew).count();
    }

    /** How many lines are gone. */
    public long gone() {
        return lines.size() - added();
    }
}
