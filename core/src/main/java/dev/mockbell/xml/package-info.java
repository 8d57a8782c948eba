/**
 * The only place that makes XML parsers and serialisers, with external entities off and sizes bounded. In: bytes; out: a DOM whose elements know their line and column.
 */
package dev.mockbell.xml;
