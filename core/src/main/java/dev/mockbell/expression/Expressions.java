package dev.mockbell.expression;

import dev.mockbell.problem.Problem;
import dev.mockbell.xml.Xml;
import dev.mockbell.xml.XmlLimits;
import java.io.ByteArrayInputStream;
import java.io.StringReader;
import java.io.StringWriter;
import java.time.Duration;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import java.util.stream.Collectors;
import javax.xml.transform.sax.SAXSource;
import net.sf.saxon.event.ReceiverOption;
import net.sf.saxon.expr.StaticProperty;
import net.sf.saxon.expr.parser.Loc;
import net.sf.saxon.functions.FunctionLibraryList;
import net.sf.saxon.om.CopyOptions;
import net.sf.saxon.s9api.Processor;
import net.sf.saxon.s9api.QName;
import net.sf.saxon.s9api.SaxonApiException;
import net.sf.saxon.s9api.Serializer;
import net.sf.saxon.s9api.UnprefixedElementMatchingPolicy;
import net.sf.saxon.s9api.XPathCompiler;
import net.sf.saxon.s9api.XPathExecutable;
import net.sf.saxon.s9api.XPathSelector;
import net.sf.saxon.s9api.XdmFunctionItem;
import net.sf.saxon.s9api.XdmItem;
import net.sf.saxon.s9api.XdmNode;
import net.sf.saxon.s9api.XdmNodeKind;
import net.sf.saxon.s9api.XdmValue;
import net.sf.saxon.sxpath.IndependentContext;
import net.sf.saxon.sxpath.XPathExpression;
import net.sf.saxon.trans.XPathException;
import net.sf.saxon.tree.tiny.TinyBuilder;
import net.sf.saxon.tree.tiny.TinyNodeImpl;
import net.sf.saxon.tree.wrapper.VirtualNode;
import org.w3c.dom.Node;
import org.xml.sax.InputSource;

/**
 * XPath 3.1. Names without a prefix match elements of any namespace, so that a path reads like the message does; the
 * prefixes of the contract work too. Expressions reach no file, no address and no environment variable. Safe for many
 * threads; compiled expressions are kept.
 */
public final class Expressions {
    private static final int MOST_COMPILED = 2_000;
    /** Some milliseconds at most. */
    private static final Budget.Bounds LITTLE = new Budget.Bounds(Duration.ofMillis(20), 10_000);

    private static final Set<String> RESERVED =
            Set.of("xml", "xs", "fn", "map", "array", "math", "err", "soap11", "soap12", Functions.PREFIX, "secret");
    private static final String SECRETS = "urn:mockbell:secrets";

    /** What an expression is compiled for. */
    private record Key(String xpath, Set<String> variables, Map<String, String> namespaces) {}

    private final ThreadLocal<Budget> budgets = new ThreadLocal<>();
    private final Processor processor = new Processor(BoundedParser.configuration(budgets));
    private final TreeNames names =
            new TreeNames(processor.getUnderlyingConfiguration().getNamePool());
    private final Functions.Source source;
    private final Budget.Bounds bounds;
    private final Map<Key, XPathExecutable> compiled = new LinkedHashMap<>(64, 0.75f, true) {
        private static final long serialVersionUID = 1L;

        @Override
        protected boolean removeEldestEntry(Map.Entry<Key, XPathExecutable> eldest) {
            return size() > MOST_COMPILED;
        }
    };

    /** With functions that draw on a good source of randomness. */
    public Expressions() {
        this(new Functions.Source(new java.security.SecureRandom(), new Counters()), false, Budget.Bounds.USUAL);
    }

    /** As {@link #Expressions()}, the same random values each time for the same seed. */
    public Expressions(long seed) {
        this(new Functions.Source(new java.util.Random(seed), new Counters()), false, Budget.Bounds.USUAL);
    }

    /**
     * As {@link #Expressions()}, for one of several programs that work side by side: their counters never give the same number.
     *
     * @param number of this one, from 0
     * @param of how many they are
     */
    public Expressions(int number, int of) {
        this(
                new Functions.Source(new java.security.SecureRandom(), new Counters(number + 1L, of)),
                false,
                Budget.Bounds.USUAL);
    }

