package dev.mockbell.sheet;

import dev.mockbell.schema.AttributeDecl;
import dev.mockbell.schema.ElementDecl;
import dev.mockbell.schema.Occurs;
import dev.mockbell.schema.Particle;
import dev.mockbell.schema.Schemas;
import dev.mockbell.schema.TypeDef;
import dev.mockbell.sheet.SheetRow.Kind;
import dev.mockbell.sheet.SheetRow.Round;
import dev.mockbell.sheet.SheetRow.State;
import dev.mockbell.sheet.SheetRow.Tally;
import dev.mockbell.sheet.SheetRow.Target;
import dev.mockbell.xml.Xml;
import java.util.ArrayList;
import java.util.Collections;
import java.util.IdentityHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import javax.xml.namespace.QName;
import org.w3c.dom.Attr;
import org.w3c.dom.Element;
import org.w3c.dom.Node;
import org.w3c.dom.Text;

/**
 * Lays the elements of a message beside the contract's content model. The model is deterministic (XML Schema part 1
 * §3.8.6, unique particle attribution), so taking elements as they come, with no looking back, finds the one reading.
 * Rows are kept until what they show is forgotten, so that an edit costs what it touches and not the whole message.
 */
public final class SheetRows {
    /** From how many on rows of one kind are gathered into one that folds. */
    static final int MANY = 20;

    private static final String XSI = "http://www.w3.org/2001/XMLSchema-instance";
    private static final String XMLNS = "http://www.w3.org/2000/xmlns/";
    private static final String FREE = "any element";
    private static final String UNKNOWN = "not in the contract";
    private static final String TOO_FEW = "the contract requires at least ";
    private static final Set<Node> ANYWHERE = Set.of();

    private final Schemas schemas;
    private final RowIds ids;
    private final RowValues values;
    /** The row that each element had when it was laid out last. */
    private final Map<Node, SheetRow> laid = new IdentityHashMap<>();

    /** Elements that have changed since, and in which of the elements right in them: {@link #ANYWHERE} or some. */
    private final Map<Node, Set<Node>> stale = new IdentityHashMap<>();

    /** What is wrong with an element's standing in its parent, which only that sees. */
    private final Map<Node, String> flaws = new IdentityHashMap<>();

    private final Map<TypeDef, Optional<SheetShape.Places>> models = new IdentityHashMap<>();

    /** The element of the first row; in a whole envelope it stands in the body. */
    private Element top;

    SheetRows(Schemas schemas, RowIds ids, boolean templated) {
        this.schemas = schemas;
        this.values = new RowValues(templated);
        this.ids = ids;
    }

    /** The expanded name of an element in a tree. */
    public static QName nameOf(Element element) {
        return new QName(element.getNamespaceURI() == null ? "" : element.getNamespaceURI(), element.getLocalName());
    }

    /** Whether an element may stand where a declaration does, as itself or as a member of its substitution group. */
    public static boolean matches(ElementDecl declared, Element element) {
        return standsFor(declared, element) != null;
    }

    /** The declaration of the element itself: the given one or one of its substitution group; null when it is neither. */
    private static ElementDecl standsFor(ElementDecl declared, Element element) {
        QName name = declared.name();
        boolean named = name.getLocalPart().equals(element.getLocalName());
        String ns = element.getNamespaceURI() == null ? "" : element.getNamespaceURI();
        if (named && name.getNamespaceURI().equals(ns)) {
            return declared;
        }
        if (!declared.isGlobal()) {
            return null;
        }
        for (ElementDecl substitute : declared.substitutes()) {
            if (substitute.name().equals(nameOf(element))) {
                return substitute;
            }
        }
        return null;
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
        return element(declared, element, Occurs.ONCE, 0, 1, "/", declared == null ? UNKNOWN : "");
    }

    /** The row of an element that was laid out before, as the element is now; what only its parent knows is as it was. */
    Optional<SheetRow> again(Element element) {
        return Optional.ofNullable(laid.get(element)).map(was -> again(was, element));
    }

