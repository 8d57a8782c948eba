/**
 * HTTP calls. In: an address and bytes; out: an exchange with the exact bytes of both sides and its timing.
 */
package dev.mockbell.wire;
