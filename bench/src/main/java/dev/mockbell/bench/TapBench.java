package dev.mockbell.bench;

import dev.mockbell.exchange.Exchange;
import dev.mockbell.expression.Expressions;
import dev.mockbell.message.OperationFinder;
import dev.mockbell.soap.Envelope;
import dev.mockbell.soap.SoapVersion;
import dev.mockbell.tap.TapHost;
import dev.mockbell.tap.TapPlan;
import dev.mockbell.tap.TapSurroundings;
import dev.mockbell.wire.EventLoops;
import dev.mockbell.wire.Trust;
import io.netty.channel.Channel;
import java.io.PrintStream;
import java.net.InetSocketAddress;
import java.net.ServerSocket;
import java.net.URI;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.function.Predicate;
import java.util.function.Supplier;

/**
 * A plain server called by way of a tap, of a relay that looks into nothing, and straight, by the same plain client. How much of
 * the straight rate is left is for the most part how many processors there are: what the tap itself costs is seen beside the relay.
 */
final class TapBench {
    private static final int CONNECTIONS = 64;
    private static final int FEW = 4;
    private static final double SECONDS = 4;
    private static final int TURNS = 5;

    private final PrintStream out;

    TapBench(PrintStream out) {
        this.out = out;
    }

    void run() throws Exception {
        one("tap, 64 connections, unrecorded", CONNECTIONS, made -> true);
        one("tap, 64 connections, every exchange handed to a recorder", CONNECTIONS, made -> made.get() != null);
        one("tap, 4 connections, unrecorded", FEW, made -> true);
    }

    private void one(String title, int connections, Predicate<Supplier<Exchange>> recorder) throws Exception {
        byte[] body = Envelope.around(SoapVersion.V11, Stay.PAYLOAD, List.of()).getBytes(StandardCharsets.UTF_8);
        String head =
                "POST /stay HTTP/1.1\r\nHost: 127.0.0.1\r\nContent-Type: text/xml; charset=utf-8\r\nContent-Length: "
                        + body.length + "\r\n\r\n";
        byte[] request = (head + new String(body, StandardCharsets.UTF_8)).getBytes(StandardCharsets.UTF_8);
        byte[] answer = Stay.ANSWER.getBytes(StandardCharsets.UTF_8);
        byte[] response = ("HTTP/1.1 200 OK\r\nContent-Type: text/xml; charset=utf-8\r\nContent-Length: "
                        + answer.length + "\r\n\r\n" + Stay.ANSWER)
                .getBytes(StandardCharsets.UTF_8);
        List<Turn> tapped = new ArrayList<>();
        List<Turn> relayed = new ArrayList<>();
        List<Turn> straight = new ArrayList<>();
        try (EventLoops loops = new EventLoops("bench", Runtime.getRuntime().availableProcessors());
                ServerSocket server = PlainPeer.serve(response);
                TapHost tap = TapHost.start(
                        TapPlan.to(URI.create("http://127.0.0.1:" + server.getLocalPort()), 0),
                        new TapSurroundings(
                                loops,
                                recorder,
                                name -> null,
                                Trust.USUAL::context,
                                new Expressions(),
                                new OperationFinder(Map.of())),
                        words -> out.println(words))) {
            Channel relay = PlainRelay.start(loops, server.getLocalPort());
            int relayPort = ((InetSocketAddress) relay.localAddress()).getPort();
            out.println(title + ", turns of " + SECONDS + " s, plain client and server in the same process");
            for (int turn = 0; turn <= TURNS; turn++) {
                Turn a = PlainPeer.call(tap.port(), request, connections, SECONDS);
                Turn r = PlainPeer.call(relayPort, request, connections, SECONDS);
                Turn b = PlainPeer.call(server.getLocalPort(), request, connections, SECONDS);
                if (turn > 0) {
                    tapped.add(a);
                    relayed.add(r);
                    straight.add(b);
                }
            }
            relay.close().sync();
        }
        Turn byTap = Turn.median(tapped);
        Turn byRelay = Turn.median(relayed);
        Turn direct = Turn.median(straight);
        out.println("  median by the tap   " + byTap);
        out.println("  median by the relay " + byRelay);
        out.println("  median straight     " + direct);
        LoadBench.ratio(out, title + " / plain relay", byTap, byRelay);
        LoadBench.ratio(out, "plain relay / straight", byRelay, direct);
        LoadBench.ratio(out, title + " / straight", byTap, direct);
    }
}
