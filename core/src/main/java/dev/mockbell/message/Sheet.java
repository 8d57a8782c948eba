package dev.mockbell.message;

import dev.mockbell.message.SampleBuilder.Detail;
import dev.mockbell.schema.ElementDecl;
import dev.mockbell.schema.Particle;
import dev.mockbell.xml.Xml;
import dev.mockbell.xml.XmlLimits;
import dev.mockbell.xml.XmlText;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.w3c.dom.Attr;
import org.w3c.dom.CharacterData;
import org.w3c.dom.Document;
import org.w3c.dom.Element;
import org.w3c.dom.Node;
import org.w3c.dom.Text;

/**
 * A message as a typed outline that is edited in place. The XML tree is the truth: the rows show it against the contract,
 * every edit is an edit of the tree, and whatever the contract does not know stays where it is. Not safe for several
 * threads at once.
 */
public final class Sheet {
    private static final String XSI = "http://www.w3.org/2001/XMLSchema-instance";

    private final MessageOutline outline;
    private final Document document;
    private final Map<String, Node> setAside = new HashMap<>();

    private Sheet(MessageOutline outline, Document document) {
        this.outline = outline;
        this.document = document;
    }

    /**
     * Opens a message.
     *
     * @param text the payload; empty for an empty body
     * @throws dev.mockbell.problem.Problem when it is not well-formed
     */
    public static Sheet open(MessageOutline outline, String text) {
        Document document = text.isBlank() ? Xml.newDocument() : Xml.parse(text.strip(), "message", XmlLimits.MESSAGE);
        return new Sheet(outline, document);
    }

    /** The message as XML, exactly as the tree holds it. */
    public String text() {
        return document.getDocumentElement() == null ? "" : XmlText.exact(document);
    }

    public MessageOutline outline() {
        return outline;
    }

    /** The row of the message's root; empty when the body is empty. */
    public Optional<SheetRow> root() {
        Element root = document.getDocumentElement();
        if (root == null) {
            return Optional.empty();
        }
        ElementDecl declared = outline.root()
                .filter(e -> SheetRows.matches(e, root))
                .or(() -> outline.schemas().element(SheetRows.nameOf(root)))
                .orElse(null);
        return Optional.of(new SheetRows(outline.schemas()).row(declared, root));
    }

    /** The row of that id. */
    public Optional<SheetRow> row(String id) {
        return root().flatMap(r -> find(r, id));
    }

    private static Optional<SheetRow> find(SheetRow row, String id) {
        if (row.id().equals(id)) {
            return Optional.of(row);
        }
        for (SheetRow child : row.children()) {
            Optional<SheetRow> found = find(child, id);
            if (found.isPresent()) {
                return found;
            }
        }
        return Optional.empty();
    }

    /** Types a value. Comments within the element stay. */
    public void setValue(SheetRow row, String value) {
        Node node = row.target().node();
        if (node instanceof Attr attr) {
            attr.setValue(value);
        } else if (node instanceof Element element) {
            setText(element, value);
            element.removeAttributeNS(XSI, "nil");
        }
    }

    private void setText(Element element, String value) {
        List<Node> old = new ArrayList<>();
        Node anchor = null;
        for (Node n = element.getFirstChild(); n != null; n = n.getNextSibling()) {
            if (n instanceof CharacterData && n instanceof Text) {
                old.add(n);
                anchor = n.getNextSibling();
            }
        }
        old.forEach(element::removeChild);
        if (!value.isEmpty()) {
            element.insertBefore(document.createTextNode(value), anchor);
        }
    }

    /** Puts a part in that was left out; one that was there before comes back with its values. */
    public void include(SheetRow row) {
        SheetRow.Target target = row.target();
        Node kept = setAside.remove(row.id());
        if (target.attribute().isPresent()) {
            Attr attr = kept instanceof Attr a ? a : null;
            if (attr != null) {
                target.parent().setAttributeNodeNS(attr);
            } else {
                var declared = target.attribute().get();
                Prefixes prefixes = new Prefixes(outline.prefixes());
                prefixes.inScopeOf(target.parent());
                String local = declared.name().getLocalPart();
                String value = declared.fixed()
                        .or(declared::byDefault)
                        .orElseGet(() -> declared.type()
                                .simple()
                                .map(t -> new SampleValues(prefixes).of(t, local, 0))
                                .orElse(""));
                String namespace = declared.name().getNamespaceURI();
                if (namespace.isEmpty()) {
                    target.parent().setAttributeNS(null, local, value);
                } else {
                    target.parent().setAttributeNS(namespace, prefixes.lexical(declared.name()), value);
                }
                prefixes.declareOn(target.parent());
            }
            return;
        }
        ElementDecl declared = target.element().orElseThrow();
        Node node = kept != null ? kept : sample(declared, target.parent());
        insert(target.parent(), node, target.before());
    }

    private Element sample(ElementDecl declared, Element parent) {
        return new SampleBuilder(outline, Detail.REQUIRED).buildFor(declared, parent);
    }

