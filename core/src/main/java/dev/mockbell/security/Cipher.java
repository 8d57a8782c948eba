package dev.mockbell.security;

import dev.mockbell.choice.Choice;
import org.apache.wss4j.dom.WSConstants;

/** What a message is encrypted with, and what carries the key (XML Encryption 1.1 §5.2, §5.5). */
public enum Cipher implements Choice {
    AES256_GCM("aes256-gcm", "AES-256-GCM, key by RSA-OAEP", WSConstants.AES_256_GCM, WSConstants.KEYTRANSPORT_RSAOAEP),
    AES128_GCM("aes128-gcm", "AES-128-GCM, key by RSA-OAEP", WSConstants.AES_128_GCM, WSConstants.KEYTRANSPORT_RSAOAEP),
    AES256_CBC("aes256-cbc", "AES-256-CBC, key by RSA-OAEP", WSConstants.AES_256, WSConstants.KEYTRANSPORT_RSAOAEP),
    AES128_CBC("aes128-cbc", "AES-128-CBC, key by RSA-OAEP", WSConstants.AES_128, WSConstants.KEYTRANSPORT_RSAOAEP),
    /** For services that know nothing newer. */
    TRIPLE_DES("tripledes-cbc", "Triple DES, key by RSA 1.5", WSConstants.TRIPLE_DES, WSConstants.KEYTRANSPORT_RSA15);

    private final String code;
    private final String title;
    private final String content;
    private final String transport;

    Cipher(String code, String title, String content, String transport) {
        this.code = code;
        this.title = title;
        this.content = content;
        this.transport = transport;
    }

    @Override
    public String code() {
        return code;
    }

    @Override
    public String title() {
        return title;
    }

    /** The algorithm of the content. */
    String content() {
        return content;
    }

    /** The algorithm that carries the key. */
    String transport() {
        return transport;
    }
}
