package dev.mockbell.tap;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.mockbell.content.Content;
import dev.mockbell.exchange.Exchange;
import dev.mockbell.exchange.Exchange.Outcome;
import dev.mockbell.problem.Problem;
import dev.mockbell.tap.Holds.Rule;
import dev.mockbell.tap.Holds.Side;
import java.net.Socket;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.TimeUnit;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;

/** Messages that wait for a person. */
@Timeout(60)
class HoldsTest {
    private static final String FEE = "HTTP/1.1 200 OK\r\nContent-Length: 10\r\n\r\n<fee>1</fee>".replace("10", "12");

    private final TapUnderTest tap = new TapUnderTest();
    private RawServer service;

    @BeforeEach
    void start() throws Exception {
        service = RawServer.answering(FEE);
        tap.to(service.base());
    }

    @AfterEach
    void close() throws Exception {
        tap.close();
        service.close();
    }

    private void hold(Side side, String condition, boolean next) {
        tap.host.holds().set(Optional.of(new Rule(side, condition, next)));
    }

    private static String post(String body) {
        return "POST /stay HTTP/1.1\r\nHost: t\r\nContent-Length: " + body.length() + "\r\n\r\n" + body;
    }

    private CompletableFuture<String> said(String sent, int most) {
        return CompletableFuture.supplyAsync(() -> {
            try {
                return tap.said(sent, most);
            } catch (java.io.IOException e) {
                return "failed: " + e;
            }
        });
    }

    private Held waiting() throws InterruptedException {
        for (int i = 0; i < 400 && tap.host.holds().waiting().isEmpty(); i++) {
            Thread.sleep(10);
        }
        return tap.host.holds().waiting().get(0);
    }

    private static String get(CompletableFuture<String> said) throws Exception {
        return said.get(20, TimeUnit.SECONDS);
    }

    @Test
    void aRequestThatWaitsReachesTheServiceOnceItIsLetThrough() throws Exception {
        hold(Side.REQUESTS, "", false);
        CompletableFuture<String> client = said(post("<a/>") + post("<b/>"), 2 * FEE.length());
        Held held = waiting();
        assertThat(held.isAnswer()).isFalse();
        assertThat(held.message().text()).isEqualTo("<a/>");
        assertThat(service.came).isEmpty();
        held.letThrough();
        held.drop();
        for (int i = 0; i < 400 && tap.host.holds().waiting().isEmpty(); i++) {
            Thread.sleep(10);
        }
        assertThat(service.came).hasSize(1);
        assertThat(waiting().message().text()).as("one after the other").isEqualTo("<b/>");
        waiting().letThrough();
        assertThat(get(client)).isEqualTo(FEE + FEE);
        assertThat(tap.exchanges(2)).extracting(Exchange::outcome).containsOnly(Outcome.FINE);
        assertThat(tap.recorded.get(0).note()).isEmpty();
    }

    @Test
    void onlyWhatMeetsTheConditionWaits() throws Exception {
        hold(Side.REQUESTS, "$request//nights > 3", false);
        assertThat(tap.said(post("<a><nights>2</nights></a>"), FEE.length())).isEqualTo(FEE);
        assertThat(tap.said(post("no xml"), FEE.length())).isEqualTo(FEE);
        CompletableFuture<String> client = said(post("<a><nights>7</nights></a>"), FEE.length());
        assertThat(waiting().message().text()).contains("7");
        tap.host.holds().set(Optional.empty());
        assertThat(get(client)).isEqualTo(FEE);
        assertThatThrownBy(() -> hold(Side.BOTH, "$request[", false)).isInstanceOf(Problem.class);
    }

    @Test
    void aRequestIsChangedOnTheWayAndRecordedAsItWent() throws Exception {
        hold(Side.REQUESTS, "", true);
        CompletableFuture<String> client = said(post("<a/>"), FEE.length());
        Held held = waiting();
        assertThat(tap.host.holds().rule()).as("the next one alone").isEmpty();
        held.letThrough(Remade.of(
                "PUT /other HTTP/1.1\r\nX-By: hand\r\nContent-Length: 99",
                Content.of("<b>ä</b>".getBytes(StandardCharsets.UTF_8))));
        assertThat(get(client)).isEqualTo(FEE);
        assertThat(service.came.get(0)).startsWith("PUT /other HTTP/1.1\r\nX-By: hand\r\nContent-Length: 9\r\n\r\n<b>");
        Exchange e = tap.exchanges(1).get(0);
        assertThat(e.request().text()).isEqualTo("<b>ä</b>");
        assertThat(e.note()).isEqualTo("the request was changed by hand");
    }

