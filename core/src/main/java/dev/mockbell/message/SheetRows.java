package dev.mockbell.message;

import dev.mockbell.expression.Braces;
import dev.mockbell.message.SheetRow.Kind;
import dev.mockbell.message.SheetRow.State;
import dev.mockbell.message.SheetRow.Target;
import dev.mockbell.schema.AttributeDecl;
import dev.mockbell.schema.ElementDecl;
import dev.mockbell.schema.Occurs;
import dev.mockbell.schema.Particle;
import dev.mockbell.schema.Schemas;
import dev.mockbell.schema.SimpleType;
import dev.mockbell.schema.TypeDef;
import dev.mockbell.xml.Xml;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import javax.xml.namespace.QName;
import org.w3c.dom.Attr;
import org.w3c.dom.Element;
import org.w3c.dom.Node;

/**
 * Lays the elements of a message beside the contract's content model. The model is deterministic (XML Schema part 1
 * §3.8.6, unique particle attribution), so taking elements as they come, with no looking back, finds the one reading.
 */
final class SheetRows {
    private static final String XSI = "http://www.w3.org/2001/XMLSchema-instance";
    private static final String XMLNS = "http://www.w3.org/2000/xmlns/";

    private final Schemas schemas;

    SheetRows(Schemas schemas) {
        this.schemas = schemas;
    }

    static QName nameOf(Element element) {
        return new QName(element.getNamespaceURI() == null ? "" : element.getNamespaceURI(), element.getLocalName());
    }

    static boolean matches(ElementDecl declared, Element element) {
        QName name = nameOf(element);
        return declared.name().equals(name)
                || declared.substitutes().stream().anyMatch(s -> s.name().equals(name));
    }

    /** The rows of a whole message; {@code declared} may be null when the contract does not know the element. */
    SheetRow row(ElementDecl declared, Element element) {
        return element(declared, element, Occurs.ONCE, 0, 1, "");
    }

    private SheetRow element(ElementDecl given, Element element, Occurs occurs, int index, int count, String parentId) {
        String id = parentId + "/" + element.getLocalName() + (index > 0 ? "[" + index + "]" : "");
        ElementDecl declared = given;
        if (given != null && !given.name().equals(nameOf(element))) {
            declared = given.substitutes().stream()
                    .filter(s -> s.name().equals(nameOf(element)))
                    .findFirst()
                    .orElse(given);
        }
        Target target = new Target(
                element.getParentNode() instanceof Element p ? p : null,
                null,
                element,
                Optional.ofNullable(given),
                Optional.empty());
        if (declared == null) {
            return unknown(element, id, index, count, target);
        }
        TypeDef type = actualType(declared, element);
        State state =
                "true".equals(element.getAttributeNS(XSI, "nil")) || "1".equals(element.getAttributeNS(XSI, "nil"))
                        ? State.NIL
                        : State.PRESENT;
        List<SheetRow> children = new ArrayList<>(attributes(type, element, id));
        boolean text = type.content() == TypeDef.Content.TEXT;
        if (!text && state != State.NIL) {
            children.addAll(content(type, element, id));
        }
        String value = text ? element.getTextContent() : "";
        Optional<SimpleType> simple = type.simple();
        Optional<String> problem = text && state == State.PRESENT ? problem(simple, declared, value) : Optional.empty();
        boolean any = type.isAny() && Xml.children(element).isEmpty();
        return new SheetRow(
                id,
                text || any ? Kind.VALUE : Kind.GROUP,
                element.getLocalName(),
                state,
                any ? element.getTextContent() : value,
                type.summary(),
                occurs,
                index,
                count,
                problem,
                simple.map(SheetRows::options).orElse(List.of()),
                declared.documentation(),
                List.copyOf(children),
                target);
    }

    private static List<String> options(SimpleType type) {
        if (!type.enumeration().isEmpty()) {
            return type.enumeration();
        }
        return "boolean".equals(type.primitive()) ? List.of("true", "false") : List.of();
    }

