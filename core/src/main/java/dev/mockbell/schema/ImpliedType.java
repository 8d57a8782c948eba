package dev.mockbell.schema;

import dev.mockbell.xml.Place;
import java.util.List;
import java.util.Optional;
import javax.xml.namespace.QName;

/** The type of an rpc wrapper. */
record ImpliedType(List<ElementDecl> parts) implements TypeDef {
    @Override
    public Optional<QName> name() {
        return Optional.empty();
    }

    @Override
    public Content content() {
        return parts.isEmpty() ? Content.EMPTY : Content.ELEMENTS;
    }

    @Override
    public boolean isAbstract() {
        return false;
    }

    @Override
    public Optional<SimpleType> simple() {
        return Optional.empty();
    }

    @Override
    public Optional<Particle> particle() {
        List<Particle> each = parts.stream()
                .map(e -> (Particle) new Particle.OfElement(e, Occurs.ONCE))
                .toList();
        return Optional.of(new Particle.OfGroup(Particle.Compositor.SEQUENCE, each, Occurs.ONCE));
    }

    @Override
    public List<AttributeDecl> attributes() {
        return List.of();
    }

    @Override
    public boolean takesAttributeOf(String namespace) {
        return false;
    }

    @Override
    public List<TypeDef> derived() {
        return List.of();
    }

    @Override
    public boolean isEncodedArray() {
        return false;
    }

    @Override
    public Optional<QName> arrayItem() {
        return Optional.empty();
    }

    @Override
    public boolean isAny() {
        return false;
    }

    @Override
    public String documentation() {
        return "";
    }

    @Override
    public Optional<Place> place() {
        return Optional.empty();
    }

    @Override
    public String summary() {
        return "";
    }
}
