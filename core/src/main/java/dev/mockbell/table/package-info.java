/**
 * Repeated elements of a message as rows and columns. In go a tree and what is wanted of it ({@link dev.mockbell.table.Shape}),
 * out comes a {@link dev.mockbell.table.Table}, which is written as CSV, JSON or into a table of a database.
 */
package dev.mockbell.table;
