package dev.mockbell.sample;

import dev.mockbell.message.MessageOutline;
import dev.mockbell.message.Prefixes;
import dev.mockbell.schema.AttributeDecl;
import dev.mockbell.schema.ElementDecl;
import dev.mockbell.schema.Occurs;
import dev.mockbell.schema.Particle;
import dev.mockbell.schema.SchemaFlaw;
import dev.mockbell.schema.Schemas;
import dev.mockbell.schema.SimpleType;
import dev.mockbell.schema.TypeDef;
import dev.mockbell.xml.Xml;
import dev.mockbell.xml.XmlText;
import java.util.ArrayDeque;
import java.util.Comparator;
import java.util.Deque;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import javax.xml.namespace.QName;
import org.w3c.dom.Document;
import org.w3c.dom.Element;

/**
 * Builds a message that the schema accepts, the same one every time. Recursion ends at the smallest finite instance; a
 * message stays under 50,000 elements, and what is optional is added only while it is under 4,000. One builder makes one
 * document.
 */
public final class SampleBuilder {
    private static final String XSI = "http://www.w3.org/2001/XMLSchema-instance";
    private static final int MOST = 50_000;
    private static final int MOST_OPTIONAL = 4_000;
    private static final int DEEPEST = 400;
    private static final int DEEPEST_OPTIONAL = 24;
    private static final int MOST_STARTING = 400;
    private static final int DEEPEST_STARTING = 10;
    private static final QName SECURITY =
            new QName("http://docs.oasis-open.org/wss/2004/01/oasis-200401-wss-wssecurity-secext-1.0.xsd", "Security");

    /** How much to put in. */
    public enum Detail {
        /** Only what must be there. */
        REQUIRED,
        /**
         * What must be there, and everything once in elements that could be empty: services whose stack declares all as
         * optional have no use for a message without anything in it.
         */
        STARTING,
        /** Everything that may be there, once. */
        FULL
    }

    private final Schemas schemas;
    private final Detail detail;
    private final Optional<EncodedForm> encoded;
    private final Document document = Xml.newDocument();
    private final Prefixes prefixes;
    private final Deque<TypeDef> open = new ArrayDeque<>();
    private final SampleValues values;
    private final SampleTies ties;
    private final Set<String> notes = new LinkedHashSet<>();
    private int elements;
    private int variant;
    private boolean generous;

    public SampleBuilder(MessageOutline outline, Detail detail) {
        this.schemas = outline.schemas();
        this.detail = detail;
        this.prefixes = new Prefixes(outline.prefixes());
        this.encoded = outline.encoding().map(style -> new EncodedForm(style, schemas, prefixes));
        this.values = new SampleValues(prefixes);
        this.ties = new SampleTies(values);
    }

    /** The sample as text laid out for reading; empty text for an empty body. */
    public static String text(MessageOutline outline, Detail detail) {
        return outline.root()
                .map(root -> XmlText.laidOut(new SampleBuilder(outline, detail).build(root)))
                .orElse("");
    }

    /**
     * The header blocks that the contract names, as text laid out for reading, one after the other; empty text for none. That of
     * WS-Security is left out: what is in it is made when the message is sent.
     */
    public static String headers(MessageOutline outline, Detail detail) {
        return outline.headers().stream()
                .filter(h -> !SECURITY.equals(h.name()))
                .map(h -> XmlText.laidOut(new SampleBuilder(outline, detail).build(h)))
                .collect(Collectors.joining("\n"));
    }

    /** What of what was built is cut short, a guess or a placeholder, each a clause; empty when all is as the schemas say. */
    public List<String> notes() {
        return List.copyOf(notes);
    }

    /** Builds the element with its namespace declarations, as the root of a document of its own. */
    public Element build(ElementDecl root) {
        Element element = element(root, 0);
        document.appendChild(element);
        encoded.ifPresent(form -> form.root(element));
        ties.tie();
        prefixes.declareOn(element);
        return element;
    }

    /** Builds just one element for insertion under {@code parent}, with the prefixes that are in scope there. */
    public Element buildFor(ElementDecl declared, Element parent) {
        prefixes.inScopeOf(parent);
        Element element = element(declared, 1);
        return fitted(element, parent);
    }

