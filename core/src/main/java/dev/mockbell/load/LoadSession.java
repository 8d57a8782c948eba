package dev.mockbell.load;

import dev.mockbell.check.Answer;
import dev.mockbell.check.Check;
import dev.mockbell.check.Checker;
import dev.mockbell.content.Content;
import dev.mockbell.exchange.Exchange;
import dev.mockbell.exchange.Exchange.Outcome;
import dev.mockbell.exchange.Ties;
import dev.mockbell.exchange.Timing;
import dev.mockbell.expression.Expressions;
import dev.mockbell.expression.Scope;
import dev.mockbell.suite.CallVerdict;
import java.time.Instant;
import java.util.HashMap;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.ThreadLocalRandom;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.concurrent.atomic.AtomicLongArray;
import java.util.function.Consumer;

/** What the journeys of one load run share: the steps, the workers that look into answers, and what is kept. */
final class LoadSession {
    private static final int MOST_KEPT = 1_000;

    /** What is looked into this fast on average is looked into where it came in. */
    private static final long AT_ONCE_NANOS = 60_000;

    private final LoadPlan plan;
    private final Passage.Course course;
    private final Expressions expressions;
    private final Checker checker;
    private final ExecutorService workers;
    private final Consumer<Exchange> failures;
    private final String origin;
    private final LoadClock clock = new LoadClock();
    private final Map<String, Integer> kept = new ConcurrentHashMap<>();
    private final AtomicInteger keptInAll = new AtomicInteger();
    private final AtomicLongArray looking;
    private final boolean captures;
    private volatile long countsFrom = Long.MAX_VALUE;

    /**
     * What was seen in an answer.
     *
     * @param reason why the step failed; null when it did not
     * @param byCheck whether a check failed it
     */
    record Look(String reason, boolean byCheck) {
        private static final Look FINE = new Look(null, false);
    }

    /** @param failures is given those that are kept, by an event loop or a worker */
    LoadSession(
            LoadPlan plan,
            Passage.Course course,
            Expressions expressions,
            ExecutorService workers,
            Consumer<Exchange> failures) {
        this.plan = plan;
        this.course = course;
        this.expressions = expressions;
        this.checker = new Checker(expressions);
        this.workers = workers;
        this.failures = failures;
        this.origin = "load " + plan.title();
        this.captures = course.passages().stream().anyMatch(Passage::sets)
                || course.steps().stream().anyMatch(s -> !s.kept().captures().isEmpty());
        this.looking = new AtomicLongArray(course.steps().size());
        for (int i = 0; i < looking.length(); i++) {
            looking.set(i, 10 * AT_ONCE_NANOS);
        }
    }

    /** What is intended from then on counts. */
    void countFrom(long nanoTime) {
        countsFrom = nanoTime;
    }

    /** Whether what was intended then counts. */
    boolean counts(long intended) {
        long from = countsFrom;
        return from != Long.MAX_VALUE && intended - from >= 0;
    }

    /** Takes over how long looking takes from a session that did the same. */
    void learnFrom(LoadSession other) {
        for (int i = 0; i < looking.length(); i++) {
            looking.set(i, other.looking.get(i));
        }
    }

    Passage.Course course() {
        return course;
    }

    Pauses pauses() {
        return plan.pauses();
    }

    LoadClock clock() {
        return clock;
    }

    ExecutorService workers() {
        return workers;
    }

    /** Whether any step captures or gives variables values, so that a journey needs room for them. */
    boolean hasValues() {
        return captures;
    }

    /** Whether the next good answer is held against the contract: a share of them is, by chance. */
    boolean validates() {
        double percent = plan.conduct().validatedPercent();
        return percent > 0 && ThreadLocalRandom.current().nextDouble() * 100 < percent;
    }

    /** Why an answer came too late for the step's check of its time; null when it did not. */
    String lateness(LoadStep step, long nanos) {
        return nanos > step.latestNanos() ? "slower than " + step.latestNanos() / 1_000_000 + " ms" : null;
    }

    /** Whether looking into an answer of a step is so quick that it need not be done elsewhere. */
    boolean looksAtOnce(LoadStep step) {
        return looking.get(step.index()) < AT_ONCE_NANOS;
    }

