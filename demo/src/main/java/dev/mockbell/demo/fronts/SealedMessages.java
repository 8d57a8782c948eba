package dev.mockbell.demo.fronts;

import dev.mockbell.content.Content;
import dev.mockbell.problem.Problem;
import dev.mockbell.xml.Xml;
import dev.mockbell.xml.XmlLimits;
import dev.mockbell.xml.XmlText;
import java.security.KeyStore;
import java.security.cert.X509Certificate;
import java.util.List;
import javax.crypto.KeyGenerator;
import javax.security.auth.callback.Callback;
import javax.security.auth.callback.CallbackHandler;
import org.apache.wss4j.common.WSEncryptionPart;
import org.apache.wss4j.common.crypto.Merlin;
import org.apache.wss4j.common.ext.WSPasswordCallback;
import org.apache.wss4j.common.util.KeyUtils;
import org.apache.wss4j.dom.WSConstants;
import org.apache.wss4j.dom.engine.WSSConfig;
import org.apache.wss4j.dom.engine.WSSecurityEngine;
import org.apache.wss4j.dom.engine.WSSecurityEngineResult;
import org.apache.wss4j.dom.handler.RequestData;
import org.apache.wss4j.dom.handler.WSHandlerResult;
import org.apache.wss4j.dom.message.WSSecEncrypt;
import org.apache.wss4j.dom.message.WSSecHeader;
import org.apache.wss4j.dom.message.WSSecSignature;
import org.apache.wss4j.dom.message.WSSecTimestamp;
import org.w3c.dom.Document;

/** Wants messages signed by somebody of the authority and encrypted for the service, and answers in kind. */
final class SealedMessages implements Guards.Guard {
    private static final int LIFE = 300;

    private final KeyStore own;
    private final KeyStore trusted;

    SealedMessages(Keys keys) {
        WSSConfig.init();
        own = keys.service();
        try {
            trusted = KeyStore.getInstance("PKCS12");
            trusted.load(null, null);
            trusted.setCertificateEntry("authority", keys.authority());
        } catch (java.io.IOException | java.security.GeneralSecurityException e) {
            throw new IllegalStateException("this Java has no PKCS#12", e);
        }
    }

    private Merlin crypto() {
        Merlin crypto = new Merlin();
        crypto.setKeyStore(own);
        crypto.setTrustStore(trusted);
        return crypto;
    }

    @Override
    public boolean covering() {
        return true;
    }

    @Override
    public Guards.Answering through(SecuredMessage message) throws Exception {
        if (message.security() == null) {
            throw Problem.input("The message is neither signed nor encrypted", null, null);
        }
        RequestData data = new RequestData();
        data.setWssConfig(WSSConfig.getNewInstance());
        data.setSigVerCrypto(crypto());
        data.setDecCrypto(crypto());
        data.setCallbackHandler(password());
        WSHandlerResult found = new WSSecurityEngine().processSecurityHeader(message.security(), data);
        List<WSSecurityEngineResult> signatures = found.getActionResults().get(WSConstants.SIGN);
        if (signatures == null || found.getActionResults().get(WSConstants.ENCR) == null) {
            throw Problem.input("The message must be signed and encrypted", null, null);
        }
        X509Certificate client = (X509Certificate) signatures.get(0).get(WSSecurityEngineResult.TAG_X509_CERTIFICATE);
        return answer -> sealed(answer, client);
    }

    private static CallbackHandler password() {
        return asked -> {
            for (Callback callback : asked) {
                if (callback instanceof WSPasswordCallback asks) {
                    asks.setPassword(Keys.PASSWORD);
                }
            }
        };
    }

    private Content sealed(Content answer, X509Certificate client) throws Exception {
        Document envelope = Xml.parse(answer, "", "answer", XmlLimits.MESSAGE);
        WSSecHeader header = new WSSecHeader(envelope);
        header.insertSecurityHeader();
        WSSecTimestamp timestamp = new WSSecTimestamp(header);
        timestamp.setTimeToLive(LIFE);
        timestamp.build();
        String soap = envelope.getDocumentElement().getNamespaceURI();
        WSSecSignature signature = new WSSecSignature(header);
        signature.setUserInfo(Keys.ALIAS, Keys.PASSWORD);
        signature.setKeyIdentifierType(WSConstants.BST_DIRECT_REFERENCE);
        signature.setSignatureAlgorithm(WSConstants.RSA_SHA256);
        signature.setDigestAlgo(WSConstants.SHA256);
        signature.getParts().add(new WSEncryptionPart("Body", soap, "Element"));
        signature.getParts().add(new WSEncryptionPart("Timestamp", WSConstants.WSU_NS, "Element"));
        signature.build(crypto());
        WSSecEncrypt encryption = new WSSecEncrypt(header);
        encryption.setUseThisCert(client);
        encryption.setKeyIdentifierType(WSConstants.THUMBPRINT_IDENTIFIER);
        encryption.setKeyEncAlgo(WSConstants.KEYTRANSPORT_RSAOAEP);
        encryption.setSymmetricEncAlgorithm(WSConstants.AES_256_GCM);
        encryption.getParts().add(new WSEncryptionPart("Body", soap, "Content"));
        KeyGenerator keys = KeyUtils.getKeyGenerator(WSConstants.AES_256_GCM);
        encryption.build(crypto(), keys.generateKey());
        return SecuredMessage.text(XmlText.exact(envelope));
    }
}