    private SheetRow again(SheetRow was, Element element) {
        ElementDecl given = was.target().element().orElse(null);
        return element(
                given,
                element,
                was.occurs(),
                was.index(),
                was.count(),
                was.target().place(),
                given == null ? was.type() : "");
    }

    /** @param unknown what to say of the type when nothing is declared; a flaw when it starts with “not” below a known one */
    private SheetRow element(
            ElementDecl given, Element element, Occurs occurs, int index, int count, String place, String unknown) {
        SheetRow was = laid.get(element);
        Set<Node> changed = stale.remove(element);
        boolean same = was != null
                && was.target().element().orElse(null) == given
                && was.occurs().equals(occurs)
                && was.target().place().equals(place)
                && (given != null || was.type().equals(unknown));
        SheetRow made;
        if (same && changed == null) {
            if (was.index() == index && was.count() == count) {
                return was;
            }
            made = was.numbered(index, count);
        } else if (same && changed != ANYWHERE) {
            made = was.over(patched(was, changed)).numbered(index, count);
        } else {
            Element parent = element.getParentNode() instanceof Element p && element != top ? p : null;
            Target target = Target.of(parent, null, element, place).declared(given);
            made = given == null
                    ? unknown(element, index, count, occurs, unknown, target)
                    : declared(given, element, occurs, index, count, target);
        }
        laid.put(element, made);
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
        String flaw = flaws.get(element);
        boolean flawed = flaw != null && was.problem().filter(flaw::equals).isPresent();
        SheetRow made = again(was, element);
        if (was.target().round().isPresent()) {
            made = made.at(made.target().in(was.target().round().get()));
        }
        return flawed ? flawed(made, flaw) : made;
    }

    /** A row with what is wrong with its standing in its parent. */
    private SheetRow flawed(SheetRow row, String why) {
        if (row.target().node() != null) {
            flaws.put(row.target().node(), why);
        }
        return row.flawed(why);
    }

    private SheetRow declared(ElementDecl given, Element element, Occurs occurs, int index, int count, Target target) {
        ElementDecl substitute = standsFor(given, element);
        ElementDecl declared = substitute == null ? given : substitute;
        TypeDef type = actualType(declared, element);
        RowValues.Look look = values.look(type);
        String nil = element.getAttributeNS(XSI, "nil").strip();
        State state = "true".equals(nil) || "1".equals(nil) ? State.NIL : State.PRESENT;
        List<SheetRow> children = new ArrayList<>();
        attributes(type, element, children);
        boolean text = type.content() == TypeDef.Content.TEXT;
        boolean any = type.isAny() && Xml.children(element).isEmpty();
        if (!text && !any && state != State.NIL) {
            content(type, element, ids.of(element), children);
        }
        String value = text || any ? element.getTextContent() : "";
        Optional<String> problem =
                text && state == State.PRESENT ? textProblem(look, declared, value, element) : Optional.empty();
        Optional<String> misnamed = misnamed(declared, element);
        Optional<String> notNil = state == State.NIL ? notNil(declared, element) : Optional.empty();
        return make(
                occurs.repeats() || target.parent() == null ? ids.of(element) : target.place(),
                text || any ? Kind.VALUE : Kind.GROUP,
                element.getLocalName(),
                state,
                value,
                look.summary(),
                occurs,
                index,
                count,
                misnamed.or(() -> notNil).or(() -> problem),
                look.options(),
                declared.documentation(),
                children,
                target.typed(look.simple()));
    }

    private Optional<String> textProblem(RowValues.Look look, ElementDecl declared, String value, Element element) {
        return Xml.children(element).isEmpty()
                ? values.problem(look.simple(), declared, value, element)
                : Optional.of("the contract allows text alone here, and there are elements in it");
    }

