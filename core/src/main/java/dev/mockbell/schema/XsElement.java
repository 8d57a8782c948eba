package dev.mockbell.schema;

import dev.mockbell.xml.Place;
import dev.mockbell.xml.Xml;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import javax.xml.namespace.QName;
import org.apache.xerces.xs.XSConstants;
import org.apache.xerces.xs.XSElementDeclaration;
import org.apache.xerces.xs.XSNamedMap;
import org.apache.xerces.xs.XSTypeDefinition;
import org.w3c.dom.Element;

/** An element that the schema library compiled. */
final class XsElement implements ElementDecl {
    private final Schemas schemas;
    private final XSElementDeclaration xs;

    private final QName name;
    private volatile TypeDef type;
    private volatile List<Identity> identities;
    private volatile String documentation;

    XsElement(Schemas schemas, XSElementDeclaration xs) {
        this.schemas = schemas;
        this.xs = xs;
        this.name = new QName(xs.getNamespace() == null ? "" : xs.getNamespace(), xs.getName());
    }

    @Override
    public QName name() {
        return name;
    }

    @Override
    public TypeDef type() {
        TypeDef known = type;
        if (known == null) {
            known = schemas.of(xs.getTypeDefinition());
            schemas.owns(this, xs.getTypeDefinition());
            type = known;
        }
        return known;
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
        int barred = xs.getDisallowedSubstitutions();
        if (!isGlobal() || (barred & XSConstants.DERIVATION_SUBSTITUTION) != 0) {
            return List.of();
        }
        return schemas.substitutesOf(xs).stream()
                .filter(e -> !e.isAbstract())
                .filter(e -> reaches(e.type(), barred))
                .toList();
    }

    private boolean reaches(TypeDef type, int barred) {
        XSTypeDefinition own = xs.getTypeDefinition();
        return !(type instanceof XsType t) || t.reaches(own, barred | XsType.barred(own));
    }

    @Override
    public List<TypeDef> alternatives() {
        return type().derived().stream()
                .filter(t -> reaches(t, xs.getDisallowedSubstitutions()))
                .toList();
    }

    @Override
    public boolean takes(TypeDef named) {
        return type() instanceof XsType own
                && named instanceof XsType other
                && other.standsFor(own, xs.getDisallowedSubstitutions());
    }

    @Override
    public List<Identity> identities() {
        List<Identity> known = identities;
        if (known == null) {
            XSNamedMap all = xs.getIdentityConstraints();
            List<Identity> found = new ArrayList<>();
            for (int i = 0; i < all.getLength(); i++) {
                Identity.of(all.item(i)).ifPresent(found::add);
            }
            known = List.copyOf(found);
            identities = known;
        }
        return known;
    }

    @Override
    public boolean isGlobal() {
        return xs.getScope() == XSConstants.SCOPE_GLOBAL;
    }

    @Override
    public String documentation() {
        String known = documentation;
        if (known == null) {
            // an annotation is XML to be parsed, and every row asks
            String own = Documentation.of(xs.getAnnotations());
            known = own.isEmpty() ? type().documentation() : own;
            documentation = known;
        }
        return known;
    }

    @Override
    public Optional<Place> place() {
        return dom().map(Xml::placeOf);
    }

    /** The schema's element that declares it. */
    Optional<Element> dom() {
        return isGlobal()
                ? schemas.global("element", xs)
                : schemas.within(xs.getEnclosingCTDefinition(), "element", xs.getName());
    }

    @Override
    public String toString() {
        return name().toString();
    }
}
