/**
 * Suites of steps. In: a suite and how to call; out: a run, step by step, to listeners and into the register.
 */
package dev.mockbell.suite;
