package dev.mockbell.schema;

import dev.mockbell.xml.Place;
import dev.mockbell.xml.Xml;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import javax.xml.namespace.QName;
import org.apache.xerces.impl.xs.XSConstraints;
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
import org.w3c.dom.Element;

/** A type that the schema library compiled. */
final class XsType implements TypeDef {
    private final Schemas schemas;
    private final XSTypeDefinition xs;
    private volatile List<AttributeDecl> attributes;
    private volatile Optional<Particle> particle;
    private volatile String documentation;

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
            return Optional.of(new SimpleType(schemas, simple));
        }
        XSSimpleTypeDefinition text = ((XSComplexTypeDefinition) xs).getSimpleType();
        return Optional.ofNullable(text).map(t -> new SimpleType(schemas, t));
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
            return of(any, occurs);
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

    private static Particle.OfAny of(XSWildcard any, Occurs occurs) {
        List<String> names = new ArrayList<>();
        StringList list = any.getNsConstraintList();
        boolean every = any.getConstraintType() == XSWildcard.NSCONSTRAINT_ANY;
        for (int i = 0; !every && list != null && i < list.getLength(); i++) {
            names.add(list.item(i) == null ? "" : list.item(i));
        }
        boolean except = every || any.getConstraintType() == XSWildcard.NSCONSTRAINT_NOT;
        if (except && !every && !names.contains("")) {
            names.add("");
        }
        Particle.Processing processing = switch (any.getProcessContents()) {
            case XSWildcard.PC_SKIP -> Particle.Processing.SKIP;
            case XSWildcard.PC_LAX -> Particle.Processing.LAX;
            default -> Particle.Processing.STRICT;
        };
        return new Particle.OfAny(except, List.copyOf(names), processing, occurs);
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
                Documentation.of(a.getAnnotations()),
                schemas.ofEncoding(a) || isEncodedArray(),
                placeOf(a));
    }

    private Optional<Place> placeOf(XSAttributeDeclaration a) {
        return a.getScope() == XSConstants.SCOPE_GLOBAL
                ? schemas.place("attribute", a)
                : schemas.within((XSComplexTypeDefinition) xs, "attribute", a.getName())
                        .map(Xml::placeOf);
    }

    @Override
    public boolean takesAttributeOf(String namespace) {
        return xs instanceof XSComplexTypeDefinition complex
                && complex.getAttributeWildcard() != null
                && of(complex.getAttributeWildcard(), Occurs.ONCE).allows(namespace);
    }

    @Override
    public List<TypeDef> derived() {
        return schemas.derivedFrom(xs).stream().filter(t -> !t.isAbstract()).toList();
    }

    @Override
    public boolean isEncodedArray() {
        XSTypeDefinition at = xs;
        while (at != null && at.getBaseType() != at) {
            if ("Array".equals(at.getName()) && SoapEncoding.isNamespace(at.getNamespace())) {
                return true;
            }
            at = at.getBaseType();
        }
        return false;
    }

    @Override
    public Optional<QName> arrayItem() {
        for (XSTypeDefinition at = xs; at != null && at.getBaseType() != at; at = at.getBaseType()) {
            Optional<QName> item = at.getName() == null
                    ? Optional.empty()
                    : schemas.arrayItem(new QName(at.getNamespace() == null ? "" : at.getNamespace(), at.getName()));
            if (item.isPresent()) {
                return item;
            }
        }
        return Optional.empty();
    }

    /**
     * Whether this type may stand for a base by {@code xsi:type} or in a substitution group when the given ways of
     * derivation are barred (XML Schema part 1 §3.4.6, Type Derivation OK).
     */
    boolean reaches(XSTypeDefinition base, int barred) {
        XSTypeDefinition at = xs;
        int ways = 0;
        while (at != base) {
            if (at == null || at.getBaseType() == at) {
                // the library ends the line of simple types before anyType, from which they all come
                return "anyType".equals(base.getName()) && (ways & barred) == 0;
            }
            boolean extension = at instanceof XSComplexTypeDefinition c
                    && c.getDerivationMethod() == XSConstants.DERIVATION_EXTENSION;
            ways |= extension ? XSConstants.DERIVATION_EXTENSION : XSConstants.DERIVATION_RESTRICTION;
            at = at.getBaseType();
        }
        return (ways & barred) == 0;
    }

    /**
     * Whether this type is the other or derived from it, by way of a union too, in a way that neither bars (XML Schema part
     * 1 §3.4.6, §3.14.6, Type Derivation OK).
     */
    boolean standsFor(XsType base, int barred) {
        return XSConstraints.checkTypeDerivationOk(xs, base.xs, (short) (barred | barred(base.xs)));
    }

    static int barred(XSTypeDefinition base) {
        return base instanceof XSComplexTypeDefinition complex ? complex.getProhibitedSubstitutions() : 0;
    }

    @Override
    public boolean isAny() {
        return xs instanceof XSComplexTypeDefinition
                && "anyType".equals(xs.getName())
                && SchemaReplay.XSD.equals(xs.getNamespace());
    }

    @Override
    public String documentation() {
        String known = documentation;
        if (known == null) {
            known = xs instanceof XSComplexTypeDefinition complex
                    ? Documentation.of(complex.getAnnotations())
                    : Documentation.of(((XSSimpleTypeDefinition) xs).getAnnotations());
            documentation = known;
        }
        return known;
    }

    @Override
    public Optional<Place> place() {
        return dom().map(Xml::placeOf);
    }

    /** The schema's element that defines it, when it is global. */
    Optional<Element> dom() {
        return schemas.global(xs instanceof XSComplexTypeDefinition ? "complexType" : "simpleType", xs);
    }

    @Override
    public String summary() {
        if (xs instanceof XSComplexTypeDefinition complex && complex.getSimpleType() == null) {
            return name().map(QName::getLocalPart).orElse("");
        }
        return simple().map(SimpleType::summary).orElse("");
    }
}
