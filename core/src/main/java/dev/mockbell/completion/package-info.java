/**
 * What may stand at a caret. In: a text that need not be well-formed; out: proposals by the contract.
 */
package dev.mockbell.completion;