    /** Why an element cannot be nil (XML Schema part 1 §3.3.4, element locally valid, 3). */
    private static Optional<String> notNil(ElementDecl declared, Element element) {
        if (!declared.nillable()) {
            return Optional.of("the contract does not allow nil here");
        }
        for (Node n = element.getFirstChild(); n != null; n = n.getNextSibling()) {
            if (n instanceof Element || n instanceof Text) {
                return Optional.of("it is nil, so it cannot have content");
            }
        }
        return declared.fixed().map(f -> "the contract fixes the value to “" + f + "”, so it cannot be nil");
    }

    private static SheetRow make(
            String id,
            Kind kind,
            String label,
            State state,
            String value,
            String type,
            Occurs occurs,
            int index,
            int count,
            Optional<String> problem,
            List<String> options,
            String documentation,
            List<SheetRow> children,
            Target target) {
        Tally tally = Tally.of(label, state, occurs.optional() && kind != Kind.WILDCARD, problem, children);
        return new SheetRow(
                id,
                kind,
                label,
                state,
                value,
                type,
                occurs,
                index,
                count,
                problem,
                options,
                documentation,
                List.copyOf(children),
                tally,
                target);
    }

    private TypeDef actualType(ElementDecl declared, Element element) {
        String named = element.getAttributeNS(XSI, "type").strip();
        return named.isEmpty()
                ? declared.type()
                : schemas.type(qualified(named, element)).orElse(declared.type());
    }

    private static QName qualified(String named, Element element) {
        int colon = named.indexOf(':');
        String ns = element.lookupNamespaceURI(colon < 0 ? null : named.substring(0, colon));
        return new QName(ns == null ? "" : ns, named.substring(colon + 1));
    }

    /** Why an element or the type that its {@code xsi:type} names cannot stand here (XML Schema part 1 §3.3.4, element locally valid, 2 and 4). */
    private Optional<String> misnamed(ElementDecl declared, Element element) {
        if (declared.isAbstract()) {
            return Optional.of("it is abstract, so another of its substitution group must stand here");
        }
        String named = element.getAttributeNS(XSI, "type").strip();
        if (values.isOpen(named)) {
            return Optional.empty();
        }
        if (named.isEmpty()) {
            return declared.type().isAbstract()
                    ? Optional.of("its type is abstract, so xsi:type must name one that is derived from it")
                    : Optional.empty();
        }
        TypeDef type = schemas.type(qualified(named, element)).orElse(null);
        if (type == null) {
            return Optional.of("xsi:type names “" + named + "”, a type that the contract does not know");
        }
        // an array of SOAP's encoding is named by what is in it, not by the type that the contract derives from it
        boolean array = type.isEncodedArray() && declared.type().isEncodedArray();
        if (!array && !declared.takes(type)) {
            String own = declared.type().name().map(QName::getLocalPart).orElse("the element's own");
            return Optional.of("xsi:type names “" + named + "”, which is not derived from " + own);
        }
        return type.isAbstract() ? Optional.of("xsi:type names “" + named + "”, which is abstract") : Optional.empty();
    }

    private SheetRow unknown(Element element, int index, int count, Occurs occurs, String type, Target target) {
        String id = ids.of(element);
        Cursor cursor = new Cursor(element, id, e -> false);
        boolean leaf = cursor.next() == null;
        List<SheetRow> children = new ArrayList<>();
        attributes(null, element, children);
        while (cursor.next() != null) {
            Element child = cursor.take();
            texts(child.getPreviousSibling(), element, true, children);
            String label = child.getLocalName();
            children.add(element(
                    null, child, Occurs.ONCE, cursor.number(child), cursor.like(child), cursor.place(label), FREE));
        }
        if (!leaf) {
            texts(element.getLastChild(), element, true, children);
        }
        boolean flaw = UNKNOWN.equals(type) && target.parent() != null;
        return make(
                id,
                leaf ? Kind.VALUE : Kind.UNKNOWN,
                element.getLocalName(),
                State.PRESENT,
                leaf ? element.getTextContent() : "",
                type,
                occurs,
                index,
                count,
                flaw ? Optional.of("the contract does not know this element here") : Optional.empty(),
                List.of(),
                "",
                children,
                target);
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
        var all = element.getAttributes();
        for (int i = 0; i < all.getLength(); i++) {
            Attr attr = (Attr) all.item(i);
            boolean technical = XMLNS.equals(attr.getNamespaceURI()) || XSI.equals(attr.getNamespaceURI());
            if (!technical && !known.contains(attr)) {
                String namespace = attr.getNamespaceURI() == null ? "" : attr.getNamespaceURI();
                boolean allowed = type == null || type.isAny() || type.takesAttributeOf(namespace);
                rows.add(attribute(null, attr, element, id, allowed));
            }
        }
    }

