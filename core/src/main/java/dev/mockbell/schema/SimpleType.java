package dev.mockbell.schema;

import dev.mockbell.pattern.XsPattern;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.Predicate;
import java.util.function.Supplier;
import java.util.function.UnaryOperator;
import javax.xml.namespace.QName;
import org.apache.xerces.impl.dv.InvalidDatatypeValueException;
import org.apache.xerces.impl.dv.ValidatedInfo;
import org.apache.xerces.impl.dv.XSSimpleType;
import org.apache.xerces.impl.dv.xs.XSSimpleTypeDecl;
import org.apache.xerces.impl.validation.ValidationState;
import org.apache.xerces.util.NamespaceSupport;
import org.apache.xerces.xs.StringList;
import org.apache.xerces.xs.XSObjectList;
import org.apache.xerces.xs.XSSimpleTypeDefinition;
import org.apache.xerces.xs.datatypes.ObjectList;
import org.apache.xerces.xs.datatypes.XSQName;

/** The type of a text value with its facets (XML Schema part 2). */
public final class SimpleType {
    /** Whether a value is one, several or one of several kinds. */
    public enum Variety {
        ATOMIC,
        LIST,
        UNION
    }

    private final Schemas schemas;
    private final XSSimpleTypeDefinition xs;

    SimpleType(Schemas schemas, XSSimpleTypeDefinition xs) {
        this.schemas = schemas;
        this.xs = xs;
    }

    /** The name; empty for an anonymous type. */
    public Optional<QName> name() {
        return xs.getAnonymous() || xs.getName() == null
                ? Optional.empty()
                : Optional.of(new QName(xs.getNamespace() == null ? "" : xs.getNamespace(), xs.getName()));
    }

    public Variety variety() {
        return switch (xs.getVariety()) {
            case XSSimpleTypeDefinition.VARIETY_LIST -> Variety.LIST;
            case XSSimpleTypeDefinition.VARIETY_UNION -> Variety.UNION;
            default -> Variety.ATOMIC;
        };
    }

    /** The nearest built-in type that it restricts: {@code int}, {@code token}, {@code date}. */
    public String builtIn() {
        org.apache.xerces.xs.XSTypeDefinition at = xs;
        while (at != null && !SchemaReplay.XSD.equals(at.getNamespace())) {
            if (at.getBaseType() == at) {
                break;
            }
            at = at.getBaseType();
        }
        return at == null || at.getName() == null ? "anySimpleType" : at.getName();
    }

    /** The primitive type of an atomic type: {@code decimal}, {@code string}. */
    public String primitive() {
        return xs.getVariety() == XSSimpleTypeDefinition.VARIETY_ATOMIC && xs.getPrimitiveType() != null
                ? xs.getPrimitiveType().getName()
                : "anySimpleType";
    }

    /** The type of each item of a list. */
    public Optional<SimpleType> item() {
        return Optional.ofNullable(xs.getItemType()).map(t -> new SimpleType(schemas, t));
    }

    /** The members of a union. */
    public List<SimpleType> members() {
        List<SimpleType> found = new ArrayList<>();
        XSObjectList list = xs.getMemberTypes();
        for (int i = 0; list != null && i < list.getLength(); i++) {
            found.add(new SimpleType(schemas, (XSSimpleTypeDefinition) list.item(i)));
        }
        return found;
    }

    /** The values of an enumeration, in the schema's order; empty when there is none. */
    public List<String> enumeration() {
        return list(xs.getLexicalEnumeration());
    }

    /** The patterns that must all match, in XML Schema's own regular expressions. */
    public List<String> patterns() {
        return schemas.originals(list(xs.getLexicalPattern()));
    }

    /** The patterns read for making strings and for matching, those that cannot be read left out. */
    public List<XsPattern> readPatterns() {
        return patterns().stream().flatMap(p -> schemas.pattern(p).stream()).toList();
    }

    /** The values of an enumeration of qualified names; their prefixes are those of the schema, so these count. */
    public List<QName> qualifiedEnumeration() {
        List<QName> found = new ArrayList<>();
        ObjectList values = ((XSSimpleTypeDecl) xs).getActualEnumeration();
        for (int i = 0; values != null && i < values.getLength(); i++) {
            if (values.item(i) instanceof XSQName value) {
                found.add(value.getJAXPQName());
            }
        }
        return found;
    }

    /**
     * Whether it has a value that a message may hold. The name of an unparsed entity is none, since SOAP allows no document
     * type declaration, and a notation must be one that the type lists (XML Schema part 2 §3.2.19, §3.3.11).
     */
    public boolean hasValue() {
        return switch (variety()) {
            case LIST ->
                item().map(SimpleType::hasValue).orElse(true)
                        || minLength().or(this::length).orElse(0) == 0;
            case UNION -> members().isEmpty() || members().stream().anyMatch(SimpleType::hasValue);
            case ATOMIC ->
                switch (builtIn()) {
                    case "ENTITY" -> false;
                    case "NOTATION" -> !enumeration().isEmpty();
                    default -> true;
                };
        };
    }

    /** Whether its values are qualified names, whose prefixes must be declared where they stand. */
    public boolean isQualifiedName() {
        return "QName".equals(primitive()) || "NOTATION".equals(primitive());
    }

    /**
     * A value for a name and variant, made once for the type.
     *
     * @param made makes it; the same each time
     */
    public String kept(String name, int variant, Supplier<String> made) {
        return schemas.kept().value(xs, name, variant, made);
    }

