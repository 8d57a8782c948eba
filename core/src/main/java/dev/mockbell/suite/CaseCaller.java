package dev.mockbell.suite;

import dev.mockbell.access.Profile;
import dev.mockbell.content.Content;
import dev.mockbell.exchange.Exchange;
import dev.mockbell.exchange.Exchange.Outcome;
import dev.mockbell.exchange.Exchange.Way;
import dev.mockbell.exchange.Ties;
import dev.mockbell.expression.Expressions;
import dev.mockbell.expression.Scope;
import dev.mockbell.problem.Problem;
import dev.mockbell.redact.Redactor;
import dev.mockbell.request.Delivery;
import dev.mockbell.request.Filler;
import dev.mockbell.request.RequestRecipe;
import dev.mockbell.request.RequestSource;
import dev.mockbell.task.StopSignal;
import dev.mockbell.wire.CallRequest;
import dev.mockbell.wire.CallResult;
import dev.mockbell.wire.Connect;
import dev.mockbell.wire.HttpCaller;
import dev.mockbell.wire.Redirect;
import dev.mockbell.wire.WireHead;
import dev.mockbell.wire.jms.JmsAddress;
import dev.mockbell.wire.jms.JmsCaller;
import dev.mockbell.wire.jms.RequestProperties;
import java.net.URI;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.Function;
import java.util.function.Supplier;

/** Turns a case into a call: fills its expressions, wraps it, sends it, says how it went. Safe for many threads. */
public final class CaseCaller {
    /** A circle ends here, and no service needs more. */
    private static final int MOST_HOPS = 5;

    private final HttpCaller http;
    private final Supplier<JmsCaller> jms;
    private final Expressions expressions;

    /** One that sends by HTTP alone. */
    public CaseCaller(HttpCaller http, Expressions expressions) {
        this(
                http,
                () -> {
                    throw Problem.input("Requests are sent by HTTP alone here", null, null);
                },
                expressions);
    }

    /** @param jms asked for when something goes to a queue, since its classes cost much to load */
    public CaseCaller(HttpCaller http, Supplier<JmsCaller> jms, Expressions expressions) {
        this.jms = jms;
        this.http = http;
        this.expressions = expressions;
    }

    /**
     * The request as it will be sent.
     *
     * @throws Problem when an expression fails, there is no address, a file cannot be read, or a secret may not go there
     */
    public CallRequest request(CallSetup setup) {
        return made(setup, setup.source());
    }

    private CallRequest made(CallSetup setup, RequestSource source) {
        return RequestRecipe.of(source).make(Filler.of(expressions, setup.scope()), setup.timeout());
    }

    /**
     * The request as it will be sent, for people: its secrets masked, its body readable, cut where it is longer than that.
     *
     * @param most bytes of it
     * @throws Problem as {@link #request}
     */
    public String preview(CallSetup setup, int most) {
        CallRequest real = made(setup, setup.lookedAt());
        Redactor redactor = setup.scope().redactor();
        Delivery delivery = setup.kept().delivery();
        Content body = real.body();
        if (!delivery.equals(delivery.readable())) {
            Case readable = setup.kept().withDelivery(delivery.readable());
            body = made(setup, setup.of(readable).lookedAt()).body();
        }
        Content whole = JmsAddress.is(real.address())
                ? RequestProperties.shown(real, body).wire()
                : WireHead.encoded(real, body);
        String text = new String(whole.start(most), StandardCharsets.UTF_8).replace("\r\n", "\n");
        return redactor.wire(text) + (whole.size() > most ? "\n… " + (whole.size() - most) + " more bytes" : "");
    }

