/**
 * Relays between a client and a service that record what passes: taps, which lead to one endpoint, and the forward proxy. In:
 * connections of clients; out: the same bytes, and exchanges for the ledger.
 */
package dev.mockbell.tap;
