/**
 * The project folder. In: a folder; out: plain records of all that it holds, saved atomically and readable by people.
 */
package dev.mockbell.project;