    /** With other bounds on what an evaluation may use up. */
    Expressions(Budget.Bounds bounds) {
        this(new Functions.Source(new java.util.Random(1), new Counters()), false, bounds);
    }

    private Expressions(Functions.Source source, boolean looking, Budget.Bounds bounds) {
        this.source = source;
        this.bounds = bounds;
        new Functions(source, looking).registerIn(processor);
        Closing.close(processor);
    }

    /** For showing what expressions would give: counters stay where they are. */
    public Expressions looking() {
        return new Expressions(source, true, bounds);
    }

    /** Reads a message so that expressions can look at it. */
    public XdmNode read(byte[] xml) {
        return read(new InputSource(new ByteArrayInputStream(xml)));
    }

    /** As {@link #read(byte[])}, from text. */
    public XdmNode read(String xml) {
        return read(new InputSource(new StringReader(xml)));
    }

    private XdmNode read(InputSource source) {
        try {
            return processor.newDocumentBuilder().build(new SAXSource(Xml.reader(XmlLimits.MESSAGE), source));
        } catch (SaxonApiException e) {
            throw Problem.of(Problem.Kind.INPUT, "The message is not well-formed XML: " + clause(e), null, null, e);
        }
    }

    /** A copy of an element as the content of a document of its own, with the namespaces that are in its scope. */
    public XdmNode copy(XdmNode element) {
        try {
            TinyBuilder builder =
                    new TinyBuilder(processor.getUnderlyingConfiguration().makePipelineConfiguration());
            builder.open();
            builder.startDocument(ReceiverOption.NONE);
            element.getUnderlyingNode().copy(builder, CopyOptions.ALL_NAMESPACES, Loc.NONE);
            builder.endDocument();
            builder.close();
            return (XdmNode) XdmValue.wrap(builder.getCurrentRoot());
        } catch (XPathException e) {
            throw new IllegalStateException("what was read can be copied", e);
        }
    }

    /** Of how many nodes a {@linkplain #copy copy} consists, attributes left out. */
    public static int nodes(XdmNode copy) {
        return ((TinyNodeImpl) copy.getUnderlyingNode()).getTree().getNumberOfNodes();
    }

    /** Wraps a tree that was read elsewhere. */
    public XdmNode wrap(Node node) {
        return processor.newDocumentBuilder().wrap(node);
    }

    /**
     * The value of an expression.
     *
     * @throws Problem of kind EXPRESSION when it does not parse, refers to an unknown variable, fails on the data or uses more
     *     time or memory than an expression may; of kind STOPPED when the scope's signal stopped it
     */
    public XdmValue evaluate(String xpath, Scope scope) {
        return bounded(xpath, scope, "The expression gives no value", this::all);
    }

    private XdmValue all(XPathSelector selector) {
        Budget budget = budgets.get();
        List<XdmItem> items = new ArrayList<>();
        for (XdmItem item : selector) {
            Guard.passed(item.getUnderlyingValue(), budget);
            items.add(item);
        }
        return items.size() == 1 ? items.get(0) : new XdmValue(items);
    }

    /**
     * An expression that is compiled once for many evaluations, its variables in slots. Safe for many threads.
     *
     * @see #compiled
     */
    public final class Compiled {
        private final String xpath;
        private final Scope ground;
        private final XPathExecutable executable;
        private final int[] slots;
        private final QName[] names;
        private final boolean looks;

        private Compiled(String xpath, List<String> variables, Scope ground) {
            this.xpath = xpath;
            this.ground = ground;
            Set<String> named = new TreeSet<>();
            List<Integer> used = new ArrayList<>();
            for (int i = 0; i < variables.size(); i++) {
                // not taken apart: one that only stands in a text is declared for nothing
                if (!variables.get(i).isEmpty() && xpath.contains("$" + variables.get(i))) {
                    used.add(i);
                    named.add(variables.get(i));
                }
            }
            this.executable = compile(xpath, named, ground.namespaces());
            this.slots = used.stream().mapToInt(i -> i).toArray();
            this.names = used.stream().map(i -> name(variables.get(i))).toArray(QName[]::new);
            int focus =
                    executable.getUnderlyingExpression().getInternalExpression().getDependencies()
                            & StaticProperty.DEPENDS_ON_FOCUS;
            this.looks = focus != 0;
        }