    private SheetRow attribute(AttributeDecl declared, Attr attr, Element owner, String id, boolean allowed) {
        String label = declared == null ? attr.getName() : declared.name().getLocalPart();
        RowValues.Look look = declared == null ? RowValues.NOTHING : values.look(declared.type());
        String value = attr == null ? "" : attr.getValue();
        Optional<String> problem;
        if (declared == null) {
            problem = allowed ? Optional.empty() : Optional.of("the contract does not know this attribute here");
        } else if (attr == null) {
            problem = declared.required() ? Optional.of("the contract requires this attribute") : Optional.empty();
        } else {
            problem = values.problem(look.simple(), declared.fixed(), value, owner);
        }
        String place = id + "/@" + label;
        return make(
                place,
                Kind.ATTRIBUTE,
                "@" + label,
                attr == null ? State.LEFT_OUT : State.PRESENT,
                value,
                declared == null ? allowed ? "any attribute" : UNKNOWN : look.summary(),
                new Occurs(declared == null || !declared.required() ? 0 : 1, 1),
                0,
                1,
                problem,
                look.options(),
                declared == null ? "" : declared.documentation(),
                List.of(),
                Target.of(owner, null, attr, place).declared(declared).typed(look.simple()));
    }

    /** Rows for the text that stands right before {@code last}'s next sibling, back to the markup before it. */
    private void texts(Node last, Element parent, boolean allowed, List<SheetRow> rows) {
        int at = rows.size();
        for (Node n = last; n != null && !(n instanceof Element); n = n.getPreviousSibling()) {
            if (n instanceof Text text && !text.getData().isBlank()) {
                String id = ids.of(n);
                rows.add(
                        at,
                        make(
                                id,
                                Kind.TEXT,
                                "text",
                                State.PRESENT,
                                text.getData().strip(),
                                "text",
                                Occurs.ONCE,
                                0,
                                1,
                                allowed
                                        ? Optional.empty()
                                        : Optional.of("the contract does not allow text between these elements"),
                                List.of(),
                                "",
                                List.of(),
                                Target.of(parent, null, n, id)));
            }
        }
    }

    private void content(TypeDef type, Element element, String id, List<SheetRow> rows) {
        Optional<SheetShape.Places> places =
                models.computeIfAbsent(type, t -> t.particle().map(SheetShape::places));
        Cursor cursor =
                new Cursor(element, id, e -> places.isPresent() && !places.get().has(e));
        if (!flaws.isEmpty()) {
            Xml.children(element).forEach(flaws::remove);
        }
        boolean mixed = type.content() == TypeDef.Content.MIXED;
        cursor.fits(type.particle()
                .filter(p -> ContentMatch.matches(p, cursor.all()))
                .isPresent());
        type.particle().ifPresent(p -> particle(p, cursor, rows, mixed, true, true));
        List<Element> extras = new ArrayList<>();
        while (cursor.next() != null) {
            extras.add(cursor.take());
        }
        extras.addAll(cursor.strays());
        for (Element extra : extras) {
            texts(extra.getPreviousSibling(), element, mixed, rows);
            ElementDecl known = type.isAny() ? schemas.element(nameOf(extra)).orElse(null) : null;
            rows.add(element(
                    known,
                    extra,
                    Occurs.ONCE,
                    cursor.number(extra),
                    cursor.like(extra),
                    cursor.place(extra.getLocalName()),
                    type.isAny() ? FREE : UNKNOWN));
        }
        texts(element.getLastChild(), element, mixed, rows);
    }

