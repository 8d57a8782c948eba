package dev.mockbell.wire;

import dev.mockbell.problem.Problem;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.GeneralSecurityException;
import java.security.Key;
import java.security.KeyFactory;
import java.security.KeyStore;
import java.security.PrivateKey;
import java.security.cert.Certificate;
import java.security.cert.CertificateFactory;
import java.security.spec.InvalidKeySpecException;
import java.security.spec.PKCS8EncodedKeySpec;
import java.util.Base64;
import java.util.Collections;
import java.util.List;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import javax.crypto.Cipher;
import javax.crypto.EncryptedPrivateKeyInfo;
import javax.crypto.SecretKeyFactory;
import javax.crypto.spec.PBEKeySpec;
import javax.net.ssl.KeyManager;
import javax.net.ssl.KeyManagerFactory;

/**
 * A client's certificate with its key: PKCS#12, JKS, or PEM with both in one file. Its text never shows the password.
 *
 * @param password opens the file; empty when it has none
 */
public record ClientKey(Path file, String password) {
    private static final Pattern PEM =
            Pattern.compile("-----BEGIN ([A-Z0-9 ]+)-----([A-Za-z0-9+/=\\s]+)-----END \\1-----");
    private static final List<String> ALGORITHMS = List.of("RSA", "EC", "Ed25519", "DSA");

    /**
     * What gives the key to a server that asks.
     *
     * @throws Problem when the file cannot be read or the password does not open it
     */
    KeyManager[] managers() {
        try {
            KeyStore store = store();
            KeyManagerFactory factory = KeyManagerFactory.getInstance(KeyManagerFactory.getDefaultAlgorithm());
            factory.init(store, password.toCharArray());
            return factory.getKeyManagers();
        } catch (IOException | GeneralSecurityException e) {
            throw unreadable(e);
        }
    }

    /**
     * The key and its certificates.
     *
     * @param alias under which they are in the store
     * @param algorithm of the key: {@code RSA}, {@code EC}
     * @param password opens it there
     */
    public record Opened(KeyStore store, String alias, String algorithm, String password) {
        @Override
        public String toString() {
            return "key " + alias;
        }
    }

    /**
     * Opens the file.
     *
     * @throws Problem when it cannot be read, the password does not open it or no key is in it
     */
    public Opened open() {
        try {
            KeyStore store = store();
            for (String alias : Collections.list(store.aliases())) {
                if (store.entryInstanceOf(alias, KeyStore.PrivateKeyEntry.class)) {
                    return new Opened(
                            light(store),
                            alias,
                            store.getCertificate(alias).getPublicKey().getAlgorithm(),
                            password);
                }
            }
            throw new InvalidKeySpecException("there is no key in it");
        } catch (IOException | GeneralSecurityException e) {
            throw unreadable(e);
        }
    }

    /**
     * A key with its certificates, from PEM.
     *
     * @throws Problem when it is none
     */
    public static Opened ofPem(String text) {
        try {
            KeyStore store = pem(text, "");
            String alias = store.aliases().nextElement();
            return new Opened(
                    store, alias, store.getCertificate(alias).getPublicKey().getAlgorithm(), "");
        } catch (IOException | GeneralSecurityException e) {
            throw Problem.of(
                    Problem.Kind.INPUT,
                    "The key cannot be read: " + Problem.reason(e),
                    null,
                    "Have it written anew.",
                    e);
        }
    }

    /** A key that has no password, with its certificates, as PEM: for a file that is the user's alone. */
    public static String pem(Opened opened) {
        try {
            Key key = opened.store().getKey(opened.alias(), new char[0]);
            StringBuilder text = new StringBuilder(Authority.pem("PRIVATE KEY", key.getEncoded()));
            for (Certificate certificate : opened.store().getCertificateChain(opened.alias())) {
                text.append(Authority.pem("CERTIFICATE", certificate.getEncoded()));
            }
            return text.toString();
        } catch (GeneralSecurityException e) {
            throw new IllegalStateException("a key without a password can be taken out", e);
        }
    }

    private KeyStore store() throws IOException, GeneralSecurityException {
        byte[] bytes = Files.readAllBytes(file);
        String text = new String(bytes, StandardCharsets.ISO_8859_1);
        return text.contains("-----BEGIN ") ? pem(text, password) : keyStore(bytes);
    }

