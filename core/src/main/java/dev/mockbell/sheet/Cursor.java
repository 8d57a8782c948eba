package dev.mockbell.sheet;

import dev.mockbell.xml.Xml;
import java.util.ArrayList;
import java.util.Collections;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Predicate;
import org.w3c.dom.Element;
import org.w3c.dom.Node;

/** Walks over the child elements of one element while they are laid beside its content model. */
final class Cursor {
    final Element parent;
    final String id;
    private final List<Element> children = new ArrayList<>();
    private final List<Element> strays = new ArrayList<>();
    private final Map<String, Integer> places = new HashMap<>();
    private Map<String, Integer> like;
    private final Map<String, Integer> seen = new HashMap<>();
    private int at;
    private boolean closed;
    private boolean fits;

    /** @param stray tells the elements that the model has no place for at all; they are passed over */
    Cursor(Element parent, String id, Predicate<Element> stray) {
        this.parent = parent;
        this.id = id;
        Xml.children(parent).forEach(e -> (stray.test(e) ? strays : children).add(e));
    }

    /** What was passed over. */
    List<Element> strays() {
        return strays;
    }

    /** Tells whether the elements as a whole are what the model allows. */
    void fits(boolean whole) {
        fits = whole;
    }

    boolean fits() {
        return fits;
    }

    /** Offers nothing from now on, or again what comes next; tells what it was before. */
    boolean close(boolean nothing) {
        boolean was = closed;
        closed = nothing;
        return was;
    }

    /** What may be taken next; null when nothing may. */
    Element offered() {
        return closed ? null : next();
    }

    /** What stands next, whether or not it may be taken; null at the end. */
    Element next() {
        return at < children.size() ? children.get(at) : null;
    }

    /** All that the model has a place for. */
    List<Element> all() {
        return Collections.unmodifiableList(children);
    }

    Element take() {
        return children.get(at++);
    }

    int position() {
        return at;
    }

    /** What was taken since a position. */
    List<Node> taken(int from) {
        return taken(from, at);
    }

    /** What was taken between two positions. */
    List<Node> taken(int from, int to) {
        return List.copyOf(children.subList(from, to));
    }

    /** A name for a place, unlike those of other places of that label. */
    String place(String label) {
        int before = places.merge(label, 1, Integer::sum) - 1;
        return id + "/" + label + (before == 0 ? "" : "~" + before);
    }

    /** How many children have that element's name. */
    int like(Element element) {
        if (like == null) {
            like = new HashMap<>();
            children.forEach(c -> like.merge(c.getLocalName(), 1, Integer::sum));
            strays.forEach(c -> like.merge(c.getLocalName(), 1, Integer::sum));
        }
        return like.get(element.getLocalName());
    }

    /** Which of its like an element is that no particle took; they come in order. 0 when it is the only one. */
    int number(Element element) {
        int n = seen.merge(element.getLocalName(), 1, Integer::sum);
        return like(element) < 2 ? 0 : n;
    }
}