    /**
     * @param wanted whether a place that is not filled gets a row
     * @param needed whether a required one that is not filled is a flaw
     */
    private void particle(
            Particle particle, Cursor cursor, List<SheetRow> rows, boolean mixed, boolean wanted, boolean needed) {
        if (particle instanceof Particle.OfElement e) {
            elements(e, cursor, rows, mixed, wanted, needed);
        } else if (particle instanceof Particle.OfAny any) {
            wildcard(any, cursor, rows, mixed, wanted, needed);
        } else {
            group((Particle.OfGroup) particle, cursor, rows, mixed, wanted, needed);
        }
    }

    private void wildcard(
            Particle.OfAny any, Cursor cursor, List<SheetRow> rows, boolean mixed, boolean wanted, boolean needed) {
        int taken = 0;
        while (cursor.offered() != null && any.occurs().allows(taken) && allows(any, cursor.offered())) {
            Element found = cursor.take();
            texts(found.getPreviousSibling(), cursor.parent, mixed, rows);
            ElementDecl declared = any.processing() == Particle.Processing.SKIP
                    ? null
                    : schemas.element(nameOf(found)).orElse(null);
            SheetRow row = element(
                    declared,
                    found,
                    any.occurs(),
                    cursor.number(found),
                    cursor.like(found),
                    cursor.place(found.getLocalName()),
                    FREE);
            boolean strange = declared == null && any.processing() == Particle.Processing.STRICT;
            rows.add(
                    strange ? flawed(row, "the contract allows any element here that it declares, not this one") : row);
            taken++;
        }
        if (taken == 0 && wanted && any.occurs().max() != 0) {
            String place = cursor.place("*");
            boolean missing = needed && !any.occurs().optional();
            rows.add(make(
                    place,
                    Kind.WILDCARD,
                    FREE,
                    State.LEFT_OUT,
                    "",
                    "any".equals(any.namespaces()) ? "of any namespace" : "of " + any.namespaces(),
                    any.occurs(),
                    0,
                    0,
                    missing ? Optional.of("the contract requires an element here") : Optional.empty(),
                    List.of(),
                    "",
                    List.of(),
                    Target.of(cursor.parent, cursor.next(), null, place).holding(List.of(), List.of(any))));
        }
    }

    private static boolean allows(Particle.OfAny any, Element element) {
        return any.allows(element.getNamespaceURI() == null ? "" : element.getNamespaceURI());
    }

    private void group(
            Particle.OfGroup group, Cursor cursor, List<SheetRow> rows, boolean mixed, boolean wanted, boolean needed) {
        int start = rows.size();
        int begin = cursor.position();
        List<int[]> spans = new ArrayList<>();
        int round = 0;
        do {
            Element before = cursor.offered();
            int from = cursor.position();
            int first = rows.size();
            boolean standing = before != null && stands(group, cursor);
            boolean need =
                    standing || needed && round < Math.max(0, group.occurs().min());
            switch (group.compositor()) {
                case SEQUENCE -> {
                    boolean show = wanted && (standing || round == 0);
                    // what could only stand behind a part that is not there is somebody else's
                    boolean was = cursor.close(cursor.fits() && !standing);
                    group.parts().forEach(p -> particle(p, cursor, rows, mixed, show, need));
                    cursor.close(was);
                }
                case CHOICE -> choice(group, cursor, rows, mixed, wanted && round == 0, need);
                case ALL -> all(group, cursor, rows, mixed, wanted, need);
            }
            spans.add(new int[] {first, rows.size(), from, cursor.position()});
            round++;
            if (cursor.offered() == before) {
                break;
            }
        } while (group.occurs().allows(round) && cursor.offered() != null && stands(group, cursor));
        rounds(group, cursor, rows, spans);
        if (cursor.position() > begin && !group.occurs().equals(Occurs.ONCE)) {
            counted(group, cursor.taken(begin), round, rows.subList(start, rows.size()));
        }
        if (round > MANY) {
            gather(SheetShape.title(group), group.occurs(), round, cursor, rows, start);
        }
    }

