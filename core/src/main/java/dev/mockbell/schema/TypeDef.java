package dev.mockbell.schema;

import dev.mockbell.xml.Place;
import java.util.List;
import java.util.Optional;
import javax.xml.namespace.QName;

/** A simple or complex type (XML Schema part 1 §3.4, §3.14). */
public sealed interface TypeDef permits XsType, ImpliedType {
    /** What may stand between the tags. */
    enum Content {
        EMPTY,
        TEXT,
        ELEMENTS,
        MIXED
    }

    /** The name; empty for an anonymous type. */
    Optional<QName> name();

    Content content();

    boolean isAbstract();

    /** The type of the text, of a simple type or of a complex type with simple content. */
    Optional<SimpleType> simple();

    /** The content model of a type with elements. */
    Optional<Particle> particle();

    /** The attributes, required and optional, without prohibited ones. */
    List<AttributeDecl> attributes();

    /**
     * Whether an attribute beyond the declared ones is allowed (XML Schema part 1 §3.10.4, attribute wildcard).
     *
     * @param namespace of the attribute; empty for none
     */
    boolean takesAttributeOf(String namespace);

    /** The concrete types that may stand for this one by {@code xsi:type}, itself left out. */
    List<TypeDef> derived();

    /** Whether it is the array of SOAP's encoding, or derived from it (SOAP 1.1 §5.4.2). */
    boolean isEncodedArray();

    /** The type of the items of an encoded array, where the contract tells. */
    Optional<QName> arrayItem();

    /** Whether this is {@code xs:anyType}. */
    boolean isAny();

    /** The schema's documentation of the type; empty when there is none. */
    String documentation();

    /** Where a global type is defined. */
    Optional<Place> place();

    /** A short text for people: a name and the facets that matter, {@code xs:int · 1 to 14}, {@code 3 values}. */
    String summary();

    /** The type of an rpc wrapper: the given elements, each once, in order. */
    static TypeDef implied(List<ElementDecl> parts) {
        return new ImpliedType(parts);
    }
}
