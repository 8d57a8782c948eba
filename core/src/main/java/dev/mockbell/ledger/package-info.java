/**
 * The ledger, which keeps exchanges in one file that several programs write to. In: exchanges and filters; out: listings,
 * exchanges with their bytes, figures.
 */
package dev.mockbell.ledger;
