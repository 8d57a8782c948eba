package dev.mockbell.bench;

import dev.mockbell.contract.DocumentFetcher;
import java.net.URI;
import java.nio.charset.StandardCharsets;
import java.util.Locale;

/**
 * A generated contract whose values are hedged in: 1,000 operations whose messages have 60 elements each, two thirds of them
 * with patterns, lengths or enumerations. Half of those types have names and are used again, half stand where they are
 * used.
 */
final class PatternContract {
    static final int OPERATIONS = 1_000;
    static final int ELEMENTS = 60;
    static final String ROOT = "mem:/patterns.wsdl";

    private static final int NAMED = 300;
    private static final String SPACE = "urn:northfell:patterns";
    private static final String[] FREE = {"xs:string", "xs:int", "xs:date", "xs:boolean"};

    private final byte[] document = wsdl().getBytes(StandardCharsets.UTF_8);

    DocumentFetcher fetcher() {
        return (uri, stop) -> new DocumentFetcher.Fetched(uri, document, "");
    }

    static URI root() {
        return URI.create(ROOT);
    }

    /** The restriction of a number; each number gives another one. */
    private static String restriction(int number) {
        int size = 2 + number % 7;
        return switch (number % 9) {
            case 0 -> string("<xs:pattern value=\"[A-Z]{" + size + "}-[0-9]{" + (1 + number % 5) + "}\"/>");
            case 1 -> string("<xs:pattern value=\"(NF|WG)[0-9]{" + size + "}[A-Z]?\"/><xs:maxLength value=\"20\"/>");
            case 2 ->
                string("<xs:pattern value=\"[a-zA-Z0-9._%+\\-]+@[a-z0-9.\\-]+\\.[a-z]{2,4}\"/><xs:maxLength value=\""
                        + (40 + number % 50) + "\"/>");
            case 3 -> string("<xs:minLength value=\"" + size + "\"/><xs:maxLength value=\"" + (size + 30) + "\"/>");
            case 4 ->
                string("<xs:enumeration value=\"HALF-" + number + "\"/><xs:enumeration value=\"FULL\"/>"
                        + "<xs:enumeration value=\"SELF\"/>");
            case 5 -> string("<xs:pattern value=\"\\+[0-9]{1,3} [0-9]{" + size + "} [0-9]{4," + (4 + size) + "}\"/>");
            case 6 -> string("<xs:pattern value=\"[\\i-[:]][\\c-[:]]{" + size + ",32}\"/>");
            case 7 ->
                "<xs:restriction base=\"xs:decimal\"><xs:pattern value=\"[0-9]{1,8}\\.[0-9]{2}\"/>"
                        + "<xs:maxInclusive value=\"" + (100 + number) + "\"/></xs:restriction>";
            default -> string("<xs:pattern value=\"([0-9A-F]{2}:){" + size + "}[0-9A-F]{2}|none-" + number + "\"/>");
        };
    }

    private static String string(String facets) {
        return "<xs:restriction base=\"xs:string\">" + facets + "</xs:restriction>";
    }

    private static String wsdl() {
        StringBuilder out = new StringBuilder("<definitions xmlns=\"http://schemas.xmlsoap.org/wsdl/\"");
        out.append(
                " xmlns:soap=\"http://schemas.xmlsoap.org/wsdl/soap/\" xmlns:xs=\"http://www.w3.org/2001/XMLSchema\"");
        out.append(" xmlns:p=\"")
                .append(SPACE)
                .append("\" targetNamespace=\"")
                .append(SPACE)
                .append("\">\n<types>");
        out.append("<xs:schema targetNamespace=\"").append(SPACE).append("\" elementFormDefault=\"qualified\">\n");
        for (int t = 0; t < NAMED; t++) {
            out.append("<xs:simpleType name=\"Kind").append(t).append("\">").append(restriction(t));
            out.append("</xs:simpleType>\n");
        }
        for (int o = 0; o < OPERATIONS; o++) {
            element(out, "Operation" + o, o);
            element(out, "Operation" + o + "Response", o + 1);
        }
        out.append("</xs:schema></types>\n");
        for (int o = 0; o < OPERATIONS; o++) {
            out.append(String.format(
                    Locale.ROOT,
                    "<message name=\"In%1$d\"><part name=\"b\" element=\"p:Operation%1$d\"/></message>"
                            + "<message name=\"Out%1$d\"><part name=\"b\" element=\"p:Operation%1$dResponse\"/></message>%n",
                    o));
        }
        out.append("<portType name=\"PT\">");
        for (int o = 0; o < OPERATIONS; o++) {
            out.append(String.format(
                    Locale.ROOT,
                    "<operation name=\"Operation%1$d\"><input message=\"p:In%1$d\"/><output message=\"p:Out%1$d\"/></operation>%n",
                    o));
        }
        out.append("</portType><binding name=\"B\" type=\"p:PT\">");
        out.append("<soap:binding transport=\"http://schemas.xmlsoap.org/soap/http\"/>");
        for (int o = 0; o < OPERATIONS; o++) {
            out.append("<operation name=\"Operation")
                    .append(o)
                    .append("\"><soap:operation soapAction=\"\"/><input><soap:body use=\"literal\"/></input>")
                    .append("<output><soap:body use=\"literal\"/></output></operation>\n");
        }
        out.append("</binding><service name=\"S\"><port name=\"P\" binding=\"p:B\">");
        return out.append("<soap:address location=\"http://h.example/\"/></port></service></definitions>")
                .toString();
    }

    private static void element(StringBuilder out, String name, int seed) {
        out.append("<xs:element name=\"").append(name).append("\"><xs:complexType><xs:sequence>\n");
        for (int e = 0; e < ELEMENTS; e++) {
            int number = seed * 37 + e * 11;
            out.append("<xs:element name=\"field").append(e).append('"');
            if (e % 3 == 2) {
                out.append(" type=\"").append(FREE[number % FREE.length]).append("\"/>\n");
            } else if (e % 3 == 1) {
                out.append(" type=\"p:Kind").append(number % NAMED).append("\"/>\n");
            } else {
                out.append("><xs:simpleType>").append(restriction(number)).append("</xs:simpleType></xs:element>\n");
            }
        }
        out.append("</xs:sequence></xs:complexType></xs:element>\n");
    }
}
