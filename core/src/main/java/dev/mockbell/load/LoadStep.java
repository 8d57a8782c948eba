package dev.mockbell.load;

import dev.mockbell.check.Check;
import dev.mockbell.contract.Contract;
import dev.mockbell.contract.Contract.BoundOperation;
import dev.mockbell.expression.Expressions;
import dev.mockbell.expression.Scope;
import dev.mockbell.message.MessageOutline;
import dev.mockbell.problem.Problem;
import dev.mockbell.soap.Envelope;
import dev.mockbell.soap.SoapVersion;
import dev.mockbell.suite.Case;
import dev.mockbell.suite.CaseCaller;
import dev.mockbell.suite.Step;
import dev.mockbell.suite.Suite;
import dev.mockbell.suite.Workbench;
import java.net.URI;
import java.net.URISyntaxException;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/** A step made ready to be sent many times. */
record LoadStep(
        int index,
        String name,
        Case kept,
        BoundOperation bound,
        URI address,
        RequestTemplate template,
        Scope scope,
        Optional<MessageOutline> outline) {
    /**
     * Makes the steps of a suite ready.
     *
     * @throws Problem when a case is missing, an expression is wrong or an address is
     */
    static List<LoadStep> of(Suite suite, Workbench bench, String endpoint, Expressions expressions) {
        if (suite.steps().isEmpty()) {
            throw Problem.input("The suite has no steps", suite.title(), "Add a case to it first.");
        }
        List<LoadStep> steps = new ArrayList<>();
        for (Step step : suite.steps()) {
            steps.add(of(steps.size(), step, bench, endpoint, expressions));
        }
        return steps;
    }

    private static LoadStep of(int index, Step step, Workbench bench, String endpoint, Expressions expressions) {
        Case kept = bench.kept(step.caseReference());
        Contract contract = bench.contract(kept.contract());
        BoundOperation bound = CaseCaller.operation(contract, kept);
        Scope scope = bench.variables(kept);
        String text = Optional.of(endpoint)
                .filter(e -> !e.isBlank())
                .or(() -> bench.endpoint(kept.contract(), bound.port().name()))
                .or(bound.port()::address)
                .orElseThrow(
                        () -> Problem.input("No endpoint is known", "step " + step.name(), "Give one in the plan."));
        URI address;
        try {
            address = new URI(expressions.fill(text, scope).strip());
        } catch (URISyntaxException e) {
            throw Problem.of(
                    Problem.Kind.INPUT, "This is not a well-formed address: " + e.getReason(), text, "Mend it.", e);
        }
        if (address.getHost() == null
                || !"http".equalsIgnoreCase(address.getScheme()) && !"https".equalsIgnoreCase(address.getScheme())) {
            throw Problem.input(
                    "This is not an address that can be called", text, "Start it with http:// or https://.");
        }
        return new LoadStep(
                index,
                step.name(),
                kept,
                bound,
                address,
                new RequestTemplate(
                        head(bound, kept, address, expressions, scope),
                        CaseCaller.version(bound),
                        kept.soapHeaders().isBlank()
                                ? kept.body()
                                : Envelope.around(CaseCaller.version(bound), kept.body(), List.of(kept.soapHeaders())),
                        scope,
                        expressions),
                scope,
                CaseCaller.answerOutline(contract, bound.operation()));
    }

    private static String head(BoundOperation bound, Case kept, URI address, Expressions expressions, Scope scope) {
        SoapVersion version = CaseCaller.version(bound);
        String action = bound.operation().soapAction().orElse("");
        String path = address.getRawPath() == null || address.getRawPath().isEmpty() ? "/" : address.getRawPath();
        String query = address.getRawQuery() == null ? "" : "?" + address.getRawQuery();
        String port = address.getPort() < 0 ? "" : ":" + address.getPort();
        StringBuilder head = new StringBuilder();
        head.append("POST ").append(path).append(query).append(" HTTP/1.1\r\n");
        head.append("Host: ").append(address.getHost()).append(port).append("\r\n");
        head.append("User-Agent: MockBell\r\n");
        boolean typed = kept.headers().stream().anyMatch(h -> h.name().equalsIgnoreCase("Content-Type"));
        if (!typed) {
            head.append("Content-Type: ").append(version.contentType(action)).append("\r\n");
        }
        if (version == SoapVersion.V11) {
            head.append("SOAPAction: \"").append(action).append("\"\r\n");
        }
        kept.headers()
                .forEach(h -> head.append(h.name())
                        .append(": ")
                        .append(expressions.fill(h.value(), scope))
                        .append("\r\n"));
        return head.toString();
    }

    /** Whether the answer's body must be looked at even when the status says success. */
    boolean looksInside() {
        return !kept.captures().isEmpty()
                || kept.checks().stream().anyMatch(c -> !(c instanceof Check.NoFault) && !(c instanceof Check.Within));
    }

    boolean secure() {
        return "https".equalsIgnoreCase(address.getScheme());
    }

    int port() {
        return address.getPort() > 0 ? address.getPort() : secure() ? 443 : 80;
    }

    String target() {
        return address.getScheme() + "://" + address.getHost() + ":" + port();
    }
}
