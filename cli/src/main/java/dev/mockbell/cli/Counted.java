package dev.mockbell.cli;

/** How many there are of something, in words. */
final class Counted {
    private Counted() {}

    /** {@code 1 document}, {@code 2 documents}. */
    static String of(long count, String noun) {
        return count + " " + noun + (count == 1 ? "" : "s");
    }
}
