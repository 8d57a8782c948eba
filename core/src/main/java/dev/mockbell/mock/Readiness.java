package dev.mockbell.mock;

import dev.mockbell.contract.Contract;
import dev.mockbell.contract.Operation;
import dev.mockbell.contract.Port;
import dev.mockbell.message.MessageOutline;
import dev.mockbell.problem.Problem;
import dev.mockbell.sample.SampleBuilder;
import dev.mockbell.sample.SampleBuilder.Detail;
import dev.mockbell.soap.Envelope;
import dev.mockbell.soap.SoapVersion;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/** What of a mock's plan would not work as it is meant. */
public final class Readiness {
    private Readiness() {}

    /** Of what kind a remark is, the worst first. */
    public enum Kind {
        /** It cannot be given as it was written. */
        BROKEN,
        /** It can never be given. */
        NEVER,
        /** What it says is not valid by the contract. */
        INVALID,
        /** Some requests get a fault that says so. */
        GAP
    }

    /**
     * A remark.
     *
     * @param answer from 0; -1 for the operation as a whole
     * @param text a sentence
     */
    public record Remark(Kind kind, String operation, int answer, String text) {}

    /** Looks at the answers that were given for operations; what is answered by its sample is as it should be. Work. */
    public static List<Remark> of(Contract whole, MockPlan plan, MockSurroundings around) {
        List<Remark> found = new ArrayList<>();
        if (plan.answers().isEmpty()) {
            return found;
        }
        Contract contract = whole.sentAsHttp();
        Map<String, List<Port>> operations = contract.httpOperations();
        Responder responder = new Responder(contract, plan, MockHost.paths(contract, plan), around, new MockState());
        responder.begin();
        plan.answers().forEach((key, list) -> {
            if (!operations.containsKey(key)) {
                found.add(new Remark(
                        Kind.NEVER,
                        key,
                        -1,
                        "The contract has no operation " + key + " that a mock can be asked for."));
                return;
            }
            responder.target(key).ifPresent(target -> look(contract, target, responder, found));
        });
        return List.copyOf(found);
    }

    private static void look(Contract contract, Target target, Responder responder, List<Remark> found) {
        List<PreparedAnswer> answers = target.answers();
        int always = -1;
        List<String> before = new ArrayList<>();
        for (int i = 0; i < answers.size(); i++) {
            PreparedAnswer prepared = answers.get(i);
            MockAnswer answer = prepared.answer();
            String name = "Answer " + (i + 1) + " · " + answer.title();
            if (prepared.broken() != null) {
                found.add(new Remark(
                        Kind.BROKEN,
                        target.key(),
                        i,
                        name + ": " + prepared.broken().getMessage()));
            } else if (always >= 0) {
                found.add(new Remark(
                        Kind.NEVER,
                        target.key(),
                        i,
                        name + " is never given: answer " + (always + 1) + " before it takes every request."));
            } else if (before.contains(answer.when()) || never(responder, answer)) {
                found.add(new Remark(
                        Kind.NEVER,
                        target.key(),
                        i,
                        name + " is never given: "
                                + (before.contains(answer.when())
                                        ? "an answer before it has the same condition."
                                        : "its condition never holds.")));
            }
            if (always < 0 && !answer.turns().limits() && !falls(answer)) {
                if (answer.when().isBlank()) {
                    always = i;
                } else {
                    before.add(answer.when());
                }
            }
        }
        boolean chosen = answers.stream()
                .anyMatch(a -> a.answer().when().isBlank()
                        && a.answer().turns().calls().isAll()
                        && a.answer().turns().caller().isEmpty());
        if (always < 0 && !chosen && !target.isOneWay()) {
            found.add(new Remark(
                    Kind.GAP,
                    target.key(),
                    -1,
                    answers.isEmpty()
                            ? target.key() + " has no answer: requests get a fault that says so."
                            : target.key() + " has no answer for what meets no condition: that gets a fault."));
        }
        valid(contract, target, responder, found);
    }

    private static boolean falls(MockAnswer answer) {
        return answer.content() instanceof AnswerContent.PassOn onward && onward.elseNext();
    }

    /** Whether a condition that looks at nothing does not hold. */
    private static boolean never(Responder responder, MockAnswer answer) {
        if (answer.when().isBlank()) {
            return false;
        }
        Ground ground = responder.ground();
        var compiled = ground.expressions().compiled(answer.when(), ground.names(), ground.scope());
        boolean looks = compiled.looksAtContext();
        for (int i = 0; i < ground.names().size() && !looks; i++) {
            looks = compiled.uses(i);
        }
        try {
            return !looks && !ground.expressions().holds(answer.when(), ground.scope());
        } catch (Problem undecided) {
            return false;
        }
    }

    /** Whether what is said to the sample of a request is valid. */
    private static void valid(Contract contract, Target target, Responder responder, List<Remark> found) {
        Operation operation = target.operation();
        Optional<String> sample =
                operation.input().map(i -> MessageOutline.of(contract, i)).map(o -> SampleBuilder.text(o, Detail.FULL));
        if (sample.isEmpty() || target.isOneWay()) {
            return;
        }
        List<PreparedAnswer> answers = target.answers();
        for (int i = 0; i < answers.size(); i++) {
            PreparedAnswer prepared = answers.get(i);
            boolean message = prepared.broken() == null
                    && prepared.answer().content() instanceof AnswerContent.Message
                    && prepared.answer().head().parts().isEmpty();
            if (message) {
                int index = i;
                responder
                        .said(target, prepared, Envelope.around(SoapVersion.V11, sample.get(), List.of()))
                        .map(said -> Trial.breaches(contract, target, said))
                        .filter(breaches -> !breaches.isEmpty())
                        .ifPresent(breaches -> found.add(new Remark(
                                Kind.INVALID,
                                target.key(),
                                index,
                                "Answer " + (index + 1) + " · "
                                        + prepared.answer().title()
                                        + " is not valid by the contract: " + breaches.get(0)
                                        + (breaches.size() > 1 ? ", and " + (breaches.size() - 1) + " more" : "")
                                        + ".")));
            }
        }
    }
}
