package dev.mockbell.upkeep;

import dev.mockbell.project.Project;
import java.util.function.UnaryOperator;

/**
 * Something that can be done about what is touched.
 *
 * @param title what to call it, one or two words: "mend", "rename"
 * @param does what it does, a phrase; empty for leaving things as they are
 * @param change what becomes of the project
 */
public record Way(String title, String does, UnaryOperator<Project> change) {
    /** Nothing is done. */
    public static final Way LEAVE = new Way("leave", "", p -> p);

    /** Two are the same when they say the same. */
    @Override
    public boolean equals(Object other) {
        return other instanceof Way w && w.title.equals(title) && w.does.equals(does);
    }

    @Override
    public int hashCode() {
        return title.hashCode() * 31 + does.hashCode();
    }
}
