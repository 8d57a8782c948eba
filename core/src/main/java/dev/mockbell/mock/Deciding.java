package dev.mockbell.mock;

import dev.mockbell.expression.Expressions;
import dev.mockbell.expression.Expressions.Compiled;
import dev.mockbell.problem.Problem;
import dev.mockbell.soap.SoapVersion;
import dev.mockbell.xml.Xml;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import net.sf.saxon.s9api.XdmNode;
import org.codehaus.stax2.XMLInputFactory2;
import org.w3c.dom.Element;

/** Decides which of an operation's answers a request gets. For one request; by one thread at a time. */
final class Deciding {
    private final Target target;
    private final MockState state;
    private final Conduct conduct;
    private final Expressions expressions;
    private final XMLInputFactory2 xml;
    private final RequestValues values;
    /** Whether each answer is for the request, as far as that was looked at. */
    private final Boolean[] fits;

    private boolean counted;

    /**
     * @param xml reads what is remembered of answers
     * @param values of the request, with all that the target's answers look at but what is remembered
     */
    Deciding(
            Target target,
            MockState state,
            Conduct conduct,
            Expressions expressions,
            XMLInputFactory2 xml,
            RequestValues values) {
        this.target = target;
        this.state = state;
        this.conduct = conduct;
        this.expressions = expressions;
        this.xml = xml;
        this.values = values;
        this.fits = new Boolean[target.answers().size()];
    }

    RequestValues values() {
        return values;
    }

    /**
     * What is given: all of it, or, where the live endpoint has to be asked first, which answer says so.
     *
     * @param body null where it is yet to be had
     */
    record Choice(int index, PreparedAnswer answer, PreparedBody.Body body) {}

    /**
     * The first from a place on whose turn it is; null for none. What is remembered with it is remembered by then.
     *
     * @throws Problem when it cannot be decided or made; nothing is counted or remembered then
     */
    Choice next(int from, SoapVersion version, MockRequest request) {
        if (!target.isStateful()) {
            return decided(from, version, request);
        }
        // a request sees all of what those before it left, and nothing of what others do meanwhile
        synchronized (state) {
            return decided(from, version, request);
        }
    }

    private Choice decided(int from, SoapVersion version, MockRequest request) {
        List<PreparedAnswer> answers = target.answers();
        if (target.isStateful()) {
            recall();
        }
        int chosen = -1;
        for (int i = from; i < answers.size() && chosen < 0; i++) {
            if (fits(i)) {
                chosen = among(i);
            }
        }
        List<Integer> met = new ArrayList<>();
        if (!counted) {
            for (int i = 0; i < fits.length; i++) {
                if (!answers.get(i).answer().turns().calls().isAll() && meets(i)) {
                    met.add(i);
                }
            }
        }
        Choice choice = null;
        Runnable remembering = () -> {};
        if (chosen >= 0) {
            PreparedAnswer answer = answers.get(chosen);
            PreparedBody.Body body = answer.isOnward() ? null : answer.body(version, values, request);
            if (body != null && !answer.steps().isEmpty()) {
                remembering = remembering(answer, body.bytes());
            }
            choice = new Choice(chosen, answer, body);
        }
        remembering.run();
        // from here on nothing fails
        counted = true;
        met.forEach(i -> answers.get(i).known().meet(counter(i)));
        if (choice != null) {
            if (choice.answer().answer().turns().choice() != Turns.Chosen.FIRST) {
                choice.answer().known().give(counter(chosen), state.next());
            }
        }
        return choice;
    }

    /** Of each answer whether its condition holds, and why not. Nothing is counted. */
    List<Trial.Verdict> verdicts(Ground ground) {
        synchronized (state) {
            recall();
            Differences differences = new Differences(ground, values);
            List<Trial.Verdict> all = new ArrayList<>();
            for (int i = 0; i < target.answers().size(); i++) {
                PreparedAnswer prepared = target.answers().get(i);
                MockAnswer answer = prepared.answer();
                List<String> why = new ArrayList<>();
                boolean fits = false;
                double near = 1;
                if (prepared.broken() != null) {
                    why.add(prepared.broken().getMessage());
                    near = 0;
                } else {
                    if (!answer.when().isBlank()) {
                        Differences.Near found = differences.of(answer.when());
                        why.addAll(found.words());
                        near = found.share();
                    }
                    String caller = answer.turns().caller();
                    if (!caller.isEmpty() && !caller.equals(values.caller())) {
                        why.add("the caller is “" + values.caller() + "”, not “" + caller + "”");
                        near = near / 2;
                    }
                    long number = prepared.known().met(counter(i)) + 1;
                    Times calls = answer.turns().calls();
                    if (why.isEmpty() && !calls.has(number)) {
                        why.add("it is for times " + calls + ", and this would be " + number);
                    }
                    fits = why.isEmpty();
                }
                all.add(new Trial.Verdict(i, fits, near, List.copyOf(why)));
            }
            return List.copyOf(all);
        }
    }

