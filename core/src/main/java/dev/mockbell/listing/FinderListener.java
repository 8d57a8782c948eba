package dev.mockbell.listing;

/**
 * Hears of what is found while it is looked for. Called from the threads that look, one at a time; it must return at once, and
 * an exception from it ends the search.
 */
public interface FinderListener {
    /** Nobody listens. */
    FinderListener NONE = new FinderListener() {
        @Override
        public void at(String text) {
            // nobody listens
        }

        @Override
        public void found(FoundContract contract) {
            // nobody listens
        }
    };

    /** What is being done now, in a few words. */
    void at(String text);

    /** A contract was read, or could not be; in no order. */
    void found(FoundContract contract);
}
