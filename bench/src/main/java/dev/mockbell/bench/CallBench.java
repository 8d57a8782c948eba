package dev.mockbell.bench;

import dev.mockbell.assembly.Core;
import dev.mockbell.contract.Contract;
import dev.mockbell.contract.Contract.BoundOperation;
import dev.mockbell.exchange.Exchange;
import dev.mockbell.file.UserFolders;
import dev.mockbell.suite.CallSetup;
import dev.mockbell.suite.Case;
import dev.mockbell.suite.CaseCaller;
import dev.mockbell.suite.PreparedCall;
import dev.mockbell.task.StopSignal;
import dev.mockbell.wire.Connect;
import dev.mockbell.wire.Proxies;
import dev.mockbell.wire.Trust;
import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStreamReader;
import java.io.PrintStream;
import java.net.ServerSocket;
import java.net.URI;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collections;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.ExecutionException;
import java.util.function.UnaryOperator;
import javax.net.ssl.SSLContext;
import org.apache.hc.client5.http.async.methods.SimpleHttpRequest;
import org.apache.hc.client5.http.async.methods.SimpleRequestBuilder;
import org.apache.hc.client5.http.config.TlsConfig;
import org.apache.hc.client5.http.impl.async.CloseableHttpAsyncClient;
import org.apache.hc.client5.http.impl.async.HttpAsyncClients;
import org.apache.hc.client5.http.impl.nio.PoolingAsyncClientConnectionManager;
import org.apache.hc.client5.http.impl.nio.PoolingAsyncClientConnectionManagerBuilder;
import org.apache.hc.client5.http.ssl.ClientTlsStrategyBuilder;
import org.apache.hc.core5.http.ContentType;
import org.apache.hc.core5.http2.HttpVersionPolicy;

/**
 * Calls as a command makes them: the first of a fresh process beside its tenth, and one with its whole capture beside one of
 * the bare HTTP library, both with a connection of their own.
 */
final class CallBench {
    private static final Contract STAY = Stay.contract();
    private static final int PROCESSES = 20;
    private static final int CALLS = 10;
    private static final int COUNTED = 2_000;

    private final PrintStream out;

    CallBench(PrintStream out) {
        this.out = out;
    }

    void run() throws Exception {
        byte[] answer = ("HTTP/1.1 200 OK\r\nContent-Type: text/xml; charset=utf-8\r\nContent-Length: "
                        + Stay.ANSWER.length() + "\r\n\r\n" + Stay.ANSWER)
                .getBytes(StandardCharsets.UTF_8);
        try (ServerSocket server = PlainPeer.serve(answer)) {
            String address = "http://127.0.0.1:" + server.getLocalPort() + "/stay";
            processes("plain", address, "");
            library("plain", address, Optional.empty());
        }
        Tls tls = Tls.made();
        try (ServerSocket server = PlainPeer.serve(answer, tls.context().getServerSocketFactory())) {
            processes("TLS", "https://localhost:" + server.getLocalPort() + "/stay", tls.fingerprint());
            library("TLS", "https://localhost:" + server.getLocalPort() + "/stay", Optional.of(tls.context()));
        }
    }

    private void processes(String kind, String address, String fingerprint) throws IOException {
        List<Double> firsts = new ArrayList<>();
        List<Double> tenths = new ArrayList<>();
        Pulse awake = Pulse.of(URI.create(address).getPort());
        for (int i = 0; i < PROCESSES; i++) {
            double[] millis = fresh(address, fingerprint);
            firsts.add(millis[0]);
            tenths.add(millis[CALLS - 1]);
        }
        awake.close();
        double first = median(firsts);
        double tenth = median(tenths);
        out.printf(
                "%s: first call of a process %.2f ms, its tenth %.2f ms, ratio %.2f (medians of %d processes)%n",
                kind, first, tenth, first / tenth, PROCESSES);
    }

    /** A process that does what {@code mockbell call} does, ten times over. */
    private static double[] fresh(String address, String fingerprint) throws IOException {
        Process process = new ProcessBuilder(
                        Path.of(System.getProperty("java.home"), "bin", "java").toString(),
                        "-XX:TieredStopAtLevel=1",
                        "-XX:+UseSerialGC",
                        "-cp",
                        System.getProperty("java.class.path"),
                        Ten.class.getName(),
                        address,
                        fingerprint)
                .redirectError(ProcessBuilder.Redirect.DISCARD)
                .start();
        try (BufferedReader in =
                new BufferedReader(new InputStreamReader(process.getInputStream(), StandardCharsets.UTF_8))) {
            return Arrays.stream(in.readLine().split(" "))
                    .mapToDouble(Double::parseDouble)
                    .toArray();
        }
    }

    /** The calls of one fresh process. */
    static final class Ten {
        private Ten() {}

