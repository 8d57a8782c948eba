package dev.mockbell.cli;

import dev.mockbell.access.Profile;
import dev.mockbell.access.Protection;
import dev.mockbell.expression.Braces;
import dev.mockbell.problem.Problem;
import dev.mockbell.security.Cipher;
import dev.mockbell.security.KeyName;
import dev.mockbell.security.MessageSecurity.Addressee;
import dev.mockbell.security.Token;
import dev.mockbell.wire.Login;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import picocli.CommandLine.Option;

/** The options that say what the message itself carries, by WS-Security, in place of what a profile says of it. */
final class Securing {
    @Option(
            names = "--username-token",
            paramLabel = "KIND",
            description = "Sends a UsernameToken of --user, its password as text or as a digest.")
    private String token;

    @Option(
            names = "--timestamp",
            paramLabel = "SECONDS",
            description = "Sends a timestamp by which the message holds that long.")
    private Integer life;

    @Option(
            names = "--sign",
            paramLabel = "KEY",
            description = "Signs body and timestamp by --client-certificate, which the signature names by token,"
                    + " thumbprint, issuerSerial or subjectKey.")
    private String signature;

    @Option(
            names = "--sign-header",
            paramLabel = "NAME",
            description = "Signs that header block too, or * for all; may be repeated.")
    private List<String> signedHeaders = List.of();

    @Option(
            names = "--encrypt",
            paramLabel = "KEY",
            description = "Encrypts the body for --service-certificate, named as with --sign.")
    private String encryption;

    @Option(
            names = "--cipher",
            paramLabel = "NAME",
            description = "What is encrypted with: aes256-gcm, aes128-gcm, aes256-cbc, aes128-cbc, tripledes-cbc.")
    private String cipher;

    @Option(
            names = "--service-certificate",
            paramLabel = "FILE",
            description = "The service's certificate, PEM or DER.")
    private Path serviceCertificate;

    @Option(
            names = "--check-answer",
            description = "The answer must be signed by the service's certificate; it is decrypted by the client's.")
    private boolean checksAnswer;

    @Option(names = "--actor", paramLabel = "URI", description = "Whom the security header is for (actor, role).")
    private String actor;

    /** A profile with what is asked for, beside what another one says; that one when nothing is asked for. */
    Optional<Profile> over(Optional<Profile> usual, Reading reading, Reaching reaching) {
        boolean asked = token != null
                || life != null
                || signature != null
                || encryption != null
                || checksAnswer
                || serviceCertificate != null;
        if (!asked) {
            return usual;
        }
        Profile made = usual.orElse(Profile.named("command line"));
        Protection message = new Protection(
                new Addressee(actor == null ? "" : actor, true),
                token == null ? Token.NONE : Delivering.one(Token.class, token, "--username-token"),
                life == null ? 0 : Math.max(0, life),
                new Protection.Signature(
                        signature == null ? KeyName.NONE : Delivering.one(KeyName.class, signature, "--sign"),
                        signedHeaders),
                new Protection.Encryption(
                        encryption == null ? KeyName.NONE : Delivering.one(KeyName.class, encryption, "--encrypt"),
                        cipher == null ? Cipher.AES256_GCM : Delivering.one(Cipher.class, cipher, "--cipher")),
                serviceCertificate == null ? "" : Braces.literally(absolute(serviceCertificate)),
                checksAnswer);
        Profile.Own own = reaching.client()
                .map(k -> new Profile.Own(Braces.literally(absolute(k.file())), Braces.literally(k.password()), true))
                .orElse(new Profile.Own("", "", true));
        return Optional.of(made.with(named(made.login(), reading)).with(own).with(message));
    }

    private Profile.Who named(Profile.Who usual, Reading reading) {
        if (token == null) {
            return usual;
        }
        Login.WhenAsked login = reading.login()
                .filter(Login.WhenAsked.class::isInstance)
                .map(Login.WhenAsked.class::cast)
                .orElseThrow(() -> Problem.input(
                        "A UsernameToken has a name and a password", null, "Give --user NAME and --password-env."));
        return new Profile.Who(usual.way(), Braces.literally(login.user()), Braces.literally(login.password()));
    }

    private static String absolute(Path file) {
        return file.toAbsolutePath().normalize().toString();
    }
}
