/**
 * How a contract became another. In: two contracts; out: what was added, went or changed, in words, with what it does to
 * callers and to the service.
 */
package dev.mockbell.change;
