package dev.mockbell.message;

import dev.mockbell.schema.ElementDecl;
import javax.xml.namespace.QName;
import org.w3c.dom.Element;

/** Elements of a tree held against declarations, by their names. */
public final class ElementMatch {
    private ElementMatch() {}

    /** The expanded name of an element in a tree. */
    public static QName nameOf(Element element) {
        return new QName(element.getNamespaceURI() == null ? "" : element.getNamespaceURI(), element.getLocalName());
    }

    /** Whether an element may stand where a declaration does, as itself or as a member of its substitution group. */
    public static boolean matches(ElementDecl declared, Element element) {
        return standsFor(declared, element) != null;
    }

    /** The declaration of the element itself: the given one or one of its substitution group; null when it is neither. */
    public static ElementDecl standsFor(ElementDecl declared, Element element) {
        QName name = declared.name();
        boolean named = name.getLocalPart().equals(element.getLocalName());
        String ns = element.getNamespaceURI() == null ? "" : element.getNamespaceURI();
        if (named && name.getNamespaceURI().equals(ns)) {
            return declared;
        }
        if (!declared.isGlobal()) {
            return null;
        }
        for (ElementDecl substitute : declared.substitutes()) {
            if (substitute.name().equals(nameOf(element))) {
                return substitute;
            }
        }
        return null;
    }
}
