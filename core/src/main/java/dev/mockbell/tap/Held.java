package dev.mockbell.tap;

import dev.mockbell.exchange.Message;
import java.time.Duration;
import java.time.Instant;
import java.util.Optional;
import java.util.concurrent.atomic.AtomicBoolean;
import java.util.function.Consumer;

/**
 * A message that waits for somebody to decide. What is decided first counts; later decisions do nothing. Safe for many threads.
 */
public final class Held {
    private final long number;
    private final Instant since = Instant.now();
    private final boolean answer;
    private final String operation;
    private final String caller;
    private final Message request;
    private final Optional<Message> response;
    private final Consumer<Verdict> decided;
    private final Patience patience;
    private final Runnable over;
    private final AtomicBoolean done = new AtomicBoolean();
    private volatile boolean callerDone;

    /** What becomes of it. */
    sealed interface Verdict {
        /** @param instead what goes on in its place; empty for itself */
        record Pass(Optional<Message> instead) implements Verdict {}

        /** The client is answered from here. */
        record Answered(Message answer) implements Verdict {}

        /** Nothing goes on, and the connection ends. */
        record Dropped() implements Verdict {}
    }

    Held(
            long number,
            boolean answer,
            String operation,
            String caller,
            Message request,
            Optional<Message> response,
            Consumer<Verdict> decided,
            Patience patience,
            Runnable over) {
        this.number = number;
        this.answer = answer;
        this.operation = operation;
        this.caller = caller;
        this.request = request;
        this.response = response;
        this.decided = decided;
        this.patience = patience;
        this.over = over;
    }

    /** Counted from 1 within its relay. */
    public long number() {
        return number;
    }

    public Instant since() {
        return since;
    }

    /** Whether it is an answer that waits; else a request. */
    public boolean isAnswer() {
        return answer;
    }

    /** Empty when no contract has it. */
    public String operation() {
        return operation;
    }

    /** The address of the client. */
    public String caller() {
        return caller;
    }

    /** The request; of an answer, what it answers. */
    public Message request() {
        return request;
    }

    /** The message that waits. */
    public Message message() {
        return answer ? response.orElseThrow() : request;
    }

    /** It goes on as it is. */
    public void letThrough() {
        decide(new Verdict.Pass(Optional.empty()));
    }

    /** Something else goes on in its place. */
    public void letThrough(Message instead) {
        decide(new Verdict.Pass(Optional.of(instead)));
    }

    /** The client gets this, and the service hears of nothing, or its answer is not passed on. */
    public void answer(Message fromHere) {
        decide(answer ? new Verdict.Pass(Optional.of(fromHere)) : new Verdict.Answered(fromHere));
    }

    /** Nothing goes on; the connections end. */
    public void drop() {
        decide(new Verdict.Dropped());
    }

    /** Whether it was decided, or nobody waits for it any more. */
    public boolean isOver() {
        return done.get();
    }

    private void decide(Verdict verdict) {
        if (done.compareAndSet(false, true)) {
            over.run();
            decided.accept(verdict);
        }
    }

    /**
     * Whether the client has ended its side of the connection: it says no more, and most such clients have given up; some still
     * want their answer.
     */
    public boolean isCallerDone() {
        return callerDone;
    }

    void callerDone() {
        callerDone = true;
    }

    /** The client ended its side while it waited. */
    void gaveUp() {
        callerDone = true;
        patience.gaveUp(caller, request, Duration.between(since, Instant.now()));
    }

    /** After how long a client like this one gave up before; empty when none was seen to. */
    public Optional<Duration> patience() {
        return patience.of(caller, request);
    }

    /** The client or the service went away. */
    void abandon() {
        if (done.compareAndSet(false, true)) {
            over.run();
        }
    }
}
