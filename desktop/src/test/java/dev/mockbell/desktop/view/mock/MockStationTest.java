package dev.mockbell.desktop.view.mock;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.content.Content;
import dev.mockbell.content.Header;
import dev.mockbell.desktop.OnDesktop;
import dev.mockbell.desktop.drive.Hand;
import dev.mockbell.desktop.model.MocksModel;
import dev.mockbell.exchange.Message;
import dev.mockbell.soap.Envelope;
import dev.mockbell.soap.SoapVersion;
import dev.mockbell.task.StopSignal;
import dev.mockbell.wire.CallRequest;
import dev.mockbell.wire.HttpCaller;
import java.net.URI;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.List;
import javafx.scene.input.KeyCode;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

class MockStationTest extends OnDesktop {
    private MocksModel mocks;

    @BeforeEach
    void open() {
        mocks = desktop.models.mocks();
        desktop.addContract();
        Hand.run(() -> {
            var plan = mocks.plan().orElseThrow().withPort(0);
            desktop.desk.change(p -> p.withMock(plan));
        });
        hand.press(KeyCode.ALT, KeyCode.DIGIT4);
    }

    private void start() {
        hand.press(KeyCode.CONTROL, KeyCode.ENTER);
        hand.await("the mock", () -> mocks.host().isPresent());
    }

    private Message call(String payload) {
        String address = Hand.on(() -> mocks.host().orElseThrow().addresses().get("Peaks11"));
        String envelope = Envelope.around(SoapVersion.V11, payload, List.of());
        try (HttpCaller http = new HttpCaller()) {
            CallRequest request = new CallRequest(
                    "POST",
                    URI.create(address),
                    List.of(new Header("Content-Type", "text/xml; charset=utf-8")),
                    Content.of(envelope.getBytes(StandardCharsets.UTF_8)),
                    Duration.ofSeconds(10));
            return http.call(request, new StopSignal()).response().orElseThrow();
        }
    }

    private Message climb(int days) {
        return call("<Climb xmlns='urn:peaks'><peak>x</peak><days>" + days + "</days></Climb>");
    }

    @Test
    void whatItAnsweredIsCountedAndListedAndWhatItCouldNotIsExplained() {
        assertThat(hand.find("#mock-start")).isPresent();
        start();
        hand.clickText("No request so far.");
        assertThat(climb(1).status()).isEqualTo(200);
        hand.await("the count", () -> mocks.host().orElseThrow().hits("Climb") == 1);
        hand.clickText("The latest requests were all matched.");
        assertThat(call("<Swim xmlns='urn:peaks'/>").status()).isEqualTo(500);
        hand.await("the unmatched", () -> mocks.host().orElseThrow().unmatched() == 1);
        hand.clickText("unmatched");
        hand.clickText("2 answered · 1 unmatched");
        hand.click("#mock-stop");
        hand.await("down", () -> mocks.host().isEmpty());
        assertThat(Hand.on(() -> hand.find("#mock-stop"))).isEmpty();
    }

    @Test
    void anAnswerIsMadeDelayedAndTakesEffectWhileTheMockIsUp() {
        start();
        hand.click("#add-answer");
        hand.clickText("A message");
        hand.await("the answer", () -> mocks.answers().size() == 2);
        hand.type("#mock-when", "$request//days = 3");
        hand.press(KeyCode.ENTER);
        hand.await("the condition", () -> mocks.answers().get(0).when().equals("$request//days = 3"));
        hand.type("#mock-delay", "300");
        hand.press(KeyCode.ENTER);
        hand.await("the delay", () -> mocks.answers().get(0).delayMillis() == 300);
        long from = System.nanoTime();
        assertThat(climb(3).status()).isEqualTo(200);
        assertThat(Duration.ofNanos(System.nanoTime() - from)).isGreaterThanOrEqualTo(Duration.ofMillis(300));
        climb(4);
        hand.await("both counted apart", () -> mocks.host().orElseThrow().hits("Climb") == 2);
    }

    @Test
    void aDelayThatIsNoneIsRefused() {
        hand.type("#mock-delay", "-5");
        hand.press(KeyCode.ENTER);
        hand.await(
                "the refusal",
                () -> desktop.desk.notices().stream()
                        .anyMatch(n -> n.text().equals("“-5” is not a whole number of milliseconds.")));
        assertThat(Hand.on(() -> mocks.answers().get(0).delayMillis())).isZero();
    }

    @Test
    void aDeletedAnswerComesBack() {
        hand.click("#add-answer");
        hand.clickText("Fault Closed");
        hand.await("the answer", () -> mocks.answers().size() == 2);
        Hand.run(() -> mocks.remove(0));
        hand.await("gone", () -> mocks.answers().size() == 1);
        hand.clickText("Bring it back");
        hand.await("back", () -> mocks.answers().size() == 2);
    }

    @Test
    void aFaultOfTheContractIsAnswered() {
        hand.click("#add-answer");
        hand.clickText("Fault Closed");
        hand.await("the answer", () -> mocks.answers().size() == 2);
        hand.type("#mock-when", "$hits > 1");
        hand.press(KeyCode.ENTER);
        hand.await("the condition", () -> mocks.answers().get(0).when().equals("$hits > 1"));
        hand.type("#mock-reason", "no more today");
        hand.press(KeyCode.ENTER);
        start();
        assertThat(climb(1).status()).isEqualTo(200);
        Message second = climb(1);
        assertThat(second.status()).isEqualTo(500);
        assertThat(second.text()).contains("no more today").contains("Closed");
    }
}
