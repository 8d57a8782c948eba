package dev.mockbell.change;

import java.util.List;

/**
 * One thing in which a declaration became another.
 *
 * @param before in few words; empty when nothing was said
 * @param after likewise
 */
record Aspect(String before, String after, Relation relation) {
    static Relation relation(List<Aspect> all) {
        return all.stream().map(Aspect::relation).reduce(Relation.SAME, Relation::and);
    }
}
