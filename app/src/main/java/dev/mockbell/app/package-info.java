/** The launcher: the command line and the window in one program. In: arguments; out: an exit code. */
package dev.mockbell.app;
