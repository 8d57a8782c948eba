package dev.mockbell.security;

import dev.mockbell.xml.Xml;
import java.io.IOException;
import java.security.GeneralSecurityException;
import java.security.KeyStore;
import java.security.cert.X509Certificate;
import java.time.Instant;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import javax.security.auth.callback.Callback;
import javax.security.auth.callback.CallbackHandler;
import javax.xml.namespace.QName;
import org.apache.wss4j.common.cache.ReplayCache;
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
 * Judges the security header of requests as a service does (SOAP Message Security 1.1.1, UsernameToken Profile 1.1.1): who logs in, that
 * no nonce comes twice within five minutes, and that the body is signed by somebody who counts. Safe for many threads.
 */
public final class RequestSecurity {
    private static final String WSSE =
            "http://docs.oasis-open.org/wss/2004/01/oasis-200401-wss-wssecurity-secext-1.0.xsd";
    private static final int SECONDS = 300;
    private static final int AHEAD = 60;

    private final Optional<Login> login;
    private final List<X509Certificate> signers;
    private final ReplayCache nonces = new Nonces();

    /** Who may log in, and how. */
    public record Login(Token way, String user, String password) {
        @Override
        public String toString() {
            return "login of " + user;
        }
    }

    /**
     * Why a request is not let in.
     *
     * @param code what SOAP Message Security (§12) calls it
     */
    public record Refused(QName code, String why) {}

    /**
     * @param login empty when nobody has to log in
     * @param signers whose signatures count, or the issuers of theirs; empty when nothing has to be signed
     */
    public RequestSecurity(Optional<Login> login, List<X509Certificate> signers) {
        this.login = login;
        this.signers = List.copyOf(signers);
    }

    /** Nonces that were used, the oldest first; not more than can be kept. */
    private static final class Nonces implements ReplayCache {
        private static final int MOST = 100_000;

        private final Map<String, Instant> used = new LinkedHashMap<>() {
            private static final long serialVersionUID = 1L;

            @Override
            protected boolean removeEldestEntry(Map.Entry<String, Instant> eldest) {
                return size() > MOST || eldest.getValue().isBefore(Instant.now());
            }
        };

        @Override
        public synchronized void add(String nonce) {
            add(nonce, null);
        }

        @Override
        public synchronized void add(String nonce, Instant until) {
            used.put(nonce, until == null ? Instant.now().plusSeconds(SECONDS + AHEAD) : until);
        }

        @Override
        public synchronized boolean contains(String nonce) {
            Instant until = used.get(nonce);
            return until != null && !until.isBefore(Instant.now());
        }

        @Override
        public void close() {
            // it is in memory alone
        }
    }

    private static QName code(String local) {
        return new QName(WSSE, local, "wsse");
    }

    /** Why a request is not let in; empty when it is. The envelope is not to be used for anything else. */
    public Optional<Refused> refuses(Document envelope) {
        Element root = envelope.getDocumentElement();
        Element header = Xml.children(root, root.getNamespaceURI(), "Header").stream()
                .flatMap(h -> Xml.children(h, WSSE, "Security").stream())
                .findFirst()
                .orElse(null);
        if (header == null) {
            return Optional.of(new Refused(code("InvalidSecurity"), "The request has no security header."));
        }
        try {
            WSSConfig.init();
            RequestData data = new RequestData();
            data.setWssConfig(WSSConfig.getNewInstance());
            data.setNonceReplayCache(nonces);
            data.setTimestampReplayCache(nonces);
            data.setUtTTL(SECONDS);
            data.setUtFutureTTL(AHEAD);
            data.setDisableBSPEnforcement(true);
            data.setSigVerCrypto(crypto());
            data.setCallbackHandler(passwords());
            login.filter(l -> l.way() != Token.NONE)
                    .ifPresent(l -> data.setRequiredPasswordType(
                            l.way() == Token.DIGEST ? WSConstants.PASSWORD_DIGEST : WSConstants.PASSWORD_TEXT));
            return judged(new WSSecurityEngine().processSecurityHeader(header, data), envelope);
        } catch (WSSecurityException e) {
            QName found = e.getFaultCode();
            return Optional.of(
                    new Refused(found == null ? code("InvalidSecurity") : code(found.getLocalPart()), words(e)));
        } catch (IOException | GeneralSecurityException e) {
            return Optional.of(new Refused(code("SecurityTokenUnavailable"), "The security header cannot be judged."));
        }
    }

    private static String words(WSSecurityException e) {
        return switch (e.getErrorCode()) {
            case FAILED_AUTHENTICATION -> "The user name or the password is not right.";
            case FAILED_CHECK -> "The signature does not hold.";
            case MESSAGE_EXPIRED -> "The security header is too old, or its time is still to come.";
            case INVALID_SECURITY_TOKEN ->
                "The token is not one that is taken: its nonce was used before, or it lacks a part.";
            case SECURITY_TOKEN_UNAVAILABLE -> "What the security header refers to is not there.";
            default -> "The security header is not as it should be.";
        };
    }

    private Optional<Refused> judged(WSHandlerResult found, Document envelope) {
        if (login.isPresent()
                && !found.getActionResults().containsKey(WSConstants.UT)
                && !found.getActionResults().containsKey(WSConstants.UT_NOPASSWORD)) {
            return Optional.of(new Refused(code("InvalidSecurity"), "The security header has no UsernameToken."));
        }
        if (!signers.isEmpty()
                && found.getResults().stream()
                        .noneMatch(r -> (Integer) r.get(WSSecurityEngineResult.TAG_ACTION) == WSConstants.SIGN
                                && covers(r, envelope))) {
            return Optional.of(new Refused(code("FailedCheck"), "The body is not signed."));
        }
        return Optional.empty();
    }

    @SuppressWarnings("unchecked")
    private static boolean covers(WSSecurityEngineResult signature, Document envelope) {
        Element root = envelope.getDocumentElement();
        Element body = Xml.children(root, root.getNamespaceURI(), "Body").stream()
                .findFirst()
                .orElse(null);
        List<WSDataRef> parts = (List<WSDataRef>) signature.get(WSSecurityEngineResult.TAG_DATA_REF_URIS);
        return parts != null
                && parts.stream().map(WSDataRef::getProtectedElement).anyMatch(e -> e == body || e == root);
    }

    private Merlin crypto() throws GeneralSecurityException, IOException {
        KeyStore store = KeyStore.getInstance("PKCS12");
        store.load(null, null);
        for (int i = 0; i < signers.size(); i++) {
            store.setCertificateEntry("signer-" + i, signers.get(i));
        }
        Merlin crypto = new Merlin();
        crypto.setKeyStore(store);
        crypto.setTrustStore(store);
        return crypto;
    }

    private CallbackHandler passwords() {
        return callbacks -> {
            for (Callback callback : callbacks) {
                if (callback instanceof WSPasswordCallback asked && login.isPresent()) {
                    boolean known = login.get().user().equals(asked.getIdentifier());
                    asked.setPassword(known ? login.get().password() : null);
                }
            }
        };
    }
}
