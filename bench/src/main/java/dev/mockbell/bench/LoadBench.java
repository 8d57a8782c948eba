package dev.mockbell.bench;

import dev.mockbell.expression.Expressions;
import dev.mockbell.load.LoadControl;
import dev.mockbell.load.LoadEngine;
import dev.mockbell.load.LoadListener;
import dev.mockbell.load.LoadPlan;
import dev.mockbell.load.LoadRun;
import dev.mockbell.load.LoadShape;
import dev.mockbell.soap.Envelope;
import dev.mockbell.soap.SoapVersion;
import dev.mockbell.task.StopSignal;
import dev.mockbell.wire.EventLoops;
import java.io.PrintStream;
import java.net.ServerSocket;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;

/** The load engine against a plain client loop, both calling the same plain server. */
final class LoadBench {
    private static final int CONNECTIONS = 64;
    private static final int SECONDS = 4;
    private static final int TURNS = 5;

    private final PrintStream out;

    LoadBench(PrintStream out) {
        this.out = out;
    }

    void run() throws Exception {
        byte[] body = Stay.ANSWER.getBytes(StandardCharsets.UTF_8);
        String head = "HTTP/1.1 200 OK\r\nContent-Type: text/xml; charset=utf-8\r\nContent-Length: " + body.length
                + "\r\n\r\n";
        byte[] response = (head + Stay.ANSWER).getBytes(StandardCharsets.UTF_8);
        String envelope = Envelope.around(SoapVersion.V11, Stay.PAYLOAD, List.of());
        byte[] request =
                ("POST /stay HTTP/1.1\r\nHost: 127.0.0.1\r\nContent-Type: text/xml; charset=utf-8\r\nSOAPAction: \"urn:book\"\r\n"
                                + "Content-Length: " + envelope.getBytes(StandardCharsets.UTF_8).length + "\r\n\r\n"
                                + envelope)
                        .getBytes(StandardCharsets.UTF_8);
        List<Turn> ours = new ArrayList<>();
        List<Turn> plain = new ArrayList<>();
        try (ServerSocket server = PlainPeer.serve(response);
                EventLoops loops = new EventLoops("bench", Runtime.getRuntime().availableProcessors())) {
            LoadEngine engine = new LoadEngine(loops, new Expressions());
            out.println("load engine, " + CONNECTIONS + " connections, turns of " + SECONDS
                    + " s, against a plain server in the same process");
            for (int turn = 0; turn <= TURNS; turn++) {
                Turn a = engine(engine, server.getLocalPort());
                Turn b = PlainPeer.call(server.getLocalPort(), request, CONNECTIONS, SECONDS);
                if (turn > 0) {
                    ours.add(a);
                    plain.add(b);
                    out.println("  engine " + a + "\n  plain  " + b);
                }
            }
        }
        report(out, "load engine / plain client", Turn.median(ours), Turn.median(plain));
    }

    private static Turn engine(LoadEngine engine, int port) {
        LoadPlan plan = LoadPlan.of("p", "P", "s", LoadShape.users(CONNECTIONS, SECONDS));
        double cpu = Cpu.seconds();
        LoadRun run = engine.run(
                plan,
                Stay.bench("http://127.0.0.1:" + port + "/stay"),
                host -> true,
                LoadListener.NONE,
                new LoadControl(new StopSignal()));
        if (run.total().failed() > 0) {
            throw new IllegalStateException("failures: " + run.reasons());
        }
        return new Turn(
                run.total().done() / run.seconds(),
                run.total().p99(),
                (Cpu.seconds() - cpu) / run.total().done() * 10_000);
    }

    static void report(PrintStream out, String title, Turn ours, Turn plain) {
        out.println("  median ours  " + ours);
        out.println("  median plain " + plain);
        ratio(out, title, ours, plain);
    }

    static void ratio(PrintStream out, String title, Turn ours, Turn plain) {
        out.println(String.format(
                Locale.ROOT,
                "%s: %.2f of the rate, %.2f of the p99, %.2f of the CPU",
                title,
                ours.perSecond() / plain.perSecond(),
                ours.p99Millis() / plain.p99Millis(),
                ours.cpuPer10k() / plain.cpuPer10k()));
    }
}
