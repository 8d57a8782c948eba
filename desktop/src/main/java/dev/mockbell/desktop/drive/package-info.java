/** Works the real window as a person does, with mouse and keys, for tests, the demo and pictures. */
package dev.mockbell.desktop.drive;
