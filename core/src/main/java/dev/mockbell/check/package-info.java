/**
 * Checks and captures. In: an answered exchange; out: results in words.
 */
package dev.mockbell.check;
