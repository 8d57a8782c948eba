package dev.mockbell.xml;

/**
 * A place in a document.
 *
 * @param document the document's URI
 * @param line from 1; 0 when not known
 * @param column from 1; 0 when not known
 */
public record Place(String document, int line, int column) {
    /** A place somewhere in a document. */
    public static Place in(String document) {
        return new Place(document, 0, 0);
    }

    @Override
    public String toString() {
        return line > 0 ? document + ":" + line + ":" + column : document;
    }
}
