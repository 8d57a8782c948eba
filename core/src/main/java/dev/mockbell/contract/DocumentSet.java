package dev.mockbell.contract;

import dev.mockbell.contract.Finding.Severity;
import dev.mockbell.problem.Problem;
import dev.mockbell.schema.SchemaSource;
import dev.mockbell.schema.Schemas;
import dev.mockbell.task.Progress;
import dev.mockbell.task.StopSignal;
import dev.mockbell.xml.Place;
import dev.mockbell.xml.Xml;
import dev.mockbell.xml.XmlLimits;
import java.net.URI;
import java.net.URISyntaxException;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Queue;
import java.util.Set;
import org.w3c.dom.Document;
import org.w3c.dom.Element;

/** Fetches a WSDL and, breadth first, what it imports and includes. What cannot be had becomes a finding. */
final class DocumentSet {
    private static final int MOST_DOCUMENTS = 2_000;

    private final DocumentFetcher fetcher;
    private final List<Finding> findings;
    private final Progress progress;
    private final StopSignal stop;
    private final Map<String, SourceDocument> documents = new LinkedHashMap<>();
    private final Map<String, Element> roots = new HashMap<>();
    private final Set<String> missing = new HashSet<>();
    private final List<Element> definitions = new ArrayList<>();
    private final Map<String, SchemaSource> schemas = new LinkedHashMap<>();
    private final Queue<Runnable> waiting = new ArrayDeque<>();

    DocumentSet(DocumentFetcher fetcher, List<Finding> findings, Progress progress, StopSignal stop) {
        this.fetcher = fetcher;
        this.findings = findings;
        this.progress = progress;
        this.stop = stop;
    }

    List<SourceDocument> documents() {
        return documents.values().stream().distinct().toList();
    }

    List<Element> definitions() {
        return definitions;
    }

    List<SchemaSource> schemas() {
        return List.copyOf(schemas.values());
    }

    /** Loads the WSDL at {@code address}; a problem with this one document is thrown, with others noted. */
    void load(URI address) {
        DocumentFetcher.Fetched fetched = fetch(address);
        Element root = NotWsdl.parse(fetched);
        keep(address, fetched, SourceDocument.Kind.WSDL, root);
        wsdl(root);
        while (!waiting.isEmpty()) {
            stop.check();
            waiting.remove().run();
        }
    }

    private DocumentFetcher.Fetched fetch(URI uri) {
        progress.at("reading " + uri);
        return fetcher.fetch(uri, stop);
    }

    private void keep(URI requested, DocumentFetcher.Fetched fetched, SourceDocument.Kind kind, Element root) {
        String uri = fetched.uri().toString();
        SourceDocument document = new SourceDocument(uri, requested.toString(), kind, fetched.bytes());
        documents.put(uri, document);
        roots.put(uri, root);
        roots.put(requested.toString(), root);
    }

    private void wsdl(Element root) {
        definitions.add(root);
        for (Element child : Xml.children(root, Wsdl.V11, "import")) {
            waiting.add(() -> follow(child, child.getAttribute("location"), SourceDocument.Kind.WSDL, null));
        }
        for (Element types : Xml.children(root, Wsdl.V11, "types")) {
            int number = 0;
            for (Element schema : Xml.children(types, Wsdl.XSD, "schema")) {
                String uri = Xml.placeOf(schema).document();
                schema(uri, uri + "#" + ++number, schema, schema.getAttribute("targetNamespace"), false);
            }
        }
    }

    private void schema(String uri, String key, Element root, String namespace, boolean redefined) {
        String own = root.getAttribute("targetNamespace");
        String effective = own.isEmpty() ? namespace : own;
        String id = key + " " + effective;
        if (schemas.containsKey(id)) {
            return;
        }
        schemas.put(id, new SchemaSource(uri, effective, root, redefined));
        for (Element child : Xml.children(root)) {
            if (!Wsdl.XSD.equals(child.getNamespaceURI())) {
                continue;
            }
            String location = child.getAttribute("schemaLocation");
            switch (child.getLocalName()) {
                case "import" -> {
                    if (!location.isEmpty()) {
                        waiting.add(() -> follow(child, location, SourceDocument.Kind.XSD, null));
                    }
                }
                case "include", "redefine" ->
                    waiting.add(() -> follow(child, location, SourceDocument.Kind.XSD, effective));
                default -> {
                    // other children refer to no document
                }
            }
        }
    }

