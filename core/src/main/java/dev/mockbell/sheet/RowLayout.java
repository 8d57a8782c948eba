package dev.mockbell.sheet;

import dev.mockbell.message.ElementMatch;
import dev.mockbell.schema.AttributeDecl;
import dev.mockbell.schema.ElementDecl;
import dev.mockbell.schema.Occurs;
import dev.mockbell.schema.Schemas;
import dev.mockbell.schema.SoapEncoding;
import dev.mockbell.schema.TypeDef;
import dev.mockbell.sheet.SheetRow.Kind;
import dev.mockbell.sheet.SheetRow.State;
import dev.mockbell.sheet.SheetRow.Target;
import dev.mockbell.xml.Xml;
import java.util.ArrayList;
import java.util.IdentityHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Supplier;
import org.w3c.dom.Attr;
import org.w3c.dom.Element;
import org.w3c.dom.Node;
import org.w3c.dom.Text;

/** Makes the row of an element: its attributes, its text, what stands in it and what may. What is wrong is for {@link RowJudge}. */
final class RowLayout {
    private static final String XSI = "http://www.w3.org/2001/XMLSchema-instance";
    private static final String XMLNS = "http://www.w3.org/2000/xmlns/";

    /** So many of a kind are laid out with all that is in them. */
    private static final int FEW = 200;

    private final SheetRows rows;
    private final Schemas schemas;
    private final RowIds ids;
    private final RowValues values;
    private final RowJudge judge;
    private final boolean templated;
    private final Map<TypeDef, Optional<SheetShape.Places>> models = new IdentityHashMap<>();

    /** @param rows gives the rows of the elements below, which may be there already */
    RowLayout(SheetRows rows, Schemas schemas, RowIds ids, boolean templated) {
        this.rows = rows;
        this.schemas = schemas;
        this.ids = ids;
        this.templated = templated;
        this.values = new RowValues(templated);
        this.judge = new RowJudge(schemas, values);
    }

    /** The row of an element. */
    SheetRow row(Seat seat, Element element, Element parent) {
        Target target = Target.of(parent, null, element, seat.place()).declared(seat.declared());
        return seat.declared() == null ? undeclared(seat, element, target) : declared(seat, element, target);
    }

    RowValues.Look look(TypeDef type) {
        return values.look(type);
    }

    /** The global declaration of an element's name. */
    Optional<ElementDecl> global(Element element) {
        return schemas.element(ElementMatch.nameOf(element));
    }

    private SheetRow declared(Seat seat, Element element, Target target) {
        ElementDecl substitute = ElementMatch.standsFor(seat.declared(), element);
        ElementDecl declared = substitute == null ? seat.declared() : substitute;
        TypeDef type = judge.actualType(declared, element);
        RowValues.Look look = values.look(type);
        String nil = element.getAttributeNS(XSI, "nil").strip();
        State state = "true".equals(nil) || "1".equals(nil) ? State.NIL : State.PRESENT;
        boolean text = type.content() == TypeDef.Content.TEXT;
        boolean any = type.isAny() && Xml.children(element).isEmpty();
        boolean holds = !text && !any && state != State.NIL;
        List<SheetRow> children = holds && isLater(seat)
                ? later(() -> rows.unremembered(() -> below(type, element, true)))
                : below(type, element, holds);
        String value = text || any ? element.getTextContent() : "";
        boolean ownId = seat.occurs().repeats() || target.parent() == null;
        return new RowDraft(
                        ownId ? ids.of(element) : target.place(),
                        text || any ? Kind.VALUE : Kind.GROUP,
                        element.getLocalName())
                .state(state)
                .value(value)
                .type(look.summary())
                .occurs(seat.occurs())
                .number(seat.index(), seat.count())
                .problem(judge.element(declared, type, element, state, value))
                .options(look.options())
                .documentation(declared.documentation())
                .over(children)
                .at(target.typed(look.simple()));
    }

    /** Laid out when it is opened, one at a time. */
    LaterRows later(Supplier<List<SheetRow>> making) {
        return new LaterRows(() -> {
            synchronized (this) {
                return making.get();
            }
        });
    }

    private List<SheetRow> below(TypeDef type, Element element, boolean holds) {
        List<SheetRow> children = new ArrayList<>();
        attributes(type, element, children);
        if (holds) {
            content(type, element, ids.of(element), children);
        }
        return children;
    }

    /** What is only looked at need not be judged, so that what is below one of very many is laid out when it is opened. */
    private boolean isLater(Seat seat) {
        return isLater(seat.count());
    }

    /** Whether so many of a kind are laid out when they are opened. */
    boolean isLater(int count) {
        return !templated && count > FEW;
    }

    private SheetRow undeclared(Seat seat, Element element, Target target) {
        String id = ids.of(element);
        boolean leaf = Xml.children(element).isEmpty();
        if (!leaf && isLater(seat)) {
            return undeclared(
                    seat, id, element, target, false, later(() -> rows.unremembered(() -> free(element, id))));
        }
        return undeclared(seat, id, element, target, leaf, free(element, id));
    }

