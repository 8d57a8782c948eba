package dev.mockbell.validation;

import dev.mockbell.message.ElementMatch;
import dev.mockbell.message.MessageOutline;
import dev.mockbell.message.MessagePath;
import dev.mockbell.schema.ElementDecl;
import dev.mockbell.schema.SchemaWords;
import dev.mockbell.schema.Schemas;
import dev.mockbell.soap.SoapMessage;
import dev.mockbell.xml.Place;
import dev.mockbell.xml.Xml;
import java.io.IOException;
import java.io.StringReader;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import javax.xml.namespace.QName;
import javax.xml.stream.XMLStreamReader;
import javax.xml.transform.Source;
import javax.xml.transform.dom.DOMSource;
import javax.xml.transform.stax.StAXSource;
import javax.xml.transform.stream.StreamSource;
import javax.xml.validation.Validator;
import org.w3c.dom.Document;
import org.w3c.dom.Element;
import org.w3c.dom.Node;
import org.xml.sax.ErrorHandler;
import org.xml.sax.SAXException;
import org.xml.sax.SAXParseException;

/** Holds a message against the contract, by the schema library's own validator. */
public final class MessageValidator {
    private static final int MOST = 50;
    private static final String CURRENT_NODE = "http://apache.org/xml/properties/dom/current-element-node";

    private final Schemas schemas;

    public MessageValidator(Schemas schemas) {
        this.schemas = schemas;
    }

    /**
     * A breach of the schema.
     *
     * @param text what is wrong, a sentence in words of XML Schema
     * @param path the XPath of the element
     */
    public record Breach(String text, String path, Place place) {}

    /** What of the payload breaks the schema; empty when it is valid. The message must be of the outline's root. */
    public List<Breach> validate(MessageOutline outline, Document payload) {
        Element root = payload.getDocumentElement();
        if (root == null) {
            return outline.root()
                    .map(r -> List.of(new Breach(
                            "the body holds no element, " + r.name().getLocalPart() + " is expected",
                            "/",
                            Place.in(""))))
                    .orElse(List.of());
        }
        if (outline.root().isEmpty()) {
            return List.of(new Breach("the body must be empty, found " + root.getTagName(), "/", Xml.placeOf(root)));
        }
        ElementDecl expected = outline.root().get();
        if (!ElementMatch.matches(expected, root)) {
            return List.of(new Breach(
                    "the body holds " + ElementMatch.nameOf(root) + ", " + expected.name() + " is expected",
                    MessagePath.of(root),
                    Xml.placeOf(root)));
        }
        Optional<ElementDecl> declared = schemas.element(expected.name());
        if (declared.isPresent()) {
            return validate(payload);
        }
        return implied(outline, expected, root);
    }

    private List<Breach> implied(MessageOutline outline, ElementDecl expected, Element root) {
        boolean wrapper =
                expected.type().name().isEmpty() && expected.type().attributes().isEmpty();
        if (wrapper) {
            return parts(outline, expected, root);
        }
        // the library has no schema for the types that SOAP's encoding gives to arrays
        return outline.encoding().isPresent()
                ? List.of()
                : run(new DOMSource(root), expected.type().name().orElse(null));
    }

    /** The parts of an rpc wrapper, each against its type (WS-I Basic Profile 1.1 R2729, R2735). */
    private List<Breach> parts(MessageOutline outline, ElementDecl wrapper, Element root) {
        List<Breach> found = new ArrayList<>();
        List<Element> children = new ArrayList<>(Xml.children(root));
        wrapper.type().particle().ifPresent(p -> {
            for (var part : ((dev.mockbell.schema.Particle.OfGroup) p).parts()) {
                ElementDecl declared = ((dev.mockbell.schema.Particle.OfElement) part).element();
                Optional<Element> element = children.stream()
                        .filter(c -> ElementMatch.matches(declared, c))
                        .findFirst();
                if (element.isEmpty()) {
                    found.add(new Breach(
                            "the part " + declared.name().getLocalPart() + " is missing",
                            MessagePath.of(root),
                            Xml.placeOf(root)));
                } else {
                    children.remove(element.get());
                    if (outline.encoding().isEmpty()) {
                        part(declared, element.get(), found);
                    }
                }
            }
        });
        children.forEach(c -> found.add(new Breach(
                "the part " + c.getTagName() + " is not in the contract", MessagePath.of(c), Xml.placeOf(c))));
        return found;
    }

    /**
     * Whether an element's text is valid, without making a tree of it. False says that it may not be: {@link #validate} tells.
     *
     * @param text well-formed, with its namespace declarations; not from elsewhere, since no bound is kept
     */
    boolean surelyTakes(ElementDecl expected, String text) {
        Optional<QName> type = expected.type().name();
        boolean global = schemas.element(expected.name()).isPresent();
        return (global || type.isPresent())
                && run(new StreamSource(new StringReader(text)), global ? null : type.get())
                        .isEmpty();
    }

