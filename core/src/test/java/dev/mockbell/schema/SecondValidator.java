package dev.mockbell.schema;

import dev.mockbell.xml.Xml;
import dev.mockbell.xml.XmlLimits;
import dev.mockbell.xml.XmlText;
import java.util.ArrayList;
import java.util.Collection;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import javax.xml.namespace.QName;
import org.apache.xmlbeans.SchemaType;
import org.apache.xmlbeans.SchemaTypeLoader;
import org.apache.xmlbeans.XmlBeans;
import org.apache.xmlbeans.XmlError;
import org.apache.xmlbeans.XmlException;
import org.apache.xmlbeans.XmlObject;
import org.apache.xmlbeans.XmlOptions;
import org.w3c.dom.Attr;
import org.w3c.dom.Element;
import org.w3c.dom.NamedNodeMap;
import org.w3c.dom.Node;

/**
 * A validator that shares no code with the one that the program uses, so that samples are not judged by what made them. It
 * takes the schemas of a contract as they are; includes are given to it as documents of their own.
 */
public final class SecondValidator {
    private static final String XMLNS = "http://www.w3.org/2000/xmlns/";

    private final SchemaTypeLoader loader;

    /**
     * Compiles the schemas.
     *
     * @throws IllegalArgumentException when it does not take them
     */
    public SecondValidator(Schemas schemas) {
        try {
            List<XmlObject> documents = new ArrayList<>();
            for (String text : texts(schemas.sources())) {
                documents.add(XmlObject.Factory.parse(text));
            }
            loader = XmlBeans.typeLoaderUnion(
                    XmlBeans.compileXsd(
                            documents.toArray(XmlObject[]::new),
                            XmlBeans.getBuiltinTypeSystem(),
                            new XmlOptions().setCompileNoUpaRule().setCompileNoPvrRule()),
                    XmlBeans.getBuiltinTypeSystem());
        } catch (XmlException e) {
            throw new IllegalArgumentException(e.getMessage(), e);
        }
    }

    /** What is wrong with a document whose root is a global element. */
    public List<String> errors(String document) {
        return errors(document, null);
    }

    /** What is wrong with an element that no schema declares, against the global type of that name; null for a global element. */
    public List<String> errors(String document, QName typeName) {
        try {
            SchemaType type = typeName == null ? null : loader.findType(typeName);
            XmlOptions options = new XmlOptions();
            if (typeName != null) {
                options.setDocumentType(type);
                options.setLoadReplaceDocumentElement(null);
            }
            XmlObject parsed = loader.parse(document, type, options);
            Collection<XmlError> errors = new ArrayList<>();
            parsed.validate(new XmlOptions().setErrorListener(errors));
            List<String> found = new ArrayList<>();
            errors.forEach(e -> found.add(e.getMessage()));
            return found;
        } catch (XmlException e) {
            return List.of(String.valueOf(e.getMessage()));
        }
    }

    /** The contract's documents and those of the standards that they refer to, each with the namespaces it inherits. */
    private static List<String> texts(List<SchemaSource> sources) {
        Set<String> own = new LinkedHashSet<>();
        sources.forEach(s -> own.add(s.namespace()));
        Map<String, String> known = new LinkedHashMap<>();
        List<String> texts = new ArrayList<>();
        for (SchemaSource source : sources) {
            texts.add(text(source));
            for (String namespace :
                    new SchemaScan(source, new LinkedHashMap<>()).imports().keySet()) {
                if (!own.contains(namespace)) {
                    KnownSchemas.find(namespace).ifPresent(s -> known.put(namespace, text(s)));
                }
            }
        }
        texts.addAll(known.values());
        return texts;
    }

    private static String text(SchemaSource source) {
        Element root = (Element) Xml.parse("<x/>", "x", XmlLimits.CONTRACT).importNode(source.root(), true);
        for (Node n = source.root().getParentNode(); n instanceof Element e; n = n.getParentNode()) {
            NamedNodeMap attributes = e.getAttributes();
            for (int i = 0; i < attributes.getLength(); i++) {
                Attr a = (Attr) attributes.item(i);
                if (XMLNS.equals(a.getNamespaceURI()) && !root.hasAttribute(a.getName())) {
                    root.setAttributeNS(XMLNS, a.getName(), a.getValue());
                }
            }
        }
        if (!source.namespace().isEmpty()) {
            root.setAttribute("targetNamespace", source.namespace());
        }
        for (Element child : Xml.children(root)) {
            if ("include".equals(child.getLocalName())) {
                root.removeChild(child);
            }
            child.removeAttribute("schemaLocation");
        }
        return XmlText.exact(root);
    }
}