    private static Optional<String> problem(Optional<SimpleType> type, ElementDecl declared, String value) {
        if (Braces.hasExpression(value)) {
            return Optional.empty();
        }
        if (value.isEmpty() && declared.byDefault().or(declared::fixed).isPresent()) {
            return Optional.empty();
        }
        if (declared.fixed().isPresent() && !declared.fixed().get().equals(value)) {
            return Optional.of(
                    "the contract fixes this value to “" + declared.fixed().get() + "”");
        }
        return type.flatMap(t -> t.whyNot(value));
    }

    private TypeDef actualType(ElementDecl declared, Element element) {
        String named = element.getAttributeNS(XSI, "type").strip();
        if (named.isEmpty()) {
            return declared.type();
        }
        int colon = named.indexOf(':');
        String ns = element.lookupNamespaceURI(colon < 0 ? null : named.substring(0, colon));
        return schemas.type(new QName(ns == null ? "" : ns, named.substring(colon + 1)))
                .orElse(declared.type());
    }

    private SheetRow unknown(Element element, String id, int index, int count, Target target) {
        List<Element> below = Xml.children(element);
        List<SheetRow> children = new ArrayList<>();
        Map<String, Integer> seen = new HashMap<>();
        for (Element child : below) {
            int n = seen.merge(child.getLocalName(), 1, Integer::sum);
            int like = (int) below.stream()
                    .filter(b -> b.getLocalName().equals(child.getLocalName()))
                    .count();
            children.add(element(null, child, Occurs.ONCE, like > 1 ? n : 0, like, id));
        }
        return new SheetRow(
                id,
                below.isEmpty() ? Kind.VALUE : Kind.UNKNOWN,
                element.getLocalName(),
                State.PRESENT,
                below.isEmpty() ? element.getTextContent() : "",
                "not in the contract",
                Occurs.ONCE,
                index,
                count,
                Optional.empty(),
                List.of(),
                "",
                List.copyOf(children),
                target);
    }

    private List<SheetRow> attributes(TypeDef type, Element element, String id) {
        List<SheetRow> rows = new ArrayList<>();
        List<Attr> known = new ArrayList<>();
        for (AttributeDecl declared : type.attributes()) {
            String ns = declared.name().getNamespaceURI();
            Attr attr = element.getAttributeNodeNS(
                    ns.isEmpty() ? null : ns, declared.name().getLocalPart());
            known.add(attr);
            rows.add(attribute(declared, attr, element, id));
        }
        var all = element.getAttributes();
        for (int i = 0; i < all.getLength(); i++) {
            Attr attr = (Attr) all.item(i);
            boolean technical = XMLNS.equals(attr.getNamespaceURI()) || XSI.equals(attr.getNamespaceURI());
            if (!technical && !known.contains(attr)) {
                rows.add(attribute(null, attr, element, id));
            }
        }
        return rows;
    }

    private static SheetRow attribute(AttributeDecl declared, Attr attr, Element owner, String id) {
        String label = declared == null ? attr.getName() : declared.name().getLocalPart();
        Optional<SimpleType> type =
                declared == null ? Optional.empty() : declared.type().simple();
        String value = attr == null ? "" : attr.getValue();
        Optional<String> problem = attr == null
                ? declared.required() ? Optional.of("the contract requires this attribute") : Optional.empty()
                : Braces.hasExpression(value) ? Optional.empty() : type.flatMap(t -> t.whyNot(value));
        return new SheetRow(
                id + "/@" + label,
                Kind.ATTRIBUTE,
                "@" + label,
                attr == null ? State.LEFT_OUT : State.PRESENT,
                value,
                declared == null ? "not in the contract" : declared.type().summary(),
                new Occurs(declared == null || !declared.required() ? 0 : 1, 1),
                0,
                1,
                problem,
                type.map(SheetRows::options).orElse(List.of()),
                declared == null ? "" : declared.documentation(),
                List.of(),
                new Target(owner, null, attr, Optional.empty(), Optional.ofNullable(declared)));
    }

