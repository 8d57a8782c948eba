package dev.mockbell.bench;

import dev.mockbell.content.Content;
import dev.mockbell.content.Header;
import dev.mockbell.exchange.Exchange;
import dev.mockbell.exchange.Exchange.Outcome;
import dev.mockbell.exchange.Exchange.Way;
import dev.mockbell.exchange.HttpMessage;
import dev.mockbell.exchange.Ties;
import dev.mockbell.exchange.Timing;
import dev.mockbell.expression.Expressions;
import dev.mockbell.ledger.Ledger;
import dev.mockbell.ledger.LedgerFilter;
import dev.mockbell.ledger.Order;
import dev.mockbell.task.StopSignal;
import java.io.PrintStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import java.util.concurrent.Semaphore;

/** A ledger of many exchanges: how fast they are written, and how soon a filter gives its first answers and all of a page. */
final class LedgerBench {
    private static final int PAGE = 200;
    private static final int ON_THE_WAY = 1_000;
    private static final int TURNS = 5;
    private static final int WRITTEN_FIRST = 200_000;

    private static final List<String> FILTERS = List.of(
            "",
            "result:failed",
            "result:fault operation:Cancel",
            "status:5xx",
            "operation:Reserve way:called",
            "took:>900ms",
            "took:>900ms result:fine",
            "endpoint:8480 -operation:Reserve",
            "caller:127.0.0.1 sent:>900",
            "Skarn",
            "NF-777777",
            "word:NF-123",
            "\"no such text anywhere\"",
            "NF-7 result:fault",
            "where:\"$request//nights > 12\"",
            "where:\"$request//hut = 'NF-4242'\" NF-4242");

    private final PrintStream out;
    private final int count;

    LedgerBench(PrintStream out, int count) {
        this.out = out;
        this.count = count;
    }

    void run() throws Exception {
        Path folder = Scratch.folder();
        Path file = folder.resolve("ledger.db");
        try (Ledger ledger = Ledger.open(file)) {
            long began = System.nanoTime();
            write(ledger, 0, Math.min(count, WRITTEN_FIRST));
            ledger.settle();
            double seconds = (System.nanoTime() - began) / 1e9;
            out.printf("written: %,.0f a second%n", Math.min(count, WRITTEN_FIRST) / seconds);
            write(ledger, Math.min(count, WRITTEN_FIRST), count);
            ledger.settle();
            began = System.nanoTime();
            ledger.index();
            seconds = (System.nanoTime() - began) / 1e9;
            out.printf("taken in by full text: %,.0f a second (what was left to take in)%n", count / seconds);
        }
        out.printf("file: %,d MB%n", Files.size(file) / 1_000_000);
        long began = System.nanoTime();
        try (Ledger ledger = Ledger.open(file)) {
            out.printf("opened: %.1f ms%n", (System.nanoTime() - began) / 1e6);
            Expressions expressions = new Expressions();
            out.println("filter | first ms | page ms | hits of the page");
            for (String filter : FILTERS) {
                look(ledger, expressions, filter);
            }
            began = System.nanoTime();
            ledger.figures(LedgerFilter.ALL, expressions, new StopSignal());
            out.printf("figures of all: %.0f ms%n", (System.nanoTime() - began) / 1e6);
        }
        try (var files = Files.list(folder)) {
            for (Path one : files.toList()) {
                Files.delete(one);
            }
        }
        Files.delete(folder);
    }

    private void look(Ledger ledger, Expressions expressions, String filter) {
        double[] first = new double[TURNS];
        double[] page = new double[TURNS];
        int[] hits = {0};
        for (int turn = 0; turn < TURNS; turn++) {
            long began = System.nanoTime();
            long[] came = {0};
            hits[0] = 0;
            ledger.search(
                    LedgerFilter.typed(filter), Order.NEWEST, Long.MAX_VALUE, expressions, new StopSignal(), line -> {
                        came[0] = came[0] == 0 ? System.nanoTime() : came[0];
                        return ++hits[0] < PAGE;
                    });
            long ended = System.nanoTime();
            first[turn] = ((came[0] == 0 ? ended : came[0]) - began) / 1e6;
            page[turn] = (ended - began) / 1e6;
        }
        java.util.Arrays.sort(first);
        java.util.Arrays.sort(page);
        out.printf("%s | %.1f | %.1f | %d%n", filter, first[TURNS / 2], page[TURNS / 2], hits[0]);
    }

    private static void write(Ledger ledger, int from, int to) throws InterruptedException {
        Random random = new Random(from);
        // with more on the way bodies would be left out
        Semaphore way = new Semaphore(ON_THE_WAY);
        for (int i = from; i < to; i++) {
            way.acquire();
            ledger.offer(exchange(i, random), numbered -> way.release());
        }
    }

    private static Exchange exchange(int i, Random random) {
        boolean called = random.nextInt(3) > 0;
        int kind = random.nextInt(1_000);
        Outcome outcome = kind == 0 ? Outcome.FAILED : kind < 20 ? Outcome.FAULT : Outcome.FINE;
        String operation = List.of("Reserve", "Tell", "Cancel").get(random.nextInt(3));
        String request = "<e:Envelope xmlns:e=\"http://schemas.xmlsoap.org/soap/envelope/\"><e:Body><s:" + operation
                + " xmlns:s=\"urn:huts:stay\"><s:hut>NF-" + i + "</s:hut><nights>" + random.nextInt(14)
                + "</nights><guest>Guest " + random.nextInt(100_000) + " of Skarn</guest></s:" + operation
                + "></e:Body></e:Envelope>";
        String answer = "<e:Envelope xmlns:e=\"http://schemas.xmlsoap.org/soap/envelope/\"><e:Body><fee>"
                + random.nextInt(500) + "." + random.nextInt(100) + "</fee></e:Body></e:Envelope>";
        HttpMessage asked = message("POST /stay HTTP/1.1", request);
        HttpMessage told = message(outcome == Outcome.FAULT ? "HTTP/1.1 500 X" : "HTTP/1.1 200 OK", answer);
        return new Exchange(
                        0,
                        Instant.ofEpochMilli(1_700_000_000_000L + i * 20L),
                        called ? Way.CALLED : Way.ANSWERED,
                        "stay",
                        operation,
                        "http://127.0.0.1:8480/stay",
                        called ? "Two nights" : "mock answer 1",
                        asked,
                        outcome == Outcome.FAILED ? Optional.empty() : Optional.of(told),
                        new Timing(0, 0, Math.round(Math.exp(random.nextGaussian() * 2) * 5e6), 0),
                        outcome,
                        outcome == Outcome.FINE ? "" : outcome == Outcome.FAULT ? "NoRoom" : "no answer")
                .with(new Ties(called ? "" : "127.0.0.1", ""));
    }

    private static HttpMessage message(String title, String text) {
        Content body = Content.of(text.getBytes(StandardCharsets.UTF_8));
        List<Header> headers = List.of(
                new Header("Host", "127.0.0.1:8480"),
                new Header("Content-Type", "text/xml; charset=utf-8"),
                new Header("Content-Length", Long.toString(body.size())));
        HttpMessage plain = new HttpMessage(title, headers, body, Content.NONE);
        Content head = Content.of(plain.head().getBytes(StandardCharsets.ISO_8859_1));
        return new HttpMessage(title, headers, body, Content.joined(head, body));
    }
}
