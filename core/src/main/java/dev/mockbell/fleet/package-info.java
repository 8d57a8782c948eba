/**
 * Load from many machines, as the rest of the program knows it. What does it is in a module of its own, which is loaded only
 * when it is wanted. In: an order; out: one run, made by several.
 */
package dev.mockbell.fleet;
