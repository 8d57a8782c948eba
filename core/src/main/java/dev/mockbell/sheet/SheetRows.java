package dev.mockbell.sheet;

import dev.mockbell.schema.ElementDecl;
import dev.mockbell.schema.Occurs;
import dev.mockbell.schema.Schemas;
import dev.mockbell.sheet.SheetRow.Kind;
import java.util.ArrayList;
import java.util.Collections;
import java.util.IdentityHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Supplier;
import org.w3c.dom.Element;
import org.w3c.dom.Node;

/**
 * The rows of a message, kept until what they show is forgotten, so that an edit costs what it touches and not the whole
 * message. What a row looks like is for {@link RowLayout}.
 */
final class SheetRows {
    private static final Set<Node> ANYWHERE = Set.of();

    private final RowLayout layout;
    /** The row that each element had when it was laid out last; none of those in one of very many. */
    private Map<Node, Laid> laid;

    /** Elements that have changed since, and in which of the elements right in them: {@link #ANYWHERE} or some. */
    private final Map<Node, Set<Node>> stale = new IdentityHashMap<>();

    /** What is wrong with an element's standing in its parent, which only that sees. */
    private final Map<Node, Flaw> flaws = new IdentityHashMap<>();

    /** The element of the first row; in a whole envelope it stands in the body. */
    private Element top;

    /** A row with where its element stood then. */
    private record Laid(SheetRow row, Seat seat) {}

    private record Flaw(String why, boolean tooFew) {}

    /** @param expected about how many elements there are */
    SheetRows(Schemas schemas, RowIds ids, int expected, boolean templated) {
        this.laid = new IdentityHashMap<>(expected);
        this.layout = new RowLayout(this, schemas, ids, templated);
    }

    /** Forgets the row of an element that has changed; of those around it, that it stands in them as it was. */
    void forget(Element element) {
        stale.put(element, ANYWHERE);
        Node changed = element;
        for (Node around = changed.getParentNode(); around != null; around = around.getParentNode()) {
            Set<Node> in = stale.computeIfAbsent(around, n -> Collections.newSetFromMap(new IdentityHashMap<>()));
            if (in != ANYWHERE) {
                in.add(changed);
            }
            changed = around;
        }
    }

    /** The rows of a whole message; {@code declared} may be null when the contract does not know the element. */
    SheetRow row(ElementDecl declared, Element element) {
        top = element;
        Standing standing = declared == null ? Standing.UNKNOWN : Standing.DECLARED;
        return element(new Seat(declared, Occurs.ONCE, 0, 1, "/", standing), element);
    }

    /** The row of an element that was laid out before, as the element is now; what only its parent knows is as it was. */
    Optional<SheetRow> again(Element element) {
        Laid was = laid.get(element);
        if (was != null) {
            return Optional.of(element(was.seat(), element));
        }
        return element.getParentNode() instanceof Element around && element != top
                ? again(around)
                        .map(holder ->
                                RowSearch.direct(holder, row -> row.target().node() == element))
                : Optional.empty();
    }

    /** Lays out rows that are made anew when something in them changes, so that none of them has to be remembered. */
    <T> T unremembered(Supplier<T> making) {
        Map<Node, Laid> kept = laid;
        laid = new IdentityHashMap<>(8);
        try {
            return making.get();
        } finally {
            laid = kept;
        }
    }

    /** The row of an element that stands somewhere: the one that there is, as far as that shows it as it is. */
    SheetRow element(Seat seat, Element element) {
        Laid was = laid.get(element);
        Set<Node> changed = stale.remove(element);
        boolean same = was != null && was.seat().isLike(seat);
        SheetRow made;
        if (same && changed == null) {
            if (was.seat().index() == seat.index() && was.seat().count() == seat.count()) {
                return was.row();
            }
            made = was.row().numbered(seat.index(), seat.count());
        } else if (same && changed != ANYWHERE && !(was.row().children() instanceof LaterRows)) {
            made = was.row().over(patched(was.row(), changed)).numbered(seat.index(), seat.count());
        } else {
            Element parent = element.getParentNode() instanceof Element p && element != top ? p : null;
            made = layout.row(seat, element, parent);
        }
        laid.put(element, new Laid(made, seat));
        return made;
    }

    /** The rows below one, those of changed elements made anew; the very same list when none is among them. */
    private List<SheetRow> patched(SheetRow row, Set<Node> changed) {
        List<SheetRow> children = null;
        for (int i = 0; i < row.children().size(); i++) {
            SheetRow was = row.children().get(i);
            SheetRow now = was;
            if (was.kind() == Kind.CHOICE || was.kind() == Kind.REPEATS) {
                List<SheetRow> below = patched(was, changed);
                now = below == was.children() ? was : was.over(below);
            } else if (changed.contains(was.target().node())) {
                now = anew(was);
            }
            if (now != was) {
                children = children == null ? new ArrayList<>(row.children()) : children;
                children.set(i, now);
            }
        }
        return children == null ? row.children() : List.copyOf(children);
    }

    /** The row of an element as it is now, with what its parent had said of it. */
    private SheetRow anew(SheetRow was) {
        Element element = (Element) was.target().node();
        Flaw flaw = flaws.get(element);
        boolean flawed =
                flaw != null && was.problem().filter(flaw.why()::equals).isPresent();
        SheetRow made = element(laid.get(element).seat(), element);
        if (was.target().round().isPresent()) {
            made = made.at(made.target().in(was.target().round().get()));
        }
        return flawed ? made.flawed(flaw.why()) : made;
    }

    /**
     * A row with what is wrong with its standing in its parent.
     *
     * @param tooFew whether that there are too few of it
     */
    SheetRow flawed(SheetRow row, String why, boolean tooFew) {
        if (row.target().node() != null) {
            flaws.put(row.target().node(), new Flaw(why, tooFew));
        }
        return row.flawed(why);
    }

    /** Whether all that is wrong with a row's standing is that there are too few of it. */
    boolean lacksSome(SheetRow row) {
        Flaw flaw = row.target().node() == null ? null : flaws.get(row.target().node());
        return flaw != null
                && flaw.tooFew()
                && row.problem().filter(flaw.why()::equals).isPresent();
    }

    /** A row as it was before it was said to be flawed. */
    SheetRow unflawed(SheetRow row) {
        flaws.remove(row.target().node());
        return laid.get(row.target().node()).row().at(row.target());
    }

    /** Forgets what was wrong with the standing of what is in an element, before it is judged anew. */
    void forgive(Element element) {
        if (!flaws.isEmpty()) {
            for (Node n = element.getFirstChild(); n != null; n = n.getNextSibling()) {
                flaws.remove(n);
            }
        }
    }
}
