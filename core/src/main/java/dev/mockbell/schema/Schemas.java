package dev.mockbell.schema;

import dev.mockbell.pattern.XsPattern;
import dev.mockbell.task.StopSignal;
import dev.mockbell.xml.Place;
import dev.mockbell.xml.Xml;
import java.util.ArrayList;
import java.util.Collections;
import java.util.HashMap;
import java.util.IdentityHashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Queue;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.ConcurrentLinkedQueue;
import java.util.function.Function;
import javax.xml.namespace.QName;
import javax.xml.validation.Schema;
import javax.xml.validation.Validator;
import org.apache.xerces.impl.xs.util.XSGrammarPool;
import org.apache.xerces.jaxp.validation.XMLSchemaFactory;
import org.apache.xerces.xs.XSAttributeDeclaration;
import org.apache.xerces.xs.XSComplexTypeDefinition;
import org.apache.xerces.xs.XSConstants;
import org.apache.xerces.xs.XSElementDeclaration;
import org.apache.xerces.xs.XSModel;
import org.apache.xerces.xs.XSNamedMap;
import org.apache.xerces.xs.XSObject;
import org.apache.xerces.xs.XSTypeDefinition;
import org.w3c.dom.Attr;
import org.w3c.dom.Element;
import org.xml.sax.SAXException;

/** All the schemas of a contract, compiled: declarations by name, and a validator. Safe for use by many threads. */
public final class Schemas {
    private static final int MOST_IDLE = 16;

    /** The key under which a reader notes on a {@code redefine} element the URI that it leads to. */
    public static final String TARGET = "mockbell.target";

    /** The size of what has no finite instance. */
    public static final long ENDLESS = SmallestSizes.ENDLESS;

    private static final String ROOT_TYPE = "http://apache.org/xml/properties/validation/schema/root-type-definition";

    private final KeptValues kept = new KeptValues();
    private final List<SchemaSource> sources;
    private final XSGrammarPool pool;
    private final XSModel model;
    private final List<SchemaFlaw> flaws;
    private final Map<Element, SchemaFlaw> guesses;
    private final Map<String, String> swapped;
    private final Map<String, Optional<XsPattern>> patterns = new ConcurrentHashMap<>();
    private final Map<String, Element> globals = new HashMap<>();
    private final Map<QName, QName> arrays = new HashMap<>();
    private final SmallestSizes sizes = new SmallestSizes(this::elementsFor);
    // by identity: the library's hash codes of declarations are those of their names, which many share
    private final Map<XSTypeDefinition, TypeDef> types = Collections.synchronizedMap(new IdentityHashMap<>());
    private final Map<XSElementDeclaration, ElementDecl> elements =
            Collections.synchronizedMap(new IdentityHashMap<>());
    private volatile Map<XSElementDeclaration, List<XSElementDeclaration>> heads;
    private volatile Map<XSTypeDefinition, List<XSTypeDefinition>> derived;
    private final Map<XSTypeDefinition, XsElement> owners = Collections.synchronizedMap(new IdentityHashMap<>());
    private final Set<XSAttributeDeclaration> encoding;
    private final Map<Particle.OfAny, List<ElementDecl>> standing = new ConcurrentHashMap<>();
    private volatile Schema validation;
    private final Queue<Validator> validators = new ConcurrentLinkedQueue<>();

    /** @param guesses the declarations that a flaw lies in, by the schema's element, with what is wrong */
    Schemas(
            List<SchemaSource> sources,
            XSGrammarPool pool,
            List<SchemaFlaw> flaws,
            Map<Element, SchemaFlaw> guesses,
            Map<String, String> swapped) {
        this.guesses = guesses;
        this.swapped = Map.copyOf(swapped);
        this.sources = sources;
        this.pool = pool;
        this.model = pool.toXSModel();
        this.encoding = SoapEncoding.attributes(model);
        this.flaws = flaws;
        for (SchemaSource source : sources) {
            for (Element e : Xml.children(source.root())) {
                if (e.hasAttribute("name")) {
                    globals.putIfAbsent(key(e.getLocalName(), source.namespace(), e.getAttribute("name")), e);
                    ArrayTypes.itemOf(e)
                            .ifPresent(item ->
                                    arrays.putIfAbsent(new QName(source.namespace(), e.getAttribute("name")), item));
                }
            }
        }
    }