    /**
     * Judges how often a group stands. Its elements were taken as they came; where that looks like too few of something,
     * they may still be divided among its standings so that all is well.
     */
    private void counted(Particle.OfGroup group, List<Node> taken, int rounds, List<SheetRow> rows) {
        boolean tooFew = rounds < group.occurs().min();
        boolean lacking = rows.stream().anyMatch(SheetRows::lacksSome);
        if (!tooFew && !lacking) {
            return;
        }
        if (ContentMatch.matches(group, taken)) {
            rows.replaceAll(r -> lacksSome(r) ? laid.get(r.target().node()).at(r.target()) : r);
            return;
        }
        int last = rows.size() - 1;
        while (rows.get(last).state() == State.LEFT_OUT || rows.get(last).kind() == Kind.TEXT) {
            last--;
        }
        boolean told = lacking
                || rows.stream()
                        .anyMatch(
                                r -> r.state() == State.LEFT_OUT && r.problem().isPresent());
        if (tooFew && !told) {
            String why = TOO_FEW + group.occurs().min() + " of " + SheetShape.title(group) + ", here "
                    + (rounds == 1 ? "is " : "are ") + rounds;
            rows.set(last, flawed(rows.get(last), why));
        }
    }

    private static boolean lacksSome(SheetRow row) {
        return row.target().node() != null
                && row.problem().filter(p -> p.startsWith(TOO_FEW)).isPresent();
    }

    /** Tells the rows of a group that may go or repeat which standing of it they belong to. */
    private static void rounds(Particle.OfGroup group, Cursor cursor, List<SheetRow> rows, List<int[]> spans) {
        boolean plain = group.occurs().equals(Occurs.ONCE) || group.compositor() == Particle.Compositor.CHOICE;
        if (plain) {
            return;
        }
        for (int i = 0; i < spans.size(); i++) {
            int[] span = spans.get(i);
            Round standing = new Round(group, i, spans.size(), cursor.taken(span[2], span[3]));
            for (int r = span[0]; r < span[1]; r++) {
                if (rows.get(r).target().round().isEmpty() && rows.get(r).kind() != Kind.TEXT) {
                    rows.set(r, rows.get(r).at(rows.get(r).target().in(standing)));
                }
            }
        }
    }

    private void gather(String label, Occurs occurs, int count, Cursor cursor, List<SheetRow> rows, int start) {
        List<SheetRow> gathered = new ArrayList<>(rows.subList(start, rows.size()));
        rows.subList(start, rows.size()).clear();
        String place = cursor.place(label + "*");
        SheetRow first = gathered.get(0);
        rows.add(make(
                place,
                Kind.REPEATS,
                label,
                State.PRESENT,
                "",
                first.type(),
                occurs,
                0,
                count,
                Optional.empty(),
                List.of(),
                first.documentation(),
                gathered,
                Target.of(cursor.parent, null, null, place)
                        .declared(first.target().element().orElse(null))));
    }

    private void all(
            Particle.OfGroup group, Cursor cursor, List<SheetRow> rows, boolean mixed, boolean wanted, boolean needed) {
        List<Particle> open = new ArrayList<>(group.parts());
        while (cursor.offered() != null) {
            Optional<Particle> part =
                    open.stream().filter(p -> stands(p, cursor)).findFirst();
            if (part.isEmpty()) {
                break;
            }
            open.remove(part.get());
            particle(part.get(), cursor, rows, mixed, wanted, needed);
        }
        open.forEach(p -> particle(p, cursor, rows, mixed, wanted, needed));
    }