    @Test
    void aRequestIsAnsweredFromHereAndTheServiceHearsNothing() throws Exception {
        hold(Side.REQUESTS, "", false);
        CompletableFuture<String> client = said(post("<a/>") + post("<b/>"), 10_000);
        waiting().answer(Remade.of("HTTP/1.1 503 Later\r\nX: y", Content.of(new byte[] {'n', 'o'})));
        Thread.sleep(100);
        waiting().drop();
        assertThat(get(client)).isEqualTo("HTTP/1.1 503 Later\r\nX: y\r\nContent-Length: 2\r\n\r\nno");
        assertThat(service.came).isEmpty();
        List<Exchange> all = tap.exchanges(2);
        assertThat(all.get(0).status()).isEqualTo(503);
        assertThat(all.get(0).note()).isEqualTo("HTTP/1.1 503 Later · answered by hand");
        assertThat(all.get(1).note()).isEqualTo("it was dropped by hand");
        assertThat(all.get(1).outcome()).isEqualTo(Outcome.FAILED);
    }

    @Test
    void anAnswerWaitsIsChangedOrDropped() throws Exception {
        hold(Side.ANSWERS, "$response/fee = 1 and $request/a", false);
        CompletableFuture<String> client = said(post("<a/>") + post("<a/>") + post("<c/>"), 10_000);
        Held held = waiting();
        assertThat(held.isAnswer()).isTrue();
        assertThat(held.message().text()).isEqualTo("<fee>1</fee>");
        assertThat(held.request().text()).isEqualTo("<a/>");
        held.letThrough(Remade.of(held.message().head(), Content.of("<fee>2</fee>".getBytes(StandardCharsets.UTF_8))));
        for (int i = 0; i < 200 && tap.recorded.isEmpty(); i++) {
            Thread.sleep(10);
        }
        waiting().drop();
        assertThat(get(client)).isEqualTo(FEE.replace(">1<", ">2<"));
        assertThat(tap.exchanges(2).get(0).response().orElseThrow().text()).isEqualTo("<fee>2</fee>");
        assertThat(tap.recorded.get(0).note()).isEqualTo("the answer was changed by hand");
        assertThat(tap.recorded.get(1).note()).isEqualTo("its answer was dropped by hand");
    }

    @Test
    void aHoldNeverOutlivesItsTap() throws Exception {
        hold(Side.BOTH, "", false);
        CompletableFuture<String> client = said(post("<a/>"), FEE.length());
        waiting();
        tap.host.close();
        assertThat(get(client)).as("it was let through").isEqualTo(FEE);
        assertThat(tap.host.holds().waiting()).isEmpty();
    }

    @Test
    void whoGoesAwayIsWaitedForNoMore() throws Exception {
        hold(Side.REQUESTS, "", false);
        Held held;
        try (Socket socket = tap.connected()) {
            RawServer.write(socket, post("<a/>"));
            held = waiting();
            socket.setSoLinger(true, 0);
        }
        for (int i = 0; i < 400 && !held.isOver(); i++) {
            Thread.sleep(10);
        }
        assertThat(held.isOver()).isTrue();
        assertThat(tap.host.holds().waiting()).isEmpty();
        assertThat(tap.exchanges(1).get(0).note()).contains("the client went away");
    }

    @Test
    void whoSaysNoMoreMayStillWantItsAnswer() throws Exception {
        hold(Side.REQUESTS, "", false);
        try (Socket socket = tap.connected()) {
            RawServer.write(socket, post("<a/>"));
            Held held = waiting();
            assertThat(held.isCallerDone()).isFalse();
            socket.shutdownOutput();
            for (int i = 0; i < 400 && !held.isCallerDone(); i++) {
                Thread.sleep(10);
            }
            assertThat(held.isCallerDone()).isTrue();
            assertThat(held.isOver()).isFalse();
            held.letThrough();
            assertThat(RawServer.head(socket.getInputStream())).isEqualTo(FEE);
        }
    }

    @Test
    void whoAsksBeforeItSendsIsToldToGoOnByTheTap() throws Exception {
        hold(Side.REQUESTS, "", false);
        try (Socket socket = tap.connected()) {
            RawServer.write(
                    socket, "POST /stay HTTP/1.1\r\nHost: t\r\nExpect: 100-continue\r\nContent-Length: 4\r\n\r\n");
            assertThat(RawServer.head(socket.getInputStream())).isEqualTo("HTTP/1.1 100 Continue\r\n\r\n");
            RawServer.write(socket, "<a/>");
            waiting().letThrough();
            assertThat(RawServer.head(socket.getInputStream())).isEqualTo(FEE);
        }
        assertThat(service.came.get(0)).doesNotContain("Expect").endsWith("<a/>");
    }
}
