/**
 * Holds one message against another. In go two trees and what is left out of them, out come differences with their places:
 * what has another value, what is more, what is gone, and apart from these what only stands elsewhere or is spaced otherwise.
 */
package dev.mockbell.compare;
