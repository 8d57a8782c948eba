package dev.mockbell.security;

import dev.mockbell.problem.Problem;
import dev.mockbell.wire.ClientKey;
import dev.mockbell.xml.Xml;
import java.io.IOException;
import java.security.GeneralSecurityException;
import java.security.KeyStore;
import java.security.cert.X509Certificate;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import javax.security.auth.callback.Callback;
import javax.security.auth.callback.CallbackHandler;
import org.apache.wss4j.common.crypto.Merlin;
import org.apache.wss4j.common.ext.WSPasswordCallback;
import org.apache.wss4j.common.ext.WSSecurityException;
import org.apache.wss4j.dom.WSConstants;
import org.apache.wss4j.dom.WSDataRef;
import org.apache.wss4j.dom.engine.WSSConfig;
import org.apache.wss4j.dom.engine.WSSecurityEngine;
import org.apache.wss4j.dom.engine.WSSecurityEngineResult;
import org.apache.wss4j.dom.handler.RequestData;
import org.apache.wss4j.dom.handler.WSHandlerResult;
import org.w3c.dom.Document;
import org.w3c.dom.Element;

/**
 * What WS-Security says of an answer: whether its signature holds and whose it is, and what it says once it is decrypted (SOAP
 * Message Security 1.1.1 §8.4, §9.4).
 *
 * @param key what the answer is decrypted with; empty when nobody encrypts for us
 * @param trusted certificates whose signatures count, and those whose issue count
 * @param actor whose security header is looked at; empty for the one of whom the message comes to last
 */
public record AnswerSecurity(Optional<ClientKey.Opened> key, List<X509Certificate> trusted, String actor) {
    private static final String WSSE =
            "http://docs.oasis-open.org/wss/2004/01/oasis-200401-wss-wssecurity-secext-1.0.xsd";

    private static final Set<String> UNKNOWN_KEY = Set.of("noCertsFound", "noPrivateKey", "noKey");

    /**
     * What became of an answer.
     *
     * @param words what was found, for people; empty when there was nothing to find
     * @param decrypted whether the document is another than it was
     */
    public record Opened(String words, boolean decrypted) {}

    /**
     * Decrypts an envelope in place and judges its signature.
     *
     * @throws Problem when that cannot be done, does not hold, or is not there
     */
    public Opened open(Document envelope) {
        Element header = header(envelope);
        if (header == null) {
            throw Problem.input("The answer has no security header, and the profile checks answers", null, null);
        }
        try {
            WSSConfig.init();
            RequestData data = new RequestData();
            data.setWssConfig(WSSConfig.getNewInstance());
            data.setActor(actor.isEmpty() ? null : actor);
            data.setSigVerCrypto(crypto());
            data.setDecCrypto(crypto());
            data.setCallbackHandler(password());
            data.setAllowRSA15KeyTransportAlgorithm(true);
            // its rules on form refuse what some stacks write and what the standard itself allows
            data.setDisableBSPEnforcement(true);
            WSHandlerResult found = new WSSecurityEngine().processSecurityHeader(header, data);
            return told(envelope, found);
        } catch (WSSecurityException e) {
            throw Problem.of(Problem.Kind.INPUT, reason(e), null, null, e);
        } catch (IOException | GeneralSecurityException e) {
            throw Problem.of(
                    Problem.Kind.INPUT, "The answer's security cannot be judged: " + Problem.reason(e), null, null, e);
        }
    }

    private Element header(Document envelope) {
        Element root = envelope.getDocumentElement();
        return Xml.children(root, root.getNamespaceURI(), "Header").stream()
                .flatMap(h -> Xml.children(h, WSSE, "Security").stream())
                .filter(s -> actor.equals(actor(s, root.getNamespaceURI())))
                .findFirst()
                .orElse(null);
    }

    private static String actor(Element security, String soap) {
        String actor = security.getAttributeNS(soap, "actor");
        return actor.isEmpty() ? security.getAttributeNS(soap, "role") : actor;
    }

    private Opened told(Document envelope, WSHandlerResult found) {
        boolean decrypted = false;
        List<String> words = new ArrayList<>();
        boolean signed = false;
        for (WSSecurityEngineResult result : found.getResults()) {
            int action = (Integer) result.get(WSSecurityEngineResult.TAG_ACTION);
            if (action == WSConstants.ENCR) {
                decrypted |= !parts(result).isEmpty();
            } else if (action == WSConstants.SIGN && covers(result, envelope)) {
                signed = true;
                X509Certificate by = (X509Certificate) result.get(WSSecurityEngineResult.TAG_X509_CERTIFICATE);
                words.add("signed"
                        + (by == null
                                ? ""
                                : " by " + by.getSubjectX500Principal().getName()));
            }
        }
        if (!signed && !trusted.isEmpty()) {
            boolean other = found.getActionResults().containsKey(WSConstants.SIGN);
            throw Problem.input(
                    other ? "The answer's signature does not cover its body" : "The answer is not signed", null, null);
        }
        if (decrypted) {
            words.add("decrypted");
        }
        return new Opened(String.join(", ", words), decrypted);
    }

    @SuppressWarnings("unchecked")
    private static List<WSDataRef> parts(WSSecurityEngineResult result) {
        List<WSDataRef> parts = (List<WSDataRef>) result.get(WSSecurityEngineResult.TAG_DATA_REF_URIS);
        return parts == null ? List.of() : parts;
    }

    private static boolean covers(WSSecurityEngineResult signature, Document envelope) {
        Element root = envelope.getDocumentElement();
        Element body = Xml.children(root, root.getNamespaceURI(), "Body").stream()
                .findFirst()
                .orElse(null);
        return parts(signature).stream().map(WSDataRef::getProtectedElement).anyMatch(e -> e == body || e == root);
    }

    private Merlin crypto() throws GeneralSecurityException, IOException {
        Merlin crypto = new Merlin();
        if (key.isPresent()) {
            crypto.setKeyStore(key.get().store());
        }
        KeyStore store = KeyStore.getInstance("PKCS12");
        store.load(null, null);
        for (X509Certificate certificate : trusted) {
            store.setCertificateEntry("trusted-" + store.size(), certificate);
        }
        crypto.setTrustStore(store);
        return crypto;
    }

    private CallbackHandler password() {
        return asked -> {
            for (Callback callback : asked) {
                if (callback instanceof WSPasswordCallback asks) {
                    key.ifPresent(k -> asks.setPassword(k.password()));
                }
            }
        };
    }

    /** The library tells some of these by a code of their own, others by which of its sentences it is. */
    private static String reason(WSSecurityException e) {
        String why = Problem.reason(e);
        String sentence = String.valueOf(e.getMsgID());
        if (e.getErrorCode() == WSSecurityException.ErrorCode.MESSAGE_EXPIRED) {
            return "The answer's timestamp does not hold: " + why;
        }
        if (e.getErrorCode() == WSSecurityException.ErrorCode.FAILED_AUTHENTICATION || sentence.equals("certpath")) {
            return "The answer is signed by somebody whom the profile does not trust: " + why;
        }
        if (UNKNOWN_KEY.contains(sentence)) {
            return "The answer needs a key that the profile does not have: " + why;
        }
        return e.getErrorCode() == WSSecurityException.ErrorCode.FAILED_CHECK
                ? "The answer's signature does not hold, or it is not encrypted for the profile's key: " + why
                : "The answer's security cannot be judged: " + why;
    }
}
