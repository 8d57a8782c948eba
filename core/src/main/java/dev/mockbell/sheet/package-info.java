/**
 * One message with two faces. In: an outline and a payload; out: rows beside the content model, and edited XML.
 */
package dev.mockbell.sheet;
