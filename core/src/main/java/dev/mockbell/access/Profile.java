package dev.mockbell.access;

import dev.mockbell.choice.Choice;
import dev.mockbell.expression.Braces;
import dev.mockbell.file.Inside;
import dev.mockbell.problem.Problem;
import dev.mockbell.request.Filler;
import dev.mockbell.request.KeyFiles;
import dev.mockbell.request.SecurityText;
import dev.mockbell.security.AnswerSecurity;
import dev.mockbell.security.KeyName;
import dev.mockbell.security.Token;
import dev.mockbell.wire.ClientKey;
import dev.mockbell.wire.Connect;
import dev.mockbell.wire.Login;
import dev.mockbell.wire.Proxies;
import dev.mockbell.wire.ProxyLogin;
import dev.mockbell.wire.Trust;
import dev.mockbell.wire.jms.JmsAddress;
import java.net.URI;
import java.nio.file.InvalidPathException;
import java.nio.file.Path;
import java.security.cert.X509Certificate;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.function.UnaryOperator;

/**
 * How a protected endpoint is reached. Texts may hold expressions; what is secret belongs into a secret variable, so that it is
 * never in the project.
 *
 * @param own what the client proves itself, signs and decrypts with
 * @param via the proxy on the way
 * @param message what messages carry themselves
 */
public record Profile(String name, Who login, Trusted trusted, Own own, Via via, Protection message) {
    /** How it logs in over HTTP. */
    public enum Way implements Choice {
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

        @Override
        public String code() {
            return code;
        }

        @Override
        public String title() {
            return title;
        }
    }

    /**
     * Who calls.
     *
     * @param user for a way that has a name, and for a UsernameToken
     * @param secret the password or the token
     */
    public record Who(Way way, String user, String secret) {
        public static final Who NOBODY = new Who(Way.NONE, "", "");
    }

    /**
     * Which servers are trusted, beside those that this machine trusts.
     *
     * @param fingerprints SHA-256 of certificates that are trusted whatever else speaks against them
     * @param authorities files of the project with certificates that issue others
     */
    public record Trusted(List<String> fingerprints, List<String> authorities) {
        public static final Trusted USUAL = new Trusted(List.of(), List.of());

        public Trusted {
            fingerprints = List.copyOf(fingerprints);
            authorities = List.copyOf(authorities);
        }
    }

    /**
     * The client's own certificate with its key.
     *
     * @param file of the project, or anywhere when a secret names it; empty for none
     * @param password opens that file
     * @param anywhere whether the profile's files may be anywhere on this machine: only where the user names them in person,
     *     never where a project does
     */
    public record Own(String file, String password, boolean anywhere) {
        public static final Own NONE = new Own("", "");

        /** As a project has it. */
        public Own(String file, String password) {
            this(file, password, false);
        }
    }

    /**
     * A proxy.
     *
     * @param address {@code host:port} for one of HTTP, {@code socks://host:port}; empty for the one that is used anyway
     * @param user who logs in there; empty for nobody
     */
    public record Via(String address, String user, String secret) {
        public static final Via USUAL = new Via("", "", "");
    }

    /** One that does nothing yet. */
    public static Profile named(String name) {
        return new Profile(name, Who.NOBODY, Trusted.USUAL, Own.NONE, Via.USUAL, Protection.NONE);
    }

    /** The same under another name. */
    public Profile under(String other) {
        return new Profile(other, login, trusted, own, via, message);
    }

    public Profile with(Who other) {
        return new Profile(name, other, trusted, own, via, message);
    }

    public Profile with(Trusted other) {
        return new Profile(name, login, other, own, via, message);
    }

    public Profile with(Own other) {
        return new Profile(name, login, trusted, other, via, message);
    }

    public Profile with(Via other) {
        return new Profile(name, login, trusted, own, other, message);
    }

    public Profile with(Protection other) {
        return new Profile(name, login, trusted, own, via, other);
    }

    /** Trusting one more certificate. */
    public Profile trusting(String fingerprint) {
        List<String> more = new ArrayList<>(trusted.fingerprints);
        more.add(fingerprint);
        return with(new Trusted(more, trusted.authorities));
    }

    /** All that is written of what a call by it uses, expressions and all. */
    public List<String> written() {
        List<String> texts = new ArrayList<>();
        if (login.way != Way.NONE || message.token() != Token.NONE) {
            texts.add(login.user);
            texts.add(login.secret);
        }
        if (!own.file.isEmpty()) {
            texts.add(own.file);
            texts.add(own.password);
        }
        texts.add(via.address);
        if (!via.user.isEmpty()) {
            texts.add(via.user);
            texts.add(via.secret);
        }
        texts.addAll(trusted.authorities);
        texts.add(message.serviceCertificate());
        return texts;
    }

