package dev.mockbell.mock;

import dev.mockbell.content.Header;
import dev.mockbell.expression.Expressions.Compiled;
import dev.mockbell.expression.Template;
import dev.mockbell.problem.Problem;
import dev.mockbell.soap.SoapFault;
import dev.mockbell.soap.SoapVersion;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.concurrent.atomic.LongAdder;
import java.util.stream.Stream;

/**
 * An answer with all done that does not depend on the request: its condition compiled, its envelope of either version taken apart,
 * or in bytes where it is the same for every request. Safe for many threads.
 */
final class PreparedAnswer {
    /** Fields that follow from the body and the connection. */
    static final Set<String> OWN_FIELDS =
            Set.of("content-length", "transfer-encoding", "date", "connection", "trailer");

    private final MockAnswer answer;
    private final MockState.Known known;
    private final Compiled when;
    private final Problem broken;
    private final PreparedBody body;
    private final List<Field> fields = new ArrayList<>();
    private final List<Step> steps = new ArrayList<>();
    private final boolean simple;
    private final boolean looksAtAnswer;

    /** A field of HTTP, its value to be filled. */
    private record Field(String name, Template value) {}

    /** A step of memory, its expressions compiled; those it has not are null. */
    record Step(MemoryStep step, Compiled key, Compiled value) {}

    PreparedAnswer(MockAnswer answer, MockState.Known known, Ground ground) {
        this.answer = answer;
        this.known = known;
        Compiled condition = null;
        PreparedBody made = null;
        Problem trouble = null;
        try {
            condition = answer.when().isBlank() ? null : compiled(answer.when(), ground);
            made = new PreparedBody(answer, ground);
            for (Header field : answer.head().fields()) {
                if (!OWN_FIELDS.contains(field.name().toLowerCase(java.util.Locale.ROOT))) {
                    fields.add(new Field(name(field.name()), ground.text(field.value())));
                }
            }
            answer.after().forEach(step -> steps.add(step.accept(new Compiling(ground))));
        } catch (Problem problem) {
            trouble = problem;
        }
        this.when = condition;
        this.body = made;
        this.broken = trouble;
        this.simple = trouble == null
                && condition == null
                && !answer.turns().limits()
                && made.isConstant()
                && steps.isEmpty()
                && fields.stream().allMatch(f -> f.value().constant());
        this.looksAtAnswer = looksAt(Slot.ANSWER.ordinal());
    }

    private static Compiled compiled(String xpath, Ground ground) {
        return ground.expressions().compiled(xpath, ground.names(), ground.scope());
    }

    /** RFC 9110 §5.1. */
    private static String name(String written) {
        if (!written.strip().matches("[A-Za-z0-9!#$%&'*+.^_`|~-]+")) {
            throw Problem.input(
                    "“" + written + "” cannot be the name of a header field",
                    null,
                    "Names are of letters, digits and signs, without spaces.");
        }
        return written.strip();
    }

    private record Compiling(Ground ground) implements MemoryStep.Visitor<Step> {
        @Override
        public Step remember(MemoryStep.Remember step) {
            return new Step(step, key(step), compiled(step.value(), ground));
        }

        @Override
        public Step forget(MemoryStep.Forget step) {
            return new Step(step, key(step), null);
        }

        private Compiled key(MemoryStep step) {
            return step.key().isBlank() ? null : compiled(step.key(), ground);
        }
    }

    MockAnswer answer() {
        return answer;
    }

    MockState.Known known() {
        return known;
    }

    LongAdder hits() {
        return known.hits();
    }

    /** Why it cannot be given; null when it can. */
    Problem broken() {
        return broken;
    }

    List<Step> steps() {
        return steps;
    }

    boolean isFault() {
        return body.isFault();
    }

    boolean isOnward() {
        return broken == null && body.isOnward();
    }

    /** Whether it is for every request, and the same for each. */
    boolean isSimple() {
        return simple;
    }

    /** Whether it says the same to every request. */
    boolean isConstant() {
        return broken == null && body.isConstant();
    }

    /** Whether it depends on requests before this one, or they on it. */
    boolean isStateful() {
        return answer.turns().counts() || !steps.isEmpty();
    }

    /** Whether what is remembered with it looks at what it says. */
    boolean looksAtAnswer() {
        return looksAtAnswer;
    }

    boolean looksAtCaller() {
        return !answer.turns().caller().isEmpty() || answer.turns().eachCaller();
    }

    /** Whether its expressions look at what a slot holds. */
    boolean looksAt(int slot) {
        boolean context = slot == Slot.REQUEST.ordinal();
        if (broken != null) {
            return false;
        }
        return looks(when, slot, context)
                || body.looks(t -> looks(t, slot, context))
                || fields.stream().anyMatch(f -> looks(f.value(), slot, context))
                || steps.stream()
                        .flatMap(s -> Stream.of(
                                java.util.Optional.ofNullable(s.key()), java.util.Optional.ofNullable(s.value())))
                        .flatMap(java.util.Optional::stream)
                        .anyMatch(c -> looks(c, slot, context));
    }

    private static boolean looks(Compiled compiled, int slot, boolean context) {
        return compiled != null && (context && compiled.looksAtContext() || compiled.uses(slot));
    }

    private static boolean looks(Template template, int slot, boolean context) {
        return context && template.looksAtContext() || template.uses(slot);
    }

    /**
     * Whether its condition holds.
     *
     * @throws Problem when that cannot be decided
     */
    boolean applies(RequestValues values) {
        if (broken != null) {
            throw broken;
        }
        String caller = answer.turns().caller();
        return (caller.isEmpty() || caller.equals(values.caller()))
                && (when == null || when.holds(values.all(), values.context(), values.effort()));
    }

    int status(SoapVersion version) {
        if (answer.head().status() != 0) {
            return answer.head().status();
        }
        if (!body.isFault()) {
            return 200;
        }
        return answer.content() instanceof AnswerContent.Fault fault
                ? fault.code().status(version)
                : SoapFault.Code.RECEIVER.status(version);
    }

    PreparedBody.Body body(SoapVersion version, RequestValues values, MockRequest request) {
        return body.made(version, values, request);
    }

    /** What it says, prepared. */
    PreparedBody content() {
        return body;
    }

    /** The body of one that is simple. */
    PreparedBody.Body body(SoapVersion version) {
        return body.constant(version);
    }

    /** Its fields of HTTP; those of one that is simple need no values. */
    List<Header> fields(RequestValues values) {
        if (fields.isEmpty()) {
            return List.of();
        }
        return fields.stream()
                .map(f -> new Header(
                        f.name(),
                        line(
                                f.value().constant()
                                        ? f.value().filled(null, null, null)
                                        : f.value().filled(values.all(), values.context(), values.effort()))))
                .toList();
    }

    /** What stands in a head stands on one line, and in characters that it can have. */
    private static String line(byte[] filled) {
        return new String(filled, StandardCharsets.UTF_8)
                .replaceAll("[^\\x20-\\x7E\\xA0-\\xFF]+", " ")
                .strip();
    }
}
