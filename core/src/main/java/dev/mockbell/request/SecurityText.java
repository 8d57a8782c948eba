package dev.mockbell.request;

import dev.mockbell.expression.Braces;
import dev.mockbell.problem.Problem;
import dev.mockbell.security.Cipher;
import dev.mockbell.security.KeyName;
import dev.mockbell.security.MessageSecurity;
import dev.mockbell.security.MessageSecurity.Addressee;
import dev.mockbell.security.Token;
import java.time.Duration;
import java.util.List;
import java.util.Optional;
import java.util.function.UnaryOperator;

/**
 * What WS-Security adds to a request, as it is written, with expressions.
 *
 * @param life seconds that the message holds; 0 for no timestamp
 * @param signed how the signature names its key; NONE for no signature
 * @param signedHeaders names of header blocks that it covers, or {@code *}
 * @param encrypted how the encryption names its key; NONE for no encryption
 * @param keyFile what signs
 * @param serviceFile the certificate that is encrypted for
 */
public record SecurityText(
        Addressee addressee,
        Token token,
        Braces user,
        Braces password,
        int life,
        KeyName signed,
        List<String> signedHeaders,
        KeyName encrypted,
        Cipher cipher,
        Braces keyFile,
        Braces keyPassword,
        Braces serviceFile,
        KeyFiles files) {
    /** Whether nothing is added. */
    boolean isNothing() {
        return token == Token.NONE && life <= 0 && signed == KeyName.NONE && encrypted == KeyName.NONE;
    }

    List<Braces> texts() {
        return List.of(user, password, keyFile, keyPassword, serviceFile);
    }

    SecurityText with(UnaryOperator<Braces> change) {
        return new SecurityText(
                addressee,
                token,
                change.apply(user),
                change.apply(password),
                life,
                signed,
                signedHeaders,
                encrypted,
                cipher,
                change.apply(keyFile),
                change.apply(keyPassword),
                change.apply(serviceFile),
                files);
    }

    MessageSecurity filled(Filler filler) {
        boolean named = token != Token.NONE;
        return new MessageSecurity(
                addressee,
                token,
                named ? filler.fill(user) : "",
                named ? filler.fill(password) : "",
                life > 0 ? Optional.of(Duration.ofSeconds(life)) : Optional.empty(),
                signed == KeyName.NONE ? Optional.empty() : Optional.of(signing(filler)),
                encrypted == KeyName.NONE ? Optional.empty() : Optional.of(encrypting(filler)));
    }

    private MessageSecurity.Signing signing(Filler filler) {
        String file = filler.fill(keyFile);
        if (file.isBlank()) {
            throw Problem.input(
                    "The profile signs, and has no certificate of its own to sign with",
                    null,
                    "Give its file in the security profile.");
        }
        return new MessageSecurity.Signing(files.key(file, filler.fill(keyPassword)), signed, signedHeaders);
    }

    private MessageSecurity.Encrypting encrypting(Filler filler) {
        String file = filler.fill(serviceFile);
        if (file.isBlank()) {
            throw Problem.input(
                    "The profile encrypts, and has no certificate of the service to encrypt for",
                    null,
                    "Give its file in the security profile.");
        }
        return new MessageSecurity.Encrypting(files.certificates(file).get(0), encrypted, cipher);
    }
}
