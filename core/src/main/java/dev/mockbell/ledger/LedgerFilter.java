package dev.mockbell.ledger;

import dev.mockbell.exchange.Exchange.Outcome;
import dev.mockbell.exchange.Exchange.Way;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.Predicate;
import java.util.stream.Collectors;

/**
 * Which exchanges to list. Terms of one kind are alternatives, those of different kinds must all hold; texts, times and
 * XPath conditions must always all hold, and so must what is asked not to be.
 */
public record LedgerFilter(List<Term> terms) {
    public static final LedgerFilter ALL = new LedgerFilter(List.of());

    public LedgerFilter {
        terms = List.copyOf(terms);
    }

    /**
     * A condition, or that it does not hold.
     *
     * @param not whether it must not hold
     */
    public record Term(Condition condition, boolean not) {
        /** As it is typed; what must not be has a hyphen before it. */
        public String typed() {
            return (not ? "-" : "") + condition.typed();
        }
    }

    /**
     * Reads what a person typed: {@code operation:Book status:5xx took:>200ms -way:called "no room"}.
     *
     * @throws dev.mockbell.problem.Problem when a word before a colon is known and what follows is not what it takes
     */
    public static LedgerFilter typed(String text) {
        return new LedgerFilter(new FilterReader(text).terms());
    }

    /** As it is typed; {@link #typed(String)} reads it back. */
    public String typed() {
        return terms.stream().map(Term::typed).collect(Collectors.joining(" "));
    }

    public boolean isEmpty() {
        return terms.isEmpty();
    }

    /** With one more condition; what is there already is not there twice. */
    public LedgerFilter and(Condition condition) {
        return and(new Term(condition, false));
    }

    /** As {@link #and(Condition)}. */
    public LedgerFilter and(Term term) {
        if (terms.contains(term)) {
            return this;
        }
        List<Term> more = new ArrayList<>(terms);
        more.add(term);
        return new LedgerFilter(more);
    }

    /** With all conditions of another filter too. */
    public LedgerFilter and(LedgerFilter other) {
        LedgerFilter all = this;
        for (Term term : other.terms) {
            all = all.and(term);
        }
        return all;
    }

    /** Without a term. */
    public LedgerFilter without(Term term) {
        return without(term::equals);
    }

    /** Without the terms of a kind. */
    public LedgerFilter without(String kind) {
        return without(t -> t.condition().kind().equals(kind));
    }

    private LedgerFilter without(Predicate<Term> which) {
        return new LedgerFilter(terms.stream().filter(which.negate()).toList());
    }

    /** With this condition in place of all of its kind. */
    public LedgerFilter only(Condition condition) {
        return without(condition.kind()).and(condition);
    }

    /** With that way alone; null for any. */
    public LedgerFilter withWay(Way way) {
        return way == null ? without("way") : only(new Condition.ByWay(way));
    }

    /** With that operation alone; null for any. */
    public LedgerFilter withOperation(String name) {
        return name == null
                ? without("operation")
                : only(new Condition.Named(Condition.Field.OPERATION, name.replace("*", "\\*")));
    }

    /** With that result alone; null for any. */
    public LedgerFilter withOutcome(Outcome outcome) {
        return outcome == null ? without("result") : only(new Condition.ByResult(outcome));
    }

    /** With that text alone; blank for none. */
    public LedgerFilter withText(String text) {
        return text.isBlank() ? without("text") : only(new Condition.Holds(text.strip(), false));
    }

    /** With that span of time alone; null for no end, both null for any time. */
    public LedgerFilter between(Instant from, Instant until) {
        return from == null && until == null
                ? without("time")
                : only(new Condition.During(Optional.ofNullable(from), Optional.ofNullable(until)));
    }

    /** The span of time that it asks for; empty where it asks for none. */
    public Optional<Condition.During> during() {
        return terms.stream()
                .filter(t -> !t.not())
                .map(Term::condition)
                .filter(Condition.During.class::isInstance)
                .map(Condition.During.class::cast)
                .findFirst();
    }
}
