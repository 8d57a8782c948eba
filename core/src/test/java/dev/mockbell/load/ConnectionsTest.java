package dev.mockbell.load;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.access.Profile;
import dev.mockbell.expression.Expressions;
import dev.mockbell.suite.Case;
import dev.mockbell.suite.Stays;
import dev.mockbell.suite.Workbench;
import dev.mockbell.task.StopSignal;
import dev.mockbell.wire.Connect;
import dev.mockbell.wire.EventLoops;
import dev.mockbell.wire.PlainServer;
import dev.mockbell.wire.SelfIssued;
import dev.mockbell.wire.Trust;
import dev.mockbell.wire.jms.ProviderJars;
import java.io.IOException;
import java.net.InetAddress;
import java.net.ServerSocket;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.atomic.AtomicInteger;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;

/** Servers that treat connections in their own ways; none of them may cost an arrival. */
class ConnectionsTest {
    private final EventLoops loops = new EventLoops("test", 2);
    private final Case kept = Stays.book("c", Stays.BODY, List.of());

    @AfterEach
    void close() {
        loops.close();
    }

    private LoadRun run(PlainServer server) {
        return run(server, LoadShape.arrivals(40, 1));
    }

    private LoadRun run(PlainServer server, LoadShape shape) {
        return run(shape, 3_000, Stays.bench(server.address(), Map.of(), kept));
    }

    private LoadRun run(LoadShape shape, long timeoutMillis, Workbench bench) {
        LoadPlan plan = LoadPlan.of("p", "P", "s", shape)
                .with(Conduct.USUAL.withTimeout(timeoutMillis))
                .with(Pauses.uniform(10, 10));
        return new LoadEngine(loops, new Expressions(), Connect.USUAL, ProviderJars.NONE, false)
                .run(plan, bench, host -> true, LoadListener.NONE, new LoadControl(new StopSignal()));
    }

    private static byte[] bytes(String text) {
        return text.getBytes(StandardCharsets.UTF_8);
    }

    @Test
    void aServerThatClosesAfterEachAnswerIsServedByNewConnections() {
        try (PlainServer server = PlainServer.that((request, out, socket) -> {
            out.write(bytes(PlainServer.ok(Stays.answer("R", "1"))
                    .replace("\r\nContent-Type", "\r\nConnection: close\r\nContent-Type")));
            out.flush();
            socket.close();
        })) {
            LoadRun run = run(server);
            assertThat(run.total().failed()).as(run.reasons().toString()).isZero();
            assertThat(run.total().done()).isEqualTo(40);
        }
    }

    @Test
    void anAnswerInChunksCounts() {
        String body = Stays.answer("R", "1");
        String chunked = "HTTP/1.1 200 OK\r\nTransfer-Encoding: chunked\r\n\r\n" + Integer.toHexString(body.length())
                + "\r\n" + body + "\r\n0\r\n\r\n";
        try (PlainServer server = PlainServer.says(chunked)) {
            assertThat(run(server).total().failed()).isZero();
        }
    }

    @Test
    void anAnswerToTheEndOfTheConnectionCounts() {
        try (PlainServer server = PlainServer.that((request, out, socket) -> {
            out.write(bytes("HTTP/1.0 200 OK\r\nContent-Type: text/xml\r\n\r\n" + Stays.answer("R", "1")));
            out.flush();
            socket.close();
        })) {
            LoadRun run = run(server);
            assertThat(run.total().failed()).as(run.reasons().toString()).isZero();
        }
    }

    @Test
    void everyOtherConnectionThatBreaksIsOneFailure() {
        AtomicInteger number = new AtomicInteger();
        try (PlainServer server = PlainServer.that((request, out, socket) -> {
            if (number.incrementAndGet() % 2 == 0) {
                socket.close();
            } else {
                out.write(bytes(PlainServer.ok(Stays.answer("R", "1"))));
            }
        })) {
            LoadRun run = run(server);
            assertThat(run.total().done()).isEqualTo(40);
            assertThat(run.total().failed()).isEqualTo(20);
            assertThat(run.reasons()).containsOnlyKeys("connection closed");
        }
    }

    @Test
    void whatIsNoHttpIsAFailureWithThatReason() {
        try (PlainServer server = PlainServer.says("220 mail ready\r\n\r\n")) {
            assertThat(run(server).reasons().keySet())
                    .allMatch(r -> r.startsWith("not HTTP") || r.equals("connection closed"));
        }
    }

