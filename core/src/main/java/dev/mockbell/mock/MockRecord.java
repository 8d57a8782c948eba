package dev.mockbell.mock;

import dev.mockbell.content.Content;
import dev.mockbell.exchange.Exchange;
import dev.mockbell.exchange.Exchange.Outcome;
import dev.mockbell.exchange.Exchange.Way;
import dev.mockbell.exchange.HttpMessage;
import dev.mockbell.exchange.Message;
import dev.mockbell.exchange.Ties;
import dev.mockbell.exchange.Timing;
import dev.mockbell.wire.CallResult;
import dev.mockbell.wire.WireHead;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.function.Supplier;

/** Makes exchanges of what a mock was asked and answered, where somebody keeps them. */
final class MockRecord {
    private final MockHost host;

    MockRecord(MockHost host) {
        this.host = host;
    }

    boolean isOn() {
        return host.records();
    }

    /** Whether the next request is kept whatever becomes of it: in a flood only some are, so that the mock keeps up. */
    boolean takesNext() {
        return isOn() && host.takesNext();
    }

    /** Whether one that nothing matched is kept though it was not to be. */
    boolean takesFailed(Responder.Reply reply) {
        return isOn() && !reply.event().matched() && host.takesFailed();
    }

    /** One is not kept. */
    void passOver() {
        if (isOn()) {
            host.passOver();
        }
    }

    /**
     * Keeps an exchange.
     *
     * @param began when its first byte came, by the clock of nanoseconds
     * @param caller asked for the address that the request came from, when it is kept
     * @param in the very bytes that came, and {@code out} those that went
     */
    void keep(
            long began,
            byte[] in,
            byte[] out,
            Responder.Reply reply,
            Content request,
            Content response,
            Supplier<String> caller) {
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
                "mock answer " + reply.event().title(),
                caller);
        reply.calls().forEach(call -> onward(call, reply.event().operation()));
    }

    /** A call that was made to have an answer. */
    private void onward(Forwarding.Call made, String operation) {
        CallResult call = made.result();
        if (!isOn()) {
            return;
        }
        String note = call.whyNot().orElse("");
        int status = call.response().map(Message::status).orElse(0);
        host.record(() -> new Exchange(
                0,
                call.started(),
                Way.CALLED,
                host.plan().contract(),
                operation,
                made.address().toString(),
                "passed on by the mock",
                call.request(),
                call.response(),
                call.timing(),
                call.secured(),
                call.failure().isPresent() ? Outcome.FAILED : status >= 400 ? Outcome.FAULT : Outcome.FINE,
                note));
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
            String origin,
            Supplier<String> caller) {
        if (!isOn()) {
            return;
        }
        long nanos = System.nanoTime() - began;
        Instant started = Instant.now().minusNanos(nanos);
        // taking both heads apart is left to who keeps it
        host.record(() -> exchange(started, nanos, in, out, operation, outcome, note, request, response, origin)
                .with(Ties.from(caller.get())));
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