        /** Whether it looks at the message that paths start from. */
        public boolean looksAtContext() {
            return looks;
        }

        /** Whether it uses the variable in a slot. */
        public boolean uses(int slot) {
            return java.util.Arrays.stream(slots).anyMatch(s -> s == slot);
        }

        /**
         * Its effective boolean value.
         *
         * @param values by slot; one that is not used may be null
         * @param context what paths start from; null for nothing
         * @throws Problem as {@link Expressions#holds}
         * @throws MoreEffort when it takes more than is given
         */
        public boolean holds(XdmValue[] values, XdmItem context, Effort effort) {
            return bounded(
                    xpath,
                    ground,
                    effort,
                    "The condition cannot be decided",
                    () -> loaded(values, context),
                    XPathSelector::effectiveBooleanValue);
        }

        /** Its value; as {@link #holds}. */
        public XdmValue value(XdmValue[] values, XdmItem context, Effort effort) {
            return bounded(
                    xpath,
                    ground,
                    effort,
                    "The expression gives no value",
                    () -> loaded(values, context),
                    Expressions.this::all);
        }

        private XPathSelector loaded(XdmValue[] values, XdmItem context) throws SaxonApiException {
            XPathSelector selector = executable.load();
            for (int i = 0; i < slots.length; i++) {
                if (values[slots[i]] == null) {
                    throw Problem.of(
                            Problem.Kind.EXPRESSION,
                            "There is no value for $" + names[i].getLocalName(),
                            xpath,
                            "Capture it in an earlier step.",
                            null);
                }
                selector.setVariable(names[i], values[slots[i]]);
            }
            if (context != null) {
                selector.setContextItem(context);
            }
            Functions.offer(
                    ground,
                    selector.getUnderlyingXPathContext().getXPathContextObject().getController());
            return selector;
        }
    }

    /**
     * Compiles an expression for many evaluations.
     *
     * @param variables the names of those that it may use, in the order of their slots
     * @param ground types, prefixes and the signal that stops it; its variables do not count
     * @throws Problem of kind EXPRESSION when it does not parse or refers to an unknown variable
     */
    public Compiled compiled(String xpath, List<String> variables, Scope ground) {
        return new Compiled(xpath, variables, ground);
    }

    /** What is written for the value of an expression within a text. */
    String written(Braces.Piece.Expression expression, XdmValue value) {
        boolean whole = expression.escaping() == Escaping.CONTENT && isVariable(expression.xpath()) && isXml(value);
        return whole ? xml(value) : expression.escaping().of(text(value));
    }

    /** Begins a tree that expressions can look at. */
    public TreeBuilding building() {
        return new TreeBuilding(processor.getUnderlyingConfiguration(), names);
    }

    /**
     * The nodes of a wrapped tree that an expression leads to, in their order; what else it gives is passed over.
     *
     * @param scope on a tree of {@link #wrap}
     * @throws Problem as {@link #evaluate}
     */
    public List<Node> nodes(String xpath, Scope scope) {
        List<Node> nodes = new ArrayList<>();
        for (XdmItem item : evaluate(xpath, scope)) {
            if (item instanceof XdmNode node
                    && node.getUnderlyingNode() instanceof VirtualNode wrapped
                    && wrapped.getRealNode() instanceof Node real) {
                nodes.add(real);
            }
        }
        return nodes;
    }

    /** The effective boolean value of an expression (XPath 3.1 §2.4.3); it fails as {@link #evaluate} does. */
    public boolean holds(String condition, Scope scope) {
        return bounded(condition, scope, "The condition cannot be decided", XPathSelector::effectiveBooleanValue);
    }

    private interface Use<T> {
        T of(XPathSelector selector) throws SaxonApiException;
    }

