package dev.mockbell.content;

/** What the kinds of content share. */
final class Contents {
    /** How much is read at a time where two contents are compared. */
    static final int STEP = 64 * 1024;

    private Contents() {}

    static void check(long from, long size) {
        if (from < 0 || from > size) {
            throw new IndexOutOfBoundsException("place " + from + " of " + size);
        }
    }
}
