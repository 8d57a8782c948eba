package dev.mockbell.schema;

import dev.mockbell.task.StopSignal;
import dev.mockbell.xml.Place;
import dev.mockbell.xml.XmlWriter;
import java.io.IOException;
import java.io.StringReader;
import java.util.ArrayList;
import java.util.IdentityHashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.apache.xerces.impl.XMLErrorReporter;
import org.apache.xerces.impl.xs.XMLSchemaLoader;
import org.apache.xerces.impl.xs.XSMessageFormatter;
import org.apache.xerces.impl.xs.util.XSGrammarPool;
import org.apache.xerces.util.SAXInputSource;
import org.apache.xerces.util.SymbolTable;
import org.apache.xerces.xni.XMLResourceIdentifier;
import org.apache.xerces.xni.parser.XMLEntityResolver;
import org.apache.xerces.xni.parser.XMLErrorHandler;
import org.apache.xerces.xni.parser.XMLInputSource;
import org.apache.xerces.xni.parser.XMLParseException;
import org.w3c.dom.Element;
import org.xml.sax.InputSource;

/**
 * Compiles schema documents of many namespaces in one go. Each document gets a number; each namespace gets a driver that
 * includes all of its documents; every import is led to the driver of its namespace, wherever it pointed. So documents
 * that import each other without a location, or share a namespace, work the same as any others. No document is ever
 * fetched from here.
 */
final class SchemaCompiler implements XMLEntityResolver, XMLErrorHandler {
    private static final long STACK = 256L << 20;
    private static final Pattern INNER = Pattern.compile("mockbell:([a-z]+)/(\\d+)");
    private static final String DOCUMENT = "mockbell:document/";
    private static final String DRIVER = "mockbell:namespace/";
    private static final String ALL = "mockbell:all";

    private final List<SchemaSource> given;
    private final List<SchemaSource> sources;
    private final List<SchemaScan> scans = new ArrayList<>();
    private final Map<String, Integer> namespaces = new LinkedHashMap<>();
    private final Map<String, String> swapped = new LinkedHashMap<>();
    private final Map<String, SchemaFlaw> flaws = new LinkedHashMap<>();
    private final List<SchemaFlaw> latest = new ArrayList<>();
    private final StopSignal stop;

    SchemaCompiler(List<SchemaSource> given, StopSignal stop) {
        this.stop = stop;
        this.given = List.copyOf(given);
        this.sources = new ArrayList<>(given);
        for (SchemaSource source : given) {
            namespaces.putIfAbsent(source.namespace(), namespaces.size());
        }
        for (int i = 0; i < sources.size(); i++) {
            SchemaScan scan = new SchemaScan(sources.get(i), swapped);
            scans.add(scan);
            scan.flaws().forEach(this::note);
            scan.imports().forEach(this::bring);
            scan.references().forEach(this::bring);
        }
    }

    /** Adds the schema of a well-known namespace that no document of the contract has; that is told where it is asked for. */
    private void bring(String namespace, Place asked) {
        if (!namespaces.containsKey(namespace)) {
            KnownSchemas.find(namespace).ifPresent(known -> {
                namespaces.put(namespace, namespaces.size());
                sources.add(known);
                if (!KnownSchemas.ships(asked.document())) {
                    note(new SchemaFlaw(
                            SchemaFlaw.Weight.NOTE,
                            "known-schema",
                            "The contract has no schema of " + namespace
                                    + "; the one that ships with this program is used",
                            asked));
                }
            });
        }
    }

    /**
     * Compiles, and compiles once more where a type was refused that can be shown in another way.
     *
     * @throws dev.mockbell.problem.Problem of kind STOPPED
     */
    Schemas compile() {
        XSGrammarPool pool = loaded();
        if (latest.stream().noneMatch(f -> f.weight() == SchemaFlaw.Weight.ERROR)) {
            return new Schemas(given, pool, List.copyOf(flaws.values()), cut(), swapped);
        }
        Easing easing = new Easing(sources, scans);
        for (boolean further : new boolean[] {false, true}) {
            if (easing.ease(latest, further)) {
                pool = loaded();
            }
        }
        Set<Element> still = easing.refused(latest);
        List<SchemaFlaw> weighed = new ArrayList<>();
        Map<Element, SchemaFlaw> guesses = cut();
        for (SchemaFlaw flaw : flaws.values()) {
            boolean error = flaw.weight() == SchemaFlaw.Weight.ERROR;
            boolean eased = error
                    && easing.isEased(flaw)
                    && easing.refused(List.of(flaw)).stream().noneMatch(still::contains);
            SchemaFlaw named = error ? flaw.in(easing.within(flaw)) : flaw;
            weighed.add(eased ? named.as(SchemaFlaw.Weight.EASED) : named);
            if (error && !eased) {
                easing.within(flaw).ifPresent(e -> guesses.putIfAbsent(e, named));
            }
        }
        return new Schemas(given, pool, weighed, guesses, swapped);
    }

