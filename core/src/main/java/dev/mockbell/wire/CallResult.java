package dev.mockbell.wire;

import dev.mockbell.exchange.Message;
import dev.mockbell.exchange.Secured;
import dev.mockbell.exchange.Timing;
import java.time.Instant;
import java.util.Optional;

/**
 * What became of a call.
 *
 * @param response what came, which is not all of it when the call failed; empty when nothing came
 * @param secured what TLS used on the connection; empty where there was none
 * @param failure why no whole answer came, a sentence; empty when one did
 * @param next what helps then, sentences; empty when nothing is known to
 */
public record CallResult(
        Instant started,
        Message request,
        Optional<Message> response,
        Timing timing,
        Optional<Secured> secured,
        Optional<String> failure,
        String next) {
    /** Why there is no whole answer and what helps; empty when there is one. */
    public Optional<String> whyNot() {
        return failure.map(f -> next.isEmpty() ? f : f + ". " + next);
    }
}