    /** Takes a part out. Its values come back when it is put in again. */
    public void leaveOut(SheetRow row) {
        Node node = row.target().node();
        setAside.put(row.id(), node);
        if (node instanceof Attr attr) {
            attr.getOwnerElement().removeAttributeNode(attr);
        } else {
            remove(node);
        }
    }

    /** Adds one more of a repeating part behind the row. */
    public void addRepeat(SheetRow row) {
        Node node = row.target().node();
        Element parent = (Element) node.getParentNode();
        insert(parent, sample(row.target().element().orElseThrow(), parent), nextMarkup(node));
    }

    /** Takes a branch of a choice in place of the one that stands. */
    public void choose(SheetRow row, String option) {
        SheetRow.Target target = row.target();
        int index = row.options().indexOf(option);
        if (index < 0 || option.equals(row.value())) {
            return;
        }
        List<Node> standing = target.nodes();
        Node before = standing.isEmpty() ? target.before() : nextMarkup(standing.get(standing.size() - 1));
        for (Node n : standing) {
            if (n instanceof Element e) {
                setAside.put(row.id() + "|" + row.value() + "|" + e.getLocalName(), n);
            }
            remove(n);
        }
        Particle branch = target.branches().get(index);
        for (ElementDecl declared : SheetRows.firstInstance(branch)) {
            Node kept = setAside.remove(
                    row.id() + "|" + option + "|" + declared.name().getLocalPart());
            insert(target.parent(), kept != null ? kept : sample(declared, target.parent()), before);
        }
    }

    /** Marks an element as having no value, or takes the mark away. */
    public void setNil(SheetRow row, boolean nil) {
        Element element = (Element) row.target().node();
        if (nil) {
            while (element.hasChildNodes()) {
                element.removeChild(element.getFirstChild());
            }
            String prefix = element.lookupPrefix(XSI);
            if (prefix == null) {
                prefix = "xsi";
                element.setAttributeNS("http://www.w3.org/2000/xmlns/", "xmlns:xsi", XSI);
            }
            element.setAttributeNS(XSI, prefix + ":nil", "true");
        } else {
            element.removeAttributeNS(XSI, "nil");
        }
    }

    /** Puts every optional part in, or takes every optional part out, below the root. */
    public void fill(Detail detail) {
        outline.root().ifPresent(declared -> {
            Element fresh = new SampleBuilder(outline, detail).build(declared);
            Element old = document.getDocumentElement();
            if (old != null) {
                Carry.over(old, fresh);
                document.replaceChild(document.importNode(fresh, true), old);
                Document laidOut = Xml.parse(XmlText.laidOut(document), "message", XmlLimits.MESSAGE);
                document.replaceChild(
                        document.importNode(laidOut.getDocumentElement(), true), document.getDocumentElement());
            }
        });
    }

    private void insert(Element parent, Node node, Node before) {
        Node at = before;
        String indent = indentOf(parent);
        boolean spread = hasElement(parent) || parent.getFirstChild() == null;
        if (at == null
                && parent.getLastChild() instanceof Text last
                && last.getData().isBlank()) {
            at = last;
        } else if (at != null
                && at.getPreviousSibling() instanceof Text gap
                && gap.getData().isBlank()) {
            at = gap;
        }
        if (spread) {
            parent.insertBefore(document.createTextNode("\n" + indent + "  "), at);
        }
        parent.insertBefore(node, at);
        if (spread && at == null) {
            parent.appendChild(document.createTextNode("\n" + indent));
        }
        if (node instanceof Element e && hasElement(e)) {
            layOut(e, indent + "  ");
        }
    }

    private void layOut(Element element, String indent) {
        boolean bare = true;
        for (Node n = element.getFirstChild(); n != null; n = n.getNextSibling()) {
            bare &= !(n instanceof Text);
        }
        if (!bare || !element.hasChildNodes()) {
            return;
        }
        for (Element child : Xml.children(element)) {
            element.insertBefore(document.createTextNode("\n" + indent + "  "), child);
            layOut(child, indent + "  ");
        }
        element.appendChild(document.createTextNode("\n" + indent));
    }

    private static boolean hasElement(Element parent) {
        return !Xml.children(parent).isEmpty();
    }

    private static String indentOf(Element parent) {
        int depth = 0;
        for (Node n = parent.getParentNode(); n instanceof Element; n = n.getParentNode()) {
            depth++;
        }
        return "  ".repeat(depth);
    }

    private static Node nextMarkup(Node node) {
        Node next = node.getNextSibling();
        while (next instanceof Text text && text.getData().isBlank()) {
            next = next.getNextSibling();
        }
        return next;
    }

    private static void remove(Node node) {
        Node gap = node.getPreviousSibling();
        Node parent = node.getParentNode();
        parent.removeChild(node);
        if (gap instanceof Text text && text.getData().isBlank()) {
            parent.removeChild(gap);
        }
    }
}
