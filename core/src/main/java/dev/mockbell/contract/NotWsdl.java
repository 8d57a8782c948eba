package dev.mockbell.contract;

import dev.mockbell.problem.Problem;
import dev.mockbell.xml.Xml;
import dev.mockbell.xml.XmlLimits;
import java.nio.charset.StandardCharsets;
import java.util.Locale;
import org.w3c.dom.Element;

/** Tells what a document is when it is not the WSDL that was hoped for. */
final class NotWsdl {
    private NotWsdl() {}

    /** The root of a WSDL 1.1 document; a {@link Problem} that names what was found otherwise. */
    static Element parse(DocumentFetcher.Fetched fetched) {
        String name = fetched.uri().toString();
        byte[] bytes = fetched.bytes();
        if (bytes.length == 0) {
            throw Problem.input("The document is empty, not a WSDL", name, "Check the address.");
        }
        String head = new String(bytes, 0, Math.min(bytes.length, 2_048), StandardCharsets.ISO_8859_1)
                .strip()
                .toLowerCase(Locale.ROOT);
        if (looksBinary(bytes)) {
            throw Problem.input("This is binary data, not a WSDL", name, "Give the WSDL itself.");
        }
        if (head.startsWith("<!doctype html") || head.contains("<html")) {
            boolean login = head.contains("password") || head.contains("login") || head.contains("sign in");
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
        Element root = Xml.parse(bytes, name, XmlLimits.CONTRACT).getDocumentElement();
        if (Wsdl.V11.equals(root.getNamespaceURI()) && "definitions".equals(root.getLocalName())) {
            return root;
        }
        if (Wsdl.V20.equals(root.getNamespaceURI())) {
            throw Problem.input(
                    "This is a WSDL 2.0 document, which cannot be read yet", name, "Use its WSDL 1.1 form.");
        }
        if (Wsdl.XSD.equals(root.getNamespaceURI())) {
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

    private static boolean looksBinary(byte[] bytes) {
        if (bytes.length > 1 && ((bytes[0] & 0xFF) >= 0xFE || bytes[0] == 0 || bytes[1] == 0)) {
            return (bytes[0] & 0xFF) < 0xFE && bytes[0] == 0 && bytes[1] == 0;
        }
        for (int i = 0; i < Math.min(bytes.length, 512); i++) {
            int b = bytes[i] & 0xFF;
            if (b < 9 || (b > 13 && b < 32 && b != 27)) {
                return true;
            }
        }
        return false;
    }
}
