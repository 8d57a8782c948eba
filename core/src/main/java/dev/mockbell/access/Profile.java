package dev.mockbell.access;

import dev.mockbell.expression.Braces;
import dev.mockbell.file.Inside;
import dev.mockbell.problem.Problem;
import dev.mockbell.request.Filler;
import dev.mockbell.request.SecurityText;
import dev.mockbell.security.MessageSecurity.KeyName;
import dev.mockbell.security.MessageSecurity.Token;
import dev.mockbell.wire.ClientKey;
import dev.mockbell.wire.Connect;
import dev.mockbell.wire.Login;
import dev.mockbell.wire.Trust;
import java.net.URI;
import java.nio.file.InvalidPathException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.function.UnaryOperator;

/**
 * How a protected endpoint is reached. Texts may hold expressions; what is secret belongs into a secret variable, so that it is
 * never in the project.
 *
 * @param user who logs in; for a way that has a name
 * @param secret the password or the token
 * @param fingerprints SHA-256 of certificates that are trusted whatever else speaks against them
 * @param authorities files of the project with certificates that issue others
 * @param clientCertificate file with what the client proves itself with: of the project, or anywhere when a secret names it;
 *     empty for none
 * @param clientPassword opens that file
 * @param token whether a UsernameToken goes with the message, with {@code user} and {@code secret}
 * @param life seconds that the message holds by its timestamp; 0 for no timestamp
 * @param signed how a signature by the client's certificate names its key; NONE for no signature
 */
public record Profile(
        String name,
        Way way,
        String user,
        String secret,
        List<String> fingerprints,
        List<String> authorities,
        String clientCertificate,
        String clientPassword,
        Token token,
        int life,
        KeyName signed) {
    /** How it logs in over HTTP. */
    public enum Way {
        NONE("none", "Nobody logs in"),
        /** By Digest or Basic, as the server asks. */
        WHEN_ASKED("whenAsked", "When asked, by Digest or Basic"),
        /** By Basic, without being asked. */
        BASIC("basic", "At once, by Basic"),
        BEARER("bearer", "By a bearer token");

        private final String code;
        private final String title;

        Way(String code, String title) {
            this.code = code;
            this.title = title;
        }

        /** As in files. */
        public String code() {
            return code;
        }

        /** For people. */
        public String title() {
            return title;
        }

        /** The way of that code. */
        public static Way of(String code) {
            for (Way way : values()) {
                if (way.code.equals(code)) {
                    return way;
                }
            }
            return NONE;
        }
    }

    public Profile {
        fingerprints = List.copyOf(fingerprints);
        authorities = List.copyOf(authorities);
    }

    /** The same under another name. */
    public Profile under(String other) {
        return new Profile(
                other,
                way,
                user,
                secret,
                fingerprints,
                authorities,
                clientCertificate,
                clientPassword,
                token,
                life,
                signed);
    }

    /** One that does nothing yet. */
    public static Profile named(String name) {
        return new Profile(name, Way.NONE, "", "", List.of(), List.of(), "", "", Token.NONE, 0, KeyName.NONE);
    }

    /** With another way to log in. */
    public Profile with(Way other, String newUser, String newSecret) {
        return new Profile(
                name,
                other,
                newUser,
                newSecret,
                fingerprints,
                authorities,
                clientCertificate,
                clientPassword,
                token,
                life,
                signed);
    }

    /** Trusting one more certificate. */
    public Profile trusting(String fingerprint) {
        List<String> more = new ArrayList<>(fingerprints);
        more.add(fingerprint);
        return withTrust(more, authorities);
    }

    /** Trusting others. */
    public Profile withTrust(List<String> newFingerprints, List<String> newAuthorities) {
        return new Profile(
                name,
                way,
                user,
                secret,
                newFingerprints,
                newAuthorities,
                clientCertificate,
                clientPassword,
                token,
                life,
                signed);
    }

    /** With another client's certificate. */
    public Profile withClient(String file, String password) {
        return new Profile(name, way, user, secret, fingerprints, authorities, file, password, token, life, signed);
    }

    /** With other things that the message itself carries. */
    public Profile carrying(Token newToken, int newLife, KeyName newSigned) {
        return new Profile(
                name,
                way,
                user,
                secret,
                fingerprints,
                authorities,
                clientCertificate,
                clientPassword,
                newToken,
                newLife,
                newSigned);
    }

    /** What the message itself carries. */
    public SecurityText message(Path project) {
        return new SecurityText(
                token,
                Braces.parse(user),
                Braces.parse(secret),
                life,
                signed,
                Braces.parse(clientCertificate),
                Braces.parse(clientPassword),
                path -> client(path, new Inside(project), project));
    }

    /**
     * How an address is reached by this profile.
     *
     * @param usual what the profile says nothing of
     * @param filler gives values; secrets go to no host that may not have them
     * @param project the folder that its files are in
     * @throws Problem when an expression gives no value, a secret may not go there or a file leads out of the project
     */
    public Connect on(Connect usual, Filler filler, URI address, Path project) {
        Filler allowed = filler.forHost(address.getHost());
        UnaryOperator<String> fill = text -> allowed.fill(Braces.parse(text));
        Inside inside = new Inside(project);
        List<Path> issuers = authorities.stream()
                .map(a -> inside.resolve(project, fill.apply(a)))
                .toList();
        Optional<ClientKey> client = clientCertificate.isBlank()
                ? Optional.empty()
                : Optional.of(new ClientKey(
                        client(fill.apply(clientCertificate), inside, project), fill.apply(clientPassword)));
        return usual.with(new Trust(Set.copyOf(fingerprints), issuers, client))
                .withLogin(login(fill).or(usual::login));
    }

    /** A path that a secret gives is of this machine's user; any other is the project's and stays in it. */
    private Path client(String path, Inside inside, Path project) {
        boolean own = clientCertificate.strip().matches("\\{\\$secret:[^{}]+}");
        if (!own) {
            return inside.resolve(project, path);
        }
        try {
            return Path.of(path);
        } catch (InvalidPathException e) {
            throw Problem.of(
                    Problem.Kind.INPUT,
                    "The secret that names the client's certificate is no path: " + e.getReason(),
                    null,
                    "Give the path of its file.",
                    e);
        }
    }

    private Optional<Login> login(UnaryOperator<String> fill) {
        return switch (way) {
            case NONE -> Optional.empty();
            case WHEN_ASKED -> Optional.of(new Login.WhenAsked(fill.apply(user), fill.apply(secret)));
            case BASIC -> Optional.of(new Login.Basic(fill.apply(user), fill.apply(secret)));
            case BEARER -> Optional.of(new Login.Bearer(fill.apply(secret)));
        };
    }
}
