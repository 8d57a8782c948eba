package dev.mockbell.suite;

import dev.mockbell.redact.Redactor;
import dev.mockbell.security.AnswerSecurity;
import dev.mockbell.soap.Addressing;
import dev.mockbell.wire.CallRequest;
import dev.mockbell.wire.Connect;
import dev.mockbell.wire.Redirect;
import java.util.Optional;
import java.util.function.Function;

/**
 * A call that is ready to be made.
 *
 * @param by how its server is reached
 * @param answers how the answer is judged and decrypted; empty to take it as it comes
 * @param addressing what an answer must relate to the request by
 * @param hop the request for where an answer leads; empty not to follow
 * @param answered whether the operation has an answer
 * @param redactor takes secrets out of what is listed
 */
public record PreparedCall(
        Case kept,
        CallRequest request,
        Connect by,
        Optional<AnswerSecurity> answers,
        Addressing addressing,
        Optional<Function<Redirect, CallRequest>> hop,
        boolean answered,
        Redactor redactor) {
    /** What its answer must be. */
    AnswerRules rules() {
        return new AnswerRules(answers, addressing, redactor);
    }

    /** Reaching the server in another way. */
    public PreparedCall by(Connect other) {
        return new PreparedCall(kept, request, other, answers, addressing, hop, answered, redactor);
    }
}
