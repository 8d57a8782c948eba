package dev.mockbell.tap;

import dev.mockbell.contract.Contracts;
import dev.mockbell.exchange.Exchange;
import dev.mockbell.expression.Expressions;
import dev.mockbell.message.OperationFinder;
import dev.mockbell.wire.Authority;
import dev.mockbell.wire.EventLoops;
import dev.mockbell.wire.ServerTls;
import java.io.IOException;
import java.net.Socket;
import java.net.URI;
import java.nio.charset.StandardCharsets;
import java.security.KeyStore;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.concurrent.CopyOnWriteArrayList;
import javax.net.ssl.SSLContext;
import javax.net.ssl.TrustManagerFactory;

/** A relay that records into a list, with an authority of its own that services and clients may trust. */
final class TapUnderTest implements AutoCloseable {
    final Authority authority = Authority.made("Northfell tests", Instant.now());
    final List<Exchange> recorded = new CopyOnWriteArrayList<>();
    final List<String> troubles = new CopyOnWriteArrayList<>();
    private final EventLoops loops = new EventLoops("tap-test", 1);
    TapHost host;

    TapUnderTest to(String target) {
        return start(TapPlan.to(URI.create(target), 0));
    }

    TapUnderTest start(TapPlan plan) {
        TapSurroundings around = new TapSurroundings(
                loops,
                made -> recorded.add(made.get()),
                name -> ServerTls.of(authority.issue(name, Instant.now()), List.of()),
                this::trusting,
                new Expressions(),
                new OperationFinder(Map.of("stay", Contracts.stay())));
        host = TapHost.start(plan, around, troubles::add);
        return this;
    }

    /** Trusts the test's authority alone. */
    SSLContext trusting() {
        try {
            KeyStore store = KeyStore.getInstance(KeyStore.getDefaultType());
            store.load(null, null);
            store.setCertificateEntry("tests", authority.certificate());
            TrustManagerFactory factory = TrustManagerFactory.getInstance(TrustManagerFactory.getDefaultAlgorithm());
            factory.init(store);
            SSLContext context = SSLContext.getInstance("TLS");
            context.init(null, factory.getTrustManagers(), null);
            return context;
        } catch (Exception e) {
            throw new IllegalStateException(e);
        }
    }

    Socket connected() throws IOException {
        Socket socket = new Socket("127.0.0.1", host.port());
        socket.setSoTimeout(10_000);
        return socket;
    }

    /** Everything that comes back for what is sent, until so many bytes or the end. */
    String said(String sent, int most) throws IOException {
        try (Socket socket = connected()) {
            RawServer.write(socket, sent);
            return new String(socket.getInputStream().readNBytes(most), StandardCharsets.ISO_8859_1);
        }
    }

    /** Waits for so many exchanges. */
    List<Exchange> exchanges(int count) throws InterruptedException {
        for (int i = 0; i < 200 && recorded.size() < count; i++) {
            Thread.sleep(25);
        }
        return recorded;
    }

    @Override
    public void close() {
        if (host != null) {
            host.close();
        }
        loops.close();
    }
}
