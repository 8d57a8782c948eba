/**
 * Contracts that are written by hand, for services that do not exist yet. In: a table of operations and fields in plain words, a
 * spreadsheet's cells, or a sample message; out: a WSDL 1.1 with its schema, and what in the table cannot be so.
 */
package dev.mockbell.written;