    /** Keeps what is remembered with an answer that came from elsewhere. */
    void remember(PreparedAnswer answer, byte[] body) {
        if (!answer.steps().isEmpty()) {
            synchronized (state) {
                recall();
                remembering(answer, body).run();
            }
        }
    }

    private void recall() {
        int slot = Slot.values().length;
        for (String name : target.names().subList(slot, target.names().size())) {
            String owner = owner(name);
            values.all()[slot++] = owner.isEmpty() || state.memory().knows(name, owner)
                    ? state.memory().of(name, owner)
                    : state.initial(name);
        }
    }

    private String owner(String name) {
        return conduct.apart().contains(name) ? values.caller() : "";
    }

    private String counter(int index) {
        return target.answers().get(index).answer().turns().eachCaller() ? values.caller() : "";
    }

    /** Whether an answer is for the request, by its condition and by how many met that. */
    private boolean fits(int index) {
        if (!meets(index)) {
            return false;
        }
        PreparedAnswer answer = target.answers().get(index);
        Times calls = answer.answer().turns().calls();
        return calls.isAll() || calls.has(answer.known().met(counter(index)) + (counted ? 0 : 1));
    }

    private boolean meets(int index) {
        if (fits[index] == null) {
            fits[index] = target.answers().get(index).applies(values);
        }
        return fits[index];
    }

    /** The one whose turn it is among an answer and those behind it that are chosen the same way. */
    private int among(int first) {
        List<PreparedAnswer> answers = target.answers();
        Turns.Chosen choice = answers.get(first).answer().turns().choice();
        if (choice == Turns.Chosen.FIRST) {
            return first;
        }
        List<Integer> candidates = new ArrayList<>();
        for (int i = first;
                i < answers.size() && answers.get(i).answer().turns().choice() == choice;
                i++) {
            if (fits(i)) {
                candidates.add(i);
            }
        }
        if (choice == Turns.Chosen.IN_TURN) {
            return candidates.stream()
                    .min((a, b) -> Long.compare(
                            answers.get(a).known().last(counter(a)),
                            answers.get(b).known().last(counter(b))))
                    .orElse(first);
        }
        long all = candidates.stream()
                .mapToLong(i -> answers.get(i).answer().turns().weight())
                .sum();
        long drawn = state.random().nextLong(all);
        for (int i : candidates) {
            drawn -= answers.get(i).answer().turns().weight();
            if (drawn < 0) {
                return i;
            }
        }
        return first;
    }

    /** What is to be done to the memory, worked out but not done. */
    private Runnable remembering(PreparedAnswer answer, byte[] body) {
        RequestValues seen = answer.looksAtAnswer() ? values.answered(payload(body)) : values;
        List<Runnable> steps = new ArrayList<>();
        for (PreparedAnswer.Step step : answer.steps()) {
            String key = text(step.key(), seen);
            String name = step.step().name();
            String owner = owner(name);
            if (step.value() == null) {
                steps.add(
                        step.key() == null
                                ? () -> state.memory().forget(name, owner)
                                : () -> state.memory().forget(name, owner, key));
                continue;
            }
            if (step.key() != null && key.isEmpty()) {
                throw Problem.input(
                        "$" + name + " is to be remembered under nothing",
                        null,
                        "Its key, " + step.step().key() + ", gave no value.");
            }
            MockMemory.Kept kept =
                    MockMemory.kept(step.value().value(seen.all(), seen.context(), seen.effort()), expressions);
            steps.add(() -> state.memory().remember(name, owner, key, kept));
            // the next step sees it
            if (step.key() == null) {
                seen.all()[target.names().indexOf(name)] = kept.value();
            }
        }
        return () -> steps.forEach(Runnable::run);
    }

    private static String text(Compiled expression, RequestValues values) {
        return expression == null
                ? ""
                : Expressions.text(expression.value(values.all(), values.context(), values.effort()));
    }

    /** What is in the body of an answer, as a document; nothing where it is no envelope. */
    private XdmNode payload(byte[] body) {
        RequestReading reading = RequestReading.of(xml, body, expressions::building, name -> name != null);
        if (reading.flaw().isEmpty() && reading.content().isPresent()) {
            return reading.content().get();
        }
        // what is no envelope, or an empty one, or as only an answer may be
        try {
            Element root = Xml.parse(body, "answer", dev.mockbell.xml.XmlLimits.MESSAGE)
                    .getDocumentElement();
            boolean envelope = SoapVersion.ofNamespace(String.valueOf(root.getNamespaceURI()))
                    .isPresent();
            Element payload = envelope
                    ? Xml.children(root).stream()
                            .filter(e -> "Body".equals(e.getLocalName()))
                            .flatMap(b -> Xml.children(b).stream())
                            .findFirst()
                            .orElse(null)
                    : root;
            return payload == null
                    ? expressions.read("<nothing/>")
                    : expressions.read(
                            expressions.xml(expressions.wrap(payload)).getBytes(StandardCharsets.UTF_8));
        } catch (Problem unreadable) {
            throw Problem.input(
                    "$answer cannot be looked into: it is not XML", null, "Remember what the request says instead.");
        }
    }
}
