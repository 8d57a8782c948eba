package dev.mockbell.ledger;

/**
 * Hears of every exchange as it is added, in order of number, on the thread that adds it, before it is on disk. It must
 * not block; what it throws is logged and goes no further.
 */
@FunctionalInterface
public interface LedgerListener {
    void added(Listing listing);
}