    /**
     * Whether the payload of a message is valid, without making a tree of it. False says that it may not be: {@link #validate} tells.
     *
     * @param reader at the start of the payload's first element; at its end afterwards, or anywhere when it is not valid
     */
    public boolean surelyTakes(MessageOutline outline, XMLStreamReader reader) {
        Optional<ElementDecl> expected = outline.root();
        return expected.isPresent()
                && !outline.isWholeBody()
                && expected.get().name().equals(reader.getName())
                && schemas.element(expected.get().name()).isPresent()
                && schemas.validating(v -> {
                    boolean[] fine = {true};
                    v.setErrorHandler(new Noting(fine));
                    try {
                        v.validate(new StAXSource(reader));
                    } catch (SAXException | IOException | RuntimeException e) {
                        fine[0] = false;
                    }
                    return fine[0];
                });
    }

    /** Notes whether anything was wrong. */
    private record Noting(boolean[] fine) implements ErrorHandler {
        @Override
        public void warning(SAXParseException e) {
            // a warning says nothing about validity
        }

        @Override
        public void error(SAXParseException e) {
            fine[0] = false;
        }

        @Override
        public void fatalError(SAXParseException e) {
            fine[0] = false;
        }
    }

    private void part(ElementDecl declared, Element element, List<Breach> found) {
        if (schemas.element(declared.name()).isPresent()) {
            found.addAll(run(new DOMSource(element), null));
        } else {
            found.addAll(run(new DOMSource(element), declared.type().name().orElse(null)));
        }
    }

    /** What of a single element breaks the schema: a header block, the content of a fault's detail. */
    public List<Breach> validate(ElementDecl expected, Element element) {
        if (!ElementMatch.matches(expected, element)) {
            return List.of(new Breach(
                    ElementMatch.nameOf(element) + " was found, " + expected.name() + " is expected",
                    MessagePath.of(element),
                    Xml.placeOf(element)));
        }
        List<Breach> found = new ArrayList<>();
        part(expected, element, found);
        return found;
    }

    /** Validates a document whose root is a global element. */
    public List<Breach> validate(Document payload) {
        return run(new DOMSource(payload), null);
    }

    /** Validates the payload of an envelope against the outline; a fault's detail is validated where it is declared. */
    public List<Breach> validate(MessageOutline outline, SoapMessage message) {
        if (message.fault().isPresent()) {
            return message.payload().stream()
                    .flatMap(f -> Xml.children(f).stream())
                    .filter(e -> "detail".equalsIgnoreCase(e.getLocalName()))
                    .flatMap(d -> Xml.children(d).stream())
                    .filter(e -> schemas.element(ElementMatch.nameOf(e)).isPresent())
                    .flatMap(e -> run(new DOMSource(e), null).stream())
                    .toList();
        }
        Optional<Document> held = outline.isWholeBody() ? message.bodyDocument() : message.payloadDocument();
        return validate(outline, held.orElseGet(Xml::newDocument));
    }

    private List<Breach> run(Source source, QName rootType) {
        return rootType == null
                ? schemas.validating(v -> judged(source, v))
                : schemas.validating(rootType, v -> judged(source, v));
    }

    private static List<Breach> judged(Source source, Validator validator) {
        Collector collector = new Collector(validator);
        validator.setErrorHandler(collector);
        try {
            validator.validate(source);
        } catch (SAXException | IOException e) {
            collector.breaches.add(new Breach(dev.mockbell.problem.Problem.reason(e), "/", Place.in("")));
        }
        return List.copyOf(collector.breaches);
    }

    private static final class Collector implements ErrorHandler {
        private final Validator validator;
        private final List<Breach> breaches = new ArrayList<>();

        Collector(Validator validator) {
            this.validator = validator;
        }

        @Override
        public void warning(SAXParseException e) {
            // a warning says nothing about validity
        }

        @Override
        public void error(SAXParseException e) {
            if (breaches.size() >= MOST) {
                return;
            }
            String text = e.getMessage();
            boolean second = text.startsWith("cvc-type.3.1.3") || text.startsWith("cvc-attribute.3");
            if (second && !breaches.isEmpty()) {
                return;
            }
            String words = SchemaWords.withoutRules(text);
            Node node = null;
            try {
                node = (Node) validator.getProperty(CURRENT_NODE);
            } catch (SAXException unsupported) {
                node = null;
            }
            breaches.add(new Breach(
                    words, node == null ? "/" : MessagePath.of(node), node == null ? Place.in("") : Xml.placeOf(node)));
        }

        @Override
        public void fatalError(SAXParseException e) {
            error(e);
        }
    }
}
