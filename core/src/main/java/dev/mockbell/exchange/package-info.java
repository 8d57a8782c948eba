/** The exchange, the one record that everything shares, and its messages as bytes and as text. */
package dev.mockbell.exchange;