    private List<SheetRow> content(TypeDef type, Element element, String id) {
        Cursor cursor = new Cursor(element, Xml.children(element), id);
        List<SheetRow> rows = new ArrayList<>();
        type.particle().ifPresent(p -> particle(p, cursor, rows, true));
        while (cursor.next() != null) {
            Element extra = cursor.take();
            ElementDecl known = schemas.element(nameOf(extra)).orElse(null);
            boolean allowed = type.isAny();
            rows.add(element(allowed ? known : null, extra, Occurs.ONCE, cursor.number(extra), cursor.like(extra), id));
        }
        return rows;
    }

    private void particle(Particle particle, Cursor cursor, List<SheetRow> rows, boolean wanted) {
        if (particle instanceof Particle.OfElement e) {
            elements(e, cursor, rows, wanted);
        } else if (particle instanceof Particle.OfAny any) {
            int taken = 0;
            while (cursor.next() != null && any.occurs().allows(taken)) {
                Element found = cursor.take();
                rows.add(element(
                        schemas.element(nameOf(found)).orElse(null),
                        found,
                        any.occurs(),
                        cursor.number(found),
                        cursor.like(found),
                        cursor.id));
                taken++;
            }
        } else {
            group((Particle.OfGroup) particle, cursor, rows, wanted);
        }
    }

    private void group(Particle.OfGroup group, Cursor cursor, List<SheetRow> rows, boolean wanted) {
        int round = 0;
        do {
            Element before = cursor.next();
            switch (group.compositor()) {
                case SEQUENCE -> {
                    boolean standing = before != null && starts(group, before);
                    boolean show = wanted && (standing || round == 0);
                    group.parts().forEach(p -> particle(p, cursor, rows, show));
                }
                case CHOICE -> choice(group, cursor, rows, wanted && round == 0, round);
                case ALL -> all(group, cursor, rows, wanted);
            }
            round++;
            if (cursor.next() == before) {
                break;
            }
        } while (group.occurs().allows(round) && cursor.next() != null && starts(group, cursor.next()));
    }

    private void all(Particle.OfGroup group, Cursor cursor, List<SheetRow> rows, boolean wanted) {
        List<Particle> open = new ArrayList<>(group.parts());
        while (cursor.next() != null) {
            Element next = cursor.next();
            Optional<Particle> part = open.stream().filter(p -> starts(p, next)).findFirst();
            if (part.isEmpty()) {
                break;
            }
            open.remove(part.get());
            particle(part.get(), cursor, rows, wanted);
        }
        open.forEach(p -> particle(p, cursor, rows, wanted));
    }

    private void choice(Particle.OfGroup group, Cursor cursor, List<SheetRow> rows, boolean wanted, int round) {
        Element next = cursor.next();
        Optional<Particle> taken = next == null
                ? Optional.empty()
                : group.parts().stream().filter(p -> starts(p, next)).findFirst();
        if (taken.isEmpty() && !wanted) {
            return;
        }
        List<SheetRow> inside = new ArrayList<>();
        int from = cursor.at;
        taken.ifPresent(p -> particle(p, cursor, inside, true));
        List<String> names = group.parts().stream().map(SheetRows::title).toList();
        String id = cursor.id + "/" + String.join("|", names) + (round > 0 ? "[" + (round + 1) + "]" : "");
        boolean missing = taken.isEmpty() && !group.occurs().optional();
        rows.add(new SheetRow(
                id,
                Kind.CHOICE,
                "one of",
                State.PRESENT,
                taken.map(SheetRows::title).orElse(""),
                String.join(" | ", names),
                group.occurs(),
                0,
                1,
                missing ? Optional.of("the contract requires one of these") : Optional.empty(),
                names,
                "",
                List.copyOf(inside),
                new Target(
                        cursor.parent,
                        cursor.next(),
                        null,
                        Optional.empty(),
                        Optional.empty(),
                        cursor.taken(from),
                        group.parts())));
    }