    private Problem unreadable(Exception e) {
        return Problem.of(
                Problem.Kind.INPUT,
                "The client's certificate cannot be read: " + Problem.reason(e),
                file.toString(),
                "Give PKCS#12, JKS or PEM with certificate and key, and its password.",
                e);
    }

    private KeyStore keyStore(byte[] bytes) throws IOException, GeneralSecurityException {
        // Java reads both kinds by either name; a JKS file starts with FEEDFEED
        boolean jks = bytes.length > 3 && (bytes[0] & 0xFF) == 0xFE && (bytes[1] & 0xFF) == 0xED;
        KeyStore store = KeyStore.getInstance(jks ? "JKS" : "PKCS12");
        store.load(new ByteArrayInputStream(bytes), password.toCharArray());
        return store;
    }

    /**
     * The same in a form for memory alone: of PKCS #12 a key is derived from the password each time that the private key is taken
     * out, for every signature and every answer that is decrypted, which takes many times as long as the signature itself.
     */
    private KeyStore light(KeyStore store) throws IOException, GeneralSecurityException {
        KeyStore light = empty();
        for (String alias : Collections.list(store.aliases())) {
            if (store.entryInstanceOf(alias, KeyStore.PrivateKeyEntry.class)) {
                light.setKeyEntry(
                        alias,
                        store.getKey(alias, password.toCharArray()),
                        password.toCharArray(),
                        store.getCertificateChain(alias));
            } else if (store.isCertificateEntry(alias)) {
                light.setCertificateEntry(alias, store.getCertificate(alias));
            }
        }
        return light;
    }

    private static KeyStore empty() throws IOException, GeneralSecurityException {
        KeyStore empty = KeyStore.getInstance("JKS");
        empty.load(null, null);
        return empty;
    }

    private static KeyStore pem(String text, String password) throws IOException, GeneralSecurityException {
        Optional<PrivateKey> key = Optional.empty();
        StringBuilder certificates = new StringBuilder();
        Matcher found = PEM.matcher(text);
        while (found.find()) {
            byte[] bytes = Base64.getMimeDecoder().decode(found.group(2));
            switch (found.group(1)) {
                case "CERTIFICATE" -> certificates.append(found.group()).append('\n');
                case "PRIVATE KEY" -> key = Optional.of(key(new PKCS8EncodedKeySpec(bytes)));
                case "ENCRYPTED PRIVATE KEY" -> key = Optional.of(key(opened(bytes, password)));
                default -> {
                    if (found.group(1).endsWith("PRIVATE KEY")) {
                        throw new InvalidKeySpecException(
                                "the key is of the old form “" + found.group(1) + "”; write it as PKCS#8");
                    }
                }
            }
        }
        if (key.isEmpty() || certificates.isEmpty()) {
            throw new InvalidKeySpecException(
                    key.isEmpty() ? "there is no key in it" : "there is no certificate in it");
        }
        Certificate[] chain = CertificateFactory.getInstance("X.509")
                .generateCertificates(
                        new ByteArrayInputStream(certificates.toString().getBytes(StandardCharsets.US_ASCII)))
                .toArray(Certificate[]::new);
        KeyStore store = empty();
        store.setKeyEntry("client", key.get(), password.toCharArray(), chain);
        return store;
    }

    private static PKCS8EncodedKeySpec opened(byte[] bytes, String password)
            throws IOException, GeneralSecurityException {
        EncryptedPrivateKeyInfo info = new EncryptedPrivateKeyInfo(bytes);
        // of the newer schemes the parameters name the algorithm
        String algorithm = info.getAlgParameters() != null && info.getAlgName().equals("PBES2")
                ? info.getAlgParameters().toString()
                : info.getAlgName();
        Cipher cipher = Cipher.getInstance(algorithm);
        cipher.init(
                Cipher.DECRYPT_MODE,
                SecretKeyFactory.getInstance(algorithm).generateSecret(new PBEKeySpec(password.toCharArray())),
                info.getAlgParameters());
        return info.getKeySpec(cipher);
    }

    private static PrivateKey key(PKCS8EncodedKeySpec spec) throws GeneralSecurityException {
        for (String algorithm : ALGORITHMS) {
            try {
                return KeyFactory.getInstance(algorithm).generatePrivate(spec);
            } catch (InvalidKeySpecException another) {
                continue;
            }
        }
        throw new InvalidKeySpecException("its key is of none of the kinds " + String.join(", ", ALGORITHMS));
    }

    @Override
    public String toString() {
        return "client certificate of " + file;
    }
}
