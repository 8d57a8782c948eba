package dev.mockbell.soap;

import dev.mockbell.xml.Xml;
import java.util.ArrayDeque;
import java.util.Deque;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.w3c.dom.Attr;
import org.w3c.dom.Element;
import org.w3c.dom.Node;

/**
 * Puts the values of a message in SOAP's encoding in the places that refer to them: an accessor with {@code href} is empty, and
 * its value stands elsewhere in the Body by its {@code id} (SOAP 1.1 §5.4.1); in SOAP 1.2 they are {@code enc:ref} and
 * {@code enc:id} (part 2 §3.1.5). Only then does the message say what the contract speaks of.
 */
public final class References {
    private static final String ENCODING_11 = "http://schemas.xmlsoap.org/soap/encoding/";
    private static final String ENCODING_12 = "http://www.w3.org/2003/05/soap-encoding";

    /** A few values that refer to each other many times over would stand for more than there is room for. */
    private static final int MOST = 200_000;

    private final Map<String, Element> values = new HashMap<>();
    private final Set<String> within = new HashSet<>();
    private int copied;

    private References() {}

    /** Does so for a message; what refers to nothing, or to what it is in itself, stays as it is. */
    public static void inPlace(SoapMessage message) {
        Element root = message.document().getDocumentElement();
        Optional<Element> body = Xml.children(root, message.version().namespace(), "Body").stream()
                .findFirst();
        if (body.isEmpty() || message.payload().isEmpty()) {
            return;
        }
        References references = new References();
        references.index(body.get());
        if (!references.values.isEmpty()) {
            references.place(message.payload().get());
        }
    }

    private void index(Element body) {
        Deque<Element> open = new ArrayDeque<>(Xml.children(body));
        while (!open.isEmpty()) {
            Element element = open.pop();
            id(element).ifPresent(id -> values.putIfAbsent(id, element));
            Xml.children(element).forEach(open::push);
        }
    }

    private static Optional<String> id(Element element) {
        String id = element.hasAttributeNS(ENCODING_12, "id")
                ? element.getAttributeNS(ENCODING_12, "id")
                : element.getAttribute("id");
        return Optional.of(id.strip()).filter(i -> !i.isEmpty());
    }

    /** What an empty element refers to. */
    private Optional<String> reference(Element element) {
        String own = element.getAttribute("href").strip();
        String name = own.startsWith("#")
                ? own.substring(1)
                : element.getAttributeNS(ENCODING_12, "ref").strip();
        return Optional.of(name).filter(n -> element.getFirstChild() == null && values.containsKey(n));
    }

    private void place(Element element) {
        Optional<String> name = reference(element);
        if (name.isPresent()) {
            if (within.add(name.get())) {
                take(element, values.get(name.get()));
                below(element);
                within.remove(name.get());
            }
            return;
        }
        below(element);
    }

    private void below(Element element) {
        for (Element child : List.copyOf(Xml.children(element))) {
            place(child);
        }
    }

    private void take(Element into, Element value) {
        if (copied > MOST) {
            return;
        }
        into.removeAttribute("href");
        into.removeAttributeNS(ENCODING_12, "ref");
        for (Attr attr : Xml.attributes(value)) {
            if (!isOfTheEncoding(attr) && !into.hasAttribute(attr.getName())) {
                into.setAttributeNS(attr.getNamespaceURI(), attr.getName(), attr.getValue());
            }
        }
        for (Node child = value.getFirstChild(); child != null; child = child.getNextSibling()) {
            copied += 1
                    + (child instanceof Element e ? e.getElementsByTagName("*").getLength() : 0);
            if (copied > MOST) {
                return;
            }
            into.appendChild(child.cloneNode(true));
        }
    }

    /** What says how the value is written, not what it is; an array says by its type what is in it. */
    private static boolean isOfTheEncoding(Attr attr) {
        String namespace = attr.getNamespaceURI();
        boolean id = namespace == null && "id".equals(attr.getName())
                || ENCODING_12.equals(namespace) && "id".equals(attr.getLocalName());
        boolean root = ENCODING_11.equals(namespace) && "root".equals(attr.getLocalName());
        return id || root || "encodingStyle".equals(attr.getLocalName());
    }
}