    private Element fitted(Element element, Element parent) {
        ties.tie();
        DefaultNamespace.adopt(element, DefaultNamespace.at(parent));
        prefixes.declareWhatIsUsed(element);
        return (Element) parent.getOwnerDocument().importNode(element, true);
    }

    /** As {@link #buildFor(ElementDecl, Element)}, of a type that {@code xsi:type} names. */
    public Element buildFor(ElementDecl declared, TypeDef type, Element parent) {
        prefixes.inScopeOf(parent);
        Element element = create(declared.name());
        elements++;
        if (!type.equals(declared.type())) {
            typed(element, type.name().orElseThrow());
        }
        fill(element, declared, type, 1);
        return fitted(element, parent);
    }

    private Element element(ElementDecl given, int depth) {
        elements++;
        ElementDecl declared = given;
        if (given.isAbstract()) {
            declared = given.substitutes().stream()
                    .min(Comparator.comparingLong(schemas::smallest))
                    .orElse(given);
        }
        Element element = create(declared.name());
        schemas.guessed(declared)
                .ifPresent(flaw -> notes.add(
                        flaw.weight() == SchemaFlaw.Weight.CUT
                                ? "it is cut short in " + element.getTagName() + ": " + flaw.text()
                                : "what is in " + element.getTagName() + " is a guess: " + flaw.text()));
        TypeDef type = declared.type();
        boolean endless = declared.nillable() && schemas.endsByNil(type);
        if (type.isAbstract()) {
            Optional<TypeDef> concrete = declared.alternatives().stream()
                    .filter(t -> t.name().isPresent())
                    .min(Comparator.comparingLong(schemas::smallest));
            if (concrete.isPresent()) {
                type = concrete.get();
                endless = declared.nillable() && schemas.endsByNil(type);
                typed(element, type.name().orElseThrow());
            }
        } else if (encoded.isPresent()) {
            encoded.get().typeOf(declared, type).ifPresent(name -> typed(element, name));
        }
        if (endless && declared.fixed().isEmpty()) {
            element.setAttributeNS(XSI, prefixes.of(XSI) + ":nil", "true");
            attributes(element, type);
        } else {
            fill(element, declared, type, depth);
        }
        ties.identities(element, declared);
        return element;
    }

    private void typed(Element element, QName type) {
        element.setAttributeNS(XSI, prefixes.of(XSI) + ":type", prefixes.lexical(type));
    }

    private void fill(Element element, ElementDecl declared, TypeDef type, int depth) {
        open.push(type);
        boolean outer = generous;
        generous = detail == Detail.FULL
                || detail == Detail.STARTING
                        && type.particle().filter(p -> schemas.smallest(p) == 0).isPresent();
        if (type.isAny()) {
            if (!MessageOutline.isBody(declared)) {
                typed(element, new QName(SampleValues.XSD, "string"));
                element.appendChild(document.createTextNode(
                        SampleValues.words(declared.name().getLocalPart())));
            }
        } else if (encoded.isPresent() && type.isEncodedArray()) {
            encoded.get().fill(element, type, item -> element(item, depth + 1));
        } else {
            attributes(element, type);
            if (type.content() == TypeDef.Content.TEXT) {
                type.simple().ifPresent(simple -> text(element, declared, simple));
            } else if (declared.fixed().isPresent()) {
                element.appendChild(document.createTextNode(declared.fixed().get()));
            } else {
                type.particle().ifPresent(p -> particle(element, p, depth));
                if (type.content() == TypeDef.Content.MIXED && !element.hasChildNodes()) {
                    element.appendChild(document.createTextNode(declared.byDefault()
                            .orElse(SampleValues.words(declared.name().getLocalPart()))));
                }
            }
        }
        generous = outer;
        open.pop();
    }

    private void text(Element element, ElementDecl declared, SimpleType simple) {
        if (simple.isQualifiedName()
                && (declared.fixed().isPresent() || declared.byDefault().isPresent())) {
            // an empty element has that value, whatever the prefixes here (XML Schema part 1 §3.3.4)
            return;
        }
        String value = declared.fixed()
                .or(declared::byDefault)
                .orElseGet(() -> values.of(simple, declared.name().getLocalPart(), variant));
        if (!value.isEmpty()) {
            element.appendChild(document.createTextNode(value));
        }
        ties.value(element, simple, declared.fixed().isPresent());
    }

