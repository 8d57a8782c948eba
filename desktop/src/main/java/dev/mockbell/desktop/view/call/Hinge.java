package dev.mockbell.desktop.view.call;

import dev.mockbell.desktop.model.CallModel;
import dev.mockbell.desktop.part.Icon;
import dev.mockbell.desktop.part.Parts;
import dev.mockbell.desktop.view.shared.Numbers;
import dev.mockbell.exchange.Exchange;
import dev.mockbell.exchange.Secured;
import java.util.List;
import java.util.Map;
import javafx.beans.InvalidationListener;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;

/** What stands between request and response: sending, and where the time went. */
final class Hinge extends VBox {
    private final CallModel model;
    private final Button send = Parts.button("Send", "Send the request (Ctrl+Enter)", () -> {}, "send");

    Hinge(CallModel model) {
        super(2);
        this.model = model;
        setAlignment(Pos.TOP_CENTER);
        setMinWidth(70);
        setMaxWidth(70);
        send.setGraphic(Icon.CALL.node(20));
        send.setId("send");
        send.setOnAction(e -> model.sendOrStop());
        model.waitingProperty().addListener((InvalidationListener) o -> showWaiting());
        model.calledProperty().addListener((InvalidationListener) o -> show());
        show();
    }

    private void showWaiting() {
        boolean waiting = model.waitingProperty().get();
        send.setText(waiting ? "Stop" : "Send");
        send.getStyleClass().remove("waiting");
        if (waiting) {
            send.getStyleClass().add("waiting");
        }
    }

    private void show() {
        getChildren().setAll(send, Parts.text("Ctrl ↵", "third", "small"), tick());
        model.exchange().ifPresent(e -> {
            var t = e.timing();
            for (Map.Entry<String, Long> part : List.of(
                    Map.entry("connect", t.connect()),
                    Map.entry("send", t.send()),
                    Map.entry("wait", t.await()),
                    Map.entry("receive", t.receive()))) {
                // without an answer, a stage that took no time was not come to
                boolean reached = part.getValue() > 0 || e.response().isPresent();
                boolean kept = part.getKey().equals("connect") && reached && part.getValue() == 0;
                Label took = Parts.text(kept ? "kept" : reached ? Numbers.millis(part.getValue() / 1e6) : "–", "mono");
                if (kept) {
                    Parts.tip(took, "The connection was kept from a call before");
                }
                getChildren().addAll(Parts.text(part.getKey(), "third", "table-text"), took);
                if (part.getKey().equals("connect")) {
                    e.secured().ifPresent(this::showSecured);
                }
            }
            Label total = Parts.text(
                    Numbers.millis(t.total() / 1e6),
                    "title",
                    e.outcome() == Exchange.Outcome.FAILED ? "failed" : "fine");
            total.setId("total-time");
            getChildren()
                    .addAll(
                            tick(),
                            total,
                            Parts.text("ms", "third", "small"),
                            Parts.spring(),
                            Parts.text("run " + model.calls(), "third", "small"));
        });
    }

    private void showSecured(Secured tls) {
        Label version = Parts.text(tls.version().replaceFirst("^TLSv", "TLS "), "second", "small");
        version.setId("tls-version");
        Parts.tip(version, tls.version() + ", " + tls.cipher() + "\n" + String.join("\n", tls.chain()));
        getChildren().add(version);
    }

    private static Region tick() {
        Region line = new Region();
        line.setMinSize(1, 14);
        line.setMaxSize(1, 14);
        line.setStyle("-fx-background-color: -mb-line");
        return line;
    }
}
