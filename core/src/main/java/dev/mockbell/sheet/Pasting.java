package dev.mockbell.sheet;

import dev.mockbell.message.ElementMatch;
import dev.mockbell.message.Fragments;
import dev.mockbell.problem.Problem;
import dev.mockbell.schema.Particle;
import dev.mockbell.sheet.SheetRow.Kind;
import dev.mockbell.sheet.SheetRow.State;
import dev.mockbell.xml.Xml;
import java.util.List;
import java.util.Optional;
import org.w3c.dom.Document;
import org.w3c.dom.Element;
import org.w3c.dom.Node;

/** Puts XML that was pasted where it belongs. */
final class Pasting {
    private final Sheet sheet;
    private final Document document;

    Pasting(Sheet sheet, Document document) {
        this.sheet = sheet;
        this.document = document;
    }

    /** @return the element whose content has changed */
    Element paste(SheetRow row, String xml) {
        Element scope =
                row.target().node() instanceof Element e ? e : row.target().parent();
        List<Element> pasted = Xml.children(Fragments.read(xml, scope));
        if (pasted.isEmpty()) {
            throw Problem.input("There is no element in what was pasted", null, "Copy an element with its tags.");
        }
        if (row.kind() == Kind.WILDCARD) {
            return wildcard(row, pasted);
        }
        Element first = pasted.get(0);
        if (row.state() != State.LEFT_OUT && row.target().node() instanceof Element standing && fits(row, first)) {
            return replace(standing, pasted);
        }
        if (row.state() == State.LEFT_OUT && row.kind() != Kind.CHOICE && fits(row, first)) {
            pasted.forEach(e -> insert(row.target().parent(), e, row.target().before()));
            return row.target().parent();
        }
        Optional<SheetRow> place = row.children().stream()
                .filter(c -> c.target().element().isPresent() && fits(c, first)
                        || c.kind() == Kind.WILDCARD && allows(c, first))
                .findFirst();
        if (place.isPresent() && place.get().state() == State.LEFT_OUT) {
            return paste(place.get(), xml);
        }
        if (place.isPresent()) {
            SheetRow last = place.get().kind() == Kind.REPEATS
                    ? place.get().children().get(place.get().children().size() - 1)
                    : place.get();
            if (last.occurs().repeats()) {
                Node before = Placement.nextMarkup(last.target().node());
                pasted.forEach(e -> insert(last.target().parent(), e, before));
                return last.target().parent();
            }
            return replace((Element) last.target().node(), pasted);
        }
        boolean free = row.kind() == Kind.UNKNOWN
                || row.target().element().filter(d -> d.type().isAny()).isPresent();
        if (free && row.target().node() instanceof Element holder) {
            pasted.forEach(e -> insert(holder, e, null));
            return holder;
        }
        throw Problem.input(
                "There is no place for <" + first.getTagName() + "> in " + row.label(),
                null,
                "Point at a row of that name, or at one that may hold it.");
    }

    private static boolean fits(SheetRow row, Element pasted) {
        return row.target()
                .element()
                .map(d -> ElementMatch.matches(d, pasted))
                .orElseGet(() -> row.target().node() instanceof Element e
                        && ElementMatch.nameOf(e).equals(ElementMatch.nameOf(pasted)));
    }

    private static boolean allows(SheetRow row, Element pasted) {
        return SheetShape.starts(row.target().branches().get(0), pasted);
    }

    private Element wildcard(SheetRow row, List<Element> pasted) {
        Particle.OfAny any = (Particle.OfAny) row.target().branches().get(0);
        for (Element e : pasted) {
            if (!allows(row, e)) {
                throw Problem.input(
                        "<" + e.getTagName() + "> cannot stand here: the contract allows elements of "
                                + any.namespaces(),
                        null,
                        "Paste an element of such a namespace.");
            }
        }
        pasted.forEach(e -> insert(row.target().parent(), e, row.target().before()));
        return row.target().parent();
    }

    private Element replace(Element standing, List<Element> pasted) {
        Node parent = standing.getParentNode();
        if (!(parent instanceof Element holder)) {
            Element copy = (Element) document.importNode(pasted.get(0), true);
            document.replaceChild(copy, standing);
            return copy;
        }
        Node before = Placement.nextMarkup(standing);
        pasted.forEach(e -> insert(holder, e, before));
        Placement.remove(standing);
        return holder;
    }

    private void insert(Element parent, Element pasted, Node before) {
        Placement.insert(parent, document.importNode(pasted, true), before);
    }
}
