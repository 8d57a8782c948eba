package dev.mockbell.suite;

import dev.mockbell.contract.Contract;
import dev.mockbell.contract.Contract.BoundOperation;
import dev.mockbell.contract.MessageDef;
import dev.mockbell.contract.Operation;
import dev.mockbell.contract.Protocol;
import dev.mockbell.exchange.Exchange;
import dev.mockbell.exchange.Exchange.Outcome;
import dev.mockbell.exchange.Exchange.Way;
import dev.mockbell.exchange.HttpMessage.Header;
import dev.mockbell.expression.Braces;
import dev.mockbell.expression.Expressions;
import dev.mockbell.expression.Scope;
import dev.mockbell.message.MessageOutline;
import dev.mockbell.problem.Problem;
import dev.mockbell.soap.Envelope;
import dev.mockbell.soap.SoapMessage;
import dev.mockbell.soap.SoapVersion;
import dev.mockbell.task.StopSignal;
import dev.mockbell.wire.CallRequest;
import dev.mockbell.wire.CallResult;
import dev.mockbell.wire.HttpCaller;
import java.net.URI;
import java.net.URISyntaxException;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.Function;

/** Turns a case into a call: fills its expressions, wraps it, sends it, says how it went. Safe for many threads. */
public final class CaseCaller {
    private final HttpCaller http;
    private final Expressions expressions;

    public CaseCaller(HttpCaller http, Expressions expressions) {
        this.http = http;
        this.expressions = expressions;
    }

    /**
     * The operation that a case calls.
     *
     * @throws Problem when the contract does not have it
     */
    public static BoundOperation operation(Contract contract, Case kept) {
        return contract.operation(kept.operation(), kept.port().isEmpty() ? null : kept.port())
                .or(() -> contract.operation(kept.operation(), null))
                .orElseThrow(() -> Problem.input(
                        "The contract " + kept.contract() + " has no operation " + kept.operation(),
                        "case " + kept.reference(),
                        "Choose one of "
                                + String.join(", ", contract.operations().keySet()) + "."));
    }

    /** The version of SOAP that a port speaks. */
    public static SoapVersion version(BoundOperation bound) {
        return bound.port().binding().protocol() == Protocol.SOAP12 ? SoapVersion.V12 : SoapVersion.V11;
    }

    /**
     * The request as it will be sent.
     *
     * @param endpoint where to; empty for the address in the contract
     * @throws Problem when an expression fails or there is no address
     */
    public CallRequest prepare(BoundOperation bound, Case kept, Optional<String> endpoint, Scope scope) {
        return prepare(bound, kept, endpoint, braces -> expressions.fill(braces, scope));
    }

    /** As {@link #prepare(BoundOperation, Case, Optional, Scope)}; {@code fill} gives texts with their expressions filled. */
    static CallRequest prepare(
            BoundOperation bound, Case kept, Optional<String> endpoint, Function<Braces, String> fill) {
        SoapVersion version = version(bound);
        String payload = fill.apply(Braces.parseXml(kept.body()));
        List<String> blocks = kept.soapHeaders().isBlank()
                ? List.of()
                : List.of(fill.apply(Braces.parseXml(kept.soapHeaders().strip())));
        byte[] body = Envelope.around(version, payload, blocks).getBytes(StandardCharsets.UTF_8);
        String action = bound.operation().soapAction().orElse("");
        List<Header> headers = new ArrayList<>();
        headers.add(new Header("Content-Type", version.contentType(action)));
        if (version == SoapVersion.V11) {
            headers.add(new Header("SOAPAction", "\"" + action + "\""));
        }
        for (Header header : kept.headers()) {
            headers.removeIf(h -> h.name().equalsIgnoreCase(header.name()));
            headers.add(new Header(header.name(), fill.apply(Braces.parse(header.value()))));
        }
        String address = endpoint.map(e -> fill.apply(Braces.parse(e)))
                .or(bound.port()::address)
                .orElseThrow(() -> Problem.input(
                        "Port " + bound.port().name() + " has no address",
                        null,
                        "Give the endpoint in the environment or on the command line."));
        try {
            URI uri = new URI(address.strip());
            if (uri.getHost() == null
                    || uri.getScheme() == null
                    || !uri.getScheme().matches("(?i)https?")) {
                throw Problem.input(
                        "This is not an address that can be called", address, "Start it with http:// or https://.");
            }
            return new CallRequest("POST", uri, headers, body, CallRequest.USUAL_TIMEOUT);
        } catch (URISyntaxException e) {
            throw Problem.of(
                    Problem.Kind.INPUT, "This is not a well-formed address: " + e.getReason(), address, "Mend it.", e);
        }
    }

    /** Sends a prepared request. Always gives an exchange, also when there was no answer. */
    public Exchange send(BoundOperation bound, Case kept, CallRequest request, String origin, StopSignal stop) {
        CallResult result = http.call(request, stop);
        Exchange raw = new Exchange(
                0,
                result.started(),
                Way.CALLED,
                kept.contract(),
                kept.operation(),
                request.address().toString(),
                origin,
                result.request(),
                result.response(),
                result.timing(),
                Outcome.FINE,
                "");
        return judged(raw, bound.operation(), result.failure());
    }

    private static Exchange judged(Exchange raw, Operation operation, Optional<String> failure) {
        if (raw.response().isEmpty()) {
            return raw.withOutcome(Outcome.FAILED, failure.orElse("no answer"));
        }
        boolean oneWay = operation.pattern() == Operation.Pattern.ONE_WAY;
        byte[] body = raw.response().get().body();
        if (body.length == 0) {
            boolean fine = raw.status() / 100 == 2 && (oneWay || raw.status() == 202);
            return fine ? raw : raw.withOutcome(Outcome.FAILED, "status " + raw.status() + " without a body");
        }
        try {
            SoapMessage soap = SoapMessage.parse(body, "response");
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

    /** What the answer of an operation holds; empty for a one-way operation. */
    public static Optional<MessageOutline> answerOutline(Contract contract, Operation operation) {
        return operation.output().map(o -> MessageOutline.of(contract, o));
    }

    /** What a request of an operation holds. */
    public static MessageOutline requestOutline(Contract contract, Operation operation) {
        return operation
                .input()
                .map((MessageDef i) -> MessageOutline.of(contract, i))
                .orElseGet(() -> MessageOutline.empty(contract));
    }
}