        public static void main(String[] args) throws IOException {
            Path home = Scratch.folder();
            try (Core core = new Core(UserFolders.of(Map.of(), home), Map.of(), Proxies.none())) {
                CompletableFuture<Void> warm = core.warmUp();
                BoundOperation bound = STAY.operation("Book", null).orElseThrow();
                CaseCaller caller = core.caller();
                warm.join();
                Optional<Trust> trust = args[1].isEmpty()
                        ? Optional.empty()
                        : Optional.of(new Trust(Set.of(args[1]), List.of(), Optional.empty()));
                caller.prepare(CallSetup.plain(STAY, bound, Stay.kept(), Optional.of(args[0])));
                core.warmUpBefore(URI.create(args[0]));
                StringBuilder line = new StringBuilder();
                for (int i = 0; i < CALLS; i++) {
                    line.append(millis(
                                    caller,
                                    bound,
                                    args[0],
                                    c -> trust.map(c::with).orElse(c)))
                            .append(' ');
                }
                System.out.println(line.toString().strip());
            }
            System.exit(0);
        }
    }

    private static double millis(
            CaseCaller caller, BoundOperation bound, String address, UnaryOperator<Connect> trusting) {
        Case kept = Stay.kept();
        PreparedCall call = caller.prepare(CallSetup.plain(STAY, bound, kept, Optional.of(address)));
        // a connection of its own, as the bare library has it
        Connect own = call.by().keeping(false);
        Exchange exchange = caller.send(call.by(trusting.apply(own)), "bench", new StopSignal())
                .last();
        if (exchange.response().isEmpty()) {
            throw new IllegalStateException(exchange.note());
        }
        return exchange.timing().total() / 1e6;
    }

    private void library(String kind, String address, Optional<SSLContext> tls) throws Exception {
        Path home = Scratch.folder();
        try (Core core = new Core(UserFolders.of(Map.of(), home), Map.of(), Proxies.none());
                CloseableHttpAsyncClient bare = HttpAsyncClients.custom()
                        .setConnectionManager(connections(tls))
                        .setConnectionReuseStrategy((request, response, context) -> false)
                        .disableAutomaticRetries()
                        .build()) {
            bare.start();
            BoundOperation bound = STAY.operation("Book", null).orElseThrow();
            CaseCaller caller = core.caller();
            List<Double> ours = new ArrayList<>();
            List<Double> plain = new ArrayList<>();
            double ourCpu = 0;
            double plainCpu = 0;
            // in turns, so that both see the same machine; the first turns warm both up
            for (int turn = 0; turn < 12; turn++) {
                boolean counted = turn >= 4;
                double from = Cpu.seconds();
                for (int i = 0; i < COUNTED / 8; i++) {
                    double took = whole(() -> millis(
                            caller, bound, address, c -> tls.map(c::withTrust).orElse(c)));
                    if (counted) {
                        ours.add(took);
                    }
                }
                double between = Cpu.seconds();
                for (int i = 0; i < COUNTED / 8; i++) {
                    double took = whole(() -> call(bare, address));
                    if (counted) {
                        plain.add(took);
                    }
                }
                ourCpu += counted ? between - from : 0;
                plainCpu += counted ? Cpu.seconds() - between : 0;
            }
            out.printf(
                    "%s: a call with its whole capture %.3f ms, the bare library's %.3f ms, ratio %.2f; CPU ratio %.2f (medians of %d)%n",
                    kind, median(ours), median(plain), median(ours) / median(plain), ourCpu / plainCpu, ours.size());
        }
    }

    private static PoolingAsyncClientConnectionManager connections(Optional<SSLContext> tls) {
        PoolingAsyncClientConnectionManagerBuilder builder = PoolingAsyncClientConnectionManagerBuilder.create()
                .setDefaultTlsConfig(TlsConfig.custom()
                        .setVersionPolicy(HttpVersionPolicy.FORCE_HTTP_1)
                        .build());
        tls.ifPresent(t -> builder.setTlsStrategy(
                ClientTlsStrategyBuilder.create().setSslContext(t).buildAsync()));
        return builder.build();
    }

    private interface Work {
        void run() throws Exception;
    }

    private static double whole(Work work) throws Exception {
        long from = System.nanoTime();
        work.run();
        return (System.nanoTime() - from) / 1e6;
    }

    private static void call(CloseableHttpAsyncClient bare, String address)
            throws ExecutionException, InterruptedException {
        SimpleHttpRequest request = SimpleRequestBuilder.post(URI.create(address))
                .setBody(
                        dev.mockbell.soap.Envelope.around(dev.mockbell.soap.SoapVersion.V11, Stay.PAYLOAD, List.of()),
                        ContentType.create("text/xml", StandardCharsets.UTF_8))
                .setHeader("SOAPAction", "\"urn:book\"")
                .build();
        if (bare.execute(request, null).get().getCode() != 200) {
            throw new IllegalStateException("no answer");
        }
    }

    private static double median(List<Double> values) {
        List<Double> sorted = new ArrayList<>(values);
        Collections.sort(sorted);
        return sorted.get(sorted.size() / 2);
    }
}
