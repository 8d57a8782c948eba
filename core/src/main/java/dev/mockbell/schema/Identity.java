package dev.mockbell.schema;

import dev.mockbell.xml.Xml;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.apache.xerces.impl.xpath.XPath;
import org.apache.xerces.impl.xs.identity.IdentityConstraint;
import org.apache.xerces.xs.XSIDCDefinition;
import org.apache.xerces.xs.XSObject;
import org.w3c.dom.Attr;
import org.w3c.dom.Element;
import org.w3c.dom.Node;

/** A key, a unique or a reference to one, which the content of an element must keep (XML Schema part 1 §3.11). */
public final class Identity {
    private final IdentityConstraint xs;

    private Identity(IdentityConstraint xs) {
        this.xs = xs;
    }

    static Optional<Identity> of(XSObject constraint) {
        return constraint instanceof IdentityConstraint c ? Optional.of(new Identity(c)) : Optional.empty();
    }

    /** Whether values must be found in another key, instead of being different from each other. */
    public boolean isReference() {
        return xs.getCategory() == XSIDCDefinition.IC_KEYREF;
    }

    /** The key that a reference refers to. */
    public Optional<Identity> key() {
        return isReference() && xs.getRefKey() != null ? of((XSObject) xs.getRefKey()) : Optional.empty();
    }

    /** The nodes of each field, a row for each selected element; a row with a missing field is left out. */
    public List<List<Node>> rows(Element scope) {
        List<List<Node>> rows = new ArrayList<>();
        for (Node selected : select(xs.getSelector().getXPath(), scope)) {
            List<Node> row = new ArrayList<>();
            for (int i = 0; i < xs.getFieldCount(); i++) {
                select(xs.getFieldAt(i).getXPath(), selected).stream()
                        .findFirst()
                        .ifPresent(row::add);
            }
            if (row.size() == xs.getFieldCount()) {
                rows.add(row);
            }
        }
        return rows;
    }

    private static Set<Node> select(XPath path, Node from) {
        Set<Node> found = new LinkedHashSet<>();
        for (XPath.LocationPath location : path.getLocationPaths()) {
            Set<Node> at = new LinkedHashSet<>(Set.of(from));
            for (XPath.Step step : location.steps) {
                Set<Node> next = new LinkedHashSet<>();
                at.forEach(n -> step(step, n, next));
                at = next;
            }
            found.addAll(at);
        }
        return found;
    }

    private static void step(XPath.Step step, Node from, Set<Node> into) {
        switch (step.axis.type) {
            case XPath.Axis.SELF -> into.add(from);
            case XPath.Axis.ATTRIBUTE -> {
                for (Attr a : from instanceof Element e ? Xml.attributes(e) : List.<Attr>of()) {
                    if (!a.getName().startsWith("xmlns") && named(step.nodeTest, a)) {
                        into.add(a);
                    }
                }
            }
            case XPath.Axis.DESCENDANT -> {
                into.add(from);
                for (Node n = from.getFirstChild(); n != null; n = n.getNextSibling()) {
                    step(step, n, into);
                }
            }
            default -> {
                for (Node n = from.getFirstChild(); n != null; n = n.getNextSibling()) {
                    if (n instanceof Element && named(step.nodeTest, n)) {
                        into.add(n);
                    }
                }
            }
        }
    }

    private static boolean named(XPath.NodeTest test, Node node) {
        String namespace = node.getNamespaceURI() == null ? "" : node.getNamespaceURI();
        String wanted = test.name == null || test.name.uri == null ? "" : test.name.uri;
        return switch (test.type) {
            case XPath.NodeTest.QNAME -> test.name.localpart.equals(node.getLocalName()) && wanted.equals(namespace);
            case XPath.NodeTest.NAMESPACE -> wanted.equals(namespace);
            default -> true;
        };
    }
}
