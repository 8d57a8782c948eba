/** The window around the stations: bar, rail, finder, help. The only one that knows them all. */
package dev.mockbell.desktop.view.frame;
