/**
 * Finds the contracts that a page, an inspection document, a registry or a folder lists. In: an address; out: each contract with
 * its name, operations and address, or why it cannot be read.
 */
package dev.mockbell.listing;
