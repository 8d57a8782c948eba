package dev.mockbell.soap;

import dev.mockbell.xml.Xml;
import dev.mockbell.xml.XmlWriter;
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
    /** Whose trouble it is (SOAP 1.1 §4.4.1, SOAP 1.2 part 1 §5.4.6). */
    public enum Code {
        VERSION_MISMATCH("VersionMismatch", "VersionMismatch"),
        MUST_UNDERSTAND("MustUnderstand", "MustUnderstand"),
        SENDER("Client", "Sender"),
        RECEIVER("Server", "Receiver");

        private final String in11;
        private final String in12;

        Code(String in11, String in12) {
            this.in11 = in11;
            this.in12 = in12;
        }

        String in(SoapVersion version) {
            return version == SoapVersion.V11 ? in11 : in12;
        }

        /** The status of HTTP that goes with it (SOAP 1.1 §6.2, SOAP 1.2 part 2 table 20). */
        public int status(SoapVersion version) {
            return this == SENDER && version == SoapVersion.V12 ? 400 : 500;
        }
    }

    /** What it is called in a list: the detail's name when it has one, or the code, which a broken one may lack. */
    public String title() {
        return detail.map(QName::getLocalPart).orElse(code.isEmpty() ? "a fault without a code" : code);
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
    public static String xml(SoapVersion version, Code code, String reason, String detailXml) {
        return xml(version, code, Optional.empty(), reason, detailXml);
    }

    /**
     * As {@link #xml(SoapVersion, Code, String, String)}, with a code of somebody else's.
     *
     * @param own with its prefix: in SOAP 1.1 in place of the code, in SOAP 1.2 below it
     */
    public static String xml(SoapVersion version, Code code, Optional<QName> own, String reason, String detailXml) {
        XmlWriter out = XmlWriter.fragment().start("soap:Fault").attribute("xmlns:soap", version.namespace());
        String detail = detailXml.strip();
        if (version == SoapVersion.V11) {
            own.ifPresent(o -> out.attribute("xmlns:" + o.getPrefix(), o.getNamespaceURI()));
            String name = own.map(o -> o.getPrefix() + ":" + o.getLocalPart()).orElse("soap:" + code.in(version));
            out.element("faultcode", name).element("faultstring", reason);
        } else {
            out.start("soap:Code").element("soap:Value", "soap:" + code.in(version));
            own.ifPresent(o -> out.start("soap:Subcode")
                    .start("soap:Value")
                    .attribute("xmlns:" + o.getPrefix(), o.getNamespaceURI())
                    .text(o.getPrefix() + ":" + o.getLocalPart())
                    .end()
                    .end());
            out.end();
            out.start("soap:Reason")
                    .start("soap:Text")
                    .attribute("xml:lang", "en")
                    .text(reason);
            out.end().end();
        }
        if (!detail.isEmpty()) {
            out.start(version == SoapVersion.V11 ? "detail" : "soap:Detail")
                    .raw(detail)
                    .end();
        }
        return out.end().finish();
    }
}
