package dev.mockbell.bench;

import dev.mockbell.contract.DocumentFetcher;
import java.net.URI;
import java.nio.charset.StandardCharsets;
import java.util.LinkedHashMap;
import java.util.Locale;
import java.util.Map;

/** A generated contract of 1,000 operations and 5,000 types in ten schemas that import each other, about 8 MB. */
final class LargeContract {
    static final int OPERATIONS = 1_000;
    static final int TYPES = 5_000;
    static final int SCHEMAS = 10;
    static final String ROOT = "mem:/large.wsdl";

    private static final String[] VALUES = {"xs:string", "xs:int", "xs:date", "xs:decimal", "xs:boolean", "xs:dateTime"
    };

    private final Map<String, byte[]> documents = new LinkedHashMap<>();

    LargeContract() {
        documents.put(ROOT, wsdl().getBytes(StandardCharsets.UTF_8));
        for (int i = 0; i < SCHEMAS; i++) {
            documents.put(schemaUri(i), schema(i).getBytes(StandardCharsets.UTF_8));
        }
    }

    static String schemaUri(int number) {
        return "mem:/types-" + number + ".xsd";
    }

    byte[] document(String uri) {
        return documents.get(uri);
    }

    DocumentFetcher fetcher() {
        return (uri, stop) -> new DocumentFetcher.Fetched(uri, documents.get(uri.toString()), "");
    }

    static URI root() {
        return URI.create(ROOT);
    }

    long bytes() {
        return documents.values().stream().mapToLong(d -> d.length).sum();
    }

    private static String namespace(int number) {
        return "urn:northfell:large:" + number;
    }

    private static void declarations(StringBuilder out) {
        for (int i = 0; i < SCHEMAS; i++) {
            out.append(" xmlns:t").append(i).append("=\"").append(namespace(i)).append('"');
        }
    }

    private static String schema(int number) {
        StringBuilder out = new StringBuilder("<xs:schema xmlns:xs=\"http://www.w3.org/2001/XMLSchema\"");
        declarations(out);
        out.append(" targetNamespace=\"").append(namespace(number)).append("\" elementFormDefault=\"qualified\">\n");
        for (int i = 0; i < SCHEMAS; i++) {
            if (i != number) {
                out.append("  <xs:import namespace=\"")
                        .append(namespace(i))
                        .append("\" schemaLocation=\"types-")
                        .append(i)
                        .append(".xsd\"/>\n");
            }
        }
        int each = TYPES / SCHEMAS;
        for (int t = 0; t < each; t++) {
            type(out, number, t);
        }
        for (int o = number; o < OPERATIONS; o += SCHEMAS) {
            for (String kind : new String[] {"", "Response", "Fault"}) {
                int of = (o / SCHEMAS * 3 + kind.length()) % each;
                out.append(String.format(
                        Locale.ROOT,
                        "  <xs:element name=\"Operation%d%s\" type=\"t%d:Type%d\"/>%n",
                        o,
                        kind,
                        number,
                        of));
            }
        }
        return out.append("</xs:schema>\n").toString();
    }

    private static void type(StringBuilder out, int number, int t) {
        if (t % 10 == 9) {
            out.append("  <xs:simpleType name=\"Type").append(t).append("Code\"><xs:restriction base=\"xs:string\">");
            out.append("<xs:pattern value=\"[A-Z]{2}-\\d{3}\"/></xs:restriction></xs:simpleType>\n");
        }
        out.append("  <xs:complexType name=\"Type").append(t).append("\">\n    <xs:annotation><xs:documentation>");
        out.append("What the huts keep of kind ").append(t).append(", as the wardens write it down in the evening.");
        out.append("</xs:documentation></xs:annotation>\n    <xs:sequence>\n");
        for (int f = 0; f < 8; f++) {
            out.append("      <xs:element name=\"field")
                    .append(f)
                    .append("\" type=\"")
                    .append(VALUES[(t + f) % VALUES.length])
                    .append('"');
            out.append(f % 3 == 2 ? " minOccurs=\"0\">" : ">");
            out.append("<xs:annotation><xs:documentation>Field ")
                    .append(f)
                    .append(" as it was agreed.</xs:documentation></xs:annotation></xs:element>\n");
        }
        if (t > 4) {
            int other = (number + 1) % SCHEMAS;
            out.append("      <xs:element name=\"near\" type=\"t")
                    .append(number)
                    .append(":Type")
                    .append(t / 5)
                    .append("\"/>\n");
            out.append("      <xs:element name=\"far\" type=\"t")
                    .append(other)
                    .append(":Type")
                    .append(t / 3)
                    .append("\" minOccurs=\"0\" maxOccurs=\"unbounded\"/>\n");
        }
        out.append("    </xs:sequence>\n    <xs:attribute name=\"id\" type=\"xs:string\"/>\n  </xs:complexType>\n");
    }

    private static String wsdl() {
        StringBuilder out = new StringBuilder(
                "<definitions xmlns=\"http://schemas.xmlsoap.org/wsdl/\" xmlns:tns=\"urn:northfell:large\" ");
        out.append(
                "xmlns:soap=\"http://schemas.xmlsoap.org/wsdl/soap/\" xmlns:xs=\"http://www.w3.org/2001/XMLSchema\"");
        declarations(out);
        out.append(" targetNamespace=\"urn:northfell:large\">\n<types><xs:schema>\n");
        for (int i = 0; i < SCHEMAS; i++) {
            out.append("<xs:import namespace=\"")
                    .append(namespace(i))
                    .append("\" schemaLocation=\"types-")
                    .append(i)
                    .append(".xsd\"/>\n");
        }
        out.append("</xs:schema></types>\n");
        for (int o = 0; o < OPERATIONS; o++) {
            for (String kind : new String[] {"", "Response", "Fault"}) {
                out.append(String.format(
                        Locale.ROOT,
                        "<message name=\"M%d%s\"><part name=\"body\" element=\"t%d:Operation%d%s\"/></message>%n",
                        o,
                        kind,
                        o % SCHEMAS,
                        o,
                        kind));
            }
        }
        out.append("<portType name=\"Large\">\n");
        for (int o = 0; o < OPERATIONS; o++) {
            out.append(String.format(
                    Locale.ROOT,
                    "<operation name=\"Operation%d\"><input message=\"tns:M%d\"/><output message=\"tns:M%dResponse\"/><fault name=\"Refused\" message=\"tns:M%dFault\"/></operation>%n",
                    o,
                    o,
                    o,
                    o));
        }
        out.append(
                "</portType>\n<binding name=\"LargeSoap\" type=\"tns:Large\"><soap:binding transport=\"http://schemas.xmlsoap.org/soap/http\"/>\n");
        for (int o = 0; o < OPERATIONS; o++) {
            out.append(String.format(
                    Locale.ROOT,
                    "<operation name=\"Operation%d\"><soap:operation soapAction=\"urn:o%d\"/><input><soap:body use=\"literal\"/></input><output><soap:body use=\"literal\"/></output>"
                            + "<fault name=\"Refused\"><soap:fault name=\"Refused\" use=\"literal\"/></fault></operation>%n",
                    o,
                    o));
        }
        out.append("</binding>\n<service name=\"Large\"><port name=\"Large\" binding=\"tns:LargeSoap\">");
        return out.append("<soap:address location=\"http://127.0.0.1:1/large\"/></port></service></definitions>\n")
                .toString();
    }
}
