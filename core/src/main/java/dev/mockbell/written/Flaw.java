package dev.mockbell.written;

/**
 * Something in the table that cannot be so.
 *
 * @param row of the table, from 0; -1 for the contract as a whole
 * @param text a sentence with what to write instead
 */
public record Flaw(int row, String text) {}