    private void attributes(Element element, TypeDef type) {
        for (AttributeDecl attribute : type.attributes()) {
            boolean ofEncoding =
                    attribute.ofEncoding() || encoded.isPresent() && EncodedForm.standsElsewhere(attribute.name());
            boolean wanted = detail == Detail.FULL
                    && elements < MOST_OPTIONAL
                    && !ofEncoding
                    && !ties.isReference(attribute)
                    && attribute.type().simple().map(SimpleType::hasValue).orElse(true);
            if (attribute.required() || wanted) {
                attribute(element, attribute);
            } else {
                ties.offers(element, attribute, () -> attribute(element, attribute));
            }
        }
    }

    private void attribute(Element element, AttributeDecl attribute) {
        Optional<SimpleType> type = attribute.type().simple();
        boolean qualified = type.filter(SimpleType::isQualifiedName).isPresent();
        boolean given = attribute.fixed().isPresent() || attribute.byDefault().isPresent();
        if (qualified && given && !attribute.required()) {
            return;
        }
        String value = attribute
                .fixed()
                .or(attribute::byDefault)
                .orElseGet(() -> type.map(t -> values.of(t, attribute.name().getLocalPart(), variant))
                        .orElse(""));
        String ns = attribute.name().getNamespaceURI();
        String local = attribute.name().getLocalPart();
        if (ns.isEmpty()) {
            element.setAttributeNS(null, local, value);
        } else {
            element.setAttributeNS(ns, prefixes.of(ns) + ":" + local, value);
        }
        type.ifPresent(t -> ties.value(
                element.getAttributeNodeNS(ns.isEmpty() ? null : ns, local),
                t,
                attribute.fixed().isPresent()));
    }

    private void particle(Element parent, Particle particle, int depth) {
        int times = times(particle, depth);
        if (times < particle.occurs().min() || elements >= MOST && times > 0) {
            notes.add("it is cut short in " + parent.getTagName());
        }
        int outer = variant;
        for (int i = 0; i < times && elements < MOST; i++) {
            variant = times > 1 ? i : outer;
            if (particle instanceof Particle.OfElement e) {
                parent.appendChild(element(e.element(), depth + 1));
            } else if (particle instanceof Particle.OfAny any) {
                wildcard(parent, any, depth);
            } else if (particle instanceof Particle.OfGroup group) {
                if (group.compositor() == Particle.Compositor.CHOICE) {
                    branch(group).ifPresent(b -> particle(parent, b, depth));
                } else {
                    for (Particle part : group.parts()) {
                        particle(parent, part, depth);
                    }
                }
            }
        }
        variant = outer;
    }

    private int times(Particle particle, int depth) {
        Occurs occurs = particle.occurs();
        if (occurs.max() == 0 || elements >= MOST || depth > DEEPEST) {
            return 0;
        }
        boolean endless = schemas.smallest(particle) >= Schemas.ENDLESS;
        if (!occurs.optional()) {
            boolean again = particle instanceof Particle.OfElement e
                    && open.contains(e.element().type());
            return endless && again ? 0 : occurs.min();
        }
        if (!generous || particle instanceof Particle.OfAny) {
            return 0;
        }
        Particle wanted = once(particle);
        boolean again = wanted instanceof Particle.OfElement e
                && (open.contains(e.element().type()) || isReference(e.element()));
        boolean nested = wanted instanceof Particle.OfGroup g && leadsBack(g);
        boolean starting = detail == Detail.STARTING;
        boolean room = elements < (starting ? MOST_STARTING : MOST_OPTIONAL)
                && depth < (starting ? DEEPEST_STARTING : DEEPEST_OPTIONAL);
        return room && !again && !nested && schemas.smallest(wanted) < MOST_OPTIONAL ? 1 : 0;
    }

    /** References need something to refer to; an optional one is better left out. */
    private static boolean isReference(ElementDecl element) {
        return element.type().simple().filter(SampleTies::isReference).isPresent();
    }

