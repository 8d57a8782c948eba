package dev.mockbell.request;

import dev.mockbell.contract.Contract.BoundOperation;
import dev.mockbell.contract.Transport;
import dev.mockbell.expression.Braces;
import dev.mockbell.problem.Problem;
import dev.mockbell.soap.SoapVersion;
import dev.mockbell.wire.CallRequest;
import java.net.URI;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.function.Predicate;

/** How the request of a case is made; taken apart once, made as often as it is sent. Immutable. */
public final class RequestRecipe {
    private final List<Stage> stages;

    private RequestRecipe(List<Stage> stages) {
        this.stages = stages;
    }

    /**
     * Takes the texts of a request apart.
     *
     * @param endpoint where to, perhaps with expressions; empty for the address in the contract
     * @throws Problem when a brace stands alone or there is no address
     */
    public static RequestRecipe of(BoundOperation bound, RequestText text, Optional<String> endpoint) {
        return of(bound, text, endpoint, Optional.empty());
    }

    /** As {@link #of(BoundOperation, RequestText, Optional)}, with what WS-Security adds. */
    public static RequestRecipe of(
            BoundOperation bound, RequestText text, Optional<String> endpoint, Optional<SecurityText> security) {
        SoapVersion version = SoapVersion.of(bound);
        Transport transport = bound.port().binding().transport();
        if (!transport.byHttp()) {
            throw Problem.input(
                    "Port " + bound.port().name() + " is spoken over " + transport.name()
                            + "; requests are sent by HTTP alone",
                    null,
                    "Sample, check and copy its messages here, or call a port of the contract that is spoken over HTTP.");
        }
        String address = endpoint.or(bound.port()::address)
                .orElseThrow(() -> Problem.input(
                        "Port " + bound.port().name() + " has no address",
                        null,
                        "Give the endpoint in the environment or on the command line."));
        // what the contract says is no template
        Braces to = endpoint.isPresent()
                ? Braces.parse(address)
                : new Braces(address, List.of(new Braces.Piece.Literal(address)));
        Optional<Braces> blocks = Optional.of(text.soapHeaders().strip())
                .filter(b -> !b.isEmpty())
                .map(Braces::parseXml);
        List<Stage> stages = new ArrayList<>();
        stages.add(new AddressStage(to));
        stages.add(new EnvelopeStage(version, Braces.parseXml(text.body()), blocks));
        security.filter(s -> !s.isNothing()).ifPresent(s -> stages.add(new SecurityStage(s)));
        stages.add(new HeadStage(
                version,
                bound.operation().soapAction().orElse(""),
                text.headers().stream().map(HeadStage.Field::of).toList()));
        return new RequestRecipe(List.copyOf(stages));
    }

    /**
     * When the request can become another.
     *
     * @param captured names of the variables that steps capture
     */
    public Changes changes(Set<String> captured) {
        Changes all = Changes.NEVER;
        for (Stage stage : stages) {
            all = all.and(stage.changes(captured));
        }
        return all;
    }

    /**
     * The same with every expression filled whose value cannot change in a run, so that it is worked out once.
     *
     * @throws Problem when one gives no value, the address changes from request to request, or a secret may not go there
     */
    public RequestRecipe settled(Filler filler, Set<String> captured) {
        Draft draft = new Draft(filler);
        List<Stage> made = new ArrayList<>();
        for (Stage stage : stages) {
            boolean address = stage instanceof AddressStage;
            if (address && stage.changes(captured) != Changes.NEVER) {
                throw Problem.input(
                        "The address changes from request to request",
                        stage.texts().get(0).source(),
                        "Under load it must be the same throughout.");
            }
            if (address) {
                stage.apply(draft);
                String fixed = draft.address().toString();
                made.add(new AddressStage(new Braces(fixed, List.of(new Braces.Piece.Literal(fixed)))));
            } else {
                made.add(stage.with(text -> Changes.settled(text, draft.filler(), captured)));
            }
        }
        return new RequestRecipe(List.copyOf(made));
    }

    /**
     * Says whether an address, perhaps with expressions, can be one.
     *
     * @throws Problem when it cannot
     */
    public static void checkAddress(String address) {
        Braces braces = Braces.parse(address);
        boolean literal = braces.pieces().stream().allMatch(p -> p instanceof Braces.Piece.Literal);
        if (literal) {
            new AddressStage(braces).apply(new Draft(Braces::literal));
        }
    }

    /** Where the requests of a settled recipe go. */
    public URI address() {
        Draft draft = new Draft(Braces::literal);
        stages.get(0).apply(draft);
        return draft.address();
    }

    /** Whether every expression that is left is of a kind. */
    public boolean expressions(Predicate<String> kind) {
        return stages.stream()
                .flatMap(s -> s.texts().stream())
                .flatMap(t -> t.pieces().stream())
                .allMatch(p -> !(p instanceof Braces.Piece.Expression e) || kind.test(e.xpath()));
    }

    /**
     * The request.
     *
     * @throws Problem when an expression gives no value, the address is none, or a secret may not go there
     */
    public CallRequest make(Filler filler) {
        return make(filler, CallRequest.USUAL_TIMEOUT);
    }

    /** As {@link #make(Filler)}, with another time to wait. */
    public CallRequest make(Filler filler, Duration timeout) {
        Draft draft = new Draft(filler);
        stages.forEach(s -> s.apply(draft));
        return new CallRequest("POST", draft.address(), List.copyOf(draft.headers()), draft.body(), timeout);
    }
}
