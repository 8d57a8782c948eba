/** The command line: parses, calls the core, prints. In: arguments; out: text, JSON and an exit code. */
package dev.mockbell.cli;
