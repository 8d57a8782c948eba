package dev.mockbell.exchange;

import dev.mockbell.exchange.Exchange.Outcome;
import dev.mockbell.exchange.Exchange.Way;
import java.time.Instant;
import java.util.Optional;

/**
 * Which exchanges to list; empty parts let everything through.
 *
 * @param text found anywhere: operation, endpoint, origin, note, bodies; upper and lower case alike
 * @param slowerThan in nanoseconds
 */
public record LedgerFilter(
        Optional<Way> way,
        Optional<String> operation,
        Optional<Outcome> outcome,
        String text,
        Optional<Instant> from,
        Optional<Instant> until,
        long slowerThan) {
    public static final LedgerFilter ALL = new LedgerFilter(
            Optional.empty(), Optional.empty(), Optional.empty(), "", Optional.empty(), Optional.empty(), 0);

    public LedgerFilter withWay(Way value) {
        return new LedgerFilter(Optional.ofNullable(value), operation, outcome, text, from, until, slowerThan);
    }

    public LedgerFilter withOperation(String value) {
        return new LedgerFilter(way, Optional.ofNullable(value), outcome, text, from, until, slowerThan);
    }

    public LedgerFilter withOutcome(Outcome value) {
        return new LedgerFilter(way, operation, Optional.ofNullable(value), text, from, until, slowerThan);
    }

    public LedgerFilter withText(String value) {
        return new LedgerFilter(way, operation, outcome, value, from, until, slowerThan);
    }

    public LedgerFilter between(Instant start, Instant end) {
        return new LedgerFilter(
                way, operation, outcome, text, Optional.ofNullable(start), Optional.ofNullable(end), slowerThan);
    }

    public LedgerFilter withSlowerThan(long nanos) {
        return new LedgerFilter(way, operation, outcome, text, from, until, nanos);
    }
}
