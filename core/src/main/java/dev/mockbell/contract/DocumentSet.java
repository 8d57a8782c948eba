package dev.mockbell.contract;

import dev.mockbell.content.Content;
import dev.mockbell.contract.Finding.Severity;
import dev.mockbell.problem.Problem;
import dev.mockbell.schema.DraftSchemas;
import dev.mockbell.schema.KnownSchemas;
import dev.mockbell.schema.SchemaSource;
import dev.mockbell.schema.Schemas;
import dev.mockbell.task.Progress;
import dev.mockbell.task.StopSignal;
import dev.mockbell.xml.Location;
import dev.mockbell.xml.Place;
import dev.mockbell.xml.Skipped;
import dev.mockbell.xml.TextEncoding;
import dev.mockbell.xml.Xml;
import java.net.URI;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Queue;
import java.util.Set;
import org.w3c.dom.Document;
import org.w3c.dom.Element;

/** Fetches a WSDL and, breadth first, what it imports and includes. What cannot be had becomes a finding. */
final class DocumentSet {
    private final DocumentFetcher fetcher;
    private final ReadLimits limits;
    private final Findings findings;
    private final Progress progress;
    private final StopSignal stop;
    private final Map<String, SourceDocument> documents = new LinkedHashMap<>();
    private final Map<String, Element> roots = new HashMap<>();
    private final Map<String, List<SourceDocument>> bySize = new HashMap<>();
    private final Set<String> missing = new HashSet<>();
    private final Set<String> silent = new HashSet<>();
    private final List<Element> definitions = new ArrayList<>();
    private final Map<String, SchemaSource> schemas = new LinkedHashMap<>();
    private final Queue<Runnable> waiting = new ArrayDeque<>();

    DocumentSet(DocumentFetcher fetcher, ReadLimits limits, Findings findings, Progress progress, StopSignal stop) {
        this.fetcher = fetcher;
        this.limits = limits;
        this.findings = findings;
        this.progress = progress;
        this.stop = stop;
    }

    List<SourceDocument> documents() {
        return documents.values().stream().distinct().toList();
    }

    /** The roots of the WSDL documents, the first one first. */
    List<Element> definitions() {
        return definitions;
    }

    List<SchemaSource> schemas() {
        return List.copyOf(schemas.values());
    }

    /** Loads the WSDL at {@code address}; a problem with this one document is thrown, with others noted. */
    void load(URI given) {
        URI address = Location.canonical(given);
        DocumentFetcher.Fetched fetched = fetch(address);
        Element root = NotWsdl.parse(fetched, limits.document(), stop);
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
        SourceDocument document =
                new SourceDocument(uri, requested.toString(), kind, fetched.bytes(), fetched.contentType());
        documents.put(uri, document);
        roots.put(uri, root);
        roots.put(requested.toString(), root);
        TextEncoding.of(fetched.bytes(), fetched.contentType())
                .doubt()
                .ifPresent(doubt -> findings.add(
                        // XML 1.0 §4.3.3 makes it an error; it is read all the same
                        Severity.ERROR,
                        "encoding",
                        doubt,
                        "Declare the encoding that the document has.",
                        new Place(uri, 1, 1)));
        for (Skipped entity : Xml.skipped(root.getOwnerDocument())) {
            boolean type = "[dtd]".equals(entity.name());
            findings.add(
                    Severity.WARNING,
                    "not-followed",
                    type
                            ? "The document type that stands elsewhere is not read"
                            : "The entity " + entity.name()
                                    + " stands elsewhere and is not read, so what it stands for is missing",
                    "Put it into the document itself, where it is needed.",
                    entity.place());
        }
        boolean draft = TextEncoding.mentions(fetched.bytes(), "/XMLSchema", DraftSchemas.NAMESPACES);
        for (Place place : draft ? DraftSchemas.modernize(root.getOwnerDocument()) : List.<Place>of()) {
            findings.add(
                    Severity.WARNING,
                    "R2801",
                    "The schema is of a draft of XML Schema from before 2001; it is read as far as the standard agrees",
                    "Move it to http://www.w3.org/2001/XMLSchema.",
                    place);
        }
    }

