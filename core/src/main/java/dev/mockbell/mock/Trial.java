package dev.mockbell.mock;

import dev.mockbell.contract.Contract;
import dev.mockbell.message.MessageOutline;
import dev.mockbell.problem.Problem;
import dev.mockbell.soap.SoapMessage;
import dev.mockbell.validation.MessageValidator;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.BooleanSupplier;

/**
 * What a mock would answer to a request, found out without a client: nothing is counted, remembered or passed on by it.
 *
 * @param operation empty when none is called
 * @param answer which answer would be given, from 0; -1 for none
 * @param status of HTTP
 * @param body what would be sent; empty where the live endpoint would be asked
 * @param why why no answer of the operation would be given, or what is known of the one that would; empty for nothing
 * @param verdicts of each answer, in order
 */
public record Trial(String operation, int answer, int status, String body, String why, List<Verdict> verdicts) {
    private static final int SOME = 20;

    /**
     * Of one answer.
     *
     * @param fits whether its condition holds
     * @param near how much of it does, from 0 to 1
     * @param why what does not hold, a clause for each
     */
    public record Verdict(int answer, boolean fits, double near, List<String> why) {}

    /** The answer that came nearest without fitting; empty when there is none. */
    public Optional<Verdict> nearest() {
        return verdicts.stream().filter(v -> !v.fits()).max((a, b) -> Double.compare(a.near(), b.near()));
    }

    /**
     * Tries a request; work.
     *
     * @param request an envelope as it came, or as it was typed
     */
    public static Trial of(Contract contract, MockPlan plan, MockSurroundings around, MockEvent.Kept request) {
        return of(contract, plan, around, request, new MockState());
    }

    /** As {@link #of(Contract, MockPlan, MockSurroundings, MockEvent.Kept)}, with what is remembered in a state, which is used up. */
    static Trial of(Contract whole, MockPlan plan, MockSurroundings around, MockEvent.Kept request, MockState state) {
        Contract contract = whole.sentAsHttp();
        // what came in the fields of a request is not kept with it
        RequestRules rules = plan.conduct().rules();
        MockPlan tried = plan.with(plan.conduct().with(rules.with(rules.login().ofEnvelope())));
        Responder responder = new Responder(contract, tried, MockHost.paths(contract, tried), around, state);
        responder.begin();
        RequestType type = RequestType.of(request.contentType());
        byte[] body = request.body().bytes();
        MockRequest asked = new MockRequest(
                request.path().isEmpty() ? responder.pathFor(type.name()) : request.path(),
                type,
                request.action(),
                type.inUtf8(body),
                body,
                () -> Map.of("content-type", request.contentType()),
                () -> "127.0.0.1");
        return responder.tried(asked);
    }

    /** Answers the sample of each operation's request again and again, for a while or until that is enough. */
    static void repeat(
            Contract contract, MockPlan plan, MockSurroundings around, Duration longest, BooleanSupplier enough) {
        Responder responder = new Responder(contract, plan, MockHost.paths(contract, plan), around, new MockState());
        responder.begin();
        List<MockRequest> requests = responder.samples(SOME);
        long end = System.nanoTime() + longest.toNanos();
        while (!requests.isEmpty() && System.nanoTime() < end && !enough.getAsBoolean()) {
            for (MockRequest request : requests) {
                Responder.Found found = responder.find(request);
                if (!found.isOnward()) {
                    responder.replyAtOnce(found);
                }
            }
        }
    }

    /** A request as a client of a version sends it. */
    public static MockEvent.Kept typed(String envelope) {
        boolean second = envelope.contains(dev.mockbell.soap.SoapVersion.V12.namespace());
        String type = (second ? dev.mockbell.soap.SoapVersion.V12 : dev.mockbell.soap.SoapVersion.V11).contentType("");
        return new MockEvent.Kept(
                "", type, "", dev.mockbell.content.Content.of(envelope.getBytes(StandardCharsets.UTF_8)));
    }

    /** What of an answer breaks the contract; empty when nothing does, or it is no message of its own. */
    static List<String> breaches(Contract contract, Target target, byte[] body) {
        List<String> found = new ArrayList<>();
        Optional<MessageOutline> outline = target.operation().output().map(o -> MessageOutline.of(contract, o));
        if (outline.isEmpty()) {
            return found;
        }
        try {
            new MessageValidator(contract.schemas())
                    .validate(outline.get(), SoapMessage.parse(body, "answer"))
                    .forEach(b -> found.add(b.text() + " (at " + b.path() + ")"));
        } catch (Problem notRead) {
            found.add(notRead.getMessage());
        }
        return found;
    }
}