    private <T> T bounded(String xpath, Scope scope, String failure, Use<T> use) {
        return bounded(xpath, scope, Effort.USUAL, failure, () -> loaded(compile(xpath, scope), scope), use);
    }

    /** How much an evaluation may take. */
    public enum Effort {
        /** So little that a thread which others wait for may do it; more than that is {@link MoreEffort}. */
        LITTLE,
        /** All that an expression may. */
        USUAL
    }

    /** An evaluation needs more than little effort, and has to be made anew where it may take that. */
    public static final class MoreEffort extends RuntimeException {
        private static final long serialVersionUID = 1L;

        MoreEffort() {
            super("more than little effort", null, false, false);
        }
    }

    private interface Loading {
        XPathSelector loaded() throws SaxonApiException;
    }

    private <T> T bounded(String xpath, Scope scope, Effort effort, String failure, Loading loading, Use<T> use) {
        Budget before = budgets.get();
        try {
            XPathSelector selector = loading.loaded();
            budgets.set(new Budget(effort == Effort.LITTLE ? LITTLE : bounds, scope.stop()));
            return use.of(selector);
        } catch (Problem problem) {
            throw problem;
        } catch (SaxonApiException | RuntimeException e) {
            if (effort == Effort.LITTLE && spent(e).filter(s -> !s.isStopped()).isPresent()) {
                throw new MoreEffort();
            }
            throw failed(failure, xpath, e, scope);
        } catch (StackOverflowError e) {
            throw Problem.of(
                    Problem.Kind.EXPRESSION,
                    failure + ": it is nested too deep",
                    shortened(xpath),
                    "Write it flatter.",
                    e);
        } catch (OutOfMemoryError e) {
            throw Problem.of(
                    Problem.Kind.EXPRESSION,
                    failure + ": it needs more memory than there is",
                    shortened(xpath),
                    "Write it with less work.",
                    e);
        } finally {
            if (before == null) {
                budgets.remove();
            } else {
                budgets.set(before);
            }
        }
    }

    private static Problem failed(String failure, String xpath, Exception e, Scope scope) {
        Optional<Budget.Spent> spent = spent(e);
        if (spent.isPresent()) {
            return spent.get().isStopped()
                    ? Problem.stopped()
                    : Problem.of(
                            Problem.Kind.EXPRESSION,
                            failure + ": " + spent.get().getMessage(),
                            shortened(xpath),
                            "Write it with less work.",
                            spent.get());
        }
        // what went wrong may quote the value that it went wrong with
        String why = scope.redactor().text(clause(e));
        return Problem.of(Problem.Kind.EXPRESSION, failure + ": " + why, place(xpath, e), null, null);
    }

    private static Optional<Budget.Spent> spent(Throwable e) {
        for (Throwable at = e; at != null; at = at.getCause()) {
            if (at instanceof Budget.Spent spent) {
                return Optional.of(spent);
            }
        }
        return Optional.empty();
    }

    private static String shortened(String xpath) {
        return xpath.length() > 200 ? xpath.substring(0, 200) + "…" : xpath;
    }

    private static XPathSelector loaded(XPathExecutable executable, Scope scope) throws SaxonApiException {
        XPathSelector selector = executable.load();
        for (Map.Entry<String, XdmValue> v : scope.variables().entrySet()) {
            selector.setVariable(name(v.getKey()), v.getValue());
        }
        if (scope.context().isPresent()) {
            selector.setContextItem(scope.context().get());
        }
        Functions.offer(
                scope,
                selector.getUnderlyingXPathContext().getXPathContextObject().getController());
        return selector;
    }

    private static QName name(String variable) {
        return variable.startsWith(Scope.SECRET)
                ? new QName("secret", SECRETS, variable.substring(Scope.SECRET.length()))
                : new QName(variable);
    }

    /** The text of an expression's value: items separated by a space, elements by their text. */
    public String text(String xpath, Scope scope) {
        return text(evaluate(xpath, scope));
    }

