package dev.mockbell.load;

import dev.mockbell.access.Profile;
import dev.mockbell.check.Capture;
import dev.mockbell.check.Check;
import dev.mockbell.content.Header;
import dev.mockbell.contract.Contract.BoundOperation;
import dev.mockbell.expression.Braces;
import dev.mockbell.expression.Expressions;
import dev.mockbell.expression.Scope;
import dev.mockbell.message.MessageOutline;
import dev.mockbell.problem.Problem;
import dev.mockbell.request.Filler;
import dev.mockbell.request.RequestRecipe;
import dev.mockbell.request.RequestSource;
import dev.mockbell.suite.CallSetup;
import dev.mockbell.suite.Case;
import dev.mockbell.suite.Step;
import dev.mockbell.suite.Suite;
import dev.mockbell.suite.Workbench;
import dev.mockbell.wire.Connect;
import dev.mockbell.wire.Login;
import java.net.URI;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import javax.net.ssl.SSLContext;

/**
 * A step made ready to be sent many times.
 *
 * @param way how its server is reached
 */
record LoadStep(
        int index,
        String name,
        Case kept,
        BoundOperation bound,
        URI address,
        RequestTemplate template,
        Scope scope,
        Optional<MessageOutline> outline,
        Way way) {
    /**
     * How its server is reached.
     *
     * @param profile by whom; empty for nobody. Connections are not shared with others
     * @param tls null where TLS is not spoken
     */
    record Way(String profile, SSLContext tls) {}

    /** What makes steps ready. */
    private record Readying(
            Workbench bench, String endpoint, Connect usual, Expressions expressions, Set<String> captured) {
        LoadStep step(int index, Step.Call step) {
            Case kept = bench.kept(step.caseReference());
            Scope scope = bench.variables(kept);
            Filler filler = Filler.of(expressions, scope);
            CallSetup usualOne = CallSetup.of(bench, kept, scope);
            CallSetup setup = endpoint.isBlank() ? usualOne : usualOne.to(endpoint);
            URI address =
                    RequestRecipe.of(setup.source()).settled(filler, captured).address();
            Optional<Connect> by = setup.profile().map(p -> p.on(usual, filler, address, setup.folder()));
            RequestSource source = setup.source();
            RequestRecipe recipe = RequestRecipe.of(
                            by.flatMap(c -> login(setup, c)).map(source::with).orElse(source))
                    .settled(filler, captured);
            boolean secure = "https".equalsIgnoreCase(address.getScheme());
            return new LoadStep(
                    index,
                    step.name(),
                    kept,
                    setup.bound(),
                    address,
                    new RequestTemplate(recipe, scope, expressions, captured),
                    scope,
                    MessageOutline.ofAnswer(setup.contract(), setup.bound().operation()),
                    new Way(
                            setup.profile().map(Profile::name).orElse(""),
                            secure ? by.orElse(usual).tls() : null));
        }

        /** Who logs in says so in every request: nobody is asked. */
        private static Optional<Header> login(CallSetup setup, Connect by) {
            Profile profile = setup.profile().orElseThrow();
            if (by.login().filter(Login.WhenAsked.class::isInstance).isPresent()) {
                throw Problem.input(
                        "Under load nobody is asked to log in, and the profile “" + profile.name() + "” waits for that",
                        setup.kept().title(),
                        "Choose a profile that logs in at once.");
            }
            if (!profile.via().address().isBlank()) {
                throw Problem.input(
                        "Under load servers are reached straight, and the profile “" + profile.name()
                                + "” goes through a proxy",
                        setup.kept().title(),
                        "Choose a profile without one.");
            }
            return by.login().flatMap(Login::atOnce).map(v -> new Header("Authorization", Braces.literally(v)));
        }
    }

    /**
     * Makes the steps of a suite ready.
     *
     * @param usual how servers are reached where no profile says otherwise
     * @throws Problem when a case is missing, an expression is wrong or an address is, or a profile cannot be used under load
     */
    static List<LoadStep> of(Suite suite, Workbench bench, String endpoint, Connect usual, Expressions expressions) {
        if (suite.steps().isEmpty()) {
            throw Problem.input("The suite has no steps", suite.title(), "Add a case to it first.");
        }
        List<Step.Call> calls = new ArrayList<>();
        suite.steps().forEach(step -> step.accept(new Calls(calls)));
        Set<String> captured = calls.stream()
                .flatMap(call -> bench.kept(call.caseReference()).captures().stream())
                .peek(LoadStep::refuseList)
                .map(Capture::name)
                .collect(Collectors.toSet());
        Readying readying = new Readying(bench, endpoint, usual, expressions, captured);
        List<LoadStep> steps = new ArrayList<>();
        for (Step.Call call : calls) {
            steps.add(readying.step(steps.size(), call));
        }
        return steps;
    }

    private static void refuseList(Capture capture) {
        if (capture.takes() != Capture.Takes.VALUE || capture.fromRequest()) {
            throw Problem.input(
                    "Under load a capture takes one value of the answer, and $" + capture.name()
                            + " takes something else",
                    capture.path(),
                    "Capture one value.");
        }
    }

    /**
     * The calls of steps in their order, those within groups too; other kinds have no meaning under load yet.
     *
     * @param calls is added to
     */
    private record Calls(List<Step.Call> calls) implements Step.Visitor<Void> {
        @Override
        public Void call(Step.Call step) {
            if (!step.on()) {
                return null;
            }
            if (step.known().isPresent()) {
                throw refused(step, "has known values");
            }
            calls.add(step);
            return null;
        }

        @Override
        public Void group(Step.Group step) {
            if (step.on()) {
                step.inner().forEach(s -> s.accept(this));
            }
            return null;
        }

        @Override
        public Void pause(Step.Pause step) {
            return refuse(step, "waits");
        }

        @Override
        public Void until(Step.Until step) {
            return refuse(step, "repeats others");
        }

        @Override
        public Void suite(Step.RunSuite step) {
            return refuse(step, "runs another suite");
        }

        @Override
        public Void choose(Step.Choose step) {
            return refuse(step, "chooses by a condition");
        }

        @Override
        public Void forEach(Step.ForEach step) {
            return refuse(step, "repeats others");
        }

        private static Void refuse(Step step, String what) {
            if (step.on()) {
                throw refused(step, what);
            }
            return null;
        }

        private static Problem refused(Step step, String what) {
            return Problem.input(
                    "Under load only calls and groups of them are run, and the step “" + step.name() + "” " + what,
                    null,
                    "Switch it off, or put what it calls into a suite of its own.");
        }
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
        return address.getScheme() + "://" + address.getHost() + ":" + port() + " " + way.profile();
    }
}
