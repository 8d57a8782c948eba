package dev.mockbell.schema;

import dev.mockbell.xml.Place;
import java.io.IOException;
import java.io.StringReader;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.apache.xerces.impl.xs.XMLSchemaLoader;
import org.apache.xerces.impl.xs.util.XSGrammarPool;
import org.apache.xerces.util.SAXInputSource;
import org.apache.xerces.xni.XMLResourceIdentifier;
import org.apache.xerces.xni.XNIException;
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
    private static final String DOCUMENT = "mockbell:document/";
    private static final String DRIVER = "mockbell:namespace/";
    private static final String ALL = "mockbell:all";

    private final List<SchemaSource> sources;
    private final List<String> namespaces = new ArrayList<>();
    private final Map<String, SchemaFlaw> flaws = new LinkedHashMap<>();

    SchemaCompiler(List<SchemaSource> sources) {
        this.sources = List.copyOf(sources);
        for (SchemaSource source : sources) {
            if (!namespaces.contains(source.namespace())) {
                namespaces.add(source.namespace());
            }
        }
    }

    Schemas compile() {
        XSGrammarPool pool = new XSGrammarPool();
        if (!sources.isEmpty()) {
            XMLSchemaLoader loader = new XMLSchemaLoader();
            loader.setProperty("http://apache.org/xml/properties/internal/grammar-pool", pool);
            loader.setFeature("http://apache.org/xml/features/continue-after-fatal-error", true);
            loader.setFeature("http://apache.org/xml/features/generate-synthetic-annotations", false);
            loader.setEntityResolver(this);
            loader.setErrorHandler(this);
            try {
                loader.loadGrammar(new XMLInputSource(null, ALL, null, new StringReader(everything()), null));
            } catch (IOException | XNIException | IllegalStateException e) {
                note(
                        "schema",
                        dev.mockbell.problem.Problem.reason(e),
                        sources.get(0).place());
            }
        }
        return new Schemas(sources, pool, List.copyOf(flaws.values()));
    }

    private String everything() {
        StringBuilder text =
                new StringBuilder("<xs:schema xmlns:xs='" + SchemaReplay.XSD + "' targetNamespace='" + ALL + "'>");
        for (int i = 0; i < namespaces.size(); i++) {
            String ns = namespaces.get(i);
            text.append("<xs:import ");
            if (!ns.isEmpty()) {
                text.append("namespace='").append(escape(ns)).append("' ");
            }
            text.append("schemaLocation='").append(DRIVER).append(i).append("'/>");
        }
        return text.append("</xs:schema>").toString();
    }

    private String driver(String ns) {
        StringBuilder text = new StringBuilder("<xs:schema xmlns:xs='" + SchemaReplay.XSD + "'");
        if (!ns.isEmpty()) {
            text.append(" targetNamespace='").append(escape(ns)).append('\'');
        }
        text.append('>');
        for (int i = 0; i < sources.size(); i++) {
            SchemaSource source = sources.get(i);
            if (source.namespace().equals(ns) && !source.redefined()) {
                text.append("<xs:include schemaLocation='")
                        .append(DOCUMENT)
                        .append(i)
                        .append("'/>");
            }
        }
        return text.append("</xs:schema>").toString();
    }

    private static String escape(String text) {
        return text.replace("&", "&amp;").replace("<", "&lt;").replace("'", "&apos;");
    }

    @Override
    public XMLInputSource resolveEntity(XMLResourceIdentifier id) {
        String system = id.getLiteralSystemId();
        if (system != null && system.startsWith(DRIVER)) {
            String ns = namespaces.get(Integer.parseInt(system.substring(DRIVER.length())));
            return new XMLInputSource(null, system, null, new StringReader(driver(ns)), null);
        }
        if (system != null && system.startsWith(DOCUMENT)) {
            SchemaSource source = sources.get(Integer.parseInt(system.substring(DOCUMENT.length())));
            return new SAXInputSource(
                    new SchemaReplay(source.root(), system, e -> rewritten(e, source)), new InputSource(system));
        }
        // without any source the library takes the namespace as having no document, which is what it is
        return new XMLInputSource(null, null, null);
    }

    private Element rewritten(Element child, SchemaSource from) {
        if (!SchemaReplay.XSD.equals(child.getNamespaceURI())) {
            return child;
        }
        String kind = child.getLocalName();
        if ("include".equals(kind)) {
            return null;
        }
        if ("import".equals(kind)) {
            Element copy = (Element) child.cloneNode(false);
            copy.removeAttribute("schemaLocation");
            int driver = namespaces.indexOf(child.getAttribute("namespace"));
            if (child.getAttribute("namespace").equals(from.namespace())) {
                return null;
            }
            if (driver >= 0) {
                copy.setAttribute("schemaLocation", DRIVER + driver);
            }
            return copy;
        }
        if ("redefine".equals(kind)) {
            Element copy = (Element) child.cloneNode(false);
            String wanted = child.getUserData(Schemas.TARGET) instanceof String s ? s : "";
            for (int i = 0; i < sources.size(); i++) {
                if (sources.get(i).redefined() && sources.get(i).uri().equals(wanted)) {
                    copy.setAttribute("schemaLocation", DOCUMENT + i);
                }
            }
            return copy;
        }
        return child;
    }

    @Override
    public void warning(String domain, String key, XMLParseException e) {
        // warnings repeat what the reader of the documents has already found with better words
    }

    @Override
    public void error(String domain, String key, XMLParseException e) {
        String system = e.getExpandedSystemId() == null ? "" : e.getExpandedSystemId();
        Place place = Place.in(system);
        if (system.startsWith(DOCUMENT)) {
            SchemaSource source = sources.get(Integer.parseInt(system.substring(DOCUMENT.length())));
            place = new Place(source.uri(), Math.max(0, e.getLineNumber()), Math.max(0, e.getColumnNumber()));
        }
        String text = e.getMessage();
        int colon = text.indexOf(": ");
        String rule = key;
        if (colon > 0 && colon < 40 && !text.substring(0, colon).contains(" ")) {
            rule = text.substring(0, colon);
            text = text.substring(colon + 2);
        }
        note(rule, text, place);
    }

    @Override
    public void fatalError(String domain, String key, XMLParseException e) {
        error(domain, key, e);
    }

    private void note(String rule, String text, Place place) {
        flaws.putIfAbsent(rule + text + place, new SchemaFlaw(rule, text, place));
    }
}
