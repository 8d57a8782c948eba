/**
 * The exchange, the one record that everything shares, and the ledger that keeps them. In: exchanges; out: listings by filter.
 */
package dev.mockbell.exchange;
