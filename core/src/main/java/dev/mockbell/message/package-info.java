/**
 * One message with two faces. In: an outline and a payload; out: sheet rows, samples and edited XML.
 */
package dev.mockbell.message;
