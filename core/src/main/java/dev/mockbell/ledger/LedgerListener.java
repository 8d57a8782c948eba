package dev.mockbell.ledger;

/**
 * Hears of every exchange as it is added, in order of number, on the thread that adds it, before it is on disk. It must
 * not block; what it throws is logged and goes no further.
 */
@FunctionalInterface
public interface LedgerListener {
    void added(Listing listing);

    /**
     * Hears when nothing can be written any more, when it can again, and at the end when something was lost; on the same
     * thread, under the same rules.
     */
    default void fares(LedgerState state) {}
}
