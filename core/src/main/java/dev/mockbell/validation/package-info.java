/**
 * Messages held against their contract. In: a message or an older case; out: flaws with their place, boundary cases, what no longer fits.
 */
package dev.mockbell.validation;
