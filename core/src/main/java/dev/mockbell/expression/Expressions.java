package dev.mockbell.expression;

import dev.mockbell.problem.Problem;
import dev.mockbell.xml.Xml;
import dev.mockbell.xml.XmlLimits;
import java.io.ByteArrayInputStream;
import java.io.StringReader;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import java.util.stream.Collectors;
import javax.xml.transform.sax.SAXSource;
import net.sf.saxon.lib.Feature;
import net.sf.saxon.s9api.Processor;
import net.sf.saxon.s9api.QName;
import net.sf.saxon.s9api.SaxonApiException;
import net.sf.saxon.s9api.UnprefixedElementMatchingPolicy;
import net.sf.saxon.s9api.XPathCompiler;
import net.sf.saxon.s9api.XPathExecutable;
import net.sf.saxon.s9api.XPathSelector;
import net.sf.saxon.s9api.XdmNode;
import net.sf.saxon.s9api.XdmValue;
import org.w3c.dom.Node;
import org.xml.sax.InputSource;

/**
 * XPath 3.1. Names without a prefix match elements of any namespace, so that a path reads like the message does; the
 * prefixes of the contract work too. Expressions reach no file, no address and no environment variable. Safe for many
 * threads; compiled expressions are kept.
 */
public final class Expressions {
    private static final int MOST_COMPILED = 2_000;

    private static final Set<String> RESERVED =
            Set.of("xml", "xs", "fn", "map", "array", "math", "err", "soap11", "soap12", Functions.PREFIX, "secret");
    private static final String SECRETS = "urn:mockbell:secrets";

    /** What an expression is compiled for. */
    private record Key(String xpath, Set<String> variables, Map<String, String> namespaces) {}

    private final Processor processor = new Processor(false);
    private final Functions.Source source;
    private final Map<Key, XPathExecutable> compiled = new LinkedHashMap<>(64, 0.75f, true) {
        private static final long serialVersionUID = 1L;

        @Override
        protected boolean removeEldestEntry(Map.Entry<Key, XPathExecutable> eldest) {
            return size() > MOST_COMPILED;
        }
    };

    /** With functions that draw on a good source of randomness. */
    public Expressions() {
        this(new Functions.Source(new java.security.SecureRandom(), new Counters()), false);
    }

    /** As {@link #Expressions()}, the same random values each time for the same seed. */
    public Expressions(long seed) {
        this(new Functions.Source(new java.util.Random(seed), new Counters()), false);
    }

    private Expressions(Functions.Source source, boolean looking) {
        this.source = source;
        new Functions(source, looking).registerIn(processor);
        processor.setConfigurationProperty(Feature.ALLOW_EXTERNAL_FUNCTIONS, false);
        processor.setConfigurationProperty(Feature.ALLOWED_PROTOCOLS, "");
        processor.setConfigurationProperty(Feature.ENVIRONMENT_VARIABLE_RESOLVER, new NoEnvironment());
        // what is wrong is thrown and told in the program's own words; the library's warnings would go to the terminal
        processor.getUnderlyingConfiguration().setErrorReporterFactory(configuration -> error -> {});
        processor.getUnderlyingConfiguration().setResourceResolver(request -> {
            throw new net.sf.saxon.trans.XPathException("expressions may not read " + request.uri);
        });
    }

    /** For showing what expressions would give: counters stay where they are. */
    public Expressions looking() {
        return new Expressions(source, true);
    }

    private static final class NoEnvironment implements net.sf.saxon.lib.EnvironmentVariableResolver {
        @Override
        public Set<String> getAvailableEnvironmentVariables() {
            return Set.of();
        }

        @Override
        public String getEnvironmentVariable(String name) {
            return null;
        }
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

    /** Wraps a tree that was read elsewhere. */
    public XdmNode wrap(Node node) {
        return processor.newDocumentBuilder().wrap(node);
    }

    /**
     * The value of an expression.
     *
     * @throws Problem of kind EXPRESSION when it does not parse, refers to an unknown variable or fails on the data
     */
    public XdmValue evaluate(String xpath, Scope scope) {
        XPathExecutable executable = compile(xpath, scope);
        try {
            return loaded(executable, scope).evaluate();
        } catch (SaxonApiException e) {
            throw Problem.of(
                    Problem.Kind.EXPRESSION, "The expression gives no value: " + clause(e), place(xpath, e), null, e);
        }
    }

    /** The effective boolean value of an expression (XPath 3.1 §2.4.3). */
    public boolean holds(String condition, Scope scope) {
        XPathExecutable executable = compile(condition, scope);
        try {
            return loaded(executable, scope).effectiveBooleanValue();
        } catch (SaxonApiException e) {
            throw Problem.of(
                    Problem.Kind.EXPRESSION,
                    "The condition cannot be decided: " + clause(e),
                    place(condition, e),
                    null,
                    e);
        }
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
                scope.types(),
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
        return value.stream().map(item -> item.getStringValue()).collect(Collectors.joining(" "));
    }

    /** The text with each expression in braces replaced by the text of its value. */
    public String fill(Braces braces, Scope scope) {
        StringBuilder out = new StringBuilder();
        for (Braces.Piece piece : braces.pieces()) {
            if (piece instanceof Braces.Piece.Literal literal) {
                out.append(literal.text());
            } else if (piece instanceof Braces.Piece.Expression expression) {
                out.append(expression.escaping().of(text(expression.xpath(), scope)));
            }
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
        variables.forEach(v -> compiler.declareVariable(name(v)));
        try {
            XPathExecutable made = compiler.compile(xpath);
            synchronized (compiled) {
                compiled.put(key, made);
            }
            return made;
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