    /**
     * Strings that its patterns match, of so many characters; looked for once for the same patterns.
     *
     * @param wide whether to look for variety too, behind the nearest ones
     */
    public List<String> matching(int least, int most, int count, boolean wide) {
        List<XsPattern> all = readPatterns();
        List<String> sources = all.stream().map(XsPattern::toString).toList();
        return schemas.kept()
                .strings(
                        new KeptValues.Search(sources, least, most, count, wide),
                        () -> wide
                                ? XsPattern.samples(all, least, most, count)
                                : XsPattern.nearest(all, least, most, count));
    }

    /** The values of its enumeration that are accepted; judged once, always by the same judgement. */
    public List<String> acceptedEnumeration(Predicate<String> accepts) {
        return schemas.kept()
                .enumeration(xs, () -> enumeration().stream().filter(accepts).toList());
    }

    private static List<String> list(StringList values) {
        List<String> found = new ArrayList<>();
        for (int i = 0; values != null && i < values.getLength(); i++) {
            found.add(values.item(i));
        }
        return found;
    }

    public Optional<String> minInclusive() {
        return facet(XSSimpleTypeDefinition.FACET_MININCLUSIVE);
    }

    public Optional<String> maxInclusive() {
        return facet(XSSimpleTypeDefinition.FACET_MAXINCLUSIVE);
    }

    public Optional<String> minExclusive() {
        return facet(XSSimpleTypeDefinition.FACET_MINEXCLUSIVE);
    }

    public Optional<String> maxExclusive() {
        return facet(XSSimpleTypeDefinition.FACET_MAXEXCLUSIVE);
    }

    public Optional<Integer> length() {
        return number(XSSimpleTypeDefinition.FACET_LENGTH);
    }

    public Optional<Integer> minLength() {
        return number(XSSimpleTypeDefinition.FACET_MINLENGTH);
    }

    public Optional<Integer> maxLength() {
        return number(XSSimpleTypeDefinition.FACET_MAXLENGTH);
    }

    public Optional<Integer> totalDigits() {
        return number(XSSimpleTypeDefinition.FACET_TOTALDIGITS);
    }

    public Optional<Integer> fractionDigits() {
        return number(XSSimpleTypeDefinition.FACET_FRACTIONDIGITS);
    }

    private Optional<Integer> number(short facet) {
        return facet(facet).map(v -> {
            try {
                return Integer.parseInt(v);
            } catch (NumberFormatException beyondInt) {
                return Integer.MAX_VALUE;
            }
        });
    }

    private Optional<String> facet(short facet) {
        return Optional.ofNullable(xs.getLexicalFacetValue(facet));
    }

    /** Why the text is not a value of this type, as a sentence; empty when it is one. */
    public Optional<String> whyNot(String text) {
        return whyNot(text, prefix -> null);
    }

    /** As {@link #whyNot(String)}, with the prefixes in scope; they matter to qualified names alone. */
    public Optional<String> whyNot(String text, UnaryOperator<String> namespaceOf) {
        try {
            if (schemas.swaps()) {
                for (XsPattern pattern : readPatterns()) {
                    if (!pattern.matches(normalized(text))) {
                        return Optional.of(FacetWords.of(this, text, "cvc-pattern-valid"));
                    }
                }
            }
            read(text, namespaceOf);
            return Optional.empty();
        } catch (InvalidDatatypeValueException e) {
            return Optional.of(FacetWords.of(this, text, e.getKey()));
        }
    }

    private Object read(String text, UnaryOperator<String> namespaceOf) throws InvalidDatatypeValueException {
        ValidationState state = new ValidationState();
        state.setExtraChecking(false);
        NamespaceSupport namespaces = new NamespaceSupport();
        namespaces.declarePrefix("xs", SchemaReplay.XSD);
        if (text.indexOf(':') > 0 && (isQualifiedName() || variety() != Variety.ATOMIC)) {
            for (String item : text.strip().split("\\s+")) {
                declare(item, namespaceOf, namespaces);
            }
        }
        state.setNamespaceSupport(namespaces);
        state.setFacetChecking(true);
        ValidatedInfo info = new ValidatedInfo();
        ((XSSimpleType) xs).validate(text, state, info);
        return info.actualValue;
    }

    /**
     * Whether two texts are one value of this type, such as {@code 1.5} and {@code 1.50} of a decimal (XML Schema part 2
     * §2.2). A text that is no value of it is the same as none.
     */
    public boolean isSame(String one, String other, UnaryOperator<String> namespaceOf) {
        try {
            return read(one, namespaceOf).equals(read(other, namespaceOf));
        } catch (InvalidDatatypeValueException e) {
            return false;
        }
    }

    private static void declare(String item, UnaryOperator<String> namespaceOf, NamespaceSupport namespaces) {
        int colon = item.indexOf(':');
        String prefix = colon > 0 ? item.substring(0, colon) : "";
        String namespace = colon > 0 ? namespaceOf.apply(prefix) : null;
        if (namespace != null) {
            namespaces.declarePrefix(prefix.intern(), namespace.intern());
        }
    }

    /** The text as its white space facet leaves it (XML Schema part 2 §4.3.6). */
    private String normalized(String text) {
        String facet = xs.getLexicalFacetValue(XSSimpleTypeDefinition.FACET_WHITESPACE);
        if (facet == null || "preserve".equals(facet)) {
            return text;
        }
        String replaced = text.replaceAll("[\t\n\r]", " ");
        return "collapse".equals(facet) ? replaced.strip().replaceAll(" +", " ") : replaced;
    }

    public boolean accepts(String text) {
        return whyNot(text).isEmpty();
    }

    /** From where to where its values go, for people: {@code 1 to 14}; empty where that is no narrower than the built-in type's. */
    public String range() {
        return FacetWords.range(this);
    }

    /** A short text for people: a name and the facets that matter. */
    public String summary() {
        return FacetWords.summary(this);
    }
}
