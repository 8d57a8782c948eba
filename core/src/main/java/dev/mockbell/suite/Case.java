package dev.mockbell.suite;

import dev.mockbell.check.Capture;
import dev.mockbell.check.Check;
import dev.mockbell.compare.Baseline;
import dev.mockbell.content.Header;
import dev.mockbell.contract.Contract;
import dev.mockbell.contract.Contract.BoundOperation;
import dev.mockbell.expression.Variable;
import dev.mockbell.message.MessageOutline;
import dev.mockbell.problem.Problem;
import dev.mockbell.request.Delivery;
import dev.mockbell.request.PartText;
import dev.mockbell.request.RequestText;
import dev.mockbell.sample.SampleBuilder;
import dev.mockbell.sample.SampleBuilder.Detail;
import java.util.List;
import java.util.Optional;
import java.util.function.Consumer;

/**
 * A request that is kept, with what its answer must hold to.
 *
 * @param id short name, unique within its operation; the file's name
 * @param contract the contract's name in the project
 * @param operation the operation's key
 * @param port the port to call; empty for the contract's first that offers the operation
 * @param body the payload, or a whole envelope, with expressions in braces
 * @param soapHeaders the blocks of the SOAP header as XML, with expressions in braces; empty for none
 * @param headers further HTTP headers, with expressions in braces
 * @param security the name of the security profile; empty to go by the environment
 * @param delivery how its request is delivered
 * @param parts files that go with it
 * @param baseline an answer that its answers are held against
 * @param variables values of the case's own; captures and known values of a run come before them
 */
public record Case(
        String id,
        String title,
        String description,
        String contract,
        String operation,
        String port,
        String body,
        String soapHeaders,
        List<Header> headers,
        String security,
        Delivery delivery,
        List<PartText> parts,
        Optional<Baseline> baseline,
        List<Variable> variables,
        List<Check> checks,
        List<Capture> captures) {
    /** A case of a body alone, without headers of its own. */
    public Case(
            String id,
            String title,
            String description,
            String contract,
            String operation,
            String port,
            String body,
            List<Header> headers,
            List<Check> checks,
            List<Capture> captures) {
        this(
                id,
                title,
                description,
                contract,
                operation,
                port,
                body,
                "",
                headers,
                "",
                Delivery.USUAL,
                List.of(),
                Optional.empty(),
                List.of(),
                checks,
                captures);
    }

    /**
     * A case of the contract's own sample, with the header blocks that it names (WS-I Basic Profile 1.1 R2738).
     *
     * @param name the contract's name in the project
     * @param id short name
     * @param title for people
     */
    public static Case ofSample(
            String id, String title, String name, Contract contract, BoundOperation bound, Detail detail) {
        MessageOutline outline = MessageOutline.ofRequest(contract, bound.operation());
        return new Case(
                        id,
                        title,
                        "",
                        name,
                        bound.operation().key(),
                        bound.port().name(),
                        SampleBuilder.text(outline, detail),
                        List.of(),
                        List.of(),
                        List.of())
                .withSoapHeaders(SampleBuilder.headers(outline, detail));
    }

    /** What it sends. */
    public RequestText request() {
        return new RequestText(body, soapHeaders, headers, delivery);
    }

    /**
     * The operation that it calls.
     *
     * @throws Problem when the contract does not have it
     */
    public BoundOperation in(Contract read) {
        return read.operation(operation, port.isEmpty() ? null : port)
                .or(() -> read.operation(operation, null))
                .orElseThrow(() -> Problem.input(
                        "The contract " + contract + " has no operation " + operation,
                        "case " + reference(),
                        "Choose one of " + String.join(", ", read.operations().keySet()) + "."));
    }

    /** The case's full name within the project: {@code hut-booking/ReserveBunks/two-nights}. */
    public String reference() {
        return contract + "/" + operation + "/" + id;
    }

    public Case withBody(String text) {
        return with(d -> d.body = text);
    }

    public Case withPort(String name) {
        return with(d -> d.port = name);
    }

    public Case withName(String newId, String newTitle) {
        return with(d -> {
            d.id = newId;
            d.title = newTitle;
        });
    }

    /** The same under another operation. */
    public Case under(String otherOperation, String newId) {
        return with(d -> {
            d.id = newId;
            d.operation = otherOperation;
        });
    }

    public Case withDescription(String text) {
        return with(d -> d.description = text);
    }

    public Case withSoapHeaders(String xml) {
        return with(d -> d.soapHeaders = xml);
    }

    public Case withHeaders(List<Header> list) {
        return with(d -> d.headers = List.copyOf(list));
    }

    public Case withSecurity(String profile) {
        return with(d -> d.security = profile);
    }

    public Case withDelivery(Delivery other) {
        return with(d -> d.delivery = other);
    }

    public Case withParts(List<PartText> list) {
        return with(d -> d.parts = List.copyOf(list));
    }

    public Case withBaseline(Optional<Baseline> other) {
        return with(d -> d.baseline = other);
    }

    public Case withVariables(List<Variable> list) {
        return with(d -> d.variables = List.copyOf(list));
    }

    public Case withChecks(List<Check> list) {
        return with(d -> d.checks = List.copyOf(list));
    }

    public Case withCaptures(List<Capture> list) {
        return with(d -> d.captures = List.copyOf(list));
    }

    private Case with(Consumer<Draft> change) {
        Draft draft = new Draft(this);
        change.accept(draft);
        return draft.made();
    }

    /** The parts of a case while one of them is changed. */
    private static final class Draft {
        private String id;
        private String title;
        private String description;
        private String contract;
        private String operation;
        private String port;
        private String body;
        private String soapHeaders;
        private List<Header> headers;
        private String security;
        private Delivery delivery;
        private List<PartText> parts;
        private Optional<Baseline> baseline;
        private List<Variable> variables;
        private List<Check> checks;
        private List<Capture> captures;

        Draft(Case from) {
            id = from.id;
            title = from.title;
            description = from.description;
            contract = from.contract;
            operation = from.operation;
            port = from.port;
            body = from.body;
            soapHeaders = from.soapHeaders;
            headers = from.headers;
            security = from.security;
            delivery = from.delivery;
            parts = from.parts;
            baseline = from.baseline;
            variables = from.variables;
            checks = from.checks;
            captures = from.captures;
        }

        Case made() {
            return new Case(
                    id,
                    title,
                    description,
                    contract,
                    operation,
                    port,
                    body,
                    soapHeaders,
                    headers,
                    security,
                    delivery,
                    parts,
                    baseline,
                    variables,
                    checks,
                    captures);
        }
    }
}
