package dev.mockbell.contract;

import dev.mockbell.content.Content;
import dev.mockbell.problem.Problem;
import dev.mockbell.schema.DraftSchemas;
import dev.mockbell.task.StopSignal;
import dev.mockbell.xml.TextEncoding;
import dev.mockbell.xml.Xml;
import dev.mockbell.xml.XmlLimits;
import java.nio.charset.StandardCharsets;
import java.util.Locale;
import org.w3c.dom.Element;

/** Tells what a document is when it is not the WSDL that was hoped for. */
final class NotWsdl {
    private NotWsdl() {}

    /** The root of a WSDL document of either version; a {@link Problem} that names what was found otherwise. */
    static Element parse(DocumentFetcher.Fetched fetched, XmlLimits limits, StopSignal stop) {
        String name = fetched.uri().toString();
        byte[] bytes = fetched.bytes();
        if (bytes.length == 0) {
            throw Problem.input("The document is empty, not a WSDL", name, "Check the address.");
        }
        String head = new String(bytes, 0, Math.min(bytes.length, 16_384), StandardCharsets.ISO_8859_1)
                .replace("\0", "")
                .strip()
                .toLowerCase(Locale.ROOT);
        if (bytes.length > 2 && bytes[0] == 0x1F && (bytes[1] & 0xFF) == 0x8B) {
            throw Problem.input("This is a gzip file, not a WSDL", name, "Unpack it and give what was in it.");
        }
        if (head.startsWith("pk\u0003\u0004")) {
            throw Problem.input(
                    "This is a zip archive, not a WSDL", name, "Unpack it and give the WSDL that was in it.");
        }
        if (looksBinary(bytes)) {
            throw Problem.input("This is binary data, not a WSDL", name, "Give the WSDL itself.");
        }
        if (head.startsWith("<!doctype html")
                || head.startsWith("<html")
                || head.matches("(?s)<\\?xml[^>]*>\\s*(<!--.*?-->\\s*)*<(!doctype )?html.*")) {
            boolean login = head.contains("password")
                    || head.contains("login")
                    || head.contains("sign in")
                    || head.contains("log in");
            throw Problem.input(
                    login ? "This is a login page, not a WSDL" : "This is a web page, not a WSDL",
                    name,
                    login
                            ? "Give credentials for the address, or fetch the WSDL with a browser and open the file."
                            : "The WSDL is often at the service's address with ?wsdl behind it.");
        }
        if (!head.contains("<")) {
            throw Problem.input("This is plain text, not a WSDL", name, "Give the address of the WSDL itself.");
        }
        Element root = Xml.parse(Content.of(bytes), fetched.contentType(), name, limits, stop)
                .getDocumentElement();
        if (Wsdl.isV11(root) || Wsdl.isV20(root)) {
            return root;
        }
        boolean schema = Wsdl.XSD.equals(root.getNamespaceURI())
                || DraftSchemas.NAMESPACES.contains(String.valueOf(root.getNamespaceURI()));
        if (schema) {
            throw Problem.input("This is an XML Schema, not a WSDL", name, "Give the WSDL that imports it.");
        }
        if ("Envelope".equals(root.getLocalName())) {
            throw Problem.input(
                    "This is a SOAP message, not a WSDL",
                    name,
                    "The WSDL is often at the address with ?wsdl behind it.");
        }
        throw Problem.input(
                "This is an XML document with the root <" + root.getTagName() + ">, not a WSDL",
                name,
                "Give the WSDL itself, whose root is <definitions>.");
    }

    /** Text has no control characters but white space, unless its characters are wider than a byte. */
    private static boolean looksBinary(byte[] bytes) {
        TextEncoding encoding = TextEncoding.of(bytes, "");
        String charset = encoding.charset().name();
        if (encoding.skip() > 0 || charset.startsWith("UTF-16") || charset.startsWith("UTF-32")) {
            return false;
        }
        for (int i = 0; i < Math.min(bytes.length, 512); i++) {
            int b = bytes[i] & 0xFF;
            if (b < 9 || (b > 13 && b < 32 && b != 27)) {
                return !charset.startsWith("IBM");
            }
        }
        return false;
    }
}