    private List<SheetRow> free(Element element, String id) {
        Cursor cursor = new Cursor(element, id, e -> false);
        boolean leaf = cursor.next() == null;
        List<SheetRow> children = new ArrayList<>();
        attributes(null, element, children);
        while (cursor.next() != null) {
            Element child = cursor.take();
            texts(child.getPreviousSibling(), element, true, children);
            children.add(rows.element(seat(null, child, cursor, Standing.FREE), child));
        }
        if (!leaf) {
            texts(element.getLastChild(), element, true, children);
        }
        return children;
    }

    private static SheetRow undeclared(
            Seat seat, String id, Element element, Target target, boolean leaf, List<SheetRow> children) {
        return new RowDraft(id, leaf ? Kind.VALUE : Kind.UNKNOWN, element.getLocalName())
                .value(leaf ? element.getTextContent() : "")
                .type(seat.standing().words())
                .occurs(seat.occurs())
                .number(seat.index(), seat.count())
                .problem(RowJudge.undeclared(seat.standing(), target.parent() != null))
                .over(children)
                .at(target);
    }

    private static Seat seat(ElementDecl declared, Element child, Cursor cursor, Standing standing) {
        return new Seat(
                declared,
                Occurs.ONCE,
                cursor.number(child),
                cursor.like(child),
                cursor.place(child.getLocalName()),
                standing);
    }

    private void attributes(TypeDef type, Element element, List<SheetRow> rows) {
        List<AttributeDecl> declarations = type == null ? List.of() : type.attributes();
        if (declarations.isEmpty() && !element.hasAttributes()) {
            return;
        }
        String id = ids.of(element);
        List<Attr> known = new ArrayList<>();
        for (AttributeDecl declared : declarations) {
            String ns = declared.name().getNamespaceURI();
            Attr attr = element.getAttributeNodeNS(
                    ns.isEmpty() ? null : ns, declared.name().getLocalPart());
            known.add(attr);
            rows.add(attribute(declared, attr, element, id, true));
        }
        for (Attr attr : Xml.attributes(element)) {
            boolean technical = XMLNS.equals(attr.getNamespaceURI()) || XSI.equals(attr.getNamespaceURI());
            if (!technical && !known.contains(attr)) {
                String namespace = attr.getNamespaceURI() == null ? "" : attr.getNamespaceURI();
                boolean allowed = type == null
                        || type.isAny()
                        || type.takesAttributeOf(namespace)
                        || SoapEncoding.isStyle(namespace, attr.getLocalName());
                rows.add(attribute(null, attr, element, id, allowed));
            }
        }
    }

    private SheetRow attribute(AttributeDecl declared, Attr attr, Element owner, String id, boolean allowed) {
        String label = declared == null ? attr.getName() : declared.name().getLocalPart();
        RowValues.Look look = declared == null ? RowValues.NOTHING : values.look(declared.type());
        String free = allowed ? "any attribute" : Standing.UNKNOWN.words();
        String place = id + "/@" + label;
        return new RowDraft(place, Kind.ATTRIBUTE, "@" + label)
                .state(attr == null ? State.LEFT_OUT : State.PRESENT)
                .value(attr == null ? "" : attr.getValue())
                .type(declared == null ? free : look.summary())
                .occurs(new Occurs(declared == null || !declared.required() ? 0 : 1, 1))
                .problem(judge.attribute(declared, attr, owner, allowed))
                .options(look.options())
                .documentation(declared == null ? "" : declared.documentation())
                .at(Target.of(owner, null, attr, place).declared(declared).typed(look.simple()));
    }

    /** Rows for the text that stands right before {@code last}'s next sibling, back to the markup before it. */
    void texts(Node last, Element parent, boolean allowed, List<SheetRow> into) {
        int at = into.size();
        for (Node n = last; n != null && !(n instanceof Element); n = n.getPreviousSibling()) {
            if (n instanceof Text text && !text.getData().isBlank()) {
                String id = ids.of(n);
                into.add(
                        at,
                        new RowDraft(id, Kind.TEXT, "text")
                                .value(text.getData().strip())
                                .type("text")
                                .problem(RowJudge.text(allowed))
                                .at(Target.of(parent, null, n, id)));
            }
        }
    }

    private void content(TypeDef type, Element element, String id, List<SheetRow> into) {
        Optional<SheetShape.Places> places =
                models.computeIfAbsent(type, t -> t.particle().map(SheetShape::places));
        Cursor cursor =
                new Cursor(element, id, e -> places.isPresent() && !places.get().has(e));
        rows.forgive(element);
        boolean mixed = type.content() == TypeDef.Content.MIXED;
        cursor.fits(type.particle()
                .filter(p -> ContentMatch.matches(p, cursor.all()))
                .isPresent());
        type.particle().ifPresent(p -> new ContentLayout(this, rows, cursor, mixed).lay(p, into));
        List<Element> extras = new ArrayList<>();
        while (cursor.next() != null) {
            extras.add(cursor.take());
        }
        extras.addAll(cursor.strays());
        for (Element extra : extras) {
            texts(extra.getPreviousSibling(), element, mixed, into);
            ElementDecl known = type.isAny() ? global(extra).orElse(null) : null;
            into.add(rows.element(seat(known, extra, cursor, type.isAny() ? Standing.FREE : Standing.UNKNOWN), extra));
        }
        texts(element.getLastChild(), element, mixed, into);
    }
}
