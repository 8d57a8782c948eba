package dev.mockbell.request;

import dev.mockbell.expression.Braces;
import dev.mockbell.security.MessageSecurity;
import dev.mockbell.security.MessageSecurity.KeyName;
import dev.mockbell.security.MessageSecurity.Token;
import dev.mockbell.wire.ClientKey;
import java.nio.file.Path;
import java.time.Duration;
import java.util.List;
import java.util.Optional;
import java.util.function.Function;
import java.util.function.UnaryOperator;

/**
 * What WS-Security adds to a request, as it is written, with expressions.
 *
 * @param life seconds that the message holds; 0 for no timestamp
 * @param signed how the signature names its key; NONE for no signature
 * @param keyFile what signs
 * @param locate where a file of that written name is; refuses what leads out of the project
 */
public record SecurityText(
        Token token,
        Braces user,
        Braces password,
        int life,
        KeyName signed,
        Braces keyFile,
        Braces keyPassword,
        Function<String, Path> locate) {
    /** Whether nothing is added. */
    boolean isNothing() {
        return token == Token.NONE && life <= 0 && signed == KeyName.NONE;
    }

    List<Braces> texts() {
        return List.of(user, password, keyFile, keyPassword);
    }

    SecurityText with(UnaryOperator<Braces> change) {
        return new SecurityText(
                token,
                change.apply(user),
                change.apply(password),
                life,
                signed,
                change.apply(keyFile),
                change.apply(keyPassword),
                locate);
    }

    MessageSecurity filled(Filler filler) {
        boolean named = token != Token.NONE;
        return new MessageSecurity(
                token,
                named ? filler.fill(user) : "",
                named ? filler.fill(password) : "",
                life > 0 ? Optional.of(Duration.ofSeconds(life)) : Optional.empty(),
                signed == KeyName.NONE
                        ? Optional.empty()
                        : Optional.of(new MessageSecurity.Signing(
                                new ClientKey(locate.apply(filler.fill(keyFile)), filler.fill(keyPassword)), signed)));
    }
}
