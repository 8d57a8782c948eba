package dev.mockbell.sheet;

import dev.mockbell.schema.AttributeDecl;
import dev.mockbell.schema.ElementDecl;
import dev.mockbell.schema.Occurs;
import dev.mockbell.schema.Particle;
import dev.mockbell.schema.Schemas;
import dev.mockbell.schema.TypeDef;
import dev.mockbell.sheet.SheetRow.State;
import dev.mockbell.xml.Xml;
import java.util.Optional;
import javax.xml.namespace.QName;
import org.w3c.dom.Attr;
import org.w3c.dom.Element;
import org.w3c.dom.Node;
import org.w3c.dom.Text;

/** Judges what stands in a message, and what does not, by the contract. Each judgement is a sentence; empty when all is well. */
final class RowJudge {
    private static final String XSI = "http://www.w3.org/2001/XMLSchema-instance";

    private final Schemas schemas;
    private final RowValues values;

    RowJudge(Schemas schemas, RowValues values) {
        this.schemas = schemas;
        this.values = values;
    }

    /** An element that is there, with its text when its type is one of text. */
    Optional<String> element(ElementDecl declared, TypeDef type, Element element, State state, String value) {
        return misnamed(declared, element)
                .or(() -> state == State.NIL ? notNil(declared, element) : Optional.empty())
                .or(() -> state == State.PRESENT && type.content() == TypeDef.Content.TEXT
                        ? text(declared, type, element, value)
                        : Optional.empty());
    }

    private Optional<String> text(ElementDecl declared, TypeDef type, Element element, String value) {
        return Xml.children(element).isEmpty()
                ? values.problem(values.look(type).simple(), declared, value, element)
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

    /** The type that an element has: the one that its {@code xsi:type} names, where that is known, else the declared. */
    TypeDef actualType(ElementDecl declared, Element element) {
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

    /** An element that nothing is declared for. */
    static Optional<String> undeclared(Standing standing, boolean below) {
        return standing == Standing.UNKNOWN && below
                ? Optional.of("the contract does not know this element here")
                : Optional.empty();
    }

    /** An element where any may stand. */
    static Optional<String> strange(Particle.OfAny any, ElementDecl declared) {
        return declared == null && any.processing() == Particle.Processing.STRICT
                ? Optional.of("the contract allows any element here that it declares, not this one")
                : Optional.empty();
    }

    /**
     * An attribute's place.
     *
     * @param declared null when the contract does not name it
     * @param attr null when it is left out
     * @param allowed whether one may stand there that is not named
     */
    Optional<String> attribute(AttributeDecl declared, Attr attr, Element owner, boolean allowed) {
        if (declared == null) {
            return allowed ? Optional.empty() : Optional.of("the contract does not know this attribute here");
        }
        if (attr == null) {
            return declared.required() ? Optional.of("the contract requires this attribute") : Optional.empty();
        }
        return values.problem(values.look(declared.type()).simple(), declared.fixed(), attr.getValue(), owner);
    }

    /** Text that stands between elements. */
    static Optional<String> text(boolean allowed) {
        return allowed ? Optional.empty() : Optional.of("the contract does not allow text between these elements");
    }

    /** An element that is left out. */
    static Optional<String> leftOut(Occurs occurs, boolean needed) {
        return needed && !occurs.optional() ? Optional.of("the contract requires this element") : Optional.empty();
    }

    /** The place of any element, where none stands. */
    static Optional<String> empty(Particle.OfAny any, boolean needed) {
        return needed && !any.occurs().optional()
                ? Optional.of("the contract requires an element here")
                : Optional.empty();
    }

    /** A choice of which nothing stands. */
    static Optional<String> untaken(Particle.OfGroup choice, boolean needed) {
        return needed && !choice.occurs().optional() && choice.parts().stream().noneMatch(SheetShape::canBeEmpty)
                ? Optional.of("the contract requires one of these")
                : Optional.empty();
    }

    /** Elements of one name, of which there are fewer than there should be. */
    static String tooFew(Occurs occurs, int there) {
        return "the contract requires at least " + occurs.min() + " of these, here are " + there;
    }

    /** Standings of a group, of which there are fewer than there should be. */
    static String tooFew(Particle.OfGroup group, int there) {
        return "the contract requires at least " + group.occurs().min() + " of " + SheetShape.title(group) + ", here "
                + (there == 1 ? "is " : "are ") + there;
    }
}
