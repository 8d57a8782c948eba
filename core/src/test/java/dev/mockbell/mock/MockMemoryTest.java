package dev.mockbell.mock;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.mockbell.expression.Expressions;
import dev.mockbell.mock.MemoryStep.Forget;
import dev.mockbell.mock.MemoryStep.Remember;
import dev.mockbell.problem.Problem;
import java.nio.charset.StandardCharsets;
import java.util.Base64;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import java.util.concurrent.ConcurrentSkipListSet;
import java.util.stream.IntStream;
import net.sf.saxon.s9api.XdmAtomicValue;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;

/** What a mock remembers from one request for another. */
@Timeout(60)
class MockMemoryTest {
    private final MockUnderTest mock = new MockUnderTest();

    @AfterEach
    void close() {
        mock.close();
    }

    private static MockAnswer says(String when, String text, MemoryStep... after) {
        return MockAnswer.message(when, text, "<said>" + text + "</said>").withAfter(List.of(after));
    }

    private String said(String hut, int nights, String... headers) {
        return MockUnderTest.value(mock.call(MockUnderTest.book(hut, nights), headers), "said");
    }

    private static String basic(String user) {
        return "Basic " + Base64.getEncoder().encodeToString((user + ":secret").getBytes(StandardCharsets.UTF_8));
    }

    @Test
    void aStayIsKeptReadBackAndForgotten() {
        mock.answering(
                says(
                        "//*:nights = 1",
                        "R-{count(map:keys(($stays, map{})[1])) + 1}",
                        new Remember("stays", "//*:hutId", "//*:guest[2]")),
                says(
                        "//*:nights = 2 and exists($stays?(//*:hutId))",
                        "<?for $g in $stays?(//*:hutId)?>{$g/*:name} {$g/*:age + 1}<?end?>"),
                says("//*:nights = 3", "forgotten", new Forget("stays", "//*:hutId")),
                says("", "unknown"));
        assertThat(said("NF-07", 2)).isEqualTo("unknown");
        assertThat(said("NF-07", 1)).isEqualTo("R-1");
        assertThat(said("NF-08", 1)).isEqualTo("R-2");
        assertThat(said("NF-07", 2)).isEqualTo("Tor Lund 42");
        assertThat(mock.host.remembered(10))
                .extracting(RememberedValue::key)
                .containsExactlyInAnyOrder("NF-07", "NF-08");
        assertThat(said("NF-07", 3)).isEqualTo("forgotten");
        assertThat(said("NF-07", 2)).isEqualTo("unknown");
        assertThat(said("NF-08", 2)).isEqualTo("Tor Lund 42");
    }

    @Test
    void whatTheAnswerSaysCanBeRemembered() {
        mock.answering(
                says("//*:nights = 1", "{bell:uuid()}", new Remember("last", "", "$answer//*:said")),
                MockAnswer.otherwise("last", "<again>{$last}</again>"));
        String said = said("NF-07", 1);
        assertThat(said).hasSize(36);
        assertThat(mock.call(MockUnderTest.book("NF-07", 2)).body()).contains(">" + said + "</");
    }

    @Test
    void noUpdateIsLostHoweverManyComeAtOnce() {
        MockPlan plan = MockPlan.sampling("stay", 0)
                .withAnswers(
                        "Book",
                        List.of(says("$left > 0", "{$left}", new Remember("left", "", "$left - 1")), says("", "full")))
                .with(Conduct.USUAL.remembering("left", "150"));
        mock.start(plan, null);
        Set<String> got = new ConcurrentSkipListSet<>();
        long full = IntStream.range(0, 200)
                .parallel()
                .mapToObj(i -> said("NF-07", 1))
                .peek(got::add)
                .filter("full"::equals)
                .count();
        assertThat(full).isEqualTo(50);
        assertThat(new TreeSet<>(got)).hasSize(151);
    }

