package dev.mockbell.schema;

import dev.mockbell.xml.Place;
import java.util.List;
import java.util.Optional;
import javax.xml.namespace.QName;

/** An element that a WSDL implies and no schema declares. */
record ImpliedElement(QName name, TypeDef type) implements ElementDecl {
    @Override
    public boolean nillable() {
        return false;
    }

    @Override
    public boolean isAbstract() {
        return false;
    }

    @Override
    public Optional<String> fixed() {
        return Optional.empty();
    }

    @Override
    public Optional<String> byDefault() {
        return Optional.empty();
    }

    @Override
    public List<ElementDecl> substitutes() {
        return List.of();
    }

    @Override
    public List<TypeDef> alternatives() {
        return type.derived();
    }

    @Override
    public boolean takes(TypeDef named) {
        return named.equals(type)
                || type instanceof XsType own && named instanceof XsType other && other.standsFor(own, 0);
    }

    @Override
    public List<Identity> identities() {
        return List.of();
    }

    @Override
    public boolean isGlobal() {
        return false;
    }

    @Override
    public String documentation() {
        return type.documentation();
    }

    @Override
    public Optional<Place> place() {
        return Optional.empty();
    }
}
