package dev.mockbell.desktop.view.mock;

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

/** The mock station with a contract, for tests of it. */
abstract class MockDesk extends OnDesktop {
    MocksModel mocks;

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

    void start() {
        hand.press(KeyCode.CONTROL, KeyCode.ENTER);
        hand.await("the mock", () -> mocks.host().isPresent());
    }

    Message call(String payload) {
        // an edit takes effect a moment after it was made
        hand.await(
                "the mock to be as edited",
                () -> mocks.host()
                        .map(h -> h.plan()
                                        .answers()
                                        .equals(mocks.plan().orElseThrow().answers())
                                && h.plan()
                                        .conduct()
                                        .equals(mocks.plan().orElseThrow().conduct()))
                        .orElse(false));
        String address = Hand.on(() -> mocks.host().orElseThrow().addresses().get("Peaks11"));
        String envelope = Envelope.around(SoapVersion.V11, payload, List.of());
        try (HttpCaller http = new HttpCaller()) {
            CallRequest request = new CallRequest(
                    "POST",
                    URI.create(address),
                    List.of(new Header("Content-Type", "text/xml; charset=utf-8")),
                    Content.of(envelope.getBytes(StandardCharsets.UTF_8)),
                    Duration.ofSeconds(60));
            return http.call(request, new StopSignal()).response().orElseThrow();
        }
    }

    Message climb(int days) {
        return call("<Climb xmlns='urn:peaks'><peak>x</peak><days>" + days + "</days></Climb>");
    }
}
