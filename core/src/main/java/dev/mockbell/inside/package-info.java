/**
 * Finds out what bytes or a text hold that are not taken apart where they stand: a body that is no envelope, a part, a value in
 * base64. In go bytes and what is said of them, out come a kind, words for people, and what is packed within.
 */
package dev.mockbell.inside;
