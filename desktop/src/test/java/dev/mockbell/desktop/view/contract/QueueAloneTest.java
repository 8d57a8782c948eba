package dev.mockbell.desktop.view.contract;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.desktop.Desktops;
import dev.mockbell.desktop.drive.Hand;
import dev.mockbell.exchange.Exchange;
import dev.mockbell.mock.Trial;
import dev.mockbell.wire.jms.Broker;
import java.nio.file.Files;
import java.nio.file.Path;
import javafx.scene.input.KeyCode;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** A contract that is spoken over a queue alone: previewed, mocked, tried and called in the window. */
class QueueAloneTest {
    @TempDir
    private Path folder;

    @Test
    void itsMockAnswersOnTheQueueAndIsTriedInTheWindow() throws Exception {
        try (Broker broker = new Broker()) {
            String wsdl = TransportsTest.WSDL
                    .replaceAll("<port name=\"Http\".*?</port>", "")
                    .replaceAll("(?s)<binding name=\"H\".*?</binding>", "")
                    .replace("jms:queue:ropes", "jms:queue:ropes?jndiURL=" + broker.tcp());
            Desktops desktop = new Desktops(folder, wsdl, "Tie", "<r:Tied xmlns:r='urn:rope'>yes</r:Tied>");
            Hand hand = desktop.hand;
            try {
                desktop.addContract();
                desktop.mockAnywhere();
                Hand.run(() -> desktop.models.mocks().startOrStop());
                hand.press(KeyCode.ALT, KeyCode.DIGIT4);
                hand.await(
                        "the queue",
                        () -> hand.find("#mock-address").isPresent()
                                && hand.text("#mock-address").equals("jms:queue:ropes"));
                shoot(hand, "queue-alone-mock");
                assertThat(hand.shows("A mock answers SOAP over HTTP")).isFalse();
                StringBuilder tried = new StringBuilder();
                Hand.run(() -> desktop.models
                        .mocks()
                        .sampleRequest(sample -> desktop.models
                                .mocks()
                                .tried(
                                        Trial.typed(sample),
                                        t -> tried.append(t.answer())
                                                .append(' ')
                                                .append(t.status()))));
                hand.await("the trial", () -> Hand.on(() -> tried.toString().equals("0 200")));
                hand.press(KeyCode.ALT, KeyCode.DIGIT2);
                Hand.run(() -> desktop.models.call().preview().refresh());
                hand.await(
                        "the preview",
                        () -> desktop.models
                                .call()
                                .preview()
                                .textProperty()
                                .get()
                                .startsWith("TO queue ropes"));
                hand.press(KeyCode.CONTROL, KeyCode.ENTER);
                hand.await(
                        "an answer",
                        () -> Hand.on(() ->
                                        desktop.models.call().calledProperty().get())
                                != null);
                assertThat(Hand.on(() ->
                                desktop.models.call().exchange().orElseThrow().outcome()))
                        .isEqualTo(Exchange.Outcome.FINE);
                hand.press(KeyCode.ALT, KeyCode.DIGIT4);
                hand.await("its count", () -> hand.shows("1 answered · 0 unmatched"));
                assertThat(Hand.on(() ->
                                desktop.models.mocks().host().orElseThrow().answerHits("Tie")))
                        .containsExactly(1L);
                Hand.run(() -> desktop.models.mocks().startOrStop());
                desktop.settled();
            } finally {
                desktop.close();
            }
        }
    }

    @Test
    void whereItsMockListensIsSetAndKeptWithOtherSettings() throws Exception {
        try (Broker broker = new Broker()) {
            String wsdl = TransportsTest.WSDL.replace("jms:queue:ropes", "jms:queue:ropes?jndiURL=" + broker.tcp());
            Desktops desktop = new Desktops(folder, wsdl, "Tie", "<r:Tied xmlns:r='urn:rope'>yes</r:Tied>");
            Hand hand = desktop.hand;
            try {
                desktop.addContract();
                hand.press(KeyCode.ALT, KeyCode.DIGIT4);
                hand.click("#mock-settings");
                hand.type("#settings-queue-Queue", "jms:ropes");
                hand.click("#settings-keep");
                hand.await("the flaw", () -> hand.text("#settings-flaw").contains("neither a queue nor a topic"));
                hand.type("#settings-queue-Queue", "jms:queue:of-the-mock?jndiURL=" + broker.amqp());
                shoot(hand, "mock-queue-settings");
                hand.click("#settings-keep");
                hand.await(
                        "the form to close", () -> hand.find("#settings-keep").isEmpty());
                hand.click("#mock-settings");
                assertThat(hand.text("#settings-queue-Queue")).startsWith("jms:queue:of-the-mock");
                hand.type("#settings-seed", "9");
                hand.click("#settings-keep");
                hand.await(
                        "the other setting",
                        () -> desktop.models
                                        .mocks()
                                        .plan()
                                        .orElseThrow()
                                        .conduct()
                                        .seed()
                                == 9);
                Hand.run(() -> desktop.models.mocks().startOrStop());
                hand.await(
                        "the queue",
                        () -> desktop.models
                                .mocks()
                                .host()
                                .flatMap(h -> h.queues())
                                .filter(q -> q.addresses().get(0).destination().equals("of-the-mock"))
                                .isPresent());
                hand.await("its place", () -> hand.text("#mock-queue").contains("of-the-mock"));
                shoot(hand, "mock-on-queue");
                assertThat(hand.shows("may not")).isFalse();
                Hand.run(() -> desktop.models.mocks().startOrStop());
                desktop.settled();
                assertThat(Files.readString(folder.resolve("project/mocks/rope.yaml")))
                        .contains("jms:queue:of-the-mock");
            } finally {
                desktop.close();
            }
        }
    }

    private static void shoot(Hand hand, String name) {
        String out = System.getProperty("mockbell.looks", "");
        if (!out.isEmpty()) {
            hand.shoot(Path.of(out, name + ".png"));
        }
    }
}
