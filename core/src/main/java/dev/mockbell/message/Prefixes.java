package dev.mockbell.message;

import dev.mockbell.xml.Xml;
import java.util.LinkedHashMap;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import javax.xml.namespace.QName;
import org.w3c.dom.Attr;
import org.w3c.dom.Element;
import org.w3c.dom.Node;

/** The prefixes of a message that is being built: those of the contract where it has them, short ones of our own else. */
public final class Prefixes {
    private static final String XMLNS = "http://www.w3.org/2000/xmlns/";
    private static final String XML = "http://www.w3.org/XML/1998/namespace";
    private static final Map<String, String> USUAL = Map.of(
            "http://www.w3.org/2001/XMLSchema-instance", "xsi",
            "http://schemas.xmlsoap.org/soap/envelope/", "soap",
            "http://www.w3.org/2003/05/soap-envelope", "soap");

    private final Map<String, String> wanted;
    private final Map<String, String> used = new LinkedHashMap<>();
    private final Map<String, String> inherited = new LinkedHashMap<>();

    /** @param wanted prefixes of the contract by namespace */
    public Prefixes(Map<String, String> wanted) {
        this.wanted = wanted;
    }

    /** Takes over what is declared around an element. */
    public void inScopeOf(Element parent) {
        for (Node n = parent; n instanceof Element e; n = n.getParentNode()) {
            for (Attr a : Xml.attributes(e)) {
                boolean hidden = inherited.containsValue(a.getLocalName());
                if (a.getNodeName().startsWith("xmlns:") && !hidden) {
                    inherited.putIfAbsent(a.getNodeValue(), a.getLocalName());
                }
            }
        }
    }

    /** The prefix for a namespace, the same each time. */
    public String of(String namespace) {
        if (XML.equals(namespace)) {
            return "xml";
        }
        String around = inherited.get(namespace);
        return around != null ? around : used.computeIfAbsent(namespace, this::free);
    }

    private String free(String namespace) {
        String usual = USUAL.get(namespace);
        String contracts = wanted.get(namespace);
        String first = usual != null ? usual : contracts != null ? contracts : suggest(namespace);
        boolean reserved = first.toLowerCase(Locale.ROOT).startsWith("xml");
        String base = reserved ? suggest(namespace) : first;
        String free = base;
        for (int i = 2; taken(free, namespace); i++) {
            free = base + i;
        }
        return free;
    }

    private boolean taken(String prefix, String namespace) {
        boolean reserved = USUAL.containsValue(prefix) && !USUAL.containsKey(namespace);
        return reserved || used.containsValue(prefix) || inherited.containsValue(prefix);
    }

    /** A qualified name as text, its prefix declared. */
    public String lexical(QName name) {
        String ns = name.getNamespaceURI();
        return ns.isEmpty() ? name.getLocalPart() : of(ns) + ":" + name.getLocalPart();
    }

    /** Writes the declarations that are needed on an element. */
    public void declareOn(Element element) {
        used.forEach((ns, prefix) -> element.setAttributeNS(XMLNS, "xmlns:" + prefix, ns));
    }

    /** As {@link #declareOn}, without those that no name or value in the element uses any more. */
    public void declareWhatIsUsed(Element element) {
        Set<String> needed = Fragments.prefixesIn(element);
        used.values().removeIf(prefix -> !needed.contains(prefix));
        declareOn(element);
    }

    /** {@code urn:northfell:hut-booking} gives {@code hb}; {@code http://x.example/stay/v2} gives {@code stay}. */
    public static String suggest(String namespace) {
        String[] parts = namespace.replaceAll("[?#].*$", "").split("[/:]+");
        for (int i = parts.length - 1; i > 0; i--) {
            String part = parts[i].toLowerCase(Locale.ROOT);
            String[] words = part.split("[^a-z]+");
            StringBuilder initials = new StringBuilder();
            for (String word : words) {
                if (!word.isEmpty()) {
                    initials.append(word.charAt(0));
                }
            }
            String whole = part.replaceAll("[^a-z]", "");
            boolean version = part.matches("v?\\d+(\\.\\d+)*|\\d{4}-\\d{2}(-\\d{2})?");
            if (version || whole.isEmpty() || whole.equals("xsd") || whole.equals("wsdl") || whole.startsWith("xml")) {
                continue;
            }
            if (initials.length() > 1) {
                return initials.substring(0, Math.min(4, initials.length()));
            }
            return whole.length() <= 4 ? whole : whole.substring(0, 3);
        }
        return "ns";
    }
}
