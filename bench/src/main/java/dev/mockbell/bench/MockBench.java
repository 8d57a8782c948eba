package dev.mockbell.bench;

import dev.mockbell.contract.Contract;
import dev.mockbell.expression.Expressions;
import dev.mockbell.mock.Conduct;
import dev.mockbell.mock.MockAnswer;
import dev.mockbell.mock.MockHost;
import dev.mockbell.mock.MockPlan;
import dev.mockbell.mock.MockRecorder;
import dev.mockbell.mock.MockSurroundings;
import dev.mockbell.mock.RequestRules;
import dev.mockbell.soap.Envelope;
import dev.mockbell.soap.SoapVersion;
import dev.mockbell.wire.EventLoops;
import java.io.PrintStream;
import java.net.ServerSocket;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;

/** The mock against a plain server loop, both called by the same plain client. */
final class MockBench {
    private static final int CONNECTIONS = 64;
    private static final double SECONDS = 4;
    private static final int TURNS = 5;

    private final PrintStream out;
    private final Contract contract = Stay.contract();

    MockBench(PrintStream out) {
        this.out = out;
    }

    void run() throws Exception {
        MockPlan sample = MockPlan.of("stay", contract, 0);
        one("mock with a sample answer, unrecorded", sample, null);
        one("mock with a sample answer, every exchange handed to a recorder", sample, made -> made.get() != null);
        List<MockAnswer> answers = new ArrayList<>(sample.of("Book"));
        String body = answers.get(0).body();
        answers.add(MockAnswer.message(
                "$request//nights < 7", "echo", body.replaceFirst(">[^<>]+</", ">{\\$request//hutId}</")));
        one("mock with a condition and a templated answer", sample.withAnswers("Book", answers), null);
        one(
                "mock that checks requests by the schema",
                sample.with(Conduct.USUAL.with(RequestRules.USUAL.checkingSchema(true))),
                null);
    }

    private void one(String title, MockPlan plan, MockRecorder recorder) throws Exception {
        String envelope = Envelope.around(SoapVersion.V11, Stay.PAYLOAD, List.of());
        byte[] request =
                ("POST /stay HTTP/1.1\r\nHost: 127.0.0.1\r\nContent-Type: text/xml; charset=utf-8\r\nSOAPAction: \"urn:book\"\r\n"
                                + "Content-Length: " + envelope.getBytes(StandardCharsets.UTF_8).length + "\r\n\r\n"
                                + envelope)
                        .getBytes(StandardCharsets.UTF_8);
        byte[] body = Stay.ANSWER.getBytes(StandardCharsets.UTF_8);
        byte[] response = ("HTTP/1.1 200 OK\r\nContent-Type: text/xml; charset=utf-8\r\nContent-Length: " + body.length
                        + "\r\n\r\n" + Stay.ANSWER)
                .getBytes(StandardCharsets.UTF_8);
        List<Turn> ours = new ArrayList<>();
        List<Turn> plain = new ArrayList<>();
        try (EventLoops loops = new EventLoops("bench", Runtime.getRuntime().availableProcessors());
                MockHost host = MockHost.start(
                        contract, plan, MockSurroundings.alone(loops, new Expressions(), recorder, event -> {}));
                ServerSocket server = PlainPeer.serve(response)) {
            out.println(title + ", " + CONNECTIONS + " connections, turns of " + SECONDS
                    + " s, plain clients in the same process");
            for (int turn = 0; turn <= TURNS; turn++) {
                Turn a = PlainPeer.call(host.port(), request, CONNECTIONS, SECONDS);
                Turn b = PlainPeer.call(server.getLocalPort(), request, CONNECTIONS, SECONDS);
                if (turn > 0) {
                    ours.add(a);
                    plain.add(b);
                }
            }
        }
        LoadBench.report(out, title + " / plain server", Turn.median(ours), Turn.median(plain));
    }
}