    /** Compiles documents that import and include each other freely; flaws are kept, not thrown. */
    public static Schemas compile(List<SchemaSource> sources) {
        return compile(sources, new StopSignal());
    }

    /**
     * As {@link #compile(List)}, until it is stopped.
     *
     * @throws dev.mockbell.problem.Problem of kind STOPPED
     */
    public static Schemas compile(List<SchemaSource> sources, StopSignal stop) {
        return new SchemaCompiler(sources, stop).compile();
    }

    private static String key(String kind, String namespace, String name) {
        return kind + " {" + (namespace == null ? "" : namespace) + "}" + name;
    }

    public List<SchemaSource> sources() {
        return sources;
    }

    /** What breaks the rules of XML Schema, in the order found. */
    public List<SchemaFlaw> flaws() {
        return flaws;
    }

    /** The global element of that name. */
    public Optional<ElementDecl> element(QName name) {
        return Optional.ofNullable(model.getElementDeclaration(name.getLocalPart(), namespace(name)))
                .map(this::of);
    }

    /** The global or built-in type of that name. */
    public Optional<TypeDef> type(QName name) {
        return Optional.ofNullable(model.getTypeDefinition(name.getLocalPart(), namespace(name)))
                .map(this::of);
    }

    /**
     * What is wrong with the declaration of an element, or with its type's, so that what is known of its content is a guess;
     * empty for a sound one.
     */
    public Optional<SchemaFlaw> guessed(ElementDecl element) {
        if (guesses.isEmpty()) {
            return Optional.empty();
        }
        Optional<SchemaFlaw> own = element instanceof XsElement e ? e.dom().map(guesses::get) : Optional.empty();
        return own.or(() -> element.type() instanceof XsType t ? t.dom().map(guesses::get) : Optional.empty());
    }

    /** How many global element and type declarations there are, of the contract's own. */
    public int size() {
        return globals.size();
    }

    /** A short prefix for each namespace as the documents declare them; the first declaration counts. */
    public Map<String, String> prefixes() {
        Map<String, String> found = new LinkedHashMap<>();
        for (SchemaSource source : sources) {
            for (org.w3c.dom.Node n = source.root(); n instanceof Element e; n = n.getParentNode()) {
                for (Attr a : Xml.attributes(e)) {
                    if (a.getNodeName().startsWith("xmlns:")) {
                        found.putIfAbsent(a.getNodeValue(), a.getLocalName());
                    }
                }
            }
        }
        return found;
    }

    /**
     * How many elements the smallest valid instance has.
     *
     * @return {@link #ENDLESS} when there is no finite one
     */
    public long smallest(ElementDecl element) {
        return sizes.of(element);
    }

    /** As {@link #smallest(ElementDecl)}, for what stands inside an element of that type. */
    public long smallest(TypeDef type) {
        return sizes.of(type);
    }

    /** As {@link #smallest(ElementDecl)}, for a piece of a content model with its repeats. */
    public long smallest(Particle particle) {
        return sizes.of(particle);
    }

    /** Why an element has no valid instance; empty when it has one or when it requires itself. */
    public Optional<String> whyNone(ElementDecl element) {
        return new NoInstance(sizes).of(element).filter(c -> !c.recursive()).map(NoInstance.Cause::text);
    }

    /** As {@link #whyNone(ElementDecl)}, for what stands inside an element of that type. */
    public Optional<String> whyNone(TypeDef type, String of) {
        return new NoInstance(sizes).of(type, of).filter(c -> !c.recursive()).map(NoInstance.Cause::text);
    }

    /** Whether a nillable element of that type had better be nil, because its content has no end or hardly one. */
    public boolean endsByNil(TypeDef type) {
        return sizes.of(type) >= SmallestSizes.NIL;
    }

    /** The type of the items of a SOAP-encoded array type, as its {@code wsdl:arrayType} tells (WSDL 1.1 §2.2). */
    public Optional<QName> arrayItem(QName type) {
        return Optional.ofNullable(arrays.get(type));
    }

