/** Benchmarks and their plain yardsticks. In: a name; out: figures on the terminal. */
package dev.mockbell.bench;
