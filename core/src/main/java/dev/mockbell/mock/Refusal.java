package dev.mockbell.mock;

import dev.mockbell.content.Header;
import dev.mockbell.soap.Envelope;
import dev.mockbell.soap.SoapFault;
import dev.mockbell.soap.SoapVersion;
import dev.mockbell.xml.XmlWriter;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import javax.xml.namespace.QName;

/**
 * Why a request is not answered, and what the standards say to send back for it.
 *
 * @param status of HTTP
 * @param version in which it is told
 * @param code the fault's; null for a refusal that HTTP alone tells
 * @param why a sentence
 * @param headers blocks that go with the fault
 * @param own a code of another standard's
 * @param fields of HTTP that go with it
 */
record Refusal(
        int status,
        SoapVersion version,
        SoapFault.Code code,
        String why,
        List<String> headers,
        Optional<QName> own,
        List<Header> fields) {
    /** How a login by Basic is asked for (RFC 7617 §2). */
    static final String CHALLENGE = "Basic realm=\"mock\", charset=\"UTF-8\"";

    Refusal(int status, SoapVersion version, SoapFault.Code code, String why, List<String> headers) {
        this(status, version, code, why, headers, Optional.empty(), List.of());
    }

    /** A login that is missing or wrong (RFC 7235 §3.1). */
    static Refusal login(SoapVersion version, String why) {
        return new Refusal(
                401,
                version,
                null,
                why,
                List.of(),
                Optional.empty(),
                List.of(new Header("WWW-Authenticate", CHALLENGE)));
    }

    /** What SOAP Message Security (§12) has a fault for. */
    static Refusal security(SoapVersion version, QName own, String why) {
        return new Refusal(
                SoapFault.Code.SENDER.status(version),
                version,
                SoapFault.Code.SENDER,
                why,
                List.of(),
                Optional.of(own),
                List.of());
    }

    static Refusal fault(SoapVersion version, SoapFault.Code code, String why) {
        return new Refusal(code.status(version), version, code, why, List.of());
    }

    /** No envelope that is spoken here: the versions that are, for who knows of SOAP 1.2 (part 1 §5.4.7). */
    static Refusal version(SoapVersion told, Set<SoapVersion> spoken, String why) {
        XmlWriter upgrade = XmlWriter.fragment().start("u:Upgrade").attribute("xmlns:u", SoapVersion.V12.namespace());
        for (SoapVersion each : spoken) {
            upgrade.start("u:SupportedEnvelope")
                    .attribute("xmlns:e", each.namespace())
                    .attribute("qname", "e:Envelope")
                    .end();
        }
        boolean known = spoken.contains(SoapVersion.V12);
        return new Refusal(
                500,
                told,
                SoapFault.Code.VERSION_MISMATCH,
                why,
                known ? List.of(upgrade.end().finish()) : List.of());
    }

    /** Header blocks that must be understood and are not (SOAP 1.1 §4.2.3, SOAP 1.2 part 1 §5.4.8). */
    static Refusal notUnderstood(SoapVersion version, List<QName> blocks) {
        List<String> headers = version == SoapVersion.V11
                ? List.of()
                : blocks.stream()
                        .map(b -> XmlWriter.fragment()
                                .start("u:NotUnderstood")
                                .attribute("xmlns:u", version.namespace())
                                .attribute("xmlns:b", b.getNamespaceURI())
                                .attribute("qname", "b:" + b.getLocalPart())
                                .end()
                                .finish())
                        .toList();
        String why = "The header " + blocks.get(0) + " must be understood, and the contract does not name it.";
        return new Refusal(500, version, SoapFault.Code.MUST_UNDERSTAND, why, headers);
    }

    /** A media type that is not taken (SOAP 1.2 part 2 §7.4.2.1, table 20; RFC 9110 §15.5.16). */
    static Refusal mediaType(SoapVersion version, String why) {
        return new Refusal(415, version, null, why, List.of());
    }

    boolean byHttpAlone() {
        return code == null;
    }

    /** What is sent: the fault's envelope, or the sentence. */
    byte[] body() {
        String text = code == null
                ? why + "\n"
                : Envelope.around(version, SoapFault.xml(version, code, own, why, ""), headers);
        return text.getBytes(StandardCharsets.UTF_8);
    }
}