    /** The global elements that may stand for a wildcard, declared by the contract and not abstract. */
    public List<ElementDecl> elementsFor(Particle.OfAny wildcard) {
        // a wildcard repeats itself wherever its type is used
        return standing.computeIfAbsent(
                new Particle.OfAny(wildcard.except(), wildcard.names(), Particle.Processing.STRICT, Occurs.ONCE),
                this::declaredFor);
    }

    private List<ElementDecl> declaredFor(Particle.OfAny wildcard) {
        List<ElementDecl> found = new ArrayList<>();
        XSNamedMap globals = model.getComponents(XSConstants.ELEMENT_DECLARATION);
        for (int i = 0; i < globals.getLength(); i++) {
            ElementDecl e = of((XSElementDeclaration) globals.item(i));
            if (!e.isAbstract() && wildcard.allows(e.name().getNamespaceURI())) {
                found.add(e);
            }
        }
        return List.copyOf(found);
    }

    /** The patterns as the documents have them, where others were compiled in their place. */
    List<String> originals(List<String> compiled) {
        if (swapped.isEmpty()) {
            return compiled;
        }
        return compiled.stream()
                .map(p -> {
                    String text = p;
                    for (Map.Entry<String, String> s : swapped.entrySet()) {
                        text = text.replace(s.getKey(), s.getValue());
                    }
                    return text;
                })
                .toList();
    }

    boolean swaps() {
        return !swapped.isEmpty();
    }

    /** What is known of the values of its types. */
    KeptValues kept() {
        return kept;
    }

    /** The pattern read for matching; empty when it cannot be. */
    Optional<XsPattern> pattern(String source) {
        return patterns.computeIfAbsent(source, XsPattern::parse);
    }

    private static String namespace(QName name) {
        return name.getNamespaceURI().isEmpty() ? null : name.getNamespaceURI();
    }

    /**
     * Lends a validator over all of it, for a document whose root is a global element. To make one takes longer than to validate
     * an ordinary message, so that it is used again.
     *
     * @param use may set its handlers; what it throws is handed on
     */
    public <T> T validating(Function<Validator, T> use) {
        Validator idle = validators.poll();
        Validator validator = idle == null ? validation().newValidator() : idle;
        T result = use.apply(validator);
        // one that threw may be in whatever state, and is not used again
        validator.reset();
        if (validators.size() < MOST_IDLE) {
            validators.add(validator);
        }
        return result;
    }

    /**
     * As {@link #validating(Function)}, for an element that no schema declares, such as an rpc part, against the global type of
     * that name.
     */
    public <T> T validating(QName type, Function<Validator, T> use) {
        Validator validator = validation().newValidator();
        XSTypeDefinition xs = model.getTypeDefinition(type.getLocalPart(), namespace(type));
        if (xs != null) {
            try {
                validator.setProperty(ROOT_TYPE, xs);
            } catch (SAXException e) {
                throw new IllegalStateException("the validator does not take a root type", e);
            }
        }
        return use.apply(validator);
    }

    private Schema validation() {
        Schema made = validation;
        if (made == null) {
            try {
                XMLSchemaFactory factory = new XMLSchemaFactory();
                factory.setFeature(
                        "http://apache.org/xml/features/internal/validation/schema/use-grammar-pool-only", true);
                made = factory.newSchema(pool);
                validation = made;
            } catch (SAXException e) {
                throw new IllegalStateException("the compiled schemas cannot be used for validation", e);
            }
        }
        return made;
    }

    ElementDecl of(XSElementDeclaration element) {
        return elements.computeIfAbsent(element, e -> new XsElement(this, e));
    }

    TypeDef of(XSTypeDefinition type) {
        return types.computeIfAbsent(type, t -> new XsType(this, t));
    }

    /** Whether SOAP's encoding declares it, or one of its attribute groups. */
    boolean ofEncoding(XSAttributeDeclaration attribute) {
        XSComplexTypeDefinition within = attribute.getEnclosingCTDefinition();
        return SoapEncoding.isNamespace(attribute.getNamespace())
                || encoding.contains(attribute)
                || within != null && SoapEncoding.isNamespace(within.getNamespace());
    }

    Optional<Place> place(String kind, XSObject component) {
        return dom(kind, component).map(Xml::placeOf);
    }

