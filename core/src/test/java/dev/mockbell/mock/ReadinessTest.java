package dev.mockbell.mock;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.contract.Contract;
import dev.mockbell.contract.Contracts;
import dev.mockbell.expression.Expressions;
import dev.mockbell.mock.Readiness.Kind;
import dev.mockbell.soap.Envelope;
import dev.mockbell.soap.SoapVersion;
import dev.mockbell.wire.EventLoops;
import java.util.List;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;

/** What is known of a plan before a client comes, and of a request without one. */
class ReadinessTest {
    private static final String VALID =
            "<st:BookResponse xmlns:st=\"urn:northfell:stay\"><st:code>R-1</st:code><st:total>12.50</st:total></st:BookResponse>";

    private final EventLoops loops = new EventLoops("test", 1);
    private final Contract stay = Contracts.stay();
    private final MockSurroundings around = MockSurroundings.alone(loops, new Expressions(), null, e -> {});

    @AfterEach
    void close() {
        loops.close();
    }

    private static MockPlan plan(MockAnswer... answers) {
        return MockPlan.sampling("stay", 0).withAnswers("Book", List.of(answers));
    }

    private List<Readiness.Remark> remarks(MockAnswer... answers) {
        return Readiness.of(stay, plan(answers), around);
    }

    private static MockAnswer fine(String when) {
        return MockAnswer.message(when, "fine", VALID);
    }

    @Test
    void samplesAndAnswersThatWorkAreNotRemarkedUpon() {
        assertThat(Readiness.of(stay, MockPlan.sampling("stay", 0), around)).isEmpty();
        assertThat(Readiness.of(stay, MockPlan.of("stay", stay, 0), around)).isEmpty();
        assertThat(remarks(fine("//*:nights > 3"), fine(""))).isEmpty();
        assertThat(remarks(
                        fine("$hits = 1"),
                        fine("").with(Turns.ALWAYS.with(Turns.Chosen.AT_RANDOM)),
                        fine("").with(Turns.ALWAYS.with(Turns.Chosen.AT_RANDOM))))
                .isEmpty();
    }

    @Test
    void whatDoesNotParseIsNamedWithItsPlace() {
        assertThat(remarks(fine("//*:nights >"), fine(""))).singleElement().satisfies(r -> {
            assertThat(r.kind()).isEqualTo(Kind.BROKEN);
            assertThat(r.answer()).isZero();
            assertThat(r.text()).startsWith("Answer 1 · fine: ");
        });
        assertThat(remarks(MockAnswer.otherwise("x", "<a>{$nobody}</a>")))
                .extracting(Readiness.Remark::kind)
                .contains(Kind.BROKEN);
        assertThat(remarks(fine("").with(
                                AnswerHead.USUAL.withParts(List.of(new AnswerHead.AnswerPart("a", "gone.png", ""))))))
                .extracting(Readiness.Remark::kind)
                .contains(Kind.BROKEN);
    }

    @Test
    void whatIsNeverGivenIsNamed() {
        MockAnswer onward =
                new MockAnswer("", "live", new AnswerContent.PassOn("http://h/", true, List.of(), List.of()));
        assertThat(remarks(fine("false()"), fine("//*:nights = 1"), fine("//*:nights = 1"), onward, fine("")))
                .extracting(r -> r.kind() + " " + r.answer())
                .containsExactly("NEVER 0", "NEVER 2");
        assertThat(remarks(fine("").with(Turns.ALWAYS.of("ann")), fine(""), fine("")))
                .extracting(r -> r.kind() + " " + r.answer())
                .containsExactly("NEVER 2");
    }

    @Test
    void gapsAndInvalidMessagesAreNamed() {
        assertThat(remarks(fine("//*:nights = 1")))
                .extracting(Readiness.Remark::kind)
                .containsExactly(Kind.GAP);
        assertThat(remarks()).extracting(Readiness.Remark::kind).containsExactly(Kind.GAP);
        assertThat(remarks(MockAnswer.otherwise("bad", VALID.replace("12.50", "dear"))))
                .singleElement()
                .satisfies(r -> {
                    assertThat(r.kind()).isEqualTo(Kind.INVALID);
                    assertThat(r.text()).contains("dear").contains("total");
                });
        assertThat(remarks(MockAnswer.otherwise("filled", VALID.replace("12.50", "{//*:nights * 12}"))))
                .isEmpty();
    }

    private Trial tried(String payload, MockAnswer... answers) {
        return Trial.of(stay, plan(answers), around, Trial.typed(Envelope.around(SoapVersion.V11, payload, List.of())));
    }

    @Test
    void aRequestIsTriedWithoutAClient() {
        Trial trial = tried(
                MockUnderTest.book("NF-07", 2),
                fine("//*:nights > 7 and //*:hutId = 'NF-07'"),
                fine("//*:hutId = 'NF-99'"),
                MockAnswer.otherwise("echo", VALID.replace("R-1", "{//*:hutId}")));
        assertThat(trial.answer()).as(trial.toString()).isEqualTo(2);
        assertThat(trial.status()).isEqualTo(200);
        assertThat(trial.body()).contains(">NF-07<");
        assertThat(trial.nearest()).hasValueSatisfying(v -> {
            assertThat(v.answer()).isZero();
            assertThat(v.why()).containsExactly("//*:nights is “2”, not > 7");
        });
    }

    @Test
    void whyNothingWouldBeGivenIsSaid() {
        Trial trial = tried(MockUnderTest.book("NF-07", 2), fine("//*:hutId = 'NF-99'"), fine("//*:flag"));
        assertThat(trial.answer()).isEqualTo(-1);
        assertThat(trial.verdicts().get(1).why()).containsExactly("//*:flag does not hold");
        assertThat(tried("<other/>", fine("")).why()).contains("No operation of this contract takes other");
        assertThat(tried("<unclosed>", fine("")).why()).contains("cannot be read");
    }

    @Test
    void aTrialLeavesNothingBehind() {
        MockUnderTest mock = new MockUnderTest();
        try (mock) {
            mock.answering(fine("").withAfter(List.of(new MemoryStep.Remember("n", "", "sum(($n, 1))"))));
            mock.call(MockUnderTest.book("NF-07", 1));
            MockEvent.Kept request = mock.host.latest().get(0).request();
            assertThat(request.isThere()).isTrue();
            assertThat(mock.host.tried(request).answer()).isZero();
            assertThat(mock.host.remembered(9)).containsExactly(new RememberedValue("n", "", "", "1"));
            assertThat(mock.host.hits("Book")).isEqualTo(1);
        }
    }

    @Test
    void conditionsAreTakenApartOutsideOfBracketsAndTexts() {
        assertThat(Differences.split("a = ' and ' and b[c and d] and (e and f)", " and "))
                .containsExactly("a = ' and '", "b[c and d]", "(e and f)");
    }
}
