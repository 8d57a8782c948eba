package dev.mockbell.schema;

import dev.mockbell.xml.Place;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import javax.xml.namespace.QName;
import org.apache.xerces.xs.StringList;
import org.apache.xerces.xs.XSAttributeDeclaration;
import org.apache.xerces.xs.XSAttributeUse;
import org.apache.xerces.xs.XSComplexTypeDefinition;
import org.apache.xerces.xs.XSConstants;
import org.apache.xerces.xs.XSElementDeclaration;
import org.apache.xerces.xs.XSModelGroup;
import org.apache.xerces.xs.XSObjectList;
import org.apache.xerces.xs.XSParticle;
import org.apache.xerces.xs.XSSimpleTypeDefinition;
import org.apache.xerces.xs.XSTypeDefinition;
import org.apache.xerces.xs.XSWildcard;

/** A type that the schema library compiled. */
final class XsType implements TypeDef {
    private final Schemas schemas;
    private final XSTypeDefinition xs;
    private volatile List<AttributeDecl> attributes;
    private volatile Optional<Particle> particle;

    XsType(Schemas schemas, XSTypeDefinition xs) {
        this.schemas = schemas;
        this.xs = xs;
    }

    @Override
    public Optional<QName> name() {
        return xs.getAnonymous() || xs.getName() == null
                ? Optional.empty()
                : Optional.of(new QName(xs.getNamespace() == null ? "" : xs.getNamespace(), xs.getName()));
    }

    @Override
    public Content content() {
        if (!(xs instanceof XSComplexTypeDefinition complex)) {
            return Content.TEXT;
        }
        return switch (complex.getContentType()) {
            case XSComplexTypeDefinition.CONTENTTYPE_SIMPLE -> Content.TEXT;
            case XSComplexTypeDefinition.CONTENTTYPE_ELEMENT -> Content.ELEMENTS;
            case XSComplexTypeDefinition.CONTENTTYPE_MIXED -> Content.MIXED;
            default -> Content.EMPTY;
        };
    }

    @Override
    public boolean isAbstract() {
        return xs instanceof XSComplexTypeDefinition complex && complex.getAbstract();
    }

    @Override
    public Optional<SimpleType> simple() {
        if (xs instanceof XSSimpleTypeDefinition simple) {
            return Optional.of(new SimpleType(simple));
        }
        XSSimpleTypeDefinition text = ((XSComplexTypeDefinition) xs).getSimpleType();
        return Optional.ofNullable(text).map(SimpleType::new);
    }

    @Override
    public Optional<Particle> particle() {
        Optional<Particle> made = particle;
        if (made == null) {
            made = xs instanceof XSComplexTypeDefinition complex && complex.getParticle() != null
                    ? Optional.ofNullable(of(complex.getParticle()))
                    : Optional.empty();
            particle = made;
        }
        return made;
    }

    private Particle of(XSParticle p) {
        Occurs occurs = new Occurs(p.getMinOccurs(), p.getMaxOccursUnbounded() ? Occurs.UNBOUNDED : p.getMaxOccurs());
        if (p.getTerm() instanceof XSElementDeclaration e) {
            return new Particle.OfElement(schemas.of(e), occurs);
        }
        if (p.getTerm() instanceof XSWildcard any) {
            return new Particle.OfAny(namespaces(any), any.getProcessContents() == XSWildcard.PC_STRICT, occurs);
        }
        XSModelGroup group = (XSModelGroup) p.getTerm();
        Particle.Compositor compositor = switch (group.getCompositor()) {
            case XSModelGroup.COMPOSITOR_CHOICE -> Particle.Compositor.CHOICE;
            case XSModelGroup.COMPOSITOR_ALL -> Particle.Compositor.ALL;
            default -> Particle.Compositor.SEQUENCE;
        };
        List<Particle> parts = new ArrayList<>();
        XSObjectList list = group.getParticles();
        for (int i = 0; i < list.getLength(); i++) {
            parts.add(of((XSParticle) list.item(i)));
        }
        return new Particle.OfGroup(compositor, List.copyOf(parts), occurs);
    }

    private static String namespaces(XSWildcard any) {
        StringList list = any.getNsConstraintList();
        if (any.getConstraintType() == XSWildcard.NSCONSTRAINT_ANY || list == null) {
            return "any";
        }
        List<String> names = new ArrayList<>();
        for (int i = 0; i < list.getLength(); i++) {
            names.add(list.item(i) == null ? "none" : list.item(i));
        }
        String joined = String.join(", ", names);
        return any.getConstraintType() == XSWildcard.NSCONSTRAINT_NOT ? "any but " + joined : joined;
    }

    @Override
    public List<AttributeDecl> attributes() {
        List<AttributeDecl> made = attributes;
        if (made == null) {
            made = new ArrayList<>();
            if (xs instanceof XSComplexTypeDefinition complex) {
                XSObjectList uses = complex.getAttributeUses();
                for (int i = 0; i < uses.getLength(); i++) {
                    made.add(of((XSAttributeUse) uses.item(i)));
                }
            }
            made = List.copyOf(made);
            attributes = made;
        }
        return made;
    }

    private AttributeDecl of(XSAttributeUse use) {
        XSAttributeDeclaration a = use.getAttrDeclaration();
        short kind = use.getConstraintType();
        String value = kind == XSConstants.VC_NONE || use.getValueConstraintValue() == null
                ? null
                : use.getValueConstraintValue().getNormalizedValue();
        if (value == null && a.getConstraintType() != XSConstants.VC_NONE && a.getValueConstraintValue() != null) {
            kind = a.getConstraintType();
            value = a.getValueConstraintValue().getNormalizedValue();
        }
        return new AttributeDecl(
                new QName(a.getNamespace() == null ? "" : a.getNamespace(), a.getName()),
                schemas.of(a.getTypeDefinition()),
                use.getRequired(),
                Optional.ofNullable(kind == XSConstants.VC_FIXED ? value : null),
                Optional.ofNullable(kind == XSConstants.VC_DEFAULT ? value : null),
                Documentation.of(a.getAnnotations()));
    }

    @Override
    public List<TypeDef> derived() {
        return schemas.derivedFrom(xs).stream().filter(t -> !t.isAbstract()).toList();
    }

    @Override
    public boolean isAny() {
        return xs instanceof XSComplexTypeDefinition
                && "anyType".equals(xs.getName())
                && SchemaReplay.XSD.equals(xs.getNamespace());
    }

    @Override
    public String documentation() {
        return xs instanceof XSComplexTypeDefinition complex
                ? Documentation.of(complex.getAnnotations())
                : Documentation.of(((XSSimpleTypeDefinition) xs).getAnnotations());
    }

    @Override
    public Optional<Place> place() {
        return schemas.place(xs instanceof XSComplexTypeDefinition ? "complexType" : "simpleType", xs);
    }

    @Override
    public String summary() {
        if (xs instanceof XSComplexTypeDefinition complex && complex.getSimpleType() == null) {
            return name().map(QName::getLocalPart).orElse("");
        }
        return simple().map(SimpleType::summary).orElse("");
    }
}
