package dev.mockbell.cli;

import dev.mockbell.content.Header;
import dev.mockbell.problem.Problem;
import dev.mockbell.wire.ClientKey;
import dev.mockbell.wire.Connect;
import dev.mockbell.wire.ProxyLogin;
import dev.mockbell.wire.Trust;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import picocli.CommandLine.Option;

/** The options that say how an endpoint is reached. */
final class Reaching {
    @Option(
            names = "--connect-timeout",
            paramLabel = "SECONDS",
            description = "How long to wait for the connection (30).")
    private Double connectTimeout;

    @Option(
            names = "--answer-timeout",
            paramLabel = "SECONDS",
            description = "How long to wait for the first byte of the answer, and for each that follows (60).")
    private Double answerTimeout;

    @Option(
            names = "--header",
            paramLabel = "NAME=VALUE",
            description = "Sends an HTTP header, in place of one of its name; may be repeated.")
    private List<String> headers = List.of();

    @Option(
            names = "--trust",
            paramLabel = "FINGERPRINT",
            description = "Trusts the server's certificate with this SHA-256, whatever else speaks against it.")
    private Set<String> fingerprints = Set.of();

    @Option(
            names = "--authority",
            paramLabel = "FILE",
            description = "Trusts certificates that one of this file has issued; PEM or DER; may be repeated.")
    private List<Path> authorities = List.of();

    @Option(
            names = "--client-certificate",
            paramLabel = "FILE",
            description = "What the client proves itself with: PKCS#12, JKS or PEM with certificate and key.")
    private Path clientCertificate;

    @Option(
            names = "--client-password-env",
            paramLabel = "VARIABLE",
            description = "The environment variable with the password of that file.")
    private String clientPassword;

    @Option(names = "--proxy-user", paramLabel = "NAME", description = "Who logs in at the proxy.")
    private String proxyUser;

    @Option(
            names = "--proxy-password-env",
            paramLabel = "VARIABLE",
            description = "The environment variable with the password there.")
    private String proxyPassword;

    /** The HTTP headers that were asked for. */
    List<Header> headers() {
        List<Header> found = new ArrayList<>();
        for (String header : headers) {
            int equals = header.indexOf('=');
            if (equals < 1) {
                throw Problem.input("“" + header + "” is no header", null, "Write --header NAME=VALUE.");
            }
            found.add(new Header(header.substring(0, equals).strip(), header.substring(equals + 1)));
        }
        return found;
    }

    /** The client's own certificate. */
    Optional<ClientKey> client() {
        return Optional.ofNullable(clientCertificate)
                .map(f -> new ClientKey(f, clientPassword == null ? "" : Reading.variable(clientPassword)));
    }

    /** A usual way with what the options say of it. */
    Connect by(Connect usual, Reading reading) {
        Connect.Timeouts times = usual.timeouts();
        Duration connect = seconds(connectTimeout).orElse(times.connect());
        // who says how long to wait means silence too
        Duration answer = seconds(answerTimeout).or(reading::timeout).orElse(times.answer());
        Trust given = new Trust(fingerprints, authorities, client());
        return usual.with(given.isUsual() ? usual.trust() : given.and(usual.trust()))
                .with(new Connect.Timeouts(connect, answer, times.whole()))
                .withLogin(reading.login().or(usual::login))
                .withProxyLogin(proxyLogin().or(usual::proxyLogin));
    }

    private static Optional<Duration> seconds(Double given) {
        return Optional.ofNullable(given).map(s -> Duration.ofMillis(Math.max(1, Math.round(s * 1_000))));
    }

    private Optional<ProxyLogin> proxyLogin() {
        return Optional.ofNullable(proxyUser)
                .map(u -> new ProxyLogin(u, proxyPassword == null ? "" : Reading.variable(proxyPassword)));
    }
}
