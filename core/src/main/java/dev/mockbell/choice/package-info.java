/** What is one of several: how it stands in files, and how people read it. */
package dev.mockbell.choice;
