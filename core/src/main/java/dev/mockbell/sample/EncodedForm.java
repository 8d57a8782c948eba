package dev.mockbell.sample;

import dev.mockbell.message.Prefixes;
import dev.mockbell.schema.ElementDecl;
import dev.mockbell.schema.Particle;
import dev.mockbell.schema.Schemas;
import dev.mockbell.schema.SoapEncoding;
import dev.mockbell.schema.TypeDef;
import java.util.Optional;
import java.util.function.Function;
import javax.xml.namespace.QName;
import org.w3c.dom.Element;

/** What SOAP's encoding adds to a message (SOAP 1.1 §5, SOAP 1.2 part 2 §3): the types of values and of arrays' items. */
final class EncodedForm {
    private static final String ENVELOPE_11 = "http://schemas.xmlsoap.org/soap/envelope/";
    private static final String ENVELOPE_12 = "http://www.w3.org/2003/05/soap-envelope";

    private final String style;
    private final Schemas schemas;
    private final Prefixes prefixes;

    EncodedForm(String style, Schemas schemas, Prefixes prefixes) {
        this.style = style;
        this.schemas = schemas;
        this.prefixes = prefixes;
    }

    /**
     * Whether an attribute of that name says in an encoded message that a value stands elsewhere, or is what that points at: an
     * accessor with {@code href} is empty, and its value has the {@code id} (SOAP 1.1 §5.4.1).
     */
    static boolean standsElsewhere(QName name) {
        return name.getNamespaceURI().isEmpty()
                && ("href".equals(name.getLocalPart()) || "id".equals(name.getLocalPart()));
    }

    private boolean isVersion12() {
        return style.startsWith(SoapEncoding.V12);
    }

    /** Marks the outermost element with the encoding style. */
    void root(Element element) {
        String envelope = isVersion12() ? ENVELOPE_12 : ENVELOPE_11;
        element.setAttributeNS(envelope, prefixes.of(envelope) + ":encodingStyle", style);
    }

    /** The type to state for an element: its own where it has a name, for the array its own type. */
    Optional<QName> typeOf(ElementDecl declared, TypeDef type) {
        return type.isAny() ? Optional.empty() : type.name();
    }

    /** Fills an array with one item and states the items' type and their number. */
    void fill(Element array, TypeDef type, Function<ElementDecl, Element> build) {
        Optional<ElementDecl> own = type.particle().flatMap(EncodedForm::firstElement);
        Optional<TypeDef> told = type.arrayItem().flatMap(schemas::type);
        QName text = new QName(SampleValues.XSD, "string");
        TypeDef item = told.or(() -> own.map(ElementDecl::type))
                .orElseGet(() -> schemas.type(text).orElseThrow());
        QName itemName = type.arrayItem()
                .or(item::name)
                .orElse(new QName(SampleValues.XSD, type.isEncodedArray() ? "anyType" : "string"));
        if (isVersion12()) {
            String prefix = prefixes.of(SoapEncoding.V12);
            array.setAttributeNS(SoapEncoding.V12, prefix + ":itemType", prefixes.lexical(itemName));
            array.setAttributeNS(SoapEncoding.V12, prefix + ":arraySize", "1");
        } else {
            array.setAttributeNS(
                    SoapEncoding.V11, prefixes.of(SoapEncoding.V11) + ":arrayType", prefixes.lexical(itemName) + "[1]");
        }
        QName name = own.map(ElementDecl::name).orElse(new QName("item"));
        array.appendChild(build.apply(ElementDecl.implied(name, item)));
    }

    private static Optional<ElementDecl> firstElement(Particle particle) {
        if (particle instanceof Particle.OfElement e) {
            return Optional.of(e.element());
        }
        return particle instanceof Particle.OfGroup g
                ? g.parts().stream().flatMap(p -> firstElement(p).stream()).findFirst()
                : Optional.empty();
    }
}