    /** What the message itself carries; a file is read once as long as this is kept. */
    public SecurityText message(Path project) {
        return new SecurityText(
                message.addressee(),
                message.token(),
                Braces.parse(login.user),
                Braces.parse(login.secret),
                message.life(),
                message.signature().name(),
                message.signature().headers(),
                message.encryption().name(),
                message.encryption().cipher(),
                Braces.parse(own.file),
                Braces.parse(own.password),
                Braces.parse(message.serviceCertificate()),
                files(project));
    }

    private KeyFiles files(Path project) {
        Inside inside = new Inside(project);
        return new KeyFiles(
                path -> own(path, inside, project),
                path -> own.anywhere ? Path.of(path) : inside.resolve(project, path));
    }

    /**
     * How answers from an address are judged and decrypted; empty when they are taken as they come.
     *
     * @throws Problem when an expression gives no value, or a file cannot be read
     */
    public Optional<AnswerSecurity> answers(Filler filler, URI address, Path project) {
        if (!message.checksAnswers()) {
            return Optional.empty();
        }
        Filler allowed = filler.forHost(JmsAddress.hostOf(address));
        UnaryOperator<String> fill = text -> allowed.fill(Braces.parse(text));
        KeyFiles files = files(project);
        List<X509Certificate> signers = new ArrayList<>();
        if (!message.serviceCertificate().isBlank()) {
            signers.addAll(files.certificates(fill.apply(message.serviceCertificate())));
        }
        trusted.authorities.forEach(a -> signers.addAll(files.certificates(fill.apply(a))));
        Optional<ClientKey.Opened> key = own.file.isBlank()
                ? Optional.empty()
                : Optional.of(files.key(fill.apply(own.file), fill.apply(own.password)));
        return Optional.of(new AnswerSecurity(key, signers, message.addressee().actor()));
    }

    /** Whether what the message means is protected against change, so that it cannot be put together from parts later. */
    public boolean signsOrEncrypts() {
        return message.signature().name() != KeyName.NONE
                || message.encryption().name() != KeyName.NONE;
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
        Optional<Proxies.Named> proxy = Optional.of(via.address)
                .filter(a -> !a.isBlank())
                .map(a -> Proxies.parsed(filler.forHost("").fill(Braces.parse(a))));
        Filler server = filler.forHost(JmsAddress.hostOf(address));
        // what is not over TLS is read by the proxy too
        boolean open = "http".equalsIgnoreCase(address.getScheme());
        Filler allowed =
                proxy.filter(p -> open).map(p -> server.forHost(p.host())).orElse(server);
        UnaryOperator<String> fill = text -> allowed.fill(Braces.parse(text));
        Inside inside = new Inside(project);
        List<Path> issuers = trusted.authorities.stream()
                .map(a -> inside.resolve(project, fill.apply(a)))
                .toList();
        Optional<ClientKey> client = own.file.isBlank()
                ? Optional.empty()
                : Optional.of(new ClientKey(own(fill.apply(own.file), inside, project), fill.apply(own.password)));
        Connect by = usual.with(new Trust(Set.copyOf(trusted.fingerprints), issuers, client))
                .withLogin(login(fill).or(usual::login));
        return proxy.map(p -> through(p, by, filler)).orElse(by);
    }

    /** The proxy may have the secrets that go to its host, whatever the server may have. */
    private Connect through(Proxies.Named proxy, Connect by, Filler filler) {
        Filler there = filler.forHost(proxy.host());
        Optional<ProxyLogin> who = via.user.isBlank()
                ? Optional.empty()
                : Optional.of(new ProxyLogin(there.fill(Braces.parse(via.user)), there.fill(Braces.parse(via.secret))));
        return by.through(proxy.forAll()).withProxyLogin(who);
    }

    /** A path that a secret gives is of this machine's user; any other is the project's and stays in it. */
    private Path own(String path, Inside inside, Path project) {
        boolean ofUser = own.anywhere || own.file.strip().matches("\\{\\$secret:[^{}]+}");
        if (!ofUser) {
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
        return switch (login.way) {
            case NONE -> Optional.empty();
            case WHEN_ASKED -> Optional.of(new Login.WhenAsked(fill.apply(login.user), fill.apply(login.secret)));
            case BASIC -> Optional.of(new Login.Basic(fill.apply(login.user), fill.apply(login.secret)));
            case BEARER -> Optional.of(new Login.Bearer(fill.apply(login.secret)));
        };
    }
}
