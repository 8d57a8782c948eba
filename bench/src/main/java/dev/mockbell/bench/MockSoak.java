package dev.mockbell.bench;

import dev.mockbell.contract.Contract;
import dev.mockbell.expression.Expressions;
import dev.mockbell.mock.Conduct;
import dev.mockbell.mock.MemoryStep;
import dev.mockbell.mock.MockAnswer;
import dev.mockbell.mock.MockHost;
import dev.mockbell.mock.MockPlan;
import dev.mockbell.mock.MockSurroundings;
import dev.mockbell.mock.Times;
import dev.mockbell.mock.Turns;
import dev.mockbell.soap.Envelope;
import dev.mockbell.soap.SoapVersion;
import dev.mockbell.wire.EventLoops;
import java.io.IOException;
import java.io.PrintStream;
import java.net.Socket;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.atomic.AtomicBoolean;
import java.util.concurrent.atomic.AtomicLong;

/**
 * A mock under everything at once for a long time: calls on connections that are kept and that are not, conditions, memory, idle
 * connections and slow senders; what the heap and the threads come to, once a minute.
 */
final class MockSoak {
    private static final int IDLE = 1_000;
    private static final int SLOW = 100;
    private static final int CALLERS = 4;
    private static final long MINUTE_MILLIS = 60_000;

    private final PrintStream out;
    private final int minutes;
    private final AtomicBoolean over = new AtomicBoolean();
    private final AtomicLong calls = new AtomicLong();
    private final AtomicLong failures = new AtomicLong();

    MockSoak(PrintStream out, int minutes) {
        this.out = out;
        this.minutes = minutes;
    }

    void run() throws Exception {
        Contract contract = Stay.contract();
        MockPlan sample = MockPlan.of("stay", contract, 0);
        String body = sample.of("Book").get(0).body();
        MockPlan plan = sample.withAnswers(
                        "Book",
                        List.of(
                                MockAnswer.message("$request//nights > 7", "long", body),
                                MockAnswer.message("", "third", body).with(Turns.ALWAYS.with(Times.parse("3"))),
                                MockAnswer.otherwise("counted", body)
                                        .withAfter(List.of(
                                                new MemoryStep.Remember("seen", "", "sum(($seen, 1))"),
                                                new MemoryStep.Remember(
                                                        "last", "string($hits mod 1000)", "$request")))))
                .with(Conduct.USUAL.remembering("seen", "0"));
        try (EventLoops loops = new EventLoops("soak", Runtime.getRuntime().availableProcessors());
                MockHost host = MockHost.start(
                        contract, plan, MockSurroundings.alone(loops, new Expressions(), made -> true, event -> {}))) {
            byte[] request = request();
            List<Socket> idle = new ArrayList<>();
            for (int i = 0; i < IDLE; i++) {
                idle.add(new Socket("127.0.0.1", host.port()));
            }
            List<Thread> threads = new ArrayList<>();
            for (int i = 0; i < CALLERS; i++) {
                boolean kept = i % 2 == 0;
                threads.add(new Thread(() -> call(host.port(), request, kept)));
            }
            threads.add(new Thread(() -> drip(host.port(), request)));
            threads.forEach(Thread::start);
            out.println("minute  calls  failures  heap MB  threads");
            for (int minute = 1; minute <= minutes; minute++) {
                Thread.sleep(MINUTE_MILLIS);
                System.gc();
                Runtime java = Runtime.getRuntime();
                out.printf(
                        "%d  %d  %d  %.1f  %d%n",
                        minute,
                        calls.get(),
                        failures.get(),
                        (java.totalMemory() - java.freeMemory()) / 1e6,
                        Thread.getAllStackTraces().size());
            }
            over.set(true);
            for (Thread thread : threads) {
                thread.join();
            }
            for (Socket socket : idle) {
                socket.close();
            }
        }
    }

    private static byte[] request() {
        byte[] body = Envelope.around(SoapVersion.V11, Stay.PAYLOAD, List.of()).getBytes(StandardCharsets.UTF_8);
        return ("POST /stay HTTP/1.1\r\nHost: 127.0.0.1\r\nContent-Type: text/xml; charset=utf-8\r\nContent-Length: "
                        + body.length + "\r\n\r\n" + new String(body, StandardCharsets.UTF_8))
                .getBytes(StandardCharsets.UTF_8);
    }

    private void call(int port, byte[] request, boolean kept) {
        while (!over.get()) {
            try (Socket socket = new Socket("127.0.0.1", port)) {
                socket.setSoTimeout(10_000);
                do {
                    socket.getOutputStream().write(request);
                    answered(socket);
                } while (kept && !over.get());
            } catch (IOException e) {
                failures.incrementAndGet();
            }
        }
    }

    private void answered(Socket socket) throws IOException {
        byte[] some = new byte[8_192];
        int read = socket.getInputStream().read(some);
        StringBuilder all = new StringBuilder();
        while (read > 0) {
            all.append(new String(some, 0, read, StandardCharsets.ISO_8859_1));
            if (all.indexOf("Envelope>\n") > 0) {
                if (!all.toString().startsWith("HTTP/1.1 200")) {
                    failures.incrementAndGet();
                }
                calls.incrementAndGet();
                return;
            }
            read = socket.getInputStream().read(some);
        }
        throw new IOException("no whole answer");
    }

    private void drip(int port, byte[] request) {
        while (!over.get()) {
            List<Socket> slow = new ArrayList<>();
            try {
                for (int i = 0; i < SLOW; i++) {
                    slow.add(new Socket("127.0.0.1", port));
                }
                for (int at = 0; at < request.length && !over.get(); at += 20) {
                    for (Socket socket : slow) {
                        socket.getOutputStream().write(request, at, Math.min(20, request.length - at));
                    }
                    Thread.sleep(100);
                }
            } catch (IOException e) {
                failures.incrementAndGet();
            } catch (InterruptedException e) {
                Thread.currentThread().interrupt();
            } finally {
                slow.forEach(MockSoak::close);
            }
        }
    }

    private static void close(Socket socket) {
        try {
            socket.close();
        } catch (IOException gone) {
            // it was to be closed
            return;
        }
    }
}
