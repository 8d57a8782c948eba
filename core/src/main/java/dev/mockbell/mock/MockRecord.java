package dev.mockbell.mock;

import dev.mockbell.content.Content;
import dev.mockbell.exchange.Exchange;
import dev.mockbell.exchange.Exchange.Outcome;
import dev.mockbell.exchange.Exchange.Way;
import dev.mockbell.exchange.HttpMessage;
import dev.mockbell.exchange.Message;
import dev.mockbell.exchange.Timing;
import dev.mockbell.wire.WireHead;
import java.time.Instant;
import java.util.List;
import java.util.Optional;

/** Makes exchanges of what a mock was asked and answered, where somebody keeps them. */
final class MockRecord {
    private final MockHost host;

    MockRecord(MockHost host) {
        this.host = host;
    }

    boolean isOn() {
        return host.records();
    }

    /**
     * Keeps an exchange.
     *
     * @param began when its first byte came, by the clock of nanoseconds
     * @param in the very bytes that came, and {@code out} those that went
     */
    void keep(long began, byte[] in, byte[] out, Responder.Reply reply, Content request, Content response) {
        Outcome outcome =
                !reply.event().matched() ? Outcome.FAILED : reply.fault().isPresent() ? Outcome.FAULT : Outcome.FINE;
        keep(
                began,
                in,
                out,
                reply.event().operation(),
                outcome,
                reply.fault().orElse(""),
                request,
                response,
                "mock answer " + reply.event().title());
    }

    void keep(
            long began,
            byte[] in,
            byte[] out,
            String operation,
            Outcome outcome,
            String note,
            Content request,
            Content response,
            String origin) {
        if (!isOn()) {
            return;
        }
        long nanos = System.nanoTime() - began;
        Instant started = Instant.now().minusNanos(nanos);
        // taking both heads apart is left to who keeps it
        host.record(() -> exchange(started, nanos, in, out, operation, outcome, note, request, response, origin));
    }

    private Exchange exchange(
            Instant started,
            long nanos,
            byte[] in,
            byte[] out,
            String operation,
            Outcome outcome,
            String note,
            Content request,
            Content response,
            String origin) {
        Content received = Content.of(in);
        Message asked =
                WireHead.read(received, request).orElseGet(() -> new HttpMessage("", List.of(), request, received));
        Optional<Message> answered = WireHead.read(Content.of(out), response);
        return new Exchange(
                0,
                started,
                Way.ANSWERED,
                host.plan().contract(),
                operation,
                host.base() + target(asked.title()),
                origin,
                asked,
                answered,
                new Timing(0, 0, nanos, 0),
                outcome,
                note);
    }

    /** What a request line asks for. */
    private static String target(String line) {
        int from = line.indexOf(' ') + 1;
        int to = line.indexOf(' ', from);
        return from == 0 ? line : line.substring(from, to < 0 ? line.length() : to);
    }
}
