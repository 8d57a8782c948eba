package dev.mockbell.suite;

import dev.mockbell.check.Answer;
import dev.mockbell.exchange.Exchange;
import dev.mockbell.exchange.Exchange.Outcome;
import dev.mockbell.expression.Expressions;
import dev.mockbell.message.MessageOutline;
import java.util.List;
import java.util.Optional;

/**
 * What became of a call.
 *
 * @param exchanges all that it took, in order, the last with the answer that counts; it still leads on when too many led there
 * @param refusal why an answer that came whole does not count: it is not secured as it must be, or answers another message
 * @param security what was verified of the answer's security; empty when nothing was
 */
public record Sent(List<Exchange> exchanges, Optional<String> refusal, Optional<String> security) {
    public Sent {
        exchanges = List.copyOf(exchanges);
    }

    /** What the server said before it was told who is there, and what led elsewhere. */
    public List<Exchange> before() {
        return exchanges.subList(0, exchanges.size() - 1);
    }

    /** The one with the answer that counts, as it came. */
    public Exchange last() {
        return exchanges.get(exchanges.size() - 1);
    }

    /** The answer read, and judged to have failed where it does not count. A fault stays one. */
    public Answer answer(Optional<MessageOutline> outline, Expressions expressions) {
        Exchange last = last();
        Answer read = Answer.of(last, outline, expressions).verified(security);
        Exchange judged = read.exchange();
        if (refusal.isPresent() && judged.outcome() == Outcome.FINE) {
            return read.with(judged.withOutcome(Outcome.FAILED, refusal.get()));
        }
        return read;
    }
}
