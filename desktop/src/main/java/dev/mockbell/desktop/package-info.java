/**
 * The window. {@link dev.mockbell.desktop.Desk} holds what the program works on; view models in {@code model} call the
 * core off the interface thread; views in {@code view} bind to them; {@code part} has the pieces that views are made of.
 */
package dev.mockbell.desktop;