    private Optional<Element> dom(String kind, XSObject component) {
        return component.getName() == null
                ? Optional.empty()
                : Optional.ofNullable(globals.get(key(kind, component.getNamespace(), component.getName())));
    }

    /** The schema's element that declares a global component. */
    Optional<Element> global(String kind, XSObject component) {
        return dom(kind, component);
    }

    /** Notes the element whose own type has no name, so that what is declared in it can be found. */
    void owns(XsElement element, XSTypeDefinition type) {
        if (type.getAnonymous()) {
            owners.putIfAbsent(type, element);
        }
    }

    /** The schema's element of a local declaration within a type. */
    Optional<Element> within(XSComplexTypeDefinition type, String kind, String name) {
        if (type == null) {
            return inGroups(kind, name);
        }
        Optional<Element> holder = type.getAnonymous()
                ? Optional.ofNullable(owners.get(type)).flatMap(XsElement::dom)
                : dom("complexType", type);
        Optional<Element> own = holder.flatMap(h -> local(h, kind, name));
        if (own.isPresent()) {
            return own;
        }
        boolean derived = type.getBaseType() instanceof XSComplexTypeDefinition base && base != type;
        Optional<Element> inherited =
                derived && !"anyType".equals(type.getBaseType().getName())
                        ? within((XSComplexTypeDefinition) type.getBaseType(), kind, name)
                        : Optional.empty();
        return inherited.isPresent() ? inherited : inGroups(kind, name);
    }

    /** What a named group declares belongs to no type. */
    private Optional<Element> inGroups(String kind, String name) {
        return globals.entrySet().stream()
                .filter(g -> g.getKey().startsWith("group ") || g.getKey().startsWith("attributeGroup "))
                .sorted(Map.Entry.comparingByKey())
                .flatMap(g -> local(g.getValue(), kind, name).stream())
                .findFirst();
    }

    /** The first declaration of that name, nearest to the top. */
    private static Optional<Element> local(Element holder, String kind, String name) {
        List<Element> level = Xml.children(holder);
        while (!level.isEmpty()) {
            List<Element> below = new ArrayList<>();
            for (Element e : level) {
                String ref = e.getAttribute("ref");
                boolean named = e.getAttribute("name").equals(name)
                        || ref.substring(ref.indexOf(':') + 1).equals(name);
                if (kind.equals(e.getLocalName()) && named) {
                    return Optional.of(e);
                }
                below.addAll(Xml.children(e));
            }
            level = below;
        }
        return Optional.empty();
    }

    List<ElementDecl> substitutesOf(XSElementDeclaration head) {
        Map<XSElementDeclaration, List<XSElementDeclaration>> all = heads;
        if (all == null) {
            all = new HashMap<>();
            XSNamedMap globals = model.getComponents(XSConstants.ELEMENT_DECLARATION);
            for (int i = 0; i < globals.getLength(); i++) {
                XSElementDeclaration e = (XSElementDeclaration) globals.item(i);
                for (XSElementDeclaration h = e.getSubstitutionGroupAffiliation();
                        h != null;
                        h = h.getSubstitutionGroupAffiliation()) {
                    all.computeIfAbsent(h, k -> new ArrayList<>()).add(e);
                }
            }
            heads = all;
        }
        return all.getOrDefault(head, List.of()).stream().map(this::of).toList();
    }

    List<TypeDef> derivedFrom(XSTypeDefinition base) {
        Map<XSTypeDefinition, List<XSTypeDefinition>> all = derived;
        if (all == null) {
            all = new HashMap<>();
            XSNamedMap globals = model.getComponents(XSConstants.TYPE_DEFINITION);
            for (int i = 0; i < globals.getLength(); i++) {
                XSTypeDefinition t = (XSTypeDefinition) globals.item(i);
                XSTypeDefinition last = t;
                for (XSTypeDefinition b = t.getBaseType(); b != null && b != last; b = b.getBaseType()) {
                    all.computeIfAbsent(b, k -> new ArrayList<>()).add(t);
                    last = b;
                }
            }
            derived = all;
        }
        return all.getOrDefault(base, List.of()).stream().map(this::of).toList();
    }
}
