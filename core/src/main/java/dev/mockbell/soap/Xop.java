package dev.mockbell.soap;

import dev.mockbell.content.Part;
import dev.mockbell.content.TransferEncoding;
import dev.mockbell.problem.Problem;
import dev.mockbell.xml.Xml;
import java.net.URLDecoder;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Base64;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.w3c.dom.Document;
import org.w3c.dom.Element;
import org.w3c.dom.Node;
import org.w3c.dom.NodeList;

/**
 * Puts what was taken out of a message back into it: an {@code xop:Include} stands for the base64 text of the part that it
 * names (XML-binary Optimized Packaging §4). Only then is it the message that the contract speaks of.
 */
public final class Xop {
    private static final String INCLUDE = "http://www.w3.org/2004/08/xop/include";

    /** Parts larger than this stay where they are, since their text would take several times their size. */
    private static final long LARGEST = 32L << 20;

    private Xop() {}

    /** Whether a document leaves something to a part. */
    public static boolean isIn(Document document) {
        return document.getElementsByTagNameNS(INCLUDE, "Include").getLength() > 0;
    }

    /** Leaves the content of an element to the part of an address. */
    public static void include(Element holder, String address) {
        Element include = holder.getOwnerDocument().createElementNS(INCLUDE, "xop:Include");
        include.setAttributeNS("http://www.w3.org/2000/xmlns/", "xmlns:xop", INCLUDE);
        include.setAttribute("href", address);
        holder.setTextContent("");
        holder.appendChild(include);
    }

    /** Resolves the includes of a document; one whose part is not there, or is too large, stays. */
    static void resolve(Document document, List<Part> parts) {
        List<Element> includes = includes(document);
        long room = LARGEST;
        for (Element include : includes) {
            Optional<Part> part = part(include.getAttribute("href").strip(), parts);
            if (part.isPresent() && part.get().content().size() <= room && isAlone(include)) {
                room -= part.get().content().size();
                Element holder = (Element) include.getParentNode();
                holder.setTextContent(text(part.get()));
            }
        }
    }

    /**
     * Puts the parts of includes in their place while something is signed that must cover what they stand for (XOP §3.1).
     *
     * @return takes those out again that are still in the document by then
     * @throws Problem when a part is too large for that
     */
    public static Runnable inPlace(Document document, List<Part> parts) {
        Map<Element, String> addresses = new LinkedHashMap<>();
        includes(document).stream()
                .filter(Xop::isAlone)
                .forEach(e -> addresses.put((Element) e.getParentNode(), e.getAttribute("href")));
        resolve(document, parts);
        if (isIn(document)) {
            throw Problem.input(
                    "What is signed or encrypted must hold its parts, and they are larger than " + (LARGEST >> 20)
                            + " MB together",
                    null,
                    "Send smaller files, or choose a profile that does not sign or encrypt.");
        }
        return () -> addresses.forEach((holder, address) -> {
            if (isWithin(holder, document)) {
                include(holder, address);
            }
        });
    }

    private static List<Element> includes(Document document) {
        NodeList found = document.getElementsByTagNameNS(INCLUDE, "Include");
        List<Element> includes = new ArrayList<>();
        for (int i = 0; i < found.getLength(); i++) {
            includes.add((Element) found.item(i));
        }
        return includes;
    }

    private static boolean isWithin(Node node, Document document) {
        Node at = node;
        while (at != null && at != document) {
            at = at.getParentNode();
        }
        return at == document;
    }

    private static boolean isAlone(Element include) {
        return include.getParentNode() instanceof Element holder
                && Xml.children(holder).size() == 1
                && holder.getTextContent().isBlank();
    }

    /** The addresses of what a document leaves to parts that are not there; none of the root itself either. */
    public static List<String> lost(Document document, List<Part> parts) {
        return includes(document).stream()
                .map(e -> e.getAttribute("href").strip())
                .filter(h -> part(h, parts).isEmpty())
                .toList();
    }

    /** By a {@code cid:} address (RFC 2392). */
    private static Optional<Part> part(String href, List<Part> parts) {
        if (!href.regionMatches(true, 0, "cid:", 0, 4)) {
            return Optional.empty();
        }
        try {
            // a plus means itself there
            String id = URLDecoder.decode(href.substring(4).replace("+", "%2B"), StandardCharsets.UTF_8);
            return parts.stream().filter(p -> p.id().equals(Optional.of(id))).findFirst();
        } catch (IllegalArgumentException noAddress) {
            return Optional.empty();
        }
    }

    private static String text(Part part) {
        return Base64.getEncoder()
                .encodeToString(TransferEncoding.undone(part).content().bytes());
    }
}
