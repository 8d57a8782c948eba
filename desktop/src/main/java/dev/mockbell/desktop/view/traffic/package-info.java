/** The station Traffic, and the tape that runs under every station. */
package dev.mockbell.desktop.view.traffic;
