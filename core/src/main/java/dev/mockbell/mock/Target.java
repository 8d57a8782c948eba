package dev.mockbell.mock;

import dev.mockbell.contract.Contract;
import dev.mockbell.contract.Operation;
import dev.mockbell.expression.Braces;
import dev.mockbell.message.MessageOutline;
import dev.mockbell.sample.SampleBuilder;
import dev.mockbell.sample.SampleBuilder.Detail;
import dev.mockbell.xml.XmlText;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.stream.IntStream;
import net.sf.saxon.s9api.XdmAtomicValue;

/** An operation with its answers, ready to be given. Safe for many threads. */
final class Target {
    private final Contract contract;
    private final String key;
    private final XdmAtomicValue name;
    private final Operation operation;
    private final MockPlan plan;
    private final Ground ground;
    private final MockState.Counts counts;
    private volatile Prepared prepared;
    private volatile Optional<MessageOutline> input;

    /**
     * Its answers and what they look at, found out once.
     *
     * @param slots whether anything looks at what each holds
     * @param stateful whether what is given depends on requests before, or later ones on this
     */
    private record Prepared(
            List<PreparedAnswer> answers, boolean[] slots, boolean stateful, boolean onward, boolean caller) {}

    /** @param ground without the headers of the operation */
    Target(Contract contract, String key, Operation operation, MockPlan plan, Ground ground, MockState.Counts counts) {
        this.contract = contract;
        this.key = key;
        this.name = new XdmAtomicValue(key);
        this.operation = operation;
        this.plan = plan;
        this.ground = ground;
        this.counts = counts;
        // samples are made when the first request comes: of a large contract most are never asked for
        if (plan.decides(key)) {
            answers();
        }
    }

    String key() {
        return key;
    }

    /** Its key as expressions see it. */
    XdmAtomicValue name() {
        return name;
    }

    Operation operation() {
        return operation;
    }

    /** What a request may hold; empty when it holds nothing. */
    Optional<MessageOutline> input() {
        Optional<MessageOutline> known = input;
        if (known == null) {
            known = operation.input().map(i -> MessageOutline.of(contract, i));
            input = known;
        }
        return known;
    }

    MockState.Counts counts() {
        return counts;
    }

    /** Of the variables, in the order of their slots. */
    List<String> names() {
        return ground.names();
    }

    boolean isOneWay() {
        return operation.pattern() == Operation.Pattern.ONE_WAY;
    }

    /** Whether its requests may refer from one place to values in another (SOAP 1.1 §5). */
    boolean isEncoded() {
        return operation.input().filter(i -> i.encoding().isPresent()).isPresent();
    }

    /** Its answers, prepared; samples are made here, which may be work. */
    List<PreparedAnswer> answers() {
        return prepared().answers();
    }

    private Prepared prepared() {
        Prepared ready = prepared;
        if (ready == null) {
            synchronized (this) {
                ready = prepared == null ? prepare() : prepared;
                prepared = ready;
            }
        }
        return ready;
    }

    private Prepared prepare() {
        List<MockAnswer> all = plan.decides(key) ? plan.of(key) : MockPlan.samples(contract, key);
        List<MockState.Known> known = counts.of(all);
        Ground own = new Ground(ground.expressions(), ground.scope(), ground.names(), ground.files(), headers());
        List<PreparedAnswer> made = new ArrayList<>();
        for (int i = 0; i < all.size(); i++) {
            made.add(served(new PreparedAnswer(all.get(i), known.get(i), own), known.get(i)));
        }
        boolean[] slots = new boolean[ground.names().size()];
        for (int i = 0; i < slots.length; i++) {
            int slot = i;
            slots[i] = made.stream().anyMatch(a -> a.looksAt(slot));
        }
        boolean remembered = IntStream.range(Slot.values().length, slots.length).anyMatch(i -> slots[i]);
        boolean apart = !plan.conduct().apart().isEmpty()
                && (remembered || made.stream().anyMatch(a -> !a.steps().isEmpty()));
        return new Prepared(
                List.copyOf(made),
                slots,
                remembered || made.stream().anyMatch(PreparedAnswer::isStateful),
                made.stream().anyMatch(PreparedAnswer::isOnward),
                slots[Slot.CALLER.ordinal()] || apart || made.stream().anyMatch(PreparedAnswer::looksAtCaller));
    }

    /** One that cannot be given is served by its last version that could. */
    private static PreparedAnswer served(PreparedAnswer now, MockState.Known known) {
        if (now.broken() == null) {
            known.good(now);
            return now;
        }
        return known.good() == null ? now : known.good();
    }

    /** Samples of the header blocks that an answer must bring, since its contract declares them (WS-I Basic Profile 1.1 R2738). */
    private List<String> headers() {
        return operation
                .output()
                .map(o -> MessageOutline.of(contract, o))
                .map(outline -> outline.headers().stream()
                        .map(h -> XmlText.laidOut(new SampleBuilder(outline, Detail.REQUIRED).build(h)))
                        .map(Braces::literally)
                        .toList())
                .orElse(List.of());
    }

    /** Whether an answer can be given at once, without an expression and without making anything. */
    boolean isSimple() {
        Prepared ready = prepared;
        return ready != null
                && (ready.answers().isEmpty() || ready.answers().get(0).isSimple());
    }

    /** Whether its answers are prepared, a request can be looked at as it was read, and nobody else has to be asked. */
    boolean isReady() {
        return prepared != null && !isEncoded() && !prepared.onward();
    }

    /** Whether the live endpoint may have to be asked. */
    boolean isOnward() {
        return prepared().onward();
    }

    boolean isStateful() {
        return prepared().stateful();
    }

    boolean looksAtCaller() {
        return prepared != null && prepared.caller();
    }

    /** Whether an answer may look into the request. */
    boolean looksAtContent() {
        return looksAt(Slot.REQUEST) && !isEncoded();
    }

    /** One that is not prepared yet is a sample, which looks at nothing. */
    boolean looksAt(Slot slot) {
        Prepared ready = prepared;
        return ready != null && ready.slots()[slot.ordinal()];
    }

    /** Whether an answer is not the one that was given last, but what could be given of it before. */
    boolean isEarlier(int index) {
        List<MockAnswer> wanted = plan.of(key);
        Prepared ready = prepared;
        return ready != null
                && index >= 0
                && index < wanted.size()
                && index < ready.answers().size()
                && !ready.answers().get(index).answer().equals(wanted.get(index));
    }

    /** How often each answer that is prepared was given. */
    List<Long> given() {
        Prepared ready = prepared;
        return ready == null
                ? List.of()
                : ready.answers().stream().map(a -> a.hits().sum()).toList();
    }
}