    /**
     * Looks into an answer: checks it, takes captures.
     *
     * @param validating whether it is held against the contract as well
     * @param counts whether a failure is kept
     */
    Look look(
            LoadStep step,
            byte[] request,
            Reply reply,
            long nanos,
            Map<String, String> values,
            boolean validating,
            boolean counts) {
        long began = System.nanoTime();
        Exchange exchange = exchange(step, request, Optional.of(reply), nanos, Outcome.FINE, "");
        Answer answer = read(step, exchange);
        Scope with = values.isEmpty() ? step.scope() : step.scope().with(values);
        CallVerdict verdict = CallVerdict.of(validating ? step.validated() : step.kept(), answer, checker, with);
        if (!validating) {
            long took = System.nanoTime() - began;
            // a mean of the last hundred or so, at once when one takes long
            long before = looking.get(step.index());
            looking.set(step.index(), took > 10 * AT_ONCE_NANOS ? took : before + (took - before) / 64);
        }
        if (verdict.passed()) {
            verdict.captures().forEach((name, value) -> values.put(name, Expressions.text(value)));
            return Look.FINE;
        }
        // it is told, listed and kept with the run
        String reason = step.redactor().text(reason(step, answer, verdict));
        Outcome outcome = answer.fault().isPresent() ? Outcome.FAULT : Outcome.FAILED;
        if (counts) {
            keep(answer.exchange().withOutcome(outcome, reason), reason);
        }
        return new Look(reason, verdict.problem().isEmpty());
    }

    /**
     * The answer that a journey had last.
     *
     * @param nanos from when it was due
     */
    record Last(LoadStep step, byte[] request, Reply reply, long nanos) {}

    /**
     * Whether a condition holds. Work.
     *
     * @param last null before the first answer
     * @throws dev.mockbell.problem.Problem when that cannot be told
     */
    boolean holds(Passage.Asking asking, Last last, Map<String, String> values) {
        return expressions.holds(asking.condition(), scope(asking.base(), last, values));
    }

    /** Texts with their expressions filled. Work. */
    Map<String, String> filled(Passage.Leg.Give give, Last last, Map<String, String> values) {
        Scope scope = scope(give.base(), last, values);
        Map<String, String> filled = new HashMap<>();
        give.texts().forEach((name, text) -> filled.put(name, expressions.fill(text, scope)));
        return filled;
    }

    private Scope scope(Scope base, Last last, Map<String, String> values) {
        Scope scope = values.isEmpty() ? base : base.with(values);
        if (last == null) {
            return scope;
        }
        return checker.scope(read(last.step(), exchange(last)), scope);
    }

    private Answer read(LoadStep step, Exchange exchange) {
        return step.rules()
                .map(rules -> rules.opened(exchange).answer(step.outline(), expressions))
                .orElseGet(() -> Answer.of(exchange, step.outline(), expressions));
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

    /** Keeps a failure whole, as long as there is room for its reason. */
    void keep(LoadStep step, byte[] request, String reason, long nanos) {
        if (hasRoom(reason)) {
            keep(exchange(step, request, Optional.empty(), nanos, Outcome.FAILED, reason), reason);
        }
    }

    /** Keeps an answer that was fine by itself and was not what was waited for. */
    void keep(Last last, String reason) {
        if (hasRoom(reason)) {
            keep(exchange(last).withOutcome(Outcome.FAILED, reason), reason);
        }
    }

    private Exchange exchange(Last last) {
        return exchange(last.step(), last.request(), Optional.of(last.reply()), last.nanos(), Outcome.FINE, "");
    }

    private boolean hasRoom(String reason) {
        return keptInAll.get() < MOST_KEPT
                && kept.getOrDefault(reason, 0) < plan.conduct().failuresKept();
    }

    private void keep(Exchange exchange, String reason) {
        if (keptInAll.get() < MOST_KEPT
                && kept.merge(reason, 1, Integer::sum) <= plan.conduct().failuresKept()) {
            keptInAll.incrementAndGet();
            failures.accept(exchange);
        }
    }

    private Exchange exchange(
            LoadStep step, byte[] request, Optional<Reply> reply, long nanos, Outcome outcome, String note) {
        Content wire = Content.of(request == null ? new byte[0] : request);
        return new Exchange(
                        0,
                        Instant.now().minusNanos(nanos),
                        Exchange.Way.CALLED,
                        step.kept().contract(),
                        step.kept().operation(),
                        step.redactor().text(step.address().toString()),
                        origin + " · " + step.name(),
                        step.way().message(step.address(), wire),
                        reply.flatMap(Reply::message),
                        new Timing(0, 0, nanos, 0),
                        outcome,
                        note)
                .with(new Ties("", origin));
    }
}