    /** The text of a value: items separated by a space, elements by their text. */
    public static String text(XdmValue value) {
        StringBuilder text = new StringBuilder();
        boolean first = true;
        for (XdmItem item : value) {
            if (item instanceof XdmFunctionItem) {
                throw Problem.of(
                        Problem.Kind.EXPRESSION,
                        "The value is a map, an array or a function, which has no text",
                        null,
                        "Use what it holds, or serialize(…, map{'method': 'json'}).",
                        null);
            }
            text.append(first ? "" : " ").append(item.getStringValue());
            first = false;
        }
        return text.toString();
    }

    /** The text with each expression in braces replaced by the text of its value. */
    public String fill(Braces braces, Scope scope) {
        StringBuilder out = new StringBuilder();
        for (Braces.Piece piece : braces.pieces()) {
            if (piece instanceof Braces.Piece.Literal literal) {
                out.append(literal.text());
            } else if (piece instanceof Braces.Piece.Expression expression) {
                out.append(written(expression, evaluate(expression.xpath(), scope)));
            }
        }
        return out.toString();
    }

    private static boolean isVariable(String xpath) {
        String name = xpath.strip();
        return name.startsWith("$") && name.substring(1).matches("[\\p{L}_][\\p{L}\\p{N}_.-]*");
    }

    private static boolean isXml(XdmValue value) {
        return value.size() > 0
                && value.stream().allMatch(i -> i instanceof XdmNode node && node.getNodeKind() == XdmNodeKind.ELEMENT);
    }

    /** Elements as XML, each with the declarations of namespaces that it needs; what else there is by its text. */
    public String xml(XdmValue value) {
        if (!isXml(value)) {
            return text(value);
        }
        StringWriter out = new StringWriter();
        try {
            for (XdmItem item : value) {
                Serializer serializer = processor.newSerializer(out);
                serializer.setOutputProperty(Serializer.Property.OMIT_XML_DECLARATION, "yes");
                serializer.serializeNode((XdmNode) item);
            }
        } catch (SaxonApiException e) {
            throw Problem.of(
                    Problem.Kind.EXPRESSION, "The value cannot be written as XML: " + clause(e), null, null, e);
        }
        return out.toString();
    }

    /** As {@link #fill(Braces, Scope)}, taking the text apart first. */
    public String fill(String source, Scope scope) {
        return source.indexOf('{') < 0 && source.indexOf('}') < 0 ? source : fill(Braces.parse(source), scope);
    }

    /** As {@link #fill(String, Scope)}, for XML: values are escaped, comments and processing instructions left alone. */
    public String fillXml(String source, Scope scope) {
        return source.indexOf('{') < 0 && source.indexOf('}') < 0 ? source : fill(Braces.parseXml(source), scope);
    }

    /**
     * Says whether an expression parses, with the variables that it may use.
     *
     * @throws Problem of kind EXPRESSION with the reason when it does not
     */
    public void check(String xpath, Set<String> variables) {
        compile(xpath, variables, Map.of());
    }

    private XPathExecutable compile(String xpath, Scope scope) {
        try {
            return compile(xpath, scope.variables().keySet(), scope.namespaces());
        } catch (Problem problem) {
            boolean held = scope.withheld().isPresent() && namesSecret(xpath);
            throw !held ? problem : withheld(xpath, scope.withheld().get(), problem);
        }
    }

    /** However it is written: by prefix, or by the namespace in braces (XPath 3.1 §3.1.2). */
    private static boolean namesSecret(String xpath) {
        return xpath.contains("secret:") || xpath.contains(SECRETS);
    }

    private static Problem withheld(String xpath, String host, Problem cause) {
        return Problem.of(
                Problem.Kind.SECRET_WITHHELD,
                "The secret in {" + xpath + "} is not given to " + host,
                host,
                "Allow it for that host if it is meant to have it (on the command line: --secrets-to " + host + ").",
                cause);
    }

