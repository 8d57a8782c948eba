package dev.mockbell.message;

import dev.mockbell.xml.Xml;
import java.util.ArrayDeque;
import java.util.Deque;
import java.util.HashMap;
import java.util.IdentityHashMap;
import java.util.Map;
import java.util.Optional;
import org.w3c.dom.Attr;
import org.w3c.dom.Element;
import org.w3c.dom.Node;
import org.w3c.dom.Text;

/** XPaths made by pointing: unprefixed names, which this program reads as any namespace, with positions where needed. */
public final class MessagePath {
    private MessagePath() {}

    /** The path from the message's root to an element or attribute. */
    public static String of(Node node) {
        Deque<String> steps = new ArrayDeque<>();
        Node at = node instanceof Text ? node.getParentNode() : node;
        if (at instanceof Attr attr) {
            steps.push(step(attr));
            at = attr.getOwnerElement();
        }
        for (; at instanceof Element e; at = at.getParentNode()) {
            steps.push(step(e));
        }
        return "/" + String.join("/", steps);
    }

    /** The path of an element, and those of all elements and attributes in it, as {@link #of} gives them, in one go. */
    public static Map<Node, String> all(Element root) {
        Map<Node, String> paths = new IdentityHashMap<>();
        below(root, of(root), paths);
        return paths;
    }

    private static void below(Element element, String path, Map<Node, String> paths) {
        paths.put(element, path);
        for (Attr attr : Xml.attributes(element)) {
            paths.put(attr, path + "/" + step(attr));
        }
        Map<String, Integer> like = new HashMap<>();
        for (Element child : Xml.children(element)) {
            like.merge(child.getLocalName(), 1, Integer::sum);
        }
        Map<String, Integer> seen = new HashMap<>();
        for (Element child : Xml.children(element)) {
            String name = child.getLocalName();
            int position = seen.merge(name, 1, Integer::sum);
            below(child, path + "/" + name + (like.get(name) > 1 ? "[" + position + "]" : ""), paths);
        }
    }

    private static String step(Attr attr) {
        String local = attr.getLocalName() == null ? attr.getName() : attr.getLocalName();
        return attr.getNamespaceURI() == null ? "@" + local : "@*:" + local;
    }

    /** As {@link #of(Node)}, with the prefixes that the message uses; a default namespace has none to show. */
    public static String prefixed(Node node) {
        Deque<String> steps = new ArrayDeque<>();
        Node at = node instanceof Text ? node.getParentNode() : node;
        if (at instanceof Attr attr) {
            steps.push("@" + attr.getName());
            at = attr.getOwnerElement();
        }
        for (; at instanceof Element e; at = at.getParentNode()) {
            steps.push((e.getPrefix() == null ? "" : e.getPrefix() + ":") + step(e));
        }
        return "/" + String.join("/", steps);
    }

    private static String step(Element e) {
        int position = 1;
        int like = 1;
        for (Node n = e.getPreviousSibling(); n != null; n = n.getPreviousSibling()) {
            if (n instanceof Element s && s.getLocalName().equals(e.getLocalName())) {
                position++;
            }
        }
        for (Node n = e.getNextSibling(); n != null; n = n.getNextSibling()) {
            if (n instanceof Element s && s.getLocalName().equals(e.getLocalName())) {
                like++;
            }
        }
        return position + like > 2 ? e.getLocalName() + "[" + position + "]" : e.getLocalName();
    }

    /**
     * The element or attribute that a path of names and positions leads to. Prefixes are passed over; a step without a
     * position means the first.
     */
    public static Optional<Node> node(Node root, String path) {
        String[] steps = path.strip().replaceFirst("^/", "").split("/");
        Node at = null;
        for (int i = 0; i < steps.length; i++) {
            String step = steps[i];
            if (step.startsWith("@")) {
                return attribute(at, step.substring(step.indexOf(':') + 1).replaceFirst("^@", ""));
            }
            int bracket = step.indexOf('[');
            String name =
                    step.substring(0, bracket < 0 ? step.length() : bracket).replaceFirst("^[^:]*:", "");
            String number = bracket < 0 ? "1" : step.substring(bracket + 1).replace("]", "");
            if (!number.matches("[1-9][0-9]{0,8}")) {
                return Optional.empty();
            }
            at = i == 0 ? first(root, name, number) : child(at, name, Integer.parseInt(number));
            if (at == null) {
                return Optional.empty();
            }
        }
        return Optional.ofNullable(at);
    }

    private static Node first(Node root, String name, String number) {
        return root != null && name.equals(root.getLocalName()) && "1".equals(number) ? root : null;
    }

    private static Node child(Node parent, String name, int position) {
        int seen = 0;
        for (Node n = parent.getFirstChild(); n != null; n = n.getNextSibling()) {
            if (n instanceof Element e && name.equals(e.getLocalName()) && ++seen == position) {
                return e;
            }
        }
        return null;
    }

    private static Optional<Node> attribute(Node owner, String local) {
        if (!(owner instanceof Element e)) {
            return Optional.empty();
        }
        for (Attr a : Xml.attributes(e)) {
            if (local.equals(a.getLocalName() == null ? a.getNodeName() : a.getLocalName())) {
                return Optional.of(a);
            }
        }
        return Optional.empty();
    }
}
