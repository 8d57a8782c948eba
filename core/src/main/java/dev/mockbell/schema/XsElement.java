package dev.mockbell.schema;

import dev.mockbell.xml.Place;
import java.util.List;
import java.util.Optional;
import javax.xml.namespace.QName;
import org.apache.xerces.xs.XSConstants;
import org.apache.xerces.xs.XSElementDeclaration;

/** An element that the schema library compiled. */
final class XsElement implements ElementDecl {
    private final Schemas schemas;
    private final XSElementDeclaration xs;

    XsElement(Schemas schemas, XSElementDeclaration xs) {
        this.schemas = schemas;
        this.xs = xs;
    }

    @Override
    public QName name() {
        return new QName(xs.getNamespace() == null ? "" : xs.getNamespace(), xs.getName());
    }

    @Override
    public TypeDef type() {
        return schemas.of(xs.getTypeDefinition());
    }

    @Override
    public boolean nillable() {
        return xs.getNillable();
    }

    @Override
    public boolean isAbstract() {
        return xs.getAbstract();
    }

    @Override
    public Optional<String> fixed() {
        return constraint(XSConstants.VC_FIXED);
    }

    @Override
    public Optional<String> byDefault() {
        return constraint(XSConstants.VC_DEFAULT);
    }

    private Optional<String> constraint(short kind) {
        return xs.getConstraintType() == kind && xs.getValueConstraintValue() != null
                ? Optional.ofNullable(xs.getValueConstraintValue().getNormalizedValue())
                : Optional.empty();
    }

    @Override
    public List<ElementDecl> substitutes() {
        return xs.getScope() == XSConstants.SCOPE_GLOBAL
                ? schemas.substitutesOf(xs).stream()
                        .filter(e -> !e.isAbstract())
                        .toList()
                : List.of();
    }

    @Override
    public String documentation() {
        String own = Documentation.of(xs.getAnnotations());
        return own.isEmpty() ? type().documentation() : own;
    }

    @Override
    public Optional<Place> place() {
        return schemas.place("element", xs);
    }

    @Override
    public String toString() {
        return name().toString();
    }
}
