/** The stations, the frame around them, the finder and the tape. Views build nodes and bind them; they compute nothing. */
package dev.mockbell.desktop.view;