    /**
     * Makes a call ready.
     *
     * @throws Problem as {@link #request}, and when the profile cannot be used
     */
    public PreparedCall prepare(CallSetup setup) {
        CallRequest request = request(setup);
        Delivery delivery = setup.kept().delivery();
        Connect by = by(setup.profile(), request.address(), setup.scope(), setup.folder());
        Filler filler = Filler.of(expressions, setup.scope());
        Function<Redirect, CallRequest> hop = redirect -> request(
                setup.to(redirect.to().toString()).by(redirect.sameServer() ? setup.profile() : Optional.empty()));
        AnswerRules rules = AnswerRules.of(setup, filler, request.address());
        return new PreparedCall(
                setup.kept(),
                request,
                by.keeping(!delivery.ownConnection()).with(delivery.waiting().over(by.timeouts())),
                rules.security(),
                rules.addressing(),
                delivery.follows() ? Optional.of(hop) : Optional.empty(),
                setup.bound().operation().output().isPresent(),
                rules.redactor());
    }

    /**
     * Makes a call, with all that the server asks for before it answers, and goes on to where answers lead where that is
     * wanted. To another server no login, no client certificate, no Authorization and no cookie go along; what only is to be
     * fetched there is asked for without the message.
     *
     * <p>There always is an exchange, also when there was no whole answer, which has failed then; one with an answer is for
     * {@link dev.mockbell.check.Answer} to judge. Their messages hold the bytes as they were; what is listed of them, address
     * and note, is masked.
     */
    public Sent send(PreparedCall call, String origin, StopSignal stop) {
        List<Exchange> all = new ArrayList<>(converse(call, call.request(), call.by(), origin, stop));
        CallRequest asked = call.request();
        Connect way = call.by();
        int most = call.hop().isPresent() ? MOST_HOPS : 0;
        for (int i = 0; i < most && !stop.isStopped(); i++) {
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
                asked = redirect.get().without(call.hop().get().apply(redirect.get()));
            } catch (Problem refused) {
                // what was sent and what came is kept, whatever becomes of the rest
                String but = leads + ", but " + refused.getMessage();
                all.set(all.size() - 1, noted(last, Outcome.FAILED, but, call.redactor()));
                break;
            }
            all.set(all.size() - 1, noted(last, last.outcome(), leads, call.redactor()));
            way = redirect.get().by(way);
            all.addAll(converse(call, asked, way, origin, stop));
        }
        return AnswerOpening.of(call.rules(), all);
    }

    private List<Exchange> converse(
            PreparedCall call, CallRequest request, Connect by, String origin, StopSignal stop) {
        if (JmsAddress.is(request.address())) {
            CallResult result;
            try {
                result = jms.get().call(request, call.answered(), by, stop);
            } catch (Problem problem) {
                if (problem.kind() != Problem.Kind.NO_ANSWER) {
                    throw problem;
                }
                // what was to be sent is shown and kept, as it is when no server answers
                result = JmsCaller.unsent(request, problem);
            }
            return List.of(exchange(call.kept(), request, result, origin, call.redactor()));
        }
        return http.converse(request, by, stop).stream()
                .map(r -> exchange(call.kept(), request, r, origin, call.redactor()))
                .toList();
    }

    private static Exchange noted(Exchange exchange, Outcome outcome, String note, Redactor redactor) {
        return exchange.withOutcome(outcome, redactor.text(note));
    }

    /**
     * How a profile has an address reached.
     *
     * @param folder that the profile's files are in
     * @throws Problem when the profile cannot be used, or a secret may not go there
     */
    public Connect by(Optional<Profile> profile, URI address, Scope scope, Path folder) {
        return profile.map(p -> p.on(connect(), Filler.of(expressions, scope), address, folder))
                .orElseGet(this::connect);
    }

    /** How servers are reached, unless a call says otherwise. */
    public Connect connect() {
        return http.connect();
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
                        result.secured(),
                        answered ? Outcome.FINE : Outcome.FAILED,
                        answered ? "" : redactor.text(result.whyNot().orElse("no answer")))
                .with(new Ties("", kept.id().isEmpty() ? "" : "case " + kept.id()));
    }
}
