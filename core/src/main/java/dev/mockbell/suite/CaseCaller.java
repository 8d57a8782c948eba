package dev.mockbell.suite;

import dev.mockbell.access.Profile;
import dev.mockbell.contract.Contract.BoundOperation;
import dev.mockbell.exchange.Exchange;
import dev.mockbell.exchange.Exchange.Outcome;
import dev.mockbell.exchange.Exchange.Way;
import dev.mockbell.expression.Expressions;
import dev.mockbell.expression.Scope;
import dev.mockbell.problem.Problem;
import dev.mockbell.redact.Redactor;
import dev.mockbell.request.Filler;
import dev.mockbell.request.RequestRecipe;
import dev.mockbell.task.StopSignal;
import dev.mockbell.wire.CallRequest;
import dev.mockbell.wire.CallResult;
import dev.mockbell.wire.Connect;
import dev.mockbell.wire.HttpCaller;
import dev.mockbell.wire.Redirect;
import java.net.URI;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/** Turns a case into a call: fills its expressions, wraps it, sends it, says how it went. Safe for many threads. */
public final class CaseCaller {
    /** A circle ends here, and no service needs more. */
    private static final int MOST_HOPS = 5;

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
     * As {@link #prepare(BoundOperation, Case, Optional, Scope)}, with what a profile puts into the message.
     *
     * @param folder that the profile's files are in
     * @param timeout for all of it
     */
    public CallRequest prepare(
            BoundOperation bound,
            Case kept,
            Optional<String> endpoint,
            Scope scope,
            Optional<Profile> profile,
            Path folder,
            Duration timeout) {
        return RequestRecipe.of(bound, kept.request(), endpoint, profile.map(p -> p.message(folder)))
                .make(Filler.of(expressions, scope), timeout);
    }

    /**
     * As {@link #send}, reaching the server in another way, with all that it asks for before it answers.
     *
     * @return every exchange of it in order, the last with the answer that counts
     */
    public List<Exchange> converse(
            Case kept, CallRequest request, Connect by, String origin, Redactor redactor, StopSignal stop) {
        return http.converse(request, by, stop).stream()
                .map(r -> exchange(kept, request, r, origin, redactor))
                .toList();
    }

    /** Makes the request for where an answer leads. */
    public interface Hop {
        /** @throws Problem when it may not go there */
        CallRequest to(Redirect redirect);
    }

    /**
     * As {@link #converse}, going on to where answers lead. To another server no login, no client certificate, no
     * Authorization and no cookie go along; what only is to be fetched there is asked for without the message.
     *
     * @return every exchange of it in order; the last still leads on when there were {@value #MOST_HOPS} before it
     */
    public List<Exchange> follow(
            Case kept, CallRequest request, Connect by, String origin, Redactor redactor, StopSignal stop, Hop hop) {
        List<Exchange> all = new ArrayList<>(converse(kept, request, by, origin, redactor, stop));
        CallRequest asked = request;
        Connect way = by;
        for (int i = 0; i < MOST_HOPS && !stop.isStopped(); i++) {
            Exchange last = all.get(all.size() - 1);
            URI from = asked.address();
            Optional<Redirect> redirect = last.outcome() == Outcome.FAILED
                    ? Optional.empty()
                    : last.response().flatMap(r -> Redirect.of(r, from));
            if (redirect.isEmpty()) {
                break;
            }
            String leads = "leads on to " + redirect.get().to();
            try {
                asked = redirect.get().without(hop.to(redirect.get()));
            } catch (Problem refused) {
                // what was sent and what came is kept, whatever becomes of the rest
                all.set(all.size() - 1, noted(last, Outcome.FAILED, leads + ", but " + refused.getMessage(), redactor));
                break;
            }
            all.set(all.size() - 1, noted(last, last.outcome(), leads, redactor));
            way = redirect.get().by(way);
            all.addAll(converse(kept, asked, way, origin, redactor, stop));
        }
        return all;
    }

    private static Exchange noted(Exchange exchange, Outcome outcome, String note, Redactor redactor) {
        return exchange.withOutcome(outcome, redactor.text(note));
    }

    /**
     * How a request is sent by a profile.
     *
     * @param folder that the profile's files are in
     * @throws Problem when the profile cannot be used, or a secret may not go there
     */
    public Connect by(Optional<Profile> profile, CallRequest request, Scope scope, Path folder) {
        return by(profile, request.address(), scope, folder);
    }

    /** As {@link #by(Optional, CallRequest, Scope, Path)}, for whatever is sent to an address. */
    public Connect by(Optional<Profile> profile, URI address, Scope scope, Path folder) {
        return profile.map(p -> p.on(connect(), Filler.of(expressions, scope), address, folder))
                .orElseGet(this::connect);
    }

    /** How servers are reached, unless a call says otherwise. */
    public Connect connect() {
        return http.connect();
    }

    /**
     * Sends a prepared request. Always gives an exchange, also when there was no whole answer, which has failed then;
     * one with an answer is for {@link dev.mockbell.check.Answer} to judge. Its messages hold the bytes as they were; what is listed of
     * it, its address and note, is masked.
     */
    public Exchange send(Case kept, CallRequest request, String origin, Redactor redactor, StopSignal stop) {
        return exchange(kept, request, http.call(request, stop), origin, redactor);
    }

    private static Exchange exchange(
            Case kept, CallRequest request, CallResult result, String origin, Redactor redactor) {
        boolean answered = result.failure().isEmpty();
        return new Exchange(
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
                answered ? Outcome.FINE : Outcome.FAILED,
                answered ? "" : redactor.text(result.whyNot().orElse("no answer")));
    }
}