    private void elements(Particle.OfElement particle, Cursor cursor, List<SheetRow> rows, boolean wanted) {
        ElementDecl declared = particle.element();
        List<Element> found = new ArrayList<>();
        while (cursor.next() != null && particle.occurs().allows(found.size()) && matches(declared, cursor.next())) {
            found.add(cursor.take());
        }
        boolean numbered = particle.occurs().repeats() && found.size() > 1;
        for (int i = 0; i < found.size(); i++) {
            rows.add(element(declared, found.get(i), particle.occurs(), numbered ? i + 1 : 0, found.size(), cursor.id));
        }
        if (found.isEmpty() && wanted && particle.occurs().max() != 0) {
            boolean required = !particle.occurs().optional();
            rows.add(new SheetRow(
                    cursor.id + "/" + declared.name().getLocalPart(),
                    declared.type().content() == TypeDef.Content.TEXT ? Kind.VALUE : Kind.GROUP,
                    declared.name().getLocalPart(),
                    State.LEFT_OUT,
                    "",
                    declared.type().summary(),
                    particle.occurs(),
                    0,
                    0,
                    required ? Optional.of("the contract requires this element") : Optional.empty(),
                    List.of(),
                    declared.documentation(),
                    List.of(),
                    new Target(cursor.parent, cursor.next(), null, Optional.of(declared), Optional.empty())));
        }
    }

    private static boolean starts(Particle particle, Element element) {
        if (particle instanceof Particle.OfElement e) {
            return matches(e.element(), element);
        }
        if (particle instanceof Particle.OfGroup g) {
            for (Particle part : g.parts()) {
                if (starts(part, element)) {
                    return true;
                }
                boolean mustStandFirst = g.compositor() == Particle.Compositor.SEQUENCE && !canBeEmpty(part);
                if (mustStandFirst) {
                    return false;
                }
            }
            return false;
        }
        return true;
    }

    private static boolean canBeEmpty(Particle particle) {
        if (particle.occurs().optional()) {
            return true;
        }
        if (particle instanceof Particle.OfGroup g) {
            return g.compositor() == Particle.Compositor.CHOICE
                    ? g.parts().stream().anyMatch(SheetRows::canBeEmpty)
                    : g.parts().stream().allMatch(SheetRows::canBeEmpty);
        }
        return false;
    }

    private static String title(Particle particle) {
        if (particle instanceof Particle.OfElement e) {
            return e.element().name().getLocalPart();
        }
        if (particle instanceof Particle.OfGroup g) {
            String joint = g.compositor() == Particle.Compositor.CHOICE ? " or " : " + ";
            return String.join(joint, g.parts().stream().map(SheetRows::title).toList());
        }
        return "any element";
    }

    /** The elements that a freshly taken branch starts with. */
    static List<ElementDecl> firstInstance(Particle branch) {
        if (branch instanceof Particle.OfElement e) {
            return List.of(e.element());
        }
        if (branch instanceof Particle.OfGroup g) {
            List<ElementDecl> found = new ArrayList<>();
            for (Particle part : g.parts()) {
                if (!part.occurs().optional()) {
                    found.addAll(firstInstance(part));
                    if (g.compositor() == Particle.Compositor.CHOICE) {
                        break;
                    }
                }
            }
            if (found.isEmpty() && !g.parts().isEmpty()) {
                return firstInstance(g.parts().get(0));
            }
            return found;
        }
        return List.of();
    }

    /** Walks over the child elements. */
    static final class Cursor {
        private final Element parent;
        private final List<Element> children;
        private final String id;
        private int at;

        Cursor(Element parent, List<Element> children, String id) {
            this.parent = parent;
            this.children = children;
            this.id = id;
        }

        Element next() {
            return at < children.size() ? children.get(at) : null;
        }

        Element take() {
            return children.get(at++);
        }

        int like(Element element) {
            return (int) children.stream()
                    .filter(c -> Objects.equals(c.getLocalName(), element.getLocalName()))
                    .count();
        }

        int number(Element element) {
            if (like(element) < 2) {
                return 0;
            }
            int n = 0;
            for (Element c : children) {
                n += Objects.equals(c.getLocalName(), element.getLocalName()) ? 1 : 0;
                if (c == element) {
                    break;
                }
            }
            return n;
        }

        List<Node> taken(int from) {
            return List.copyOf(children.subList(from, at));
        }
    }
}
