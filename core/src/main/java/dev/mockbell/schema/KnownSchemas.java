package dev.mockbell.schema;

import dev.mockbell.xml.Xml;
import dev.mockbell.xml.XmlLimits;
import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.util.Map;
import java.util.Optional;

/**
 * Schemas of standards that contracts refer to by namespace alone. They ship with the program, so that no network is
 * needed; a contract's own copy goes before them.
 */
public final class KnownSchemas {
    private static final String SCHEME = "mockbell:known/";
    private static final Map<String, String> FILES = Map.ofEntries(
            Map.entry("http://www.w3.org/XML/1998/namespace", "xml"),
            Map.entry("http://schemas.xmlsoap.org/soap/encoding/", "soap-encoding-11"),
            Map.entry("http://www.w3.org/2003/05/soap-encoding", "soap-encoding-12"),
            Map.entry("http://schemas.xmlsoap.org/soap/envelope/", "soap-envelope-11"),
            Map.entry("http://www.w3.org/2003/05/soap-envelope", "soap-envelope-12"),
            Map.entry("http://www.w3.org/2005/05/xmlmime", "xmlmime-2005"),
            Map.entry("http://www.w3.org/2004/11/xmlmime", "xmlmime-2004"),
            Map.entry("http://www.w3.org/2004/06/xmlmime", "xmlmime-2004-06"),
            Map.entry("http://www.w3.org/2005/08/addressing", "addressing-2005"),
            Map.entry("http://schemas.xmlsoap.org/ws/2004/08/addressing", "addressing-2004-08"),
            Map.entry("http://www.w3.org/2004/08/xop/include", "xop-include"),
            Map.entry(
                    "http://docs.oasis-open.org/wss/2004/01/oasis-200401-wss-wssecurity-utility-1.0.xsd",
                    "security-utility"),
            Map.entry(
                    "http://docs.oasis-open.org/wss/2004/01/oasis-200401-wss-wssecurity-secext-1.0.xsd",
                    "security-extension"),
            Map.entry("http://www.w3.org/1999/xlink", "xlink"),
            Map.entry("http://ws-i.org/profiles/basic/1.1/xsd", "attachment-reference"),
            Map.entry("http://schemas.xmlsoap.org/wsdl/", "wsdl-11"),
            Map.entry("http://microsoft.com/wsdl/types/", "microsoft-types"),
            Map.entry("http://schemas.microsoft.com/2003/10/Serialization/", "microsoft-serialization"));

    private KnownSchemas() {}

    /** Whether the namespace is one of them. */
    public static boolean has(String namespace) {
        return FILES.containsKey(namespace);
    }

    /** Whether a document of that URI is one that ships with the program, not one of a contract. */
    public static boolean ships(String uri) {
        return uri.startsWith(SCHEME);
    }

    /** The schema of that namespace, read anew each time. */
    static Optional<SchemaSource> find(String namespace) {
        String file = FILES.get(namespace);
        if (file == null) {
            return Optional.empty();
        }
        String name = file + ".xsd";
        try (InputStream in = KnownSchemas.class.getResourceAsStream("known/" + name)) {
            byte[] bytes = in.readAllBytes();
            var root = Xml.parse(bytes, SCHEME + name, XmlLimits.CONTRACT).getDocumentElement();
            return Optional.of(new SchemaSource(SCHEME + name, namespace, root, false));
        } catch (IOException e) {
            throw new UncheckedIOException("a schema that ships with the program cannot be read", e);
        }
    }
}
