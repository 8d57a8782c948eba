/** The station Check: suites, their runs as columns. */
package dev.mockbell.desktop.view.check;
