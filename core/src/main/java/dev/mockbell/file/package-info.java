/**
 * Files: written whole or not at all, with the right to read them that they should have, and found only inside the folder
 * that they belong to. In: bytes and names from anywhere; out: files, or a problem in words.
 */
package dev.mockbell.file;