    private Map<Element, SchemaFlaw> cut() {
        Map<Element, SchemaFlaw> found = new IdentityHashMap<>();
        scans.forEach(scan ->
                scan.cut().forEach((e, flaw) -> Easing.declarationOf(e).ifPresent(d -> found.putIfAbsent(d, flaw))));
        return found;
    }

    private XSGrammarPool loaded() {
        latest.clear();
        XSGrammarPool pool = new XSGrammarPool();
        if (!sources.isEmpty()) {
            XMLSchemaLoader loader = new XMLSchemaLoader(new StoppableSymbols());
            loader.setProperty("http://apache.org/xml/properties/internal/grammar-pool", pool);
            loader.setFeature("http://apache.org/xml/features/continue-after-fatal-error", true);
            loader.setFeature("http://apache.org/xml/features/generate-synthetic-annotations", false);
            loader.setEntityResolver(this);
            XMLErrorReporter reporter = new XMLErrorReporter();
            reporter.putMessageFormatter(XSMessageFormatter.SCHEMA_DOMAIN, new SchemaWords());
            loader.setProperty("http://apache.org/xml/properties/internal/error-reporter", reporter);
            loader.setErrorHandler(this);
            deep(() -> load(loader));
        }
        stop.check();
        return pool;
    }

    /** The library looks a name up at nearly every step and nowhere asks whether to go on, so it is asked there. */
    private final class StoppableSymbols extends SymbolTable {
        @Override
        public String addSymbol(String symbol) {
            stop.check();
            return super.addSymbol(symbol);
        }

        @Override
        public String addSymbol(char[] buffer, int offset, int length) {
            stop.check();
            return super.addSymbol(buffer, offset, length);
        }
    }

    /** The library goes one call deeper for each level of nesting and derivation, so it gets a stack that has room. */
    private static void deep(Runnable work) {
        Thread thread = new Thread(null, work, "schema-compiler", STACK);
        thread.start();
        boolean interrupted = false;
        while (thread.isAlive()) {
            try {
                thread.join();
            } catch (InterruptedException e) {
                interrupted = true;
            }
        }
        if (interrupted) {
            Thread.currentThread().interrupt();
        }
    }

    private void load(XMLSchemaLoader loader) {
        try {
            loader.loadGrammar(new XMLInputSource(null, ALL, null, new StringReader(everything()), null));
        } catch (IOException | RuntimeException e) {
            if (stop.isStopped()) {
                return;
            }
            failed(dev.mockbell.problem.Problem.reason(e));
        } catch (StackOverflowError e) {
            failed("The schemas are nested too deep to be compiled");
        }
    }

    /** The library throws in its own ways on some broken schemas; what it had compiled until then is kept. */
    private void failed(String why) {
        note(new SchemaFlaw(
                SchemaFlaw.Weight.ERROR,
                "schema",
                "The schemas could not be compiled to the end: " + why,
                sources.get(0).place()));
    }

    private String everything() {
        XmlWriter out = schema(ALL);
        for (Map.Entry<String, Integer> driver : namespaces.entrySet()) {
            String ns = driver.getKey();
            out.start("xs:import");
            if (!ns.isEmpty()) {
                out.attribute("namespace", ns);
            }
            out.attribute("schemaLocation", DRIVER + driver.getValue()).end();
        }
        return out.end().finish();
    }

    private String driver(String ns) {
        XmlWriter out = schema(ns);
        for (int i = 0; i < sources.size(); i++) {
            SchemaSource source = sources.get(i);
            if (source.namespace().equals(ns) && !source.redefined()) {
                out.start("xs:include")
                        .attribute("schemaLocation", DOCUMENT + i)
                        .end();
            }
        }
        return out.end().finish();
    }

    private static XmlWriter schema(String target) {
        XmlWriter out = XmlWriter.fragment().start("xs:schema").attribute("xmlns:xs", SchemaReplay.XSD);
        return target.isEmpty() ? out : out.attribute("targetNamespace", target);
    }

    @Override
    public XMLInputSource resolveEntity(XMLResourceIdentifier id) {
        String system = id.getLiteralSystemId();
        if (system != null && system.startsWith(DRIVER)) {
            return new XMLInputSource(null, system, null, new StringReader(driver(namespace(system))), null);
        }
        if (system != null && system.startsWith(DOCUMENT)) {
            int number = Integer.parseInt(system.substring(DOCUMENT.length()));
            SchemaSource source = sources.get(number);
            SchemaScan scan = scans.get(number);
            return new SAXInputSource(
                    new SchemaReplay(
                            source.root(),
                            system,
                            (e, level) -> level == 1 ? rewritten(e, source, scan) : scan.shown(e),
                            forgotten(source, scan)),
                    new InputSource(system));
        }
        // without any source the library takes the namespace as having no document, which is what it is
        return new XMLInputSource(null, null, null);
    }

