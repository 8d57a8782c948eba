package dev.mockbell.sheet;

import dev.mockbell.schema.ElementDecl;
import dev.mockbell.schema.Occurs;

/**
 * Where an element stands in its parent, which only that knows.
 *
 * @param declared what may stand there; null when nothing is declared
 * @param index which of its like it is, from 1; 0 when it stands alone
 * @param count how many of its like there are
 * @param place names the place among the parent's
 */
record Seat(ElementDecl declared, Occurs occurs, int index, int count, String place, Standing standing) {
    /** Whether an element in the one looks like one in the other but for its number. */
    boolean isLike(Seat other) {
        return declared == other.declared
                && standing == other.standing
                && occurs.equals(other.occurs)
                && place.equals(other.place);
    }
}