    private void choice(
            Particle.OfGroup group, Cursor cursor, List<SheetRow> rows, boolean mixed, boolean wanted, boolean needed) {
        if (group.parts().isEmpty()) {
            return;
        }
        Optional<Particle> taken = cursor.offered() == null
                ? Optional.empty()
                : group.parts().stream().filter(p -> stands(p, cursor)).findFirst();
        if (taken.isEmpty() && !wanted) {
            return;
        }
        List<SheetRow> inside = new ArrayList<>();
        int from = cursor.position();
        taken.ifPresent(p -> particle(p, cursor, inside, mixed, true, true));
        List<String> names = group.parts().stream().map(SheetShape::title).toList();
        String place = cursor.place(String.join("|", names));
        boolean missing = taken.isEmpty()
                && needed
                && !group.occurs().optional()
                && group.parts().stream().noneMatch(SheetShape::canBeEmpty);
        rows.add(make(
                place,
                Kind.CHOICE,
                "one of",
                taken.isPresent() ? State.PRESENT : State.LEFT_OUT,
                taken.map(SheetShape::title).orElse(""),
                String.join(" | ", names),
                group.occurs(),
                0,
                1,
                missing ? Optional.of("the contract requires one of these") : Optional.empty(),
                names,
                "",
                inside,
                Target.of(cursor.parent, cursor.next(), null, place).holding(cursor.taken(from), group.parts())));
    }

    private void elements(
            Particle.OfElement particle,
            Cursor cursor,
            List<SheetRow> rows,
            boolean mixed,
            boolean wanted,
            boolean needed) {
        ElementDecl declared = particle.element();
        Occurs occurs = particle.occurs();
        List<Element> found = new ArrayList<>();
        while (cursor.offered() != null && occurs.allows(found.size()) && matches(declared, cursor.offered())) {
            found.add(cursor.take());
        }
        String label = declared.name().getLocalPart();
        String place = cursor.place(label);
        if (found.isEmpty()) {
            if (wanted && occurs.max() != 0) {
                rows.add(leftOut(declared, occurs, place, cursor, needed));
            }
            return;
        }
        int start = rows.size();
        boolean numbered = occurs.repeats() && found.size() > 1;
        for (int i = 0; i < found.size(); i++) {
            texts(found.get(i).getPreviousSibling(), cursor.parent, mixed, rows);
            rows.add(element(declared, found.get(i), occurs, numbered ? i + 1 : 0, found.size(), place, ""));
        }
        if (found.size() < occurs.min() && !cursor.fits()) {
            int last = rows.size() - 1;
            rows.set(last, flawed(rows.get(last), TOO_FEW + occurs.min() + " of these, here are " + found.size()));
        }
        if (found.size() > MANY) {
            gather(label, occurs, found.size(), cursor, rows, start);
        }
    }

    private SheetRow leftOut(ElementDecl declared, Occurs occurs, String place, Cursor cursor, boolean needed) {
        RowValues.Look look = values.look(declared.type());
        boolean flaw = needed && !occurs.optional();
        return make(
                place,
                declared.type().content() == TypeDef.Content.TEXT ? Kind.VALUE : Kind.GROUP,
                declared.name().getLocalPart(),
                State.LEFT_OUT,
                "",
                look.summary(),
                occurs,
                0,
                0,
                flaw ? Optional.of("the contract requires this element") : Optional.empty(),
                List.of(),
                declared.documentation(),
                List.of(),
                Target.of(cursor.parent, cursor.next(), null, place)
                        .declared(declared)
                        .typed(look.simple()));
    }

    /**
     * Whether the next element begins a standing of the particle. Where something is amiss among the elements, any that it
     * has a place for does, so that the rest of a group stays together when its first part is missing.
     */
    private static boolean stands(Particle particle, Cursor cursor) {
        return SheetShape.starts(particle, cursor.next()) || !cursor.fits() && SheetShape.has(particle, cursor.next());
    }
}