    @Test
    void eachCallerMayHaveHisOwn() {
        mock.start(
                MockPlan.sampling("stay", 0)
                        .withAnswers("Book", List.of(says("", "{$seen}", new Remember("seen", "", "sum(($seen, 1))"))))
                        .with(Conduct.USUAL.remembering("seen", "10").apart("seen", true)),
                null);
        assertThat(said("NF-07", 1, "Authorization", basic("ann"))).isEqualTo("10");
        assertThat(said("NF-07", 1, "Authorization", basic("ann"))).isEqualTo("11");
        assertThat(said("NF-07", 1, "Authorization", basic("bo"))).isEqualTo("10");
        assertThat(said("NF-07", 1, "Authorization", basic("ann"))).isEqualTo("12");
        assertThat(mock.host.remembered(10)).extracting(RememberedValue::caller).containsExactlyInAnyOrder("ann", "bo");
    }

    @Test
    void anAnswerThatFailsRemembersAndCountsNothing() {
        mock.answering(
                says("", "{$n}", new Remember("n", "", "sum(($n, 1))"), new Remember("hut", "", "xs:int(//*:hutId)"))
                        .with(Turns.ALWAYS.with(Times.parse("1"))),
                says("", "second"));
        assertThat(mock.call(MockUnderTest.book("NF-07", 1)).statusCode()).isEqualTo(500);
        assertThat(mock.host.remembered(10)).isEmpty();
        assertThat(MockUnderTest.value(mock.call(MockUnderTest.book("12", 1)), "said"))
                .isEmpty();
        assertThat(said("12", 1)).isEqualTo("second");
    }

    @Test
    void valuesAreSeenSetAndForgottenWhileItRuns() {
        mock.start(
                MockPlan.sampling("stay", 0)
                        .withAnswers("Book", List.of(says("", "{$left}", new Remember("left", "", "$left - 1"))))
                        .with(Conduct.USUAL.remembering("left", "7")),
                null);
        assertThat(said("NF-07", 1)).isEqualTo("7");
        mock.host.remember("left", "", "", "40 + 2");
        assertThat(mock.host.remembered(10)).containsExactly(new RememberedValue("left", "", "", "42"));
        assertThat(said("NF-07", 1)).isEqualTo("42");
        mock.host.replace(mock.host.plan());
        assertThat(said("NF-07", 1)).isEqualTo("41");
        mock.host.forgetAll();
        assertThat(said("NF-07", 1)).isEqualTo("7");
        assertThatThrownBy(() -> mock.host.remember("left", "", "", "1 +")).isInstanceOf(Problem.class);
    }

    @Test
    void itIsBounded() {
        MockMemory memory = new MockMemory();
        MockMemory.Kept large = MockMemory.kept(new XdmAtomicValue("x".repeat(1 << 20)), new Expressions());
        assertThatThrownBy(() -> {
                    for (int i = 0; i < 100; i++) {
                        memory.remember("a", "", "" + i, large);
                    }
                })
                .isInstanceOf(Problem.class)
                .hasMessageContaining("remembers");
        int there = memory.size();
        assertThat(there).isBetween(60, 64);
        memory.forget("a", "", "0");
        memory.remember("b", "", "", large);
        assertThat(memory.size()).isEqualTo(there);
        memory.forget("a", "");
        assertThat(memory.size()).isEqualTo(1);
        assertThat(memory.knows("a", "")).isFalse();
    }

    @Test
    void aSingleValueTakesThePlaceOfManyAndTheOtherWayRound() {
        MockMemory memory = new MockMemory();
        MockMemory.Kept one = MockMemory.kept(new XdmAtomicValue("1"), new Expressions());
        memory.remember("a", "", "k", one);
        memory.remember("a", "", "l", one);
        memory.remember("a", "", "", one);
        assertThat(memory.size()).isEqualTo(1);
        assertThat(memory.of("a", "").toString()).isEqualTo("1");
        memory.remember("a", "", "k", one);
        assertThat(memory.shown(5)).containsExactly(new RememberedValue("a", "", "k", "1"));
        memory.forget("a", "", "k");
        assertThat(memory.size()).isZero();
    }
}
