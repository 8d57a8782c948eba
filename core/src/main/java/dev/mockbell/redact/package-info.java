/**
 * Takes credentials out of whatever is shown, listed, written or logged. In: texts, headers, addresses, bytes, and the values
 * of secrets; out: the same with a mask in their place.
 */
package dev.mockbell.redact;
