package dev.mockbell.mock;

import dev.mockbell.contract.Contract;
import dev.mockbell.contract.Operation;
import dev.mockbell.expression.Braces;
import dev.mockbell.expression.Expressions;
import dev.mockbell.expression.Scope;
import dev.mockbell.message.MessageOutline;
import dev.mockbell.sample.SampleBuilder;
import dev.mockbell.sample.SampleBuilder.Detail;
import dev.mockbell.xml.XmlText;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.atomic.LongAdder;

/** An operation with its answers, ready to be given. Safe for many threads. */
final class Target {
    private final Contract contract;
    private final String key;
    private final Operation operation;
    private final MockPlan plan;
    private final Expressions expressions;
    private final Scope ground;
    private final MockState.Counts counts;
    private volatile List<PreparedAnswer> prepared;

    Target(
            Contract contract,
            String key,
            Operation operation,
            MockPlan plan,
            Expressions expressions,
            Scope ground,
            MockState.Counts counts) {
        this.contract = contract;
        this.key = key;
        this.operation = operation;
        this.plan = plan;
        this.expressions = expressions;
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

    MockState.Counts counts() {
        return counts;
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
        List<PreparedAnswer> ready = prepared;
        if (ready == null) {
            synchronized (this) {
                ready = prepared == null ? prepare() : prepared;
                prepared = ready;
            }
        }
        return ready;
    }

    private List<PreparedAnswer> prepare() {
        List<MockAnswer> all = plan.decides(key) ? plan.of(key) : MockPlan.samples(contract, key);
        List<LongAdder> each = counts.of(all);
        List<String> headers = headers();
        List<PreparedAnswer> made = new ArrayList<>();
        for (int i = 0; i < all.size(); i++) {
            made.add(new PreparedAnswer(all.get(i), each.get(i), expressions, ground, headers));
        }
        return List.copyOf(made);
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
        List<PreparedAnswer> ready = prepared;
        return ready != null && (ready.isEmpty() || ready.get(0).isSimple());
    }

    /** Whether its answers are prepared, and a request can be looked at as it was read. */
    boolean isReady() {
        return prepared != null && !isEncoded();
    }

    /** Whether an answer may look into the request. */
    boolean looksAtContent() {
        return looksAt(Slot.REQUEST) && !isEncoded();
    }

    boolean looksAtHttp() {
        return looksAt(Slot.HTTP);
    }

    boolean looksAtHeaders() {
        return looksAt(Slot.HEADERS);
    }

    /** One that is not prepared yet is a sample, which looks at nothing. */
    private boolean looksAt(Slot slot) {
        List<PreparedAnswer> ready = prepared;
        return ready != null && ready.stream().anyMatch(a -> a.looksAt(slot));
    }

    void countFirst() {
        if (!answers().isEmpty()) {
            answers().get(0).hits().increment();
        }
    }

    /** How often each answer that is prepared was given. */
    List<Long> given() {
        List<PreparedAnswer> ready = prepared;
        return ready == null
                ? List.of()
                : ready.stream().map(a -> a.hits().sum()).toList();
    }
}