    /** Imports of the namespaces that a document refers to and forgot to import (XML Schema part 1 §4.2.3). */
    private List<Element> forgotten(SchemaSource source, SchemaScan scan) {
        List<Element> imports = new ArrayList<>();
        scan.references().forEach((namespace, place) -> {
            if (namespaces.containsKey(namespace) && !scan.imports().containsKey(namespace)) {
                Element root = source.root();
                String prefix = root.getPrefix() == null ? "" : root.getPrefix() + ":";
                Element made = root.getOwnerDocument().createElementNS(SchemaReplay.XSD, prefix + "import");
                dev.mockbell.xml.Xml.place(made, root);
                if (!namespace.isEmpty()) {
                    made.setAttribute("namespace", namespace);
                }
                imports.add(made);
                note(new SchemaFlaw(
                        SchemaFlaw.Weight.WARNING,
                        "R2102",
                        "The schema of " + named(source.namespace()) + " refers to " + named(namespace)
                                + " without importing it",
                        place));
            }
        });
        return imports;
    }

    private static String named(String namespace) {
        return namespace.isEmpty() ? "no namespace" : namespace;
    }

    private Element rewritten(Element child, SchemaSource from, SchemaScan scan) {
        if (!SchemaReplay.XSD.equals(child.getNamespaceURI())) {
            return child;
        }
        switch (child.getLocalName()) {
            case "include" -> {
                return null;
            }
            case "import" -> {
                String namespace = child.getAttribute("namespace");
                if (namespace.equals(from.namespace())) {
                    return null;
                }
                Element copy = (Element) child.cloneNode(false);
                copy.removeAttribute("schemaLocation");
                Integer driver = namespaces.get(namespace);
                if (driver != null) {
                    copy.setAttribute("schemaLocation", DRIVER + driver);
                }
                return copy;
            }
            case "redefine" -> {
                return redefinition(child);
            }
            default -> {
                return scan.shown(child);
            }
        }
    }

    private Element redefinition(Element child) {
        Element copy = (Element) child.cloneNode(false);
        String wanted = child.getUserData(Schemas.TARGET) instanceof String s ? s : "";
        for (int i = 0; i < sources.size(); i++) {
            if (sources.get(i).redefined() && sources.get(i).uri().equals(wanted)) {
                copy.setAttribute("schemaLocation", DOCUMENT + i);
            }
        }
        return copy;
    }

    @Override
    public void warning(String domain, String key, XMLParseException e) {
        // warnings repeat what the reader of the documents has already found with better words
    }

    @Override
    public void error(String domain, String key, XMLParseException e) {
        String system = e.getExpandedSystemId() == null ? "" : e.getExpandedSystemId();
        // of a declaration that stands twice the first counts, and an attribute that may not stand there changes
        // nothing
        Place place = placeOf(system, e.getLineNumber(), e.getColumnNumber());
        if (key.equals("src-resolve")
                && latest.stream()
                        .anyMatch(f ->
                                f.rule().startsWith("src-resolve.") && f.place().equals(place))) {
            // it repeats what was said of the same name
            return;
        }
        boolean harmless = key.equals("sch-props-correct.2") || key.equals("s4s-att-not-allowed");
        note(new SchemaFlaw(
                harmless ? SchemaFlaw.Weight.WARNING : SchemaFlaw.Weight.ERROR, key, told(e.getMessage()), place));
    }

    private Place placeOf(String system, int line, int column) {
        if (system.startsWith(DOCUMENT)) {
            SchemaSource source = sources.get(Integer.parseInt(system.substring(DOCUMENT.length())));
            return line > 0 ? new Place(source.uri(), line, Math.max(0, column)) : source.place();
        }
        if (system.startsWith(DRIVER)) {
            String namespace = namespace(system);
            return sources.stream()
                    .filter(s -> s.namespace().equals(namespace))
                    .findFirst()
                    .orElse(sources.get(0))
                    .place();
        }
        return sources.get(0).place();
    }

    private String namespace(String driver) {
        return List.copyOf(namespaces.keySet()).get(Integer.parseInt(driver.substring(DRIVER.length())));
    }

    /** Without the names that documents have in here. */
    private String told(String text) {
        return INNER.matcher(text).replaceAll(found -> {
            boolean document = found.group(1).equals("document");
            int number = Integer.parseInt(found.group(2));
            String uri =
                    document && number < sources.size() ? sources.get(number).uri() : "the schemas of that namespace";
            return Matcher.quoteReplacement(uri);
        });
    }

    @Override
    public void fatalError(String domain, String key, XMLParseException e) {
        error(domain, key, e);
    }

    private void note(SchemaFlaw flaw) {
        latest.add(flaw);
        flaws.putIfAbsent(flaw.toString(), flaw);
    }
}
