package dev.mockbell.security;

import dev.mockbell.problem.Problem;
import dev.mockbell.wire.ClientKey;
import dev.mockbell.xml.Xml;
import java.security.NoSuchAlgorithmException;
import java.security.cert.X509Certificate;
import java.time.Duration;
import java.util.List;
import java.util.Optional;
import javax.crypto.KeyGenerator;
import org.apache.wss4j.common.WSEncryptionPart;
import org.apache.wss4j.common.crypto.Merlin;
import org.apache.wss4j.common.ext.WSSecurityException;
import org.apache.wss4j.common.util.KeyUtils;
import org.apache.wss4j.dom.WSConstants;
import org.apache.wss4j.dom.engine.WSSConfig;
import org.apache.wss4j.dom.message.WSSecEncrypt;
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
 * @param addressee whom the security header is for
 * @param token whether a name and a password go with the message, and how
 * @param life how long the message holds from when it is made; empty for no timestamp
 * @param signing what signs the body and, where there is one, the timestamp; empty for no signature
 * @param encrypting what makes the body, and a signature, unreadable for others; empty to leave them as they are
 */
public record MessageSecurity(
        Addressee addressee,
        Token token,
        String user,
        String password,
        Optional<Duration> life,
        Optional<Signing> signing,
        Optional<Encrypting> encrypting) {
    /**
     * Whom a security header is for (SOAP 1.1 §4.2, SOAP 1.2 part 1 §5.2).
     *
     * @param actor its actor or role; empty for the one that the message comes to last
     * @param mustUnderstand whether that one must refuse a message whose header it cannot use
     */
    public record Addressee(String actor, boolean mustUnderstand) {
        /** The one that the message comes to last, which must use it. */
        public static final Addressee LAST = new Addressee("", true);
    }

    /**
     * A signature.
     *
     * @param headers which header blocks it covers too: names, with a namespace in braces before them or without, or {@code *};
     *     those that a message does not have are none of its concern
     */
    public record Signing(ClientKey.Opened key, KeyName name, List<String> headers) {}

    /** An encryption, for who has the key of a certificate. */
    public record Encrypting(X509Certificate recipient, KeyName name, Cipher cipher) {}

    /** Whether nothing is added. */
    public boolean isNothing() {
        return token == Token.NONE && life.isEmpty() && signing.isEmpty() && encrypting.isEmpty();
    }

    /**
     * Puts the security header into an envelope.
     *
     * @throws Problem when a key cannot be used
     */
    public void secure(Document envelope) {
        if (isNothing()) {
            return;
        }
        try {
            WSSConfig.init();
            encrypting.ifPresent(e -> tighten(envelope));
            WSSecHeader header = new WSSecHeader(
                    addressee.actor().isEmpty() ? null : addressee.actor(), addressee.mustUnderstand(), envelope);
            header.insertSecurityHeader();
            if (life.isPresent()) {
                WSSecTimestamp timestamp = new WSSecTimestamp(header);
                timestamp.setTimeToLive((int) Math.max(1, life.get().toSeconds()));
                timestamp.build();
            }
            if (token != Token.NONE) {
                token(header);
            }
            Optional<WSSecSignature> signature =
                    signing.isPresent() ? Optional.of(sign(header, envelope, signing.get())) : Optional.empty();
            if (encrypting.isPresent()) {
                encrypt(header, envelope, encrypting.get(), signature);
            }
            layOut(header.getSecurityHeaderElement());
        } catch (WSSecurityException | NoSuchAlgorithmException e) {
            throw Problem.of(
                    Problem.Kind.INPUT,
                    "The message cannot be secured: " + Problem.reason(e),
                    null,
                    "Look at the security profile.",
                    e);
        }
    }

    /** Without the white space around the payload: some services stumble over it where it comes out of what was encrypted. */
    private static void tighten(Document envelope) {
        Element root = envelope.getDocumentElement();
        for (Element body : Xml.children(root, root.getNamespaceURI(), "Body")) {
            Node next;
            for (Node node = body.getFirstChild(); node != null; node = next) {
                next = node.getNextSibling();
                if (node instanceof Text text && text.getData().isBlank()) {
                    body.removeChild(node);
                }
            }
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

    private WSSecSignature sign(WSSecHeader header, Document envelope, Signing how) throws WSSecurityException {
        ClientKey.Opened opened = how.key();
        Merlin crypto = new Merlin();
        crypto.setKeyStore(opened.store());
        WSSecSignature signature = new WSSecSignature(header);
        signature.setUserInfo(opened.alias(), opened.password());
        signature.setKeyIdentifierType(how.name().identifier());
        signature.setSignatureAlgorithm(
                opened.algorithm().equals("EC") ? WSConstants.ECDSA_SHA256 : WSConstants.RSA_SHA256);
        signature.setDigestAlgo(WSConstants.SHA256);
        signature.getParts().add(body(envelope, "Element"));
        if (life.isPresent()) {
            signature.getParts().add(new WSEncryptionPart("Timestamp", WSConstants.WSU_NS, "Element"));
        }
        blocks(header, how.headers()).forEach(signature.getParts()::add);
        signature.build(crypto);
        return signature;
    }

    private static WSEncryptionPart body(Document envelope, String what) {
        return new WSEncryptionPart("Body", envelope.getDocumentElement().getNamespaceURI(), what);
    }

    /** The header blocks of those names, each kind once, since a part stands for all of its name. */
    private static List<WSEncryptionPart> blocks(WSSecHeader header, List<String> names) {
        Element security = header.getSecurityHeaderElement();
        return Xml.children((Element) security.getParentNode()).stream()
                .filter(e -> e != security && names.stream().anyMatch(n -> names(n, e)))
                .map(e -> List.of(e.getLocalName(), String.valueOf(e.getNamespaceURI())))
                .distinct()
                .map(n -> new WSEncryptionPart(n.get(0), n.get(1), "Element"))
                .toList();
    }

    private static boolean names(String name, Element block) {
        String own = block.getLocalName();
        return name.equals("*") || name.equals(own) || name.equals("{" + block.getNamespaceURI() + "}" + own);
    }

    private static void encrypt(
            WSSecHeader header, Document envelope, Encrypting how, Optional<WSSecSignature> signature)
            throws WSSecurityException, NoSuchAlgorithmException {
        if (!how.recipient().getPublicKey().getAlgorithm().equals("RSA")) {
            throw Problem.input(
                    "The service's certificate has a key of the kind "
                            + how.recipient().getPublicKey().getAlgorithm()
                            + ", and messages are encrypted for RSA keys",
                    null,
                    "Give the service's RSA certificate in the security profile.");
        }
        WSSecEncrypt encryption = new WSSecEncrypt(header);
        encryption.setUseThisCert(how.recipient());
        encryption.setKeyIdentifierType(how.name().identifier());
        encryption.setKeyEncAlgo(how.cipher().transport());
        encryption.setSymmetricEncAlgorithm(how.cipher().content());
        encryption.getParts().add(body(envelope, "Content"));
        // who may not read the message may not guess at it by its digest either
        signature.ifPresent(s -> encryption.getParts().add(new WSEncryptionPart(s.getId(), "Element")));
        KeyGenerator keys = KeyUtils.getKeyGenerator(how.cipher().content());
        encryption.build(new Merlin(), keys.generateKey());
    }
}
