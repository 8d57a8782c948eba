/**
 * What a message may hold, and how places in it are named. In: a contract; out: outlines, paths, prefixes, fragments of XML.
 */
package dev.mockbell.message;
