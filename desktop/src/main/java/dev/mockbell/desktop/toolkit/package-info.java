/** Brings the window toolkit up, on a screen or without one. */
package dev.mockbell.desktop.toolkit;
