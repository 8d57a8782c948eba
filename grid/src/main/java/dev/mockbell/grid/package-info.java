/**
 * Load from many machines, over a cluster engine: membership, failure detection and mutual TLS are the engine's, what is said
 * over it is ours. In: an order; out: one run, made by several.
 */
package dev.mockbell.grid;
