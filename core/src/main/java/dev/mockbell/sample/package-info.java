/**
 * Samples of messages. In: an outline; out: XML with every part, or those that must be, whose values the schema allows.
 */
package dev.mockbell.sample;
