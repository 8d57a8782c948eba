/**
 * The bytes that messages are made of, in memory or beside it, and the parts they are in. In: streams; out: {@link
 * dev.mockbell.content.Content}, which is read as often as one wants.
 */
package dev.mockbell.content;
