package dev.mockbell.sample;

import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import java.util.regex.Pattern;
import org.w3c.dom.Document;
import org.w3c.dom.Element;
import org.w3c.dom.Node;

/** Messages as others may send them: elements moved, doubled, gone, renamed, of other types. */
public final class TornMessages {
    private static final String XSI = "http://www.w3.org/2001/XMLSchema-instance";

    private TornMessages() {}

    /**
     * Does one thing to a message that may or may not break it.
     *
     * @return what it did
     */
    public static String tear(Document document, String schema, Random random) {
        Element root = document.getDocumentElement();
        root.setAttributeNS("http://www.w3.org/2000/xmlns/", "xmlns:o", "urn:odd");
        root.setAttributeNS("http://www.w3.org/2000/xmlns/", "xmlns:xsi", XSI);
        root.setAttributeNS("http://www.w3.org/2000/xmlns/", "xmlns:xs", "http://www.w3.org/2001/XMLSchema");
        List<Element> all = new ArrayList<>();
        var found = document.getElementsByTagName("*");
        for (int i = 1; i < found.getLength(); i++) {
            all.add((Element) found.item(i));
        }
        if (all.isEmpty()) {
            root.setAttribute("odd", "1");
            return "odd";
        }
        Element one = all.get(random.nextInt(all.size()));
        Element other = all.get(random.nextInt(all.size()));
        Node parent = one.getParentNode();
        String did = one.getNodeName() + ", " + other.getNodeName();
        switch (random.nextInt(10)) {
            case 0 -> parent.removeChild(one);
            case 1 -> parent.insertBefore(one.cloneNode(true), one);
            case 2 -> other.getParentNode().insertBefore(one.cloneNode(true), other);
            case 3 -> parent.appendChild(one);
            case 4 -> {
                List<String> known = named("element name='([ehH]\\d+)'", schema);
                document.renameNode(one, "urn:t", "t:" + known.get(random.nextInt(known.size())));
                did += " as " + one.getNodeName();
            }
            case 5 -> document.renameNode(one, "urn:odd", "o:odd");
            case 6 -> one.setAttributeNS(XSI, "xsi:nil", "true");
            case 7 -> one.appendChild(document.createTextNode("stray"));
            case 8 -> one.setAttributeNS("urn:odd", "o:odd", "1");
            default -> {
                List<String> types = named("Type name='([CS]\\d+)'", schema);
                String type = random.nextInt(6) == 0 ? "xs:int" : "t:" + types.get(random.nextInt(types.size()));
                one.setAttributeNS(XSI, "xsi:type", type);
                did += " of " + type;
            }
        }
        return did;
    }

    private static List<String> named(String pattern, String schema) {
        return Pattern.compile(pattern)
                .matcher(schema)
                .results()
                .map(r -> r.group(1))
                .toList();
    }
}
