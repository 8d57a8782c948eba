/** The pieces that views are made of: marks, icons, grids, switches, editors. They know no model. */
package dev.mockbell.desktop.part;
