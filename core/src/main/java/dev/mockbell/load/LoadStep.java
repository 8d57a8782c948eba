package dev.mockbell.load;

import dev.mockbell.access.Profile;
import dev.mockbell.check.Check;
import dev.mockbell.content.Header;
import dev.mockbell.contract.Contract.BoundOperation;
import dev.mockbell.expression.Braces;
import dev.mockbell.expression.Expressions;
import dev.mockbell.expression.Scope;
import dev.mockbell.expression.SecretHosts;
import dev.mockbell.message.MessageOutline;
import dev.mockbell.problem.Problem;
import dev.mockbell.redact.Redactor;
import dev.mockbell.request.Filler;
import dev.mockbell.request.RequestRecipe;
import dev.mockbell.request.RequestSource;
import dev.mockbell.suite.AnswerRules;
import dev.mockbell.suite.CallSetup;
import dev.mockbell.suite.Case;
import dev.mockbell.suite.Step;
import dev.mockbell.suite.Workbench;
import dev.mockbell.wire.Connect;
import dev.mockbell.wire.Login;
import dev.mockbell.wire.jms.JmsAddress;
import java.net.URI;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import javax.net.ssl.SSLContext;

/**
 * A step made ready to be sent many times.
 *
 * @param index the row of its figures
 * @param redactor of the scope's secrets
 * @param way how its requests go
 * @param validated the case with its answer held against the contract as well
 * @param quick looks into good answers; empty where more is asked of them
 * @param rules how answers are decrypted and their signatures judged; empty where the profile does not ask for that
 * @param latestNanos an answer that takes longer fails
 */
record LoadStep(
        int index,
        String name,
        Case kept,
        BoundOperation bound,
        URI address,
        RequestTemplate template,
        Scope scope,
        Redactor redactor,
        Optional<MessageOutline> outline,
        Way way,
        Case validated,
        Optional<QuickLook> quick,
        Optional<AnswerRules> rules,
        long latestNanos) {
    /**
     * What makes steps ready.
     *
     * @param usual how servers are reached where no profile says otherwise
     * @param captured names of the variables that come up in the run: captures, and columns of rows
     */
    record Readying(Workbench bench, String endpoint, Connect usual, Expressions expressions, Set<String> captured) {
        /**
         * Makes a step ready.
         *
         * @throws Problem when a case is missing, an expression is wrong or an address is, or a profile cannot be used under load
         */
        LoadStep step(int index, Step.Call step) {
            Case kept = bench.kept(step.caseReference());
            Scope scope = bench.variables(kept);
            Filler filler = Filler.of(expressions, scope);
            CallSetup usualOne = CallSetup.of(bench, kept, scope);
            CallSetup setup = endpoint.isBlank() ? usualOne : usualOne.to(endpoint);
            URI address =
                    RequestRecipe.of(setup.source()).settled(filler, captured).address();
            Optional<Connect> by = setup.profile().map(p -> p.on(usual, filler, address, setup.folder()));
            by.ifPresent(c -> refuseProxy(setup));
            RequestSource source = setup.source();
            // who sends to a queue logs in to its broker, once
            boolean queued = JmsAddress.is(address);
            RequestRecipe recipe = RequestRecipe.of(by.filter(c -> !queued)
                            .flatMap(c -> login(setup, c))
                            .map(source::with)
                            .orElse(source))
                    .settled(filler, captured);
            Optional<AnswerRules> rules = Optional.of(AnswerRules.of(setup, filler, address))
                    .filter(r -> r.security().isPresent());
            String profile = setup.profile().map(Profile::name).orElse("");
            Connect reached = by.orElse(usual);
            Way way = queued
                    ? new Way.Queue(
                            profile,
                            JmsAddress.of(address),
                            reached,
                            setup.bound().operation().output().isPresent(),
                            new Way.Queue.Peer.Service())
                    : new Way.Http(profile, Way.Http.isSecure(address) ? reached.tls() : null);
            return new LoadStep(
                    index,
                    step.name(),
                    kept,
                    setup.bound(),
                    address,
                    new RequestTemplate(recipe, way, scope, expressions, captured),
                    scope,
                    scope.redactor(),
                    MessageOutline.ofAnswer(setup.contract(), setup.bound().operation()),
                    way,
                    validated(kept),
                    rules.isPresent()
                            ? Optional.empty()
                            : QuickLook.of(
                                    kept,
                                    MessageOutline.ofAnswer(
                                            setup.contract(), setup.bound().operation()),
                                    scope,
                                    expressions,
                                    captured),
                    rules,
                    kept.checks().stream()
                            .mapToLong(c -> c.latestMillis().orElse(Long.MAX_VALUE / 1_000_000) * 1_000_000)
                            .min()
                            .orElse(Long.MAX_VALUE));
        }

        private static void refuseProxy(CallSetup setup) {
            Profile profile = setup.profile().orElseThrow();
            if (!profile.via().address().isBlank()) {
                throw Problem.input(
                        "Under load servers are reached straight, and the profile “" + profile.name()
                                + "” goes through a proxy",
                        setup.kept().title(),
                        "Choose a profile without one.");
            }
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
            return by.login().flatMap(Login::atOnce).map(v -> new Header("Authorization", Braces.literally(v)));
        }
    }

    private static Case validated(Case kept) {
        if (kept.checks().stream().anyMatch(Check.Valid.class::isInstance)) {
            return kept;
        }
        List<Check> more = new ArrayList<>(kept.checks());
        more.add(new Check.Valid());
        return kept.withChecks(more);
    }

    /**
     * The same, sent to another peer.
     *
     * @param tls null where that one does not speak it
     */
    LoadStep to(URI peer, SSLContext tls) {
        return to(peer, new Way.Http("", tls));
    }

    /** The same to the same queue, answered by another. */
    LoadStep to(Way.Queue other) {
        return to(address, other);
    }

    private LoadStep to(URI peer, Way other) {
        return new LoadStep(
                index,
                name,
                kept,
                bound,
                peer,
                template,
                scope,
                redactor,
                outline,
                other,
                validated,
                quick,
                rules,
                latestNanos);
    }

    /** Whether the answer's body must be looked at even when the status says success. */
    boolean looksInside() {
        return rules.isPresent()
                || !kept.captures().isEmpty()
                || kept.checks().stream().anyMatch(Check::readsBody);
    }

    String target() {
        return way.target(address);
    }

    /** Whether it goes by TLS. */
    boolean isSecure() {
        return way instanceof Way.Http http && http.isSecure();
    }

    /** Which host is put under load: that of the broker where it goes to a queue. */
    String host() {
        String host = JmsAddress.hostOf(address);
        return host.isEmpty() ? JmsAddress.of(address).requestUri() : SecretHosts.plain(host);
    }
}
