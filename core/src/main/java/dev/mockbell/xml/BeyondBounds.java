package dev.mockbell.xml;

import org.xml.sax.Locator;
import org.xml.sax.SAXParseException;

/** A document is well-formed so far, and larger or deeper than is read. */
final class BeyondBounds extends SAXParseException {
    private static final long serialVersionUID = 1L;

    BeyondBounds(String what, Locator where) {
        super(what, where);
    }
}