    private XPathExecutable compile(String xpath, Set<String> variables, Map<String, String> namespaces) {
        Key key = new Key(xpath, variables, namespaces);
        synchronized (compiled) {
            XPathExecutable known = compiled.get(key);
            if (known != null) {
                return known;
            }
        }
        XPathCompiler compiler = processor.newXPathCompiler();
        compiler.setUnprefixedElementMatchingPolicy(UnprefixedElementMatchingPolicy.ANY_NAMESPACE);
        compiler.declareNamespace("soap11", "http://schemas.xmlsoap.org/soap/envelope/");
        compiler.declareNamespace("soap12", "http://www.w3.org/2003/05/soap-envelope");
        namespaces.forEach((prefix, namespace) -> {
            if (!RESERVED.contains(prefix)) {
                compiler.declareNamespace(prefix, namespace);
            }
        });
        compiler.declareNamespace(Functions.PREFIX, Functions.NAMESPACE);
        compiler.declareNamespace("secret", SECRETS);
        for (String set : List.of("map", "array", "math")) {
            compiler.declareNamespace(set, "http://www.w3.org/2005/xpath-functions/" + set);
        }
        variables.forEach(v -> compiler.declareVariable(name(v)));
        IndependentContext context = (IndependentContext) compiler.getUnderlyingStaticContext();
        FunctionLibraryList allowed = new FunctionLibraryList();
        allowed.addFunctionLibrary(new AllowedFunctions(context.getFunctionLibrary(), budgets));
        context.setFunctionLibrary(allowed);
        try {
            XPathExecutable made = compiler.compile(xpath);
            XPathExpression inner = made.getUnderlyingExpression();
            inner.getExecutable().setFunctionLibrary(allowed);
            new Guarding(budgets).guard(inner.getInternalExpression());
            synchronized (compiled) {
                compiled.put(key, made);
            }
            return made;
        } catch (StackOverflowError e) {
            throw Problem.of(
                    Problem.Kind.EXPRESSION,
                    "The expression does not parse: it is nested too deep",
                    shortened(xpath),
                    "Write it flatter.",
                    e);
        } catch (SaxonApiException e) {
            String secret = secretWithoutValue(xpath, variables);
            if (secret != null) {
                throw Problem.of(
                        Problem.Kind.EXPRESSION,
                        "The secret “" + secret + "” has no value on this machine",
                        xpath,
                        "Give it one among the variables, or in the environment variable " + environmentName(secret)
                                + ".",
                        e);
            }
            String known = variables.isEmpty()
                    ? ""
                    : "Known variables: "
                            + new TreeSet<>(variables)
                                    .stream().map(v -> "$" + v).collect(Collectors.joining(", ")) + ".";
            throw Problem.of(
                    Problem.Kind.EXPRESSION,
                    "The expression does not parse: " + clause(e),
                    place(xpath, e),
                    Problem.reason(e).contains("ariable") ? known : "Mend it there.",
                    e);
        }
    }

    private static final java.util.regex.Pattern SECRET_NAME =
            java.util.regex.Pattern.compile("\\$secret:([\\p{L}_][\\p{L}\\p{N}_.-]*)");

    private static String secretWithoutValue(String xpath, Set<String> variables) {
        var matcher = SECRET_NAME.matcher(xpath);
        while (matcher.find()) {
            if (!variables.contains(Scope.SECRET + matcher.group(1))) {
                return matcher.group(1);
            }
        }
        return null;
    }

    /** The environment variable that may hold a secret: {@code api-token} is in {@code MOCKBELL_SECRET_API_TOKEN}. */
    public static String environmentName(String secret) {
        return "MOCKBELL_SECRET_" + secret.toUpperCase(java.util.Locale.ROOT).replaceAll("[^\\p{L}\\p{N}]", "_");
    }

    /** The expression, and at which of its characters it went wrong. */
    private static String place(String xpath, Exception e) {
        var offset = Mistake.offset(e, xpath);
        if (offset.isEmpty()) {
            return xpath;
        }
        boolean end = offset.getAsInt() >= xpath.stripTrailing().length();
        return xpath + (end ? ", at its end" : ", character " + (offset.getAsInt() + 1));
    }

    private static String clause(Exception e) {
        String text = Problem.reason(e).strip().replaceAll("\\s+", " ");
        return text.endsWith(".") ? text.substring(0, text.length() - 1) : text;
    }
}
