package dev.mockbell.security;

import dev.mockbell.problem.Problem;
import dev.mockbell.wire.ClientKey;
import dev.mockbell.xml.Xml;
import java.time.Duration;
import java.util.Arrays;
import java.util.Optional;
import org.apache.wss4j.common.WSEncryptionPart;
import org.apache.wss4j.common.crypto.Merlin;
import org.apache.wss4j.common.ext.WSSecurityException;
import org.apache.wss4j.dom.WSConstants;
import org.apache.wss4j.dom.engine.WSSConfig;
import org.apache.wss4j.dom.message.WSSecHeader;
import org.apache.wss4j.dom.message.WSSecSignature;
import org.apache.wss4j.dom.message.WSSecTimestamp;
import org.apache.wss4j.dom.message.WSSecUsernameToken;
import org.w3c.dom.Document;
import org.w3c.dom.Element;
import org.w3c.dom.Node;
import org.w3c.dom.Text;

/**
 * What WS-Security adds to a request (OASIS Web Services Security: SOAP Message Security 1.1.1, UsernameToken Profile 1.1.1,
 * X.509 Certificate Token Profile 1.1.1).
 *
 * @param token whether a name and a password go with the message, and how
 * @param life how long the message holds from when it is made; empty for no timestamp
 * @param signing what signs the body and, where there is one, the timestamp; empty for no signature
 */
public record MessageSecurity(
        Token token, String user, String password, Optional<Duration> life, Optional<Signing> signing) {
    /** How the password of a UsernameToken goes. */
    public enum Token {
        NONE("none", "Left out"),
        /** As it is. */
        TEXT("text", "Password as text"),
        /** As SHA-1 of nonce, time and password. */
        DIGEST("digest", "Password as a digest");

        private final String code;
        private final String title;

        Token(String code, String title) {
            this.code = code;
            this.title = title;
        }

        /** As in files. */
        public String code() {
            return code;
        }

        /** For people. */
        public String title() {
            return title;
        }

        /** The one of that code. */
        public static Token of(String code) {
            return Arrays.stream(values())
                    .filter(t -> t.code.equals(code))
                    .findFirst()
                    .orElse(NONE);
        }
    }

    /** How a signature names the key that checks it. */
    public enum KeyName {
        NONE("none", "Left out", 0),
        /** The certificate goes with the message. */
        TOKEN("token", "Signed, with the certificate itself", WSConstants.BST_DIRECT_REFERENCE),
        THUMBPRINT("thumbprint", "Signed, by the certificate's thumbprint", WSConstants.THUMBPRINT_IDENTIFIER),
        ISSUER_SERIAL("issuerSerial", "Signed, by issuer and serial number", WSConstants.ISSUER_SERIAL);

        private final String code;
        private final String title;
        private final int identifier;

        KeyName(String code, String title, int identifier) {
            this.code = code;
            this.title = title;
            this.identifier = identifier;
        }

        /** As in files. */
        public String code() {
            return code;
        }

        /** For people. */
        public String title() {
            return title;
        }

        /** The one of that code. */
        public static KeyName of(String code) {
            return Arrays.stream(values())
                    .filter(k -> k.code.equals(code))
                    .findFirst()
                    .orElse(NONE);
        }
    }

    /** A signature. */
    public record Signing(ClientKey key, KeyName name) {}

    /** Whether nothing is added. */
    public boolean isNothing() {
        return token == Token.NONE && life.isEmpty() && signing.isEmpty();
    }

    /**
     * Puts the security header into an envelope.
     *
     * @throws Problem when the key cannot be used
     */
    public void secure(Document envelope) {
        if (isNothing()) {
            return;
        }
        try {
            WSSConfig.init();
            WSSecHeader header = new WSSecHeader(envelope);
            header.insertSecurityHeader();
            if (life.isPresent()) {
                WSSecTimestamp timestamp = new WSSecTimestamp(header);
                timestamp.setTimeToLive((int) Math.max(1, life.get().toSeconds()));
                timestamp.build();
            }
            if (token != Token.NONE) {
                token(header);
            }
            if (signing.isPresent()) {
                sign(header, envelope, signing.get());
            }
            layOut(header.getSecurityHeaderElement());
        } catch (WSSecurityException e) {
            throw Problem.of(
                    Problem.Kind.INPUT,
                    "The message cannot be secured: " + Problem.reason(e),
                    null,
                    "Look at the security profile.",
                    e);
        }
    }

    /** Each part of the header on a line of its own; white space there is in nothing that is signed. */
    private static void layOut(Element security) {
        Node header = security.getParentNode();
        Document document = security.getOwnerDocument();
        if (!(header.getPreviousSibling() instanceof Text)) {
            header.getParentNode().insertBefore(document.createTextNode("\n  "), header);
        }
        header.insertBefore(document.createTextNode("\n    "), security);
        if (security.getNextSibling() == null) {
            header.appendChild(document.createTextNode("\n  "));
        }
        for (Element part : Xml.children(security)) {
            security.insertBefore(document.createTextNode("\n      "), part);
        }
        security.appendChild(document.createTextNode("\n    "));
    }

    private void token(WSSecHeader header) {
        WSSecUsernameToken made = new WSSecUsernameToken(header);
        made.setPasswordType(token == Token.DIGEST ? WSConstants.PASSWORD_DIGEST : WSConstants.PASSWORD_TEXT);
        made.setUserInfo(user, password);
        // so that a message which was overheard is of no use a second time, digest or not
        made.addNonce();
        made.addCreated();
        made.build();
    }

    private void sign(WSSecHeader header, Document envelope, Signing how) throws WSSecurityException {
        ClientKey.Opened opened = how.key().open();
        Merlin crypto = new Merlin();
        crypto.setKeyStore(opened.store());
        WSSecSignature signature = new WSSecSignature(header);
        signature.setUserInfo(opened.alias(), how.key().password());
        signature.setKeyIdentifierType(how.name().identifier);
        signature.setSignatureAlgorithm(
                opened.algorithm().equals("EC") ? WSConstants.ECDSA_SHA256 : WSConstants.RSA_SHA256);
        signature.setDigestAlgo(WSConstants.SHA256);
        String soap = envelope.getDocumentElement().getNamespaceURI();
        signature.getParts().add(new WSEncryptionPart("Body", soap, "Element"));
        if (life.isPresent()) {
            signature.getParts().add(new WSEncryptionPart("Timestamp", WSConstants.WSU_NS, "Element"));
        }
        signature.build(crypto);
    }
}
