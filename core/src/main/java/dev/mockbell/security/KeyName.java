package dev.mockbell.security;

import dev.mockbell.choice.Choice;
import org.apache.wss4j.dom.WSConstants;

/** How a signature or an encryption names the certificate of its key (X.509 Certificate Token Profile 1.1.1 §3.2). */
public enum KeyName implements Choice {
    NONE("none", "Left out", 0),
    /** The certificate goes with the message. */
    TOKEN("token", "by the certificate itself", WSConstants.BST_DIRECT_REFERENCE),
    THUMBPRINT("thumbprint", "by the certificate's thumbprint", WSConstants.THUMBPRINT_IDENTIFIER),
    ISSUER_SERIAL("issuerSerial", "by issuer and serial number", WSConstants.ISSUER_SERIAL),
    SUBJECT_KEY("subjectKey", "by the certificate's subject key", WSConstants.SKI_KEY_IDENTIFIER);

    private final String code;
    private final String title;
    private final int identifier;

    KeyName(String code, String title, int identifier) {
        this.code = code;
        this.title = title;
        this.identifier = identifier;
    }

    @Override
    public String code() {
        return code;
    }

    @Override
    public String title() {
        return title;
    }

    /** As WSS4J counts them. */
    int identifier() {
        return identifier;
    }
}
