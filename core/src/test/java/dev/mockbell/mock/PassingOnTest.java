package dev.mockbell.mock;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.exchange.Exchange.Way;
import java.net.http.HttpResponse;
import java.util.List;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;

/** A mock that asks the live endpoint, here another mock. */
@Timeout(60)
class PassingOnTest {
    private final MockUnderTest live = new MockUnderTest();
    private final MockUnderTest mock = new MockUnderTest();
    private final String two = MockUnderTest.book("NF-07", 2);

    @BeforeEach
    void start() {
        live.answering(
                MockAnswer.fault("//*:nights = 9", "Full", "Full up", "<full/>"),
                MockAnswer.otherwise(
                                "live", "<said n=\"1\"><hut>{//*:hutId}</hut><trace>{$http?x-trace}</trace></said>")
                        .with(AnswerHead.USUAL.withFields(List.of(new dev.mockbell.content.Header("X-Live", "yes")))));
    }

    @AfterEach
    void close() {
        mock.close();
        live.close();
    }

    private String address() {
        return live.host.addresses().values().iterator().next();
    }

    private static MockAnswer passing(AnswerContent.PassOn content) {
        return new MockAnswer("", "live", content);
    }

    @Test
    void requestAndAnswerGoThroughWithTheirFields() {
        mock.answering(passing(AnswerContent.PassOn.to(address())));
        HttpResponse<String> answer = mock.call(two, "X-Trace", "t-1");
        assertThat(answer.statusCode()).isEqualTo(200);
        assertThat(answer.body()).contains("<hut>NF-07</hut><trace>t-1</trace>");
        assertThat(answer.headers().firstValue("X-Live")).hasValue("yes");
        assertThat(answer.headers().allValues("Content-Length")).hasSize(1);
        assertThat(mock.call(MockUnderTest.book("NF-07", 9)).body()).contains("Full up");
    }

    @Test
    void bothCallsAreRecorded() throws Exception {
        mock.answering(passing(AnswerContent.PassOn.to(address())));
        mock.call(two);
        for (int i = 0; i < 200 && mock.recorded.size() < 2; i++) {
            Thread.sleep(10);
        }
        assertThat(mock.recorded).extracting(e -> e.way()).containsExactlyInAnyOrder(Way.ANSWERED, Way.CALLED);
        assertThat(mock.recorded).allSatisfy(e -> assertThat(e.operation()).isEqualTo("Book"));
    }

    @Test
    void valuesAreChangedOnTheWayThereAndBack() {
        mock.answering(passing(new AnswerContent.PassOn(
                address(),
                false,
                List.of(new ValueChange("//*:hutId", "NF-{//*:nights + 40}")),
                List.of(
                        new ValueChange("/*:said/@n", "{$answer/*/@n + 6}"),
                        new ValueChange("//*:trace", "<{//*:hutId}>")))));
        assertThat(mock.call(two, "X-Trace", "t").body())
                .contains("n=\"7\"")
                .contains("<hut>NF-42</hut>")
                .contains("<trace>&lt;NF-07&gt;</trace>");
    }

    @Test
    void whenTheLiveOneFailsTheNextAnswerIsGivenWhereThatIsWanted() {
        String nowhere = "http://127.0.0.1:1/stay";
        mock.answering(
                passing(new AnswerContent.PassOn(nowhere, true, List.of(), List.of())),
                MockAnswer.otherwise("own", "<said>own</said>"));
        assertThat(MockUnderTest.value(mock.call(two), "said")).isEqualTo("own");
        mock.host.replace(mock.host.plan().withAnswers("Book", List.of(passing(AnswerContent.PassOn.to(nowhere)))));
        HttpResponse<String> failed = mock.call(two);
        assertThat(failed.statusCode()).isEqualTo(500);
        assertThat(failed.body()).contains("The live endpoint did not answer");
        mock.host.replace(
                mock.host.plan().withAnswers("Book", List.of(passing(AnswerContent.PassOn.to("mailto:nobody")))));
        assertThat(mock.call(two).body()).contains("is no address to pass a request on to");
    }

    @Test
    void aPathThatLeadsNowhereIsTold() {
        mock.answering(passing(
                new AnswerContent.PassOn(address(), false, List.of(new ValueChange("//nowhere", "1")), List.of())));
        assertThat(mock.call(two).body()).contains("//nowhere leads nowhere");
    }

    @Test
    void whatTheLiveOneSaidCanBeRemembered() {
        mock.answering(
                MockAnswer.message("exists($hut)", "kept", "<said>{$hut}</said>"),
                passing(AnswerContent.PassOn.to(address()))
                        .withAfter(List.of(new MemoryStep.Remember("hut", "", "$answer//*:hut/string()"))));
        mock.call(two);
        assertThat(MockUnderTest.value(mock.call(MockUnderTest.book("NF-99", 1)), "said"))
                .isEqualTo("NF-07");
    }

    @Test
    void manyThatWaitForASlowLiveOneHoldUpNobodyElse() throws InterruptedException {
        live.host.replace(live.host
                .plan()
                .withAnswers(
                        "Book",
                        List.of(MockAnswer.otherwise("slow", "<said>slow</said>")
                                .withDelay(1_500))));
        mock.answering(
                MockAnswer.message("//*:nights = 1", "own", "<said>own</said>"),
                passing(AnswerContent.PassOn.to(address())));
        List<Thread> waiting = java.util.stream.IntStream.range(0, 20)
                .mapToObj(i -> new Thread(() -> mock.call(two)))
                .toList();
        waiting.forEach(Thread::start);
        assertThat(MockUnderTest.value(mock.call(MockUnderTest.book("NF-07", 1)), "said"))
                .isEqualTo("own");
        assertThat(waiting).anyMatch(Thread::isAlive);
        for (Thread thread : waiting) {
            thread.join();
        }
    }
}