    private void follow(Element from, String location, SourceDocument.Kind wanted, String includer) {
        Place place = Xml.placeOf(from);
        if (location.isBlank()) {
            note("missing-location", "The " + from.getLocalName() + " names no document", "Add its location.", place);
            return;
        }
        URI target;
        try {
            target = resolve(place.document(), location.strip());
        } catch (URISyntaxException e) {
            note("bad-location", "“" + location + "” is not an address", "Mend the location.", place);
            return;
        }
        if (place.document().startsWith("http")
                && !"http".equals(target.getScheme())
                && !"https".equals(target.getScheme())) {
            note(
                    "foreign-import",
                    "A contract from the network may not read " + target,
                    "Fetch the contract to a folder if it really needs that file.",
                    place);
            return;
        }
        boolean redefine = "redefine".equals(from.getLocalName());
        if (redefine) {
            from.setUserData(Schemas.TARGET, target.toString(), null);
        }
        Element root = roots.get(target.toString());
        boolean fresh = root == null;
        if (fresh) {
            root = bring(from, target, place);
        }
        if (root == null) {
            return;
        }
        use(root, fresh, target, wanted, includer, redefine, place);
    }

    private void use(
            Element root,
            boolean fresh,
            URI target,
            SourceDocument.Kind wanted,
            String includer,
            boolean redefine,
            Place place) {
        if (Wsdl.V11.equals(root.getNamespaceURI()) && "definitions".equals(root.getLocalName())) {
            if (fresh) {
                wsdl(root);
            }
        } else if (Wsdl.XSD.equals(root.getNamespaceURI()) && "schema".equals(root.getLocalName())) {
            if (wanted == SourceDocument.Kind.WSDL) {
                findings.add(new Finding(
                        Severity.WARNING,
                        "R2002",
                        "wsdl:import brings an XML Schema, which xsd:import should do",
                        "Import the schema inside wsdl:types.",
                        place));
            }
            schema(target.toString(), target.toString(), root, includer == null ? "" : includer, redefine);
        } else {
            note(
                    "unexpected-document",
                    target + " holds <" + root.getTagName() + ">, neither a WSDL nor an XML Schema",
                    "Correct the location.",
                    place);
        }
    }

    private Element bring(Element from, URI target, Place place) {
        if (missing.contains(target.toString())) {
            return null;
        }
        if (documents.size() >= MOST_DOCUMENTS) {
            missing.add(target.toString());
            note("too-many", "More than " + MOST_DOCUMENTS + " documents; " + target + " is left out", "", place);
            return null;
        }
        try {
            DocumentFetcher.Fetched fetched = fetch(target);
            Document parsed = Xml.parse(fetched.bytes(), fetched.uri().toString(), XmlLimits.CONTRACT);
            Element root = parsed.getDocumentElement();
            boolean schema = Wsdl.XSD.equals(root.getNamespaceURI());
            keep(target, fetched, schema ? SourceDocument.Kind.XSD : SourceDocument.Kind.WSDL, root);
            return root;
        } catch (Problem problem) {
            if (problem.kind() == Problem.Kind.STOPPED) {
                throw problem;
            }
            missing.add(target.toString());
            findings.add(new Finding(
                    Severity.ERROR,
                    "missing-import",
                    "The " + from.getLocalName() + " of " + target + " failed: " + problem.what(),
                    "What depends on it cannot be used until it can be read.",
                    place));
            return null;
        }
    }

    private void note(String rule, String text, String advice, Place place) {
        findings.add(new Finding(Severity.ERROR, rule, text, advice, place));
    }

    private static URI resolve(String base, String location) throws URISyntaxException {
        String legal = location.replace(" ", "%20").replace("\\", "/");
        URI relative = new URI(legal);
        return new URI(base).resolve(relative).normalize();
    }
}