    private boolean leadsBack(Particle.OfGroup group) {
        return group.compositor() != Particle.Compositor.CHOICE
                && group.parts().stream()
                        .filter(p -> !p.occurs().optional())
                        .anyMatch(p -> p instanceof Particle.OfElement e
                                && open.contains(e.element().type()));
    }

    /**
     * The branch of a choice that is taken: the first in the contract's order that is not much larger than the smallest;
     * within a type that is open already the smallest, so that recursion ends.
     */
    private Optional<Particle> branch(Particle.OfGroup choice) {
        boolean nested = open.stream().filter(t -> t == open.peek()).count() > 1;
        long least = Long.MAX_VALUE;
        Particle smallest = null;
        for (Particle p : choice.parts()) {
            long size = p.occurs().max() == 0 ? Schemas.ENDLESS : schemas.smallest(once(p));
            if (size < least) {
                least = size;
                smallest = p;
            }
        }
        if (smallest == null) {
            return Optional.empty();
        }
        long most = detail == Detail.FULL ? least * 4 + 40 : least * 2 + 4;
        for (Particle p : nested ? List.<Particle>of() : choice.parts()) {
            boolean back = p instanceof Particle.OfElement e
                    && open.contains(e.element().type());
            if (p.occurs().max() != 0 && !back && !(p instanceof Particle.OfAny) && schemas.smallest(once(p)) <= most) {
                return Optional.of(once(p));
            }
        }
        return Optional.of(once(smallest));
    }

    private static Particle once(Particle p) {
        if (!p.occurs().optional() || p.occurs().max() == 0) {
            return p;
        }
        Occurs once = new Occurs(1, p.occurs().max());
        if (p instanceof Particle.OfElement e) {
            return new Particle.OfElement(e.element(), once);
        }
        if (p instanceof Particle.OfAny any) {
            return new Particle.OfAny(any.except(), any.names(), any.processing(), once);
        }
        Particle.OfGroup g = (Particle.OfGroup) p;
        return new Particle.OfGroup(g.compositor(), g.parts(), once);
    }

    /** An element for a wildcard that must be there: a declared one where it must be declared, else one of our own. */
    private void wildcard(Element parent, Particle.OfAny any, int depth) {
        boolean strict = any.processing() == Particle.Processing.STRICT;
        if (any.names().contains(SampleValues.XSD) && !any.except()) {
            parent.appendChild(document.createElementNS(SampleValues.XSD, prefixes.of(SampleValues.XSD) + ":schema"));
            elements++;
            return;
        }
        if (strict || any.processing() == Particle.Processing.LAX && !any.except()) {
            Optional<ElementDecl> declared = schemas.elementsFor(any).stream()
                    .filter(e -> !open.contains(e.type()) && schemas.smallest(e) < MOST_OPTIONAL)
                    .min(Comparator.<ElementDecl, Boolean>comparing(
                                    e -> e.place().isEmpty())
                            .thenComparingLong(schemas::smallest)
                            .thenComparing(e -> e.name().toString()));
            if (declared.isPresent()) {
                parent.appendChild(element(declared.get(), depth + 1));
                return;
            }
        }
        if (strict && !schemas.elementsFor(any).isEmpty()) {
            notes.add("it is cut short in " + parent.getTagName());
            return;
        }
        String free = "urn:northfell:notes";
        String ns = any.allows(free) ? free : any.names().stream().findFirst().orElse("");
        Element made = create(new QName(ns, "note"));
        if (strict) {
            // what nothing declares is valid when it names its own type (XML Schema part 1 §3.10.4)
            typed(made, new QName(SampleValues.XSD, "string"));
            notes.add(made.getTagName() + " in " + parent.getTagName()
                    + " is a placeholder: no schema declares what may stand there");
        }
        made.appendChild(document.createTextNode("note"));
        parent.appendChild(made);
        elements++;
    }

    private Element create(QName name) {
        String ns = name.getNamespaceURI();
        if (ns.isEmpty()) {
            return document.createElementNS(null, name.getLocalPart());
        }
        return document.createElementNS(ns, prefixes.of(ns) + ":" + name.getLocalPart());
    }
}
