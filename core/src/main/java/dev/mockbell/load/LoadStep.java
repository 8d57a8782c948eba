package dev.mockbell.load;

import dev.mockbell.check.Capture;
import dev.mockbell.check.Check;
import dev.mockbell.contract.Contract.BoundOperation;
import dev.mockbell.expression.Expressions;
import dev.mockbell.expression.Scope;
import dev.mockbell.message.MessageOutline;
import dev.mockbell.problem.Problem;
import dev.mockbell.request.Filler;
import dev.mockbell.request.RequestRecipe;
import dev.mockbell.suite.CallSetup;
import dev.mockbell.suite.Case;
import dev.mockbell.suite.Step;
import dev.mockbell.suite.Suite;
import dev.mockbell.suite.Workbench;
import java.net.URI;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;

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
        Set<String> captured = suite.steps().stream()
                .flatMap(s -> s.sends().stream())
                .flatMap(reference -> bench.kept(reference).captures().stream())
                .map(Capture::name)
                .collect(Collectors.toSet());
        List<LoadStep> steps = new ArrayList<>();
        for (Step step : suite.steps()) {
            int index = steps.size();
            // a visitor, so that a new kind of step says what it is under load
            Step.Visitor<LoadStep> ready = call -> of(index, call, bench, endpoint, expressions, captured);
            steps.add(step.accept(ready));
        }
        return steps;
    }

    private static LoadStep of(
            int index,
            Step.Call step,
            Workbench bench,
            String endpoint,
            Expressions expressions,
            Set<String> captured) {
        Case kept = bench.kept(step.caseReference());
        Scope scope = bench.variables(kept);
        CallSetup usual = CallSetup.of(bench, kept, scope);
        CallSetup setup = endpoint.isBlank() ? usual : usual.to(endpoint);
        RequestRecipe recipe = RequestRecipe.of(setup.source()).settled(Filler.of(expressions, scope), captured);
        return new LoadStep(
                index,
                step.name(),
                kept,
                setup.bound(),
                recipe.address(),
                new RequestTemplate(recipe, scope, expressions, captured),
                scope,
                MessageOutline.ofAnswer(setup.contract(), setup.bound().operation()));
    }

    /** Whether the answer's body must be looked at even when the status says success. */
    boolean looksInside() {
        return !kept.captures().isEmpty() || kept.checks().stream().anyMatch(Check::readsBody);
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