    private void wsdl(Element root) {
        definitions.add(root);
        String ns = root.getNamespaceURI();
        for (Element child : Xml.children(root)) {
            boolean brings = "import".equals(child.getLocalName()) || "include".equals(child.getLocalName());
            if (brings && ns.equals(child.getNamespaceURI())) {
                // WSDL 2.0 §4.2 lets an import do without a location
                if (Wsdl.V11.equals(ns) || child.hasAttribute("location")) {
                    waiting.add(() -> follow(child, child.getAttribute("location"), SourceDocument.Kind.WSDL, null));
                }
            }
        }
        for (Element types : Xml.children(root, ns, "types")) {
            int number = 0;
            for (Element child : Xml.children(types)) {
                if (Wsdl.isSchema(child)) {
                    String uri = Xml.placeOf(child).document();
                    schema(uri, uri + "#" + ++number, child, child.getAttribute("targetNamespace"), false);
                } else if (Wsdl.XSD.equals(child.getNamespaceURI())) {
                    reference(child, "");
                }
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
            if (Wsdl.XSD.equals(child.getNamespaceURI())) {
                reference(child, effective);
            }
        }
    }

    private void reference(Element child, String namespace) {
        String location = child.getAttribute("schemaLocation");
        switch (child.getLocalName()) {
            case "import" -> {
                if (!location.isBlank() && !isKnown(child, location)) {
                    waiting.add(() -> follow(child, location, SourceDocument.Kind.XSD, null));
                }
            }
            case "include", "redefine" ->
                waiting.add(() -> follow(child, location, SourceDocument.Kind.XSD, namespace));
            default -> {
                // other children refer to no document
            }
        }
    }

    /** Standards that ship with the program are not fetched from where they are published. */
    private static boolean isKnown(Element child, String location) {
        String namespace = child.getAttribute("namespace");
        return KnownSchemas.has(namespace)
                && location.strip()
                        .matches("(?i)https?://([a-z0-9-]+\\.)*(w3\\.org|xmlsoap\\.org|oasis-open\\.org|"
                                + "ws-i\\.org|microsoft\\.com)/.*");
    }

    private void follow(Element from, String location, SourceDocument.Kind wanted, String includer) {
        Place place = Xml.placeOf(from);
        if (location.isBlank()) {
            note("missing-location", "The " + from.getLocalName() + " names no document", "Add its location.", place);
            return;
        }
        Optional<URI> resolved = Location.resolve(place.document(), location);
        if (resolved.isEmpty()) {
            note("bad-location", "“" + location + "” is not an address", "Mend the location.", place);
            return;
        }
        URI target = resolved.get();
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
        if (Wsdl.isV11(root) || Wsdl.isV20(root)) {
            if (fresh && first(target.toString(), "")) {
                wsdl(root);
            }
        } else if (Wsdl.isSchema(root)) {
            String namespace = includer == null ? "" : includer;
            if (redefine || first(target.toString(), namespace)) {
                schema(target.toString(), target.toString(), root, namespace, redefine);
            }
        } else {
            note(
                    "unexpected-document",
                    target + " holds <" + root.getTagName() + ">, neither a WSDL nor an XML Schema",
                    "Correct the location.",
                    place);
        }
    }

    /** Whether no other document with the same bytes was used before; servers hand out one under several addresses. */
    private boolean first(String target, String namespace) {
        SourceDocument document = documents.values().stream()
                .filter(d -> d.uri().equals(target) || d.requested().equals(target))
                .findFirst()
                .orElse(null);
        if (document == null) {
            return true;
        }
        List<SourceDocument> alike =
                bySize.computeIfAbsent(document.bytes().length + " " + namespace, size -> new ArrayList<>());
        boolean known = alike.stream().anyMatch(d -> d != document && Arrays.equals(d.bytes(), document.bytes()));
        if (!known) {
            alike.add(document);
        }
        return !known;
    }

    private Element bring(Element from, URI target, Place place) {
        String address = target.toString();
        String host = String.valueOf(target.getRawAuthority());
        if (missing.contains(address)) {
            return null;
        }
        if (documents.size() >= limits.documents()) {
            missing.add(address);
            note(
                    "too-many",
                    "The limit of documents, " + limits.documents() + ", is reached; " + target + " is left out",
                    "Raise the limit if the contract is meant to have that many.",
                    place);
            return null;
        }
        if (silent.contains(host)) {
            missing.add(address);
            lost(from, target, "its server did not answer before", place);
            return null;
        }
        try {
            DocumentFetcher.Fetched fetched = fetch(target);
            String uri = fetched.uri().toString();
            if (fetched.bytes().length == 0) {
                throw Problem.input("The document is empty", uri, null);
            }
            Document parsed =
                    Xml.parse(Content.of(fetched.bytes()), fetched.contentType(), uri, limits.document(), stop);
            Element root = parsed.getDocumentElement();
            boolean schema =
                    Wsdl.isSchema(root) || DraftSchemas.NAMESPACES.contains(String.valueOf(root.getNamespaceURI()));
            keep(target, fetched, schema ? SourceDocument.Kind.XSD : SourceDocument.Kind.WSDL, root);
            return root;
        } catch (Problem problem) {
            if (problem.kind() == Problem.Kind.STOPPED) {
                throw problem;
            }
            if (problem.kind() == Problem.Kind.NO_ANSWER) {
                silent.add(host);
            }
            missing.add(address);
            lost(
                    from,
                    target,
                    problem.what()
                            + problem.where()
                                    .filter(w -> !w.equals(address))
                                    .map(w -> " (" + w + ")")
                                    .orElse(""),
                    place);
            return null;
        }
    }

    private void lost(Element from, URI target, String why, Place place) {
        boolean known = KnownSchemas.has(from.getAttribute("namespace"));
        findings.add(
                known ? Severity.NOTE : Severity.ERROR,
                "missing-import",
                "The " + from.getLocalName() + " of " + target + " failed: " + why,
                known
                        ? "A copy that ships with this program is used."
                        : "What depends on it cannot be used until it can be read.",
                place);
    }

    private void note(String rule, String text, String advice, Place place) {
        findings.add(Severity.ERROR, rule, text, advice, place);
    }
}
