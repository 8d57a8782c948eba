package dev.mockbell.ledger;

import dev.mockbell.exchange.Exchange;
import dev.mockbell.exchange.Exchange.Outcome;
import dev.mockbell.exchange.Exchange.Way;
import dev.mockbell.exchange.Ties;
import java.time.Instant;

/**
 * A line of the ledger: an exchange without its bodies.
 *
 * @param nanos the total time
 * @param sent size of the request's body in bytes
 * @param received size of the response's body in bytes
 * @param pinned whether it stays when others are let go
 */
public record Listing(
        long id,
        Instant started,
        Way way,
        String contract,
        String operation,
        String endpoint,
        String origin,
        int status,
        long nanos,
        long sent,
        long received,
        Outcome outcome,
        String note,
        Ties ties,
        boolean pinned) {
    public static Listing of(Exchange e) {
        return new Listing(
                e.id(),
                e.started(),
                e.way(),
                e.contract(),
                e.operation(),
                e.endpoint(),
                e.origin(),
                e.status(),
                e.timing().total(),
                e.request().body().size(),
                e.response().map(r -> r.body().size()).orElse(0L),
                e.outcome(),
                e.note(),
                e.ties(),
                false);
    }

    public long millis() {
        return Math.round(nanos / 1e6);
    }
}
