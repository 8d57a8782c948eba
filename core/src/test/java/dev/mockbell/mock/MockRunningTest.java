package dev.mockbell.mock;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.contract.Contracts;
import dev.mockbell.expression.Expressions;
import dev.mockbell.wire.Authority;
import dev.mockbell.wire.ClientKey;
import dev.mockbell.wire.EventLoops;
import dev.mockbell.wire.ServerTls;
import java.io.IOException;
import java.net.ConnectException;
import java.net.Socket;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpRequest.BodyPublishers;
import java.net.http.HttpResponse;
import java.net.http.HttpResponse.BodyHandlers;
import java.nio.charset.StandardCharsets;
import java.security.KeyStore;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.concurrent.TimeUnit;
import java.util.stream.IntStream;
import javax.net.ssl.KeyManagerFactory;
import javax.net.ssl.SSLContext;
import javax.net.ssl.SSLException;
import javax.net.ssl.TrustManagerFactory;
import org.assertj.core.api.Assertions;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;

/** How a mock comes to its end, and how it speaks TLS. */
@Timeout(60)
class MockRunningTest {
    private final MockUnderTest mock = new MockUnderTest();
    private final String two = MockUnderTest.book("NF-07", 2);

    @AfterEach
    void close() {
        mock.close();
    }

    private MockPlan plan(MockAnswer... answers) {
        return MockPlan.sampling("stay", 0).withAnswers("Book", List.of(answers));
    }

    @Test
    void itStopsAfterExactlySoManyAnswersHoweverManyAsk() throws Exception {
        mock.start(plan(MockAnswer.otherwise("a", "<a/>").withDelay(50)).with(Conduct.USUAL.stoppingAfter(7)), null);
        CountDownLatch over = new CountDownLatch(1);
        mock.host.onOver(over::countDown);
        long fine = IntStream.range(0, 40)
                .parallel()
                .filter(i -> {
                    try {
                        return mock.call(two).statusCode() == 200;
                    } catch (java.io.UncheckedIOException gone) {
                        return false;
                    }
                })
                .count();
        assertThat(fine).isEqualTo(7);
        assertThat(over.await(60, TimeUnit.SECONDS)).isTrue();
        Assertions.assertThatThrownBy(mock::connected).isInstanceOf(ConnectException.class);
    }

    @Test
    void whatIsUnderWayIsAnsweredBeforeItEnds() throws Exception {
        mock.start(plan(MockAnswer.otherwise("slow", "<a/>").withDelay(600)), null);
        ExecutorService client = Executors.newSingleThreadExecutor();
        try (Socket idle = mock.connected()) {
            Future<HttpResponse<String>> answer = client.submit(() -> mock.call(two));
            while (mock.host.hits("Book") == 0) {
                Thread.sleep(5);
            }
            mock.host.finish(Duration.ofSeconds(10));
            assertThat(answer.get().statusCode()).isEqualTo(200);
            assertThat(idle.getInputStream().read())
                    .as("an idle connection is closed")
                    .isEqualTo(-1);
        } finally {
            client.shutdown();
        }
        Assertions.assertThatThrownBy(mock::connected).isInstanceOf(ConnectException.class);
    }

    @Test
    void theEndDoesNotWaitLongerThanItMay() throws Exception {
        mock.start(plan(MockAnswer.otherwise("slow", "<a/>").withDelay(30_000)), null);
        try (Socket socket = mock.connected()) {
            socket.getOutputStream().write(mock.request(two));
            while (mock.host.hits("Book") == 0) {
                Thread.sleep(5);
            }
            long began = System.nanoTime();
            mock.host.finish(Duration.ofMillis(300));
            assertThat(Duration.ofNanos(System.nanoTime() - began)).isLessThan(Duration.ofSeconds(10));
        }
    }

    @Test
    void editsWhileItRunsLoseNoRequestAndHalveNoAnswer() throws Exception {
        mock.start(plan(MockAnswer.otherwise("v0", "<v>0</v>")), null);
        ExecutorService clients = Executors.newFixedThreadPool(4);
        try {
            List<Future<Integer>> all = IntStream.range(0, 4)
                    .mapToObj(c -> clients.submit(() -> {
                        int fine = 0;
                        for (int i = 0; i < 100; i++) {
                            HttpResponse<String> answer = mock.call(two);
                            fine += answer.statusCode() == 200
                                            && answer.body().matches("(?s).*<v>\\d+</v>.*Envelope>\\s*")
                                    ? 1
                                    : 0;
                        }
                        return fine;
                    }))
                    .toList();
            for (int v = 1; v < 60; v++) {
                mock.host.replace(plan(MockAnswer.otherwise("v" + v, "<v>" + v + "</v>")));
                Thread.sleep(5);
            }
            for (Future<Integer> one : all) {
                assertThat(one.get()).isEqualTo(100);
            }
        } finally {
            clients.shutdown();
        }
        assertThat(mock.host.answered()).isEqualTo(400);
    }

