package dev.mockbell.suite;

import dev.mockbell.exchange.Exchange;
import dev.mockbell.redact.Redactor;
import dev.mockbell.request.Filler;
import dev.mockbell.request.RequestRecipe;
import dev.mockbell.security.AnswerSecurity;
import dev.mockbell.soap.Addressing;
import java.net.URI;
import java.util.List;
import java.util.Optional;

/**
 * What an answer must be before anything else is looked at in it. Safe for many threads.
 *
 * @param security how it is judged and decrypted; empty to take it as it comes
 * @param addressing what it must relate to the request by
 * @param redactor takes secrets out of what is listed
 */
public record AnswerRules(Optional<AnswerSecurity> security, Addressing addressing, Redactor redactor) {
    /**
     * Those for the answers of a case.
     *
     * @param address where its requests go
     * @throws dev.mockbell.problem.Problem when a key of its profile cannot be read
     */
    public static AnswerRules of(CallSetup setup, Filler filler, URI address) {
        return new AnswerRules(
                setup.profile().flatMap(p -> p.answers(filler, address, setup.folder())),
                RequestRecipe.spoken(setup.bound(), setup.kept().delivery()),
                setup.scope().redactor());
    }

    /** Looks at an answer by them. */
    public Sent opened(Exchange exchange) {
        return AnswerOpening.of(this, List.of(exchange));
    }
}
