package dev.mockbell.desktop.view.mock;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.desktop.drive.Hand;
import dev.mockbell.desktop.model.Station;
import dev.mockbell.exchange.Message;
import java.time.Duration;
import java.util.concurrent.atomic.AtomicReference;
import javafx.scene.Node;
import javafx.scene.input.KeyCode;
import org.junit.jupiter.api.Test;

class MockStationTest extends MockDesk {
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
        hand.click("#segment-behaviour");
        hand.type("#mock-delay", "300");
        hand.press(KeyCode.ENTER);
        hand.await("the delay", () -> mocks.answers().get(0).pause().equals(new dev.mockbell.mock.Pause.Fixed(300)));
        long from = System.nanoTime();
        assertThat(climb(3).status()).isEqualTo(200);
        assertThat(Duration.ofNanos(System.nanoTime() - from)).isGreaterThanOrEqualTo(Duration.ofMillis(300));
        climb(4);
        hand.await("both counted apart", () -> mocks.host().orElseThrow().hits("Climb") == 2);
    }

    @Test
    void stopHearsAClickThatARequestComesInto() {
        start();
        Node stop = Hand.on(() -> hand.find("#mock-stop").orElseThrow());
        hand.await("the bar says so", () -> hand.text("#pill-mocks").contains("1 mock up"));
        Node pill = hand.find("#pill-mocks").orElseThrow();
        Node add = hand.find("#add-answer").orElseThrow();
        assertThat(climb(3).status()).isEqualTo(200);
        hand.await("it is counted", () -> hand.shows("1 answered · 0 unmatched"));
        assertThat(Hand.on(() -> hand.find("#mock-stop").orElseThrow())).isSameAs(stop);
        assertThat(hand.find("#pill-mocks")).containsSame(pill);
        assertThat(hand.find("#add-answer")).containsSame(add);
    }

    @Test
    void anotherMockIsLookedAtByOneClickAndNothingGoesWrong() {
        AtomicReference<Throwable> wrong = new AtomicReference<>();
        Hand.run(() -> Thread.currentThread().setUncaughtExceptionHandler((thread, e) -> wrong.set(e)));
        Hand.run(() -> desktop.desk.contracts().read(desktop.service.base() + "/peaks?wsdl", ""));
        hand.await("another contract", () -> desktop.desk.project().contracts().size() == 2);
        Hand.run(() -> desktop.desk.stationProperty().set(Station.MOCK));
        hand.await("its mock", () -> hand.find("#mock-others .list-cell .label").isPresent());
        String before = Hand.on(() -> mocks.contractProperty().get().name());
        hand.click("#mock-others .list-cell .label");
        hand.await("the other one", () -> !mocks.contractProperty().get().name().equals(before));
        hand.picture();
        assertThat(wrong.get()).isNull();
    }

    @Test
    void aDelayThatIsNoneIsRefused() {
        hand.click("#segment-behaviour");
        hand.type("#mock-delay", "-5");
        hand.press(KeyCode.ENTER);
        hand.await(
                "the refusal",
                () -> desktop.desk.notices().stream()
                        .anyMatch(n -> n.text().contains("“-5” is not a whole number of milliseconds")));
        assertThat(Hand.on(() -> mocks.answers().get(0).pause())).isEqualTo(dev.mockbell.mock.Pause.NONE);
    }

    @Test
    void aDeletedAnswerComesBack() {
        hand.click("#add-answer");
        hand.clickText("Fault Closed");
        hand.await("the answer", () -> mocks.answers().size() == 2);
        Hand.run(() -> mocks.edits().remove(0));
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