    private MockHost tls(Authority authority, MockTls tls, EventLoops loops) {
        MockSurroundings around = MockSurroundings.alone(loops, new Expressions(), null, e -> {})
                .with(new MockSurroundings.Keys() {
                    @Override
                    public ServerTls tls(MockTls asked, String host) {
                        return ServerTls.of(
                                authority.issue(host, Instant.now()),
                                asked.asksClients() ? List.of(authority.certificate()) : List.of());
                    }

                    @Override
                    public String secret(String written) {
                        return written;
                    }
                });
        return MockHost.start(
                Contracts.stay(), plan(MockAnswer.otherwise("a", "<a/>")).with(Conduct.USUAL.with(tls)), around);
    }

    private static HttpClient client(Authority authority, ClientKey.Opened own) throws Exception {
        KeyStore trusted = KeyStore.getInstance("PKCS12");
        trusted.load(null, null);
        trusted.setCertificateEntry("authority", authority.certificate());
        TrustManagerFactory trust = TrustManagerFactory.getInstance(TrustManagerFactory.getDefaultAlgorithm());
        trust.init(trusted);
        KeyManagerFactory keys = KeyManagerFactory.getInstance(KeyManagerFactory.getDefaultAlgorithm());
        if (own != null) {
            keys.init(own.store(), own.password().toCharArray());
        }
        SSLContext context = SSLContext.getInstance("TLS");
        context.init(own == null ? null : keys.getKeyManagers(), trust.getTrustManagers(), null);
        return HttpClient.newBuilder().sslContext(context).build();
    }

    private HttpResponse<String> post(HttpClient client, MockHost host) throws Exception {
        HttpRequest request = HttpRequest.newBuilder(URI.create(host.addresses().get("StaySoap11")))
                .header("Content-Type", "text/xml")
                .POST(BodyPublishers.ofString(
                        dev.mockbell.soap.Envelope.around(dev.mockbell.soap.SoapVersion.V11, two, List.of())))
                .build();
        return client.send(request, BodyHandlers.ofString());
    }

    @Test
    void aClientThatTrustsTheAuthorityCallsItByTls() throws Exception {
        Authority authority = Authority.made("Northfell", Instant.now());
        try (EventLoops loops = new EventLoops("tls", 1);
                MockHost host = tls(authority, MockTls.MADE, loops)) {
            assertThat(host.base()).startsWith("https://127.0.0.1:");
            HttpClient client = client(authority, null);
            assertThat(post(client, host).statusCode()).isEqualTo(200);
            String wsdl = client.send(
                            HttpRequest.newBuilder(URI.create(host.wsdl())).build(), BodyHandlers.ofString())
                    .body();
            assertThat(wsdl).contains("location=\"" + host.addresses().get("StaySoap11") + "\"");
            HttpClient stranger = client(Authority.made("Other", Instant.now()), null);
            Assertions.assertThatThrownBy(() -> post(stranger, host)).isInstanceOf(SSLException.class);
            try (Socket plain = new Socket("127.0.0.1", host.port())) {
                plain.setSoTimeout(10_000);
                plain.getOutputStream().write(mock.request(two));
                assertThat(plain.getInputStream().readAllBytes().length)
                        .as("nothing is answered in the open")
                        .isLessThan(16);
            }
        }
    }

    @Test
    void aClientWithoutACertificateIsTurnedAwayWhereOneIsAsked() throws Exception {
        Authority authority = Authority.made("Northfell", Instant.now());
        try (EventLoops loops = new EventLoops("tls", 1);
                MockHost host = tls(authority, new MockTls(true, "", "", true, ""), loops)) {
            HttpClient known = client(authority, authority.issue("guide", Instant.now()));
            assertThat(post(known, host).statusCode()).isEqualTo(200);
            HttpClient nobody = client(authority, null);
            Assertions.assertThatThrownBy(() -> post(nobody, host)).isInstanceOf(IOException.class);
        }
    }

    @Test
    void anAuthorityIsTheSameWhenItIsReadAgain(@org.junit.jupiter.api.io.TempDir java.nio.file.Path folder)
            throws Exception {
        Authority made = Authority.made("Northfell / Huts, “A”", Instant.now());
        java.nio.file.Path file = folder.resolve("a.pem");
        java.nio.file.Files.writeString(file, made.written(), StandardCharsets.US_ASCII);
        Authority read = Authority.read(file);
        assertThat(read.certificate()).isEqualTo(made.certificate());
        assertThat(read.pem()).isEqualTo(made.pem()).doesNotContain("PRIVATE");
        assertThat(read.isValid(Instant.now())).isTrue();
        assertThat(read.isValid(Instant.now().plus(Duration.ofDays(3_500)))).isFalse();
    }
}
