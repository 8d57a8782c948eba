package dev.mockbell.sheet;

import dev.mockbell.message.ElementMatch;
import dev.mockbell.schema.ElementDecl;
import dev.mockbell.schema.Particle;
import dev.mockbell.sheet.SheetRow.Kind;
import dev.mockbell.sheet.SheetRow.Round;
import dev.mockbell.sheet.SheetRow.Target;
import java.util.List;
import org.w3c.dom.Element;
import org.w3c.dom.Node;

/** Edits of how often parts stand, and where. */
final class OrderEdits {
    private final SheetTree tree;
    private final SetAside aside;

    OrderEdits(SheetTree tree, SetAside aside) {
        this.tree = tree;
        this.aside = aside;
    }

    void addRepeat(SheetRow given) {
        SheetRow row = tree.now(given);
        Target target = row.target();
        if (row.kind() == Kind.REPEATS) {
            if (!row.children().isEmpty()) {
                addRepeat(row.children().get(row.children().size() - 1));
            }
            return;
        }
        if (row.kind() == Kind.CHOICE) {
            Node last = target.nodes().get(target.nodes().size() - 1);
            Particle branch = target.branches().get(Math.max(0, row.options().indexOf(row.value())));
            tree.insertAll(target.parent(), SheetShape.firstInstance(branch), Placement.nextMarkup(last));
        } else {
            List<Node> back = aside.at(target.place());
            Node node = back == null || back.isEmpty()
                    ? tree.sample(target.element().orElseThrow(), target.parent())
                    : back.remove(back.size() - 1);
            tree.insert(target.parent(), node, Placement.nextMarkup(target.node()));
        }
        tree.touched(target.parent());
    }

    void addGroup(SheetRow given) {
        SheetRow row = tree.now(given);
        Round round = row.target().round().orElseThrow();
        Node last = round.nodes().get(round.nodes().size() - 1);
        tree.insertAll(row.target().parent(), SheetShape.firstInstance(round.group()), Placement.nextMarkup(last));
        tree.touched(row.target().parent());
    }

    void duplicate(SheetRow given) {
        SheetRow row = tree.now(given);
        Node node = row.target().node();
        if (node instanceof Element && row.target().parent() != null) {
            tree.insert(row.target().parent(), node.cloneNode(true), Placement.nextMarkup(node));
            tree.touched(row.target().parent());
        }
    }

    boolean move(SheetRow given, int by) {
        SheetRow row = tree.now(given);
        if (!(row.target().node() instanceof Element element) || row.index() == 0) {
            return false;
        }
        Node other = element;
        do {
            other = by < 0 ? other.getPreviousSibling() : other.getNextSibling();
        } while (other != null && !(other instanceof Element));
        boolean like = other instanceof Element neighbour
                && ElementMatch.nameOf(neighbour).equals(ElementMatch.nameOf(element));
        if (!like) {
            return false;
        }
        Element parent = row.target().parent();
        Node first = by < 0 ? other : element;
        Node second = by < 0 ? element : other;
        Node anchor = second.getNextSibling();
        Node gapEnd = first.getNextSibling();
        if (gapEnd == second) {
            parent.insertBefore(second, first);
        } else {
            parent.insertBefore(second, first);
            parent.insertBefore(first, anchor);
        }
        tree.touched(parent);
        return true;
    }

    void moveTo(SheetRow given, SheetRow leftOut) {
        SheetRow place = tree.now(leftOut);
        Element parent = place.target().parent();
        ElementDecl declared = place.target().element().orElseThrow();
        Element element = (Element) given.target().node();
        Element named = tree.sample(declared, parent);
        String name = named.getTagName();
        boolean declares = named.getPrefix() != null
                && !declared.name().getNamespaceURI().equals(parent.lookupNamespaceURI(named.getPrefix()));
        Node before = place.target().before() == element
                ? Placement.nextMarkup(element)
                : place.target().before();
        Placement.remove(element);
        Element moved = (Element) tree.document().renameNode(element, named.getNamespaceURI(), name);
        if (declares) {
            moved.setAttributeNS(
                    "http://www.w3.org/2000/xmlns/", "xmlns:" + named.getPrefix(), named.getNamespaceURI());
        }
        tree.insert(parent, moved, before);
        tree.touched(parent);
    }
}