    @Test
    void connectionsAreUsedAgain() {
        AtomicInteger connections = new AtomicInteger();
        java.util.Set<Object> sockets = java.util.concurrent.ConcurrentHashMap.newKeySet();
        try (PlainServer server = PlainServer.that((request, out, socket) -> {
            if (sockets.add(socket)) {
                connections.incrementAndGet();
            }
            out.write(bytes(PlainServer.ok(Stays.answer("R", "1"))));
        })) {
            // who asks again only once he is answered needs no more than one, however slow the machine
            LoadRun run = run(server, LoadShape.users(2, 1));
            assertThat(run.total().done()).isGreaterThan(5);
            assertThat(connections).hasValueLessThan(5);
        }
    }

    /** Else each of a crowd waits for an agreement of its own, which they make slow for each other. */
    @Test
    void whoWaitsForTlsTakesTheConnectionThatAnotherIsThroughWith() throws Exception {
        SelfIssued key = SelfIssued.made();
        Profile trusting = Profile.named("Own").trusting(Trust.fingerprint(key.certificate()));
        try (PlainServer server =
                PlainServer.hesitant(key.server(), Duration.ofSeconds(6), true, (request, out, socket) -> {
                    // longer than from one to the next
                    Thread.sleep(50);
                    out.write(bytes(PlainServer.ok(Stays.answer("R", "1"))));
                })) {
            LoadRun run = run(
                    LoadShape.arrivals(30, 1),
                    9_000,
                    Stays.bench(server.address(), Map.of(), Optional.of(trusting), kept));
            assertThat(run.total().failed()).as(run.reasons().toString()).isZero();
            assertThat(run.total().done()).isEqualTo(30);
            assertThat(run.total().max()).isLessThan(5_500);
            Spent waited = run.spent().stream()
                    .filter(s -> s.stage() == Spent.Stage.WAITED)
                    .findFirst()
                    .orElseThrow();
            assertThat(waited.count()).isPositive();
        }
    }

    /** They were opened for others, who are served by now. */
    @Test
    void connectionsThatCannotBeOpenedCostNobodyWhoCameLater() throws Exception {
        AtomicInteger served = new AtomicInteger();
        SelfIssued key = SelfIssued.made();
        Profile trusting = Profile.named("Own").trusting(Trust.fingerprint(key.certificate()));
        try (PlainServer server =
                PlainServer.hesitant(key.server(), Duration.ofMillis(4_100), false, (request, out, socket) -> {
                    // once a second some wait, and each of them not for long, by far: a slow machine adds to that
                    Thread.sleep(served.incrementAndGet() % 10 == 0 ? 300 : 5);
                    out.write(bytes(PlainServer.ok(Stays.answer("R", "1"))));
                })) {
            LoadRun run = run(
                    LoadShape.arrivals(10, 7),
                    9_000,
                    Stays.bench(server.address(), Map.of(), Optional.of(trusting), kept));
            assertThat(run.total().failed()).as(run.reasons().toString()).isZero();
            assertThat(run.total().done()).isEqualTo(70);
        }
    }

    @Test
    void whoIsLeftAloneBeforeTlsIsAgreedUponIsToldSo() throws Exception {
        SelfIssued key = SelfIssued.made();
        Profile trusting = Profile.named("Own").trusting(Trust.fingerprint(key.certificate()));
        try (ServerSocket closing = new ServerSocket(0, 50, InetAddress.getLoopbackAddress())) {
            Thread accepting = new Thread(() -> {
                try {
                    while (true) {
                        closing.accept().close();
                    }
                } catch (IOException over) {
                    return;
                }
            });
            accepting.setDaemon(true);
            accepting.start();
            String where = "127.0.0.1:" + closing.getLocalPort();
            LoadRun run = run(
                    LoadShape.arrivals(20, 1),
                    3_000,
                    Stays.bench("https://" + where + "/", Map.of(), Optional.of(trusting), kept));
            assertThat(run.total().failed()).isEqualTo(20);
            assertThat(run.reasons().keySet())
                    .allMatch(r -> r.equals(where + " ended the connection before it was ready")
                            || r.contains("Connection reset"));
        }
    }

    @Test
    void whereTlsNeverComesAboutEachIsToldSo() throws Exception {
        SelfIssued key = SelfIssued.made();
        try (PlainServer server = PlainServer.that((request, out, socket) -> {})) {
            Profile trusting = Profile.named("Own").trusting(Trust.fingerprint(key.certificate()));
            LoadRun run = run(
                    LoadShape.arrivals(20, 1),
                    500,
                    Stays.bench(server.address().replace("http:", "https:"), Map.of(), Optional.of(trusting), kept));
            assertThat(run.total().failed()).isEqualTo(run.total().done()).isEqualTo(20);
            assertThat(run.reasons().keySet())
                    .as(run.reasons().toString())
                    .allMatch(r -> r.equals("no connection in 500 ms") || r.contains("TLS") || r.contains("handshake"));
        }
    }
}
