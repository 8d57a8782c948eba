package dev.mockbell.mock;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.contract.Contract;
import dev.mockbell.contract.Contracts;
import dev.mockbell.exchange.Exchange;
import dev.mockbell.expression.Expressions;
import dev.mockbell.wire.EventLoops;
import java.time.Duration;
import java.util.List;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.concurrent.atomic.AtomicInteger;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;

@Timeout(60)
class RehearsalTest {
    private static final Duration A_WHILE = Duration.ofMillis(400);

    /** So long that even a machine that has much else to do gets some answers. */
    private static final Duration LONG = Duration.ofSeconds(6);

    private final EventLoops loops = new EventLoops("test", 2);
    private final Contract stay = Contracts.stay();
    private final List<Exchange> recorded = new CopyOnWriteArrayList<>();
    private final List<MockEvent> heard = new CopyOnWriteArrayList<>();
    private final AtomicInteger passedOn = new AtomicInteger();
    private final MockSurroundings around = MockSurroundings.alone(
                    loops, new Expressions(), made -> recorded.add(made.get()), heard::add)
            .with((request, stop) -> {
                passedOn.incrementAndGet();
                throw new IllegalStateException("nobody is to be asked");
            });

    @AfterEach
    void close() {
        loops.close();
    }

    private static MockPlan answering(MockAnswer answer) {
        return MockPlan.sampling("stay", 0).withAnswers("Book", List.of(answer));
    }

    private static MockAnswer remembering() {
        return MockAnswer.otherwise("kept", "<kept>{count($all?*)}</kept>")
                .withAfter(List.of(new MemoryStep.Remember("all", "//*:hutId", "string(//*:hutId)")));
    }

    /** Held again where others use the machine: it gives up what it waits for in vain. */
    private long answered(MockPlan plan) {
        long answered = 0;
        for (int i = 0; i < 20 && answered <= 10; i++) {
            answered = Rehearsal.hold(stay, plan, around, LONG, () -> false);
        }
        return answered;
    }

    private static void ended() throws InterruptedException {
        for (Thread thread : Thread.getAllStackTraces().keySet()) {
            if (thread.getName().equals("mock-warm-up")) {
                thread.join();
            }
        }
    }

    @Test
    void theTwinAnswersAndTheMockKnowsNothingOfIt() throws InterruptedException {
        MockPlan plan = answering(remembering());
        assertThat(answered(plan)).isGreaterThan(10);

        try (MockHost host = MockHost.start(stay, plan, around)) {
            host.warmUp(A_WHILE);
            ended();
            assertThat(host.answered()).isZero();
            assertThat(host.remembered(10)).isEmpty();
        }
        assertThat(recorded).isEmpty();
        assertThat(heard).isEmpty();
    }

    @Test
    void nobodyElseIsAsked() {
        MockPlan plan = answering(new MockAnswer("", "live", AnswerContent.PassOn.to("http://127.0.0.1:1/stay")));
        Rehearsal.hold(stay, plan, around, A_WHILE, () -> false);
        assertThat(passedOn).hasValue(0);
    }

    @Test
    void itEndsWhenThatIsEnoughAndAfterItsTime() {
        MockPlan plan = answering(remembering());
        assertThat(Rehearsal.hold(stay, plan, around, Duration.ofHours(1), () -> true))
                .isZero();
        long from = System.nanoTime();
        Rehearsal.hold(stay, plan, around, A_WHILE, () -> false);
        assertThat(Duration.ofNanos(System.nanoTime() - from)).isBetween(A_WHILE, Duration.ofSeconds(20));
    }

    @Test
    void whatHoldsUpOrCutsTheConnectionIsLeftOut() {
        MockPlan plan = answering(remembering().with(Trouble.of(Trouble.Kind.CLOSED)));
        // the other operations still give their samples
        assertThat(answered(plan)).isGreaterThan(10);
    }
}
