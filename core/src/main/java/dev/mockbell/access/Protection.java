package dev.mockbell.access;

import dev.mockbell.security.Cipher;
import dev.mockbell.security.KeyName;
import dev.mockbell.security.MessageSecurity.Addressee;
import dev.mockbell.security.Token;
import java.util.List;

/**
 * What a profile has messages carry by WS-Security, and what it wants of answers.
 *
 * @param token whether a UsernameToken goes with the message, with the profile's user and secret
 * @param life seconds that the message holds by its timestamp; 0 for no timestamp
 * @param signature by the profile's own certificate
 * @param encryption for the service's certificate
 * @param serviceCertificate file of the project; encrypted for, and trusted where answers are checked; empty for none
 * @param checksAnswers whether an answer must be signed by the service's certificate or one of the profile's authorities, and is
 *     decrypted by the profile's own
 */
public record Protection(
        Addressee addressee,
        Token token,
        int life,
        Signature signature,
        Encryption encryption,
        String serviceCertificate,
        boolean checksAnswers) {
    /**
     * A signature over body, timestamp and header blocks.
     *
     * @param name how it names its key; NONE for no signature
     * @param headers names of blocks, or {@code *}
     */
    public record Signature(KeyName name, List<String> headers) {
        public static final Signature NONE = new Signature(KeyName.NONE, List.of());

        public Signature {
            headers = List.copyOf(headers);
        }
    }

    /**
     * An encryption of the body.
     *
     * @param name how it names its key; NONE for no encryption
     */
    public record Encryption(KeyName name, Cipher cipher) {
        public static final Encryption NONE = new Encryption(KeyName.NONE, Cipher.AES256_GCM);
    }

    /** Messages go as they are. */
    public static final Protection NONE =
            new Protection(Addressee.LAST, Token.NONE, 0, Signature.NONE, Encryption.NONE, "", false);

    public Protection with(Addressee other) {
        return new Protection(other, token, life, signature, encryption, serviceCertificate, checksAnswers);
    }

    public Protection with(Token other) {
        return new Protection(addressee, other, life, signature, encryption, serviceCertificate, checksAnswers);
    }

    /** @param seconds 0 for no timestamp */
    public Protection living(int seconds) {
        return new Protection(addressee, token, seconds, signature, encryption, serviceCertificate, checksAnswers);
    }

    public Protection with(Signature other) {
        return new Protection(addressee, token, life, other, encryption, serviceCertificate, checksAnswers);
    }

    public Protection with(Encryption other) {
        return new Protection(addressee, token, life, signature, other, serviceCertificate, checksAnswers);
    }

    /** With another service's certificate, and whether answers are checked by it. */
    public Protection facing(String certificate, boolean checked) {
        return new Protection(addressee, token, life, signature, encryption, certificate, checked);
    }

    /** Whether a request gets a security header. */
    public boolean isOnRequests() {
        return token != Token.NONE || life > 0 || signature.name() != KeyName.NONE || encryption.name() != KeyName.NONE;
    }
}
