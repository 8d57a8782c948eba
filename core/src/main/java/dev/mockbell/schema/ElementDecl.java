package dev.mockbell.schema;

import dev.mockbell.xml.Place;
import java.util.List;
import java.util.Optional;
import javax.xml.namespace.QName;

/** An element as a schema declares it (XML Schema part 1 §3.3), or as a WSDL's rpc style implies it. */
public sealed interface ElementDecl permits XsElement, ImpliedElement {
    QName name();

    TypeDef type();

    boolean nillable();

    /** Abstract: only an element of its substitution group may stand for it. */
    boolean isAbstract();

    /** The only value the element may have. */
    Optional<String> fixed();

    /** The value it has when empty. */
    Optional<String> byDefault();

    /** Elements that may stand in its place, without itself, abstract ones left out. */
    List<ElementDecl> substitutes();

    /** The concrete types that may stand for its own by {@code xsi:type}, itself left out. */
    List<TypeDef> alternatives();

    /**
     * Whether {@code xsi:type} may name that type on it: one that is its own or derived from it in a way that is not
     * barred (XML Schema part 1 §3.3.4, element locally valid, 4.3). Whether the type is abstract does not matter here.
     */
    boolean takes(TypeDef named);

    /** The keys that its content must keep. */
    List<Identity> identities();

    /** Whether it is declared at the top of a schema. */
    boolean isGlobal();

    /** The schema's documentation of the element, or else of its type; empty when there is none. */
    String documentation();

    /** Where it is declared; empty for one within a type that has no name. */
    Optional<Place> place();

    /** An element that no schema declares: the wrapper of an rpc message, or one of its parts (WSDL 1.1 §3.5). */
    static ElementDecl implied(QName name, TypeDef type) {
        return new ImpliedElement(name, type);
    }
}
