package dev.mockbell.suite;

import dev.mockbell.contract.Contract.BoundOperation;
import dev.mockbell.contract.Operation;
import dev.mockbell.exchange.Exchange;
import dev.mockbell.exchange.Exchange.Outcome;
import dev.mockbell.exchange.Exchange.Way;
import dev.mockbell.expression.Expressions;
import dev.mockbell.expression.Scope;
import dev.mockbell.problem.Problem;
import dev.mockbell.redact.Redactor;
import dev.mockbell.request.Filler;
import dev.mockbell.request.RequestRecipe;
import dev.mockbell.soap.SoapMessage;
import dev.mockbell.task.StopSignal;
import dev.mockbell.wire.CallRequest;
import dev.mockbell.wire.CallResult;
import dev.mockbell.wire.HttpCaller;
import java.util.Optional;

/** Turns a case into a call: fills its expressions, wraps it, sends it, says how it went. Safe for many threads. */
public final class CaseCaller {
    private final HttpCaller http;
    private final Expressions expressions;

    public CaseCaller(HttpCaller http, Expressions expressions) {
        this.http = http;
        this.expressions = expressions;
    }

    /**
     * The request as it will be sent.
     *
     * @param endpoint where to; empty for the address in the contract
     * @throws Problem when an expression fails, there is no address, or a secret may not go there
     */
    public CallRequest prepare(BoundOperation bound, Case kept, Optional<String> endpoint, Scope scope) {
        return RequestRecipe.of(bound, kept.request(), endpoint).make(Filler.of(expressions, scope));
    }

    /**
     * Sends a prepared request. Always gives an exchange, also when there was no answer. Its messages hold the bytes as they
     * were; what is listed of it, its address and note, is masked.
     */
    public Exchange send(
            BoundOperation bound, Case kept, CallRequest request, String origin, Redactor redactor, StopSignal stop) {
        CallResult result = http.call(request, stop);
        Exchange raw = new Exchange(
                0,
                result.started(),
                Way.CALLED,
                kept.contract(),
                kept.operation(),
                redactor.text(request.address().toString()),
                origin,
                result.request(),
                result.response(),
                result.timing(),
                Outcome.FINE,
                "");
        Exchange judged = judged(raw, bound.operation(), result.failure());
        return judged.withOutcome(judged.outcome(), redactor.text(judged.note()));
    }

    /** How an exchange went, by its status and by what the body is. */
    public static Exchange judged(Exchange raw, BoundOperation bound) {
        return judged(raw, bound.operation(), Optional.empty());
    }

    private static Exchange judged(Exchange raw, Operation operation, Optional<String> failure) {
        if (raw.response().isEmpty()) {
            return raw.withOutcome(Outcome.FAILED, failure.orElse("no answer"));
        }
        boolean oneWay = operation.pattern() == Operation.Pattern.ONE_WAY;
        if (raw.response().get().body().isEmpty()) {
            boolean fine = raw.status() / 100 == 2 && (oneWay || raw.status() == 202);
            return fine ? raw : raw.withOutcome(Outcome.FAILED, "status " + raw.status() + " without a body");
        }
        try {
            SoapMessage soap = SoapMessage.of(raw.response().get(), "response");
            if (soap.fault().isPresent()) {
                return raw.withOutcome(Outcome.FAULT, soap.fault().get().title());
            }
        } catch (Problem problem) {
            return raw.withOutcome(Outcome.FAILED, "status " + raw.status() + ", " + lower(problem.what()));
        }
        return raw.status() / 100 == 2 ? raw : raw.withOutcome(Outcome.FAILED, "status " + raw.status());
    }

    private static String lower(String text) {
        return Character.toLowerCase(text.charAt(0)) + text.substring(1);
    }
}
