/** The station Mock: answers in the order they are tried, and the editor of one. */
package dev.mockbell.desktop.view.mock;
