package dev.mockbell.soap;

import dev.mockbell.xml.Xml;
import java.util.Optional;
import javax.xml.namespace.QName;
import org.w3c.dom.Element;

/**
 * A fault (SOAP 1.1 §4.4, SOAP 1.2 part 1 §5.4).
 *
 * @param code the code as written, with its prefix
 * @param reason the faultstring, or the first reason text
 * @param detail the name of the first element in the detail
 */
public record SoapFault(String code, String reason, Optional<QName> detail) {
    /** What it is called in a list: the detail's name when it has one, or the code. */
    public String title() {
        return detail.map(QName::getLocalPart).orElse(code);
    }

    /** Reads the Fault element of either version. */
    static SoapFault of(Element fault) {
        String code = "";
        String reason = "";
        Optional<QName> detail = Optional.empty();
        for (Element child : Xml.children(fault)) {
            switch (child.getLocalName()) {
                case "faultcode" -> code = child.getTextContent().strip();
                case "faultstring" -> reason = child.getTextContent().strip();
                case "Code" ->
                    code = Xml.children(child).stream()
                            .filter(e -> "Value".equals(e.getLocalName()))
                            .map(e -> e.getTextContent().strip())
                            .findFirst()
                            .orElse("");
                case "Reason" ->
                    reason = Xml.children(child).stream()
                            .map(e -> e.getTextContent().strip())
                            .findFirst()
                            .orElse("");
                case "detail", "Detail" ->
                    detail = Xml.children(child).stream()
                            .findFirst()
                            .map(e -> new QName(
                                    e.getNamespaceURI() == null ? "" : e.getNamespaceURI(), e.getLocalName()));
                default -> {
                    // faultactor, Node and Role say who, not what
                }
            }
        }
        return new SoapFault(code, reason, detail);
    }

    /** The body of a fault in the given version, with an optional detail. */
    public static String xml(SoapVersion version, boolean serverSide, String reason, String detailXml) {
        String text = escape(reason);
        StringBuilder out = new StringBuilder("<soap:Fault xmlns:soap=\"")
                .append(version.namespace())
                .append("\">\n");
        if (version == SoapVersion.V11) {
            out.append("  <faultcode>soap:")
                    .append(serverSide ? "Server" : "Client")
                    .append("</faultcode>\n");
            out.append("  <faultstring>").append(text).append("</faultstring>\n");
            if (!detailXml.isBlank()) {
                out.append("  <detail>").append(detailXml.strip()).append("</detail>\n");
            }
        } else {
            out.append("  <soap:Code><soap:Value>soap:")
                    .append(serverSide ? "Receiver" : "Sender")
                    .append("</soap:Value></soap:Code>\n");
            out.append("  <soap:Reason><soap:Text xml:lang=\"en\">")
                    .append(text)
                    .append("</soap:Text></soap:Reason>\n");
            if (!detailXml.isBlank()) {
                out.append("  <soap:Detail>").append(detailXml.strip()).append("</soap:Detail>\n");
            }
        }
        return out.append("</soap:Fault>").toString();
    }

    private static String escape(String text) {
        return text.replace("&", "&amp;").replace("<", "&lt;").replace(">", "&gt;");
    }
}
