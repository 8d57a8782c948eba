/** A message as sheet and as text, edited; used wherever one stands. */
package dev.mockbell.desktop.view.message;
