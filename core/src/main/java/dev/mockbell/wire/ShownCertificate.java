package dev.mockbell.wire;

import dev.mockbell.problem.Problem;
import dev.mockbell.task.StopSignal;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.net.InetSocketAddress;
import java.net.Proxy;
import java.net.Socket;
import java.net.URI;
import java.security.cert.X509Certificate;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import javax.net.ssl.SSLParameters;
import javax.net.ssl.SSLSocket;

/**
 * The certificate that a server shows when TLS with it begins, before anything of a message is sent.
 *
 * @param subject whom it is for
 * @param names of hosts, between commas; empty for none
 * @param issuer who says so; {@code itself} where nobody else does
 * @param validFrom a day, in words
 * @param validUntil a day, in words
 * @param fingerprint its SHA-256, in pairs of digits between colons
 * @param issuers the other certificates that came with it, each in a line, from the one that issued it upwards
 * @param flaw why it is not trusted; empty when it is
 */
public record ShownCertificate(
        String subject,
        String names,
        String issuer,
        String validFrom,
        String validUntil,
        String fingerprint,
        List<String> issuers,
        Optional<String> flaw) {
    /**
     * Asks a server for it.
     *
     * @param by whom is trusted, through which proxy, how long to wait
     * @throws Problem when the server shows none, or when stopped
     */
    public static ShownCertificate ask(URI address, Connect by, StopSignal stop) {
        int port = address.getPort() < 0 ? 443 : address.getPort();
        Proxy proxy = by.proxy(address).orElse(Proxy.NO_PROXY);
        int wait = Math.toIntExact(
                Math.min(Integer.MAX_VALUE, by.timeouts().connect().toMillis()));
        try (Socket plain = new Socket(proxy)) {
            stop.onStop(() -> close(plain));
            boolean straight = proxy.type() == Proxy.Type.DIRECT;
            plain.connect(
                    straight
                            ? new InetSocketAddress(address.getHost(), port)
                            : InetSocketAddress.createUnresolved(address.getHost(), port),
                    wait);
            plain.setSoTimeout(wait);
            try (SSLSocket socket =
                    (SSLSocket) by.tls().getSocketFactory().createSocket(plain, address.getHost(), port, true)) {
                SSLParameters named = socket.getSSLParameters();
                named.setEndpointIdentificationAlgorithm("HTTPS");
                socket.setSSLParameters(named);
                socket.startHandshake();
                X509Certificate[] shown = Arrays.stream(socket.getSession().getPeerCertificates())
                        .map(X509Certificate.class::cast)
                        .toArray(X509Certificate[]::new);
                return new Untrusted(shown, null).shown(Optional.empty());
            }
        } catch (IOException e) {
            stop.check();
            Untrusted untrusted = Untrusted.in(e)
                    .orElseThrow(() -> Problem.of(
                            Problem.Kind.NO_ANSWER,
                            address.getHost() + ":" + port + " shows no certificate: " + Problem.reason(e),
                            address.toString(),
                            "Check the address and that the service is up.",
                            e));
            return untrusted.shown(Optional.of(untrusted.reason()));
        }
    }

    private static void close(Socket socket) {
        try {
            socket.close();
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }
}
