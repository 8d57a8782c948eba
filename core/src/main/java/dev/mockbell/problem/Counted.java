package dev.mockbell.problem;

/** How many there are of something, in words. */
public final class Counted {
    private Counted() {}

    /** {@code 1 document}, {@code 2 documents}; for nouns whose plural is made with an s. */
    public static String of(long count, String noun) {
        return count + " " + noun + (count == 1 ? "" : "s");
    }
}
