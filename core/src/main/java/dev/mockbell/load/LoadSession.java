package dev.mockbell.load;

import dev.mockbell.check.Answer;
import dev.mockbell.check.Check;
import dev.mockbell.check.Checker;
import dev.mockbell.content.Content;
import dev.mockbell.exchange.Exchange;
import dev.mockbell.exchange.Exchange.Outcome;
import dev.mockbell.exchange.Exchange.Way;
import dev.mockbell.exchange.HttpMessage;
import dev.mockbell.exchange.Message;
import dev.mockbell.exchange.Ties;
import dev.mockbell.exchange.Timing;
import dev.mockbell.expression.Expressions;
import dev.mockbell.expression.Scope;
import dev.mockbell.suite.CallVerdict;
import dev.mockbell.wire.WireHead;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.concurrent.atomic.LongAdder;

/** What the journeys of one load run share: the steps, the workers that look into answers, and what is kept. */
final class LoadSession {
    private static final int MOST_KEPT = 200;

    private final List<LoadStep> steps;
    private final Expressions expressions;
    private final Checker checker;
    private final ExecutorService workers;
    private final LoadListener listener;
    private final String origin;
    private final LongAdder sent = new LongAdder();
    private final LongAdder received = new LongAdder();
    private final AtomicInteger kept = new AtomicInteger();

    LoadSession(
            List<LoadStep> steps,
            Expressions expressions,
            ExecutorService workers,
            LoadListener listener,
            String origin) {
        this.steps = steps;
        this.expressions = expressions;
        this.checker = new Checker(expressions);
        this.workers = workers;
        this.listener = listener;
        this.origin = origin;
    }

    List<LoadStep> steps() {
        return steps;
    }

    ExecutorService workers() {
        return workers;
    }

    /** Whether good answers are looked at too; none are for now. */
    boolean samples() {
        return false;
    }

    void sent() {
        sent.increment();
    }

    void received() {
        received.increment();
    }

    long inFlight() {
        return sent.sum() - received.sum();
    }

    /** Why an answer came too late for the step's check of its time; null when it did not. */
    String lateness(LoadStep step, long nanos) {
        for (Check check : step.kept().checks()) {
            long latest = check.latestMillis().orElse(Long.MAX_VALUE);
            if (nanos / 1e6 > latest) {
                return "slower than " + latest + " ms";
            }
        }
        return null;
    }

    /**
     * Looks into an answer on a worker: checks it, takes captures.
     *
     * @return why the step failed; null when it did not
     */
    String look(LoadStep step, byte[] request, String head, byte[] body, long nanos, Map<String, String> captured) {
        Exchange exchange = exchange(step, request, head, body, nanos, Outcome.FINE, "");
        Answer answer = Answer.of(exchange, step.outline(), expressions);
        Scope with = step.scope().with(captured);
        CallVerdict verdict = CallVerdict.of(step.kept(), answer, checker, with);
        if (verdict.passed()) {
            verdict.captures().forEach((name, value) -> captured.put(name, Expressions.text(value)));
            return null;
        }
        String reason = reason(step, answer, verdict);
        Outcome outcome = answer.fault().isPresent() ? Outcome.FAULT : Outcome.FAILED;
        announce(exchange.withOutcome(outcome, reason));
        return reason;
    }

    private static String reason(LoadStep step, Answer answer, CallVerdict verdict) {
        boolean faultDue = step.kept().checks().stream().anyMatch(Check::wantsFault);
        if (answer.fault().isPresent() && !faultDue) {
            return "fault " + answer.fault().get().title();
        }
        return verdict.checks().stream()
                .filter(c -> !c.passed())
                .map(c -> "check: " + c.title())
                .findFirst()
                .filter(check -> verdict.problem().isEmpty())
                .orElse(verdict.problem());
    }

    /** Keeps a failure whole, as long as there is room. */
    void keep(LoadStep step, byte[] request, String head, byte[] body, long nanos, String reason) {
        if (kept.get() < MOST_KEPT) {
            announce(exchange(step, request, head, body, nanos, Outcome.FAILED, reason));
        }
    }

    private void announce(Exchange exchange) {
        if (kept.incrementAndGet() <= MOST_KEPT) {
            listener.failure(exchange);
        }
    }

    private Exchange exchange(
            LoadStep step, byte[] request, String head, byte[] body, long nanos, Outcome outcome, String note) {
        Content wire = Content.of(request == null ? new byte[0] : request);
        Message sentMessage = WireHead.read(wire, contentOf(wire))
                .orElseGet(() ->
                        new HttpMessage("POST " + step.address().getRawPath() + " HTTP/1.1", List.of(), wire, wire));
        Optional<Message> answer = head == null ? Optional.empty() : answer(head, Content.of(body));
        return new Exchange(
                        0,
                        Instant.now().minusNanos(nanos),
                        Way.CALLED,
                        step.kept().contract(),
                        step.kept().operation(),
                        step.scope().redactor().text(step.address().toString()),
                        origin + " · " + step.name(),
                        sentMessage,
                        answer,
                        new Timing(0, 0, nanos, 0),
                        outcome,
                        note)
                .with(new Ties("", origin));
    }

    private static Content contentOf(Content wire) {
        int end = wire.text(StandardCharsets.ISO_8859_1).indexOf("\r\n\r\n");
        return end < 0 ? wire : wire.slice(end + 4, wire.size());
    }

    private static Optional<Message> answer(String head, Content body) {
        Content start = Content.of(head.getBytes(StandardCharsets.ISO_8859_1));
        return WireHead.read(Content.joined(start, body), body);
    }
}
