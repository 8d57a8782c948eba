package dev.mockbell.cli;

import static org.assertj.core.api.Assertions.assertThat;

import com.sun.net.httpserver.HttpServer;
import dev.mockbell.expression.Expressions;
import dev.mockbell.message.OperationFinder;
import dev.mockbell.tap.TapHost;
import dev.mockbell.tap.TapPlan;
import dev.mockbell.tap.TapSurroundings;
import dev.mockbell.wire.EventLoops;
import dev.mockbell.wire.Trust;
import java.io.ByteArrayOutputStream;
import java.io.PipedInputStream;
import java.io.PipedOutputStream;
import java.io.PrintStream;
import java.net.InetAddress;
import java.net.InetSocketAddress;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpRequest.BodyPublishers;
import java.net.http.HttpResponse.BodyHandlers;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Map;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.TimeUnit;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;
import org.junit.jupiter.api.io.TempDir;

/** Requests that wait for lines on standard input. */
@Timeout(60)
class HoldingTest {
    @TempDir
    Path folder;

    private final ByteArrayOutputStream out = new ByteArrayOutputStream();
    private final ByteArrayOutputStream err = new ByteArrayOutputStream();

    private void await(ByteArrayOutputStream in, String text) throws InterruptedException {
        for (int i = 0; i < 400 && !in.toString(StandardCharsets.UTF_8).contains(text); i++) {
            Thread.sleep(20);
        }
        assertThat(in.toString(StandardCharsets.UTF_8)).contains(text);
    }

    private static CompletableFuture<String> client(TapHost tap, String body) {
        return HttpClient.newHttpClient()
                .sendAsync(
                        HttpRequest.newBuilder(URI.create(tap.address()))
                                .POST(BodyPublishers.ofString(body))
                                .build(),
                        BodyHandlers.ofString())
                .thenApply(r -> r.body());
    }

    private static String get(CompletableFuture<String> said) throws Exception {
        return said.get(20, TimeUnit.SECONDS);
    }

    @Test
    void linesDecideWhatBecomesOfThem() throws Exception {
        HttpServer service = HttpServer.create(new InetSocketAddress(InetAddress.getLoopbackAddress(), 0), 0);
        service.createContext("/", e -> {
            e.sendResponseHeaders(200, 4);
            e.getResponseBody().write("live".getBytes(StandardCharsets.UTF_8));
            e.close();
        });
        service.start();
        Path answer = Files.writeString(folder.resolve("answer.xml"), "<from>here</from>");
        try (EventLoops loops = new EventLoops("holding", 1)) {
            TapHost tap = TapHost.start(
                    TapPlan.to(
                            URI.create(
                                    "http://127.0.0.1:" + service.getAddress().getPort()),
                            0),
                    new TapSurroundings(
                            loops,
                            made -> true,
                            name -> null,
                            Trust.USUAL::context,
                            new Expressions(),
                            new OperationFinder(Map.of())),
                    t -> {});
            PipedOutputStream lines = new PipedOutputStream();
            PrintStream type = new PrintStream(lines, true, StandardCharsets.UTF_8);
            Console console = new Console(
                    new PrintStream(out, true, StandardCharsets.UTF_8),
                    new PrintStream(err, true, StandardCharsets.UTF_8));
            new Holding(tap.holds(), console, new PipedInputStream(lines)).begin("$request/a");
            assertThat(get(client(tap, "<b/>"))).isEqualTo("live");
            CompletableFuture<String> first = client(tap, "<a>1</a>");
            await(out, "HELD 1 POST / HTTP/1.1");
            type.println("show 1");
            await(out, "<a>1</a>");
            type.println("answer 1 " + answer);
            assertThat(get(first)).isEqualTo("<from>here</from>");
            CompletableFuture<String> second = client(tap, "<a>2</a>");
            await(out, "HELD 2");
            type.println("dance 2");
            await(err, "That is no command");
            type.println("go 7");
            await(err, "Nothing of that number waits");
            type.println("answer 2 " + folder.resolve("none"));
            await(err, "The answer cannot be read");
            type.println("go 2");
            assertThat(get(second)).isEqualTo("live");
            CompletableFuture<String> third = client(tap, "<a>3</a>");
            await(out, "HELD 3");
            type.println("drop 3");
            assertThat(third.handle((r, e) -> e != null).get(20, TimeUnit.SECONDS))
                    .isTrue();
            CompletableFuture<String> fourth = client(tap, "<a>4</a>");
            await(out, "HELD 4");
            type.close();
            assertThat(get(fourth)).as("with no more input nothing is held").isEqualTo("live");
            assertThat(get(client(tap, "<a>5</a>"))).isEqualTo("live");
            tap.close();
        } finally {
            service.stop(0);
        }
    }
}
