package dev.mockbell.security;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.mockbell.problem.Problem;
import dev.mockbell.security.MessageSecurity.Addressee;
import dev.mockbell.security.MessageSecurity.Signing;
import dev.mockbell.wire.Certificates;
import dev.mockbell.wire.ClientKey;
import dev.mockbell.xml.Xml;
import dev.mockbell.xml.XmlLimits;
import dev.mockbell.xml.XmlText;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.security.MessageDigest;
import java.time.Duration;
import java.util.Base64;
import java.util.List;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import javax.xml.crypto.dsig.XMLSignature;
import javax.xml.crypto.dsig.XMLSignatureFactory;
import javax.xml.crypto.dsig.dom.DOMValidateContext;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.w3c.dom.Document;
import org.w3c.dom.Element;

class MessageSecurityTest {
    private static final String ENVELOPE =
            "<e:Envelope xmlns:e='http://schemas.xmlsoap.org/soap/envelope/'><e:Header><t:Own xmlns:t='urn:t'/></e:Header><e:Body><t:Ask xmlns:t='urn:t'>  1 </t:Ask></e:Body></e:Envelope>";
    private static final String UTILITY =
            "http://docs.oasis-open.org/wss/2004/01/oasis-200401-wss-wssecurity-utility-1.0.xsd";

    @TempDir
    private static Path folder;

    private static String secured(MessageSecurity security) {
        Document envelope = Xml.parse(ENVELOPE, "e", XmlLimits.MESSAGE);
        security.secure(envelope);
        return XmlText.exact(envelope);
    }

    private static String between(String text, String element) {
        Matcher found =
                Pattern.compile("<[\\w-]+:" + element + "(?: [^>]*)?>([^<]*)<").matcher(text);
        assertThat(found.find()).as(text).isTrue();
        return found.group(1);
    }

    private static MessageSecurity token(Token token) {
        return new MessageSecurity(
                Addressee.LAST, token, "anna", "høy <1>", Optional.empty(), Optional.empty(), Optional.empty());
    }

    @Test
    void aTokenAsTextHasThePasswordANonceAndTheTime() {
        String text = secured(token(Token.TEXT));
        assertThat(text)
                .contains("mustUnderstand=\"1\"")
                .contains("PasswordText")
                .contains("høy &lt;1&gt;");
        assertThat(between(text, "Username")).isEqualTo("anna");
        assertThat(between(text, "Nonce")).isNotEmpty();
        assertThat(text).contains("<t:Own").contains(">  1 </t:Ask>");
    }

    /** UsernameToken Profile 1.1.1 §3.1: Base64 of SHA-1 of nonce, time and password. */
    @Test
    void aDigestIsTheOneOfTheStandard() throws Exception {
        String text = secured(token(Token.DIGEST));
        assertThat(text).contains("PasswordDigest").doesNotContain("høy");
        MessageDigest sha = MessageDigest.getInstance("SHA-1");
        sha.update(Base64.getDecoder().decode(between(text, "Nonce")));
        sha.update(between(text, "Created").getBytes(StandardCharsets.UTF_8));
        sha.update("høy <1>".getBytes(StandardCharsets.UTF_8));
        assertThat(between(text, "Password")).isEqualTo(Base64.getEncoder().encodeToString(sha.digest()));
        assertThat(secured(token(Token.DIGEST))).isNotEqualTo(text);
    }

    @Test
    void nothingIsAddedWhereNothingIsAskedFor() {
        assertThat(secured(token(Token.NONE))).doesNotContain("Security");
    }

    /** Judged by the platform's own verifier, from the bytes that would go out. */
    @Test
    void bodyAndTimestampAreSignedAndTheSignatureHoldsInTheBytesThatGoOut() throws Exception {
        Certificates.of("anna", folder);
        ClientKey key = new ClientKey(folder.resolve("anna.p12"), "changeit");
        String text = secured(new MessageSecurity(
                Addressee.LAST,
                Token.NONE,
                "",
                "",
                Optional.of(Duration.ofSeconds(300)),
                Optional.of(new Signing(key.open(), KeyName.TOKEN, List.of())),
                Optional.empty()));
        Document read = Xml.parse(text, "sent", XmlLimits.MESSAGE);
        assertThat(holds(read, key)).isTrue();
        Document changed = Xml.parse(text.replace("  1 ", "  2 "), "changed", XmlLimits.MESSAGE);
        assertThat(holds(changed, key)).isFalse();
        Document later = Xml.parse(text.replaceFirst("(<wsu:Expires>)\\d{4}", "$12999"), "later", XmlLimits.MESSAGE);
        assertThat(holds(later, key)).isFalse();
    }

    private static boolean holds(Document envelope, ClientKey key) throws Exception {
        var signatures = envelope.getElementsByTagNameNS(XMLSignature.XMLNS, "Signature");
        assertThat(signatures.getLength()).isEqualTo(1);
        var opened = key.open();
        DOMValidateContext context = new DOMValidateContext(
                opened.store().getCertificate(opened.alias()).getPublicKey(), signatures.item(0));
        context.setProperty("org.jcp.xml.dsig.secureValidation", false);
        var all = envelope.getElementsByTagNameNS("*", "*");
        for (int i = 0; i < all.getLength(); i++) {
            Element e = (Element) all.item(i);
            if (e.hasAttributeNS(UTILITY, "Id")) {
                context.setIdAttributeNS(e, UTILITY, "Id");
            }
        }
        return XMLSignatureFactory.getInstance("DOM")
                .unmarshalXMLSignature(context)
                .validate(context);
    }

    @Test
    void aKeyThatCannotBeOpenedIsSaidWithItsFile() {
        ClientKey gone = new ClientKey(folder.resolve("gone.p12"), "x");
        assertThatThrownBy(gone::open).isInstanceOf(Problem.class).hasMessageContaining("gone.p12");
    }
}
