/**
 * What goes wrong and can be put right by the person at the keyboard: one exception type whose message is a sentence with place and way out.
 */
package dev.mockbell.problem;
