package dev.mockbell.desktop.view.call;

import dev.mockbell.desktop.model.CallModel;
import dev.mockbell.desktop.part.Icon;
import dev.mockbell.desktop.part.Parts;
import dev.mockbell.desktop.view.shared.Numbers;
import dev.mockbell.exchange.Exchange;
import dev.mockbell.exchange.Timing;
import java.util.Map;
import javafx.beans.InvalidationListener;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;

/** What stands between request and response: sending, and where the time went, drawn to scale. */
final class Hinge extends VBox {
    /** What the stages of a call share of the height; each has at least {@link #LEAST}, so that it is seen. */
    private static final double HIGHEST = 150;

    private static final double LEAST = 2;

    private static final Map<String, String> WORDS = Map.of(
            "name", "Until the address of the server's name was known",
            "connect", "Until the connection stood, through a proxy where there is one",
            "TLS", "Until TLS was agreed on",
            "send", "Until the last byte of the request was out",
            "wait", "Until the first byte of the answer came",
            "receive", "Until its last byte came");

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
        model.exchange().ifPresent(this::show);
    }

    private void show(Exchange exchange) {
        Timing t = exchange.timing();
        boolean failed = exchange.outcome() == Exchange.Outcome.FAILED;
        boolean kept = t.name() + t.connect() + t.tls() == 0 && t.await() > 0;
        boolean came = exchange.response().isPresent();
        if (!kept) {
            stage("name", t.name(), t, came, "quiet");
            stage("connect", t.connect(), t, came, "link");
            if (t.tls() > 0 || exchange.secured().isPresent()) {
                stage("TLS", t.tls(), t, came, "bronze");
            }
        }
        stage("send", t.send(), t, came || t.await() > 0, "fine");
        stage("wait", t.await(), t, came, "ink");
        stage("receive", t.receive(), t, came, "fine");
        Label total = Parts.text(Numbers.millis(t.total() / 1e6), "title", failed ? "failed" : "fine");
        total.setId("total-time");
        getChildren().addAll(tick(), total, Parts.text("ms", "third", "small"));
        if (kept) {
            Label words = Parts.text("kept", "second", "table-text");
            words.setId("connection-kept");
            Parts.tip(words, "The connection was kept from a call before, so that there was nothing to connect");
            getChildren().add(words);
        }
        getChildren().addAll(Parts.spring(), Parts.text("run " + model.calls(), "third", "small"));
    }

    /** A stretch as high as its share of the time; one that was not come to has none. */
    private void stage(String name, long nanos, Timing all, boolean reached, String kind) {
        String took = nanos > 0 || reached ? Numbers.millis(nanos / 1e6) : "–";
        Label words = Parts.text(name + " " + took, "third", "small");
        words.setMinWidth(USE_PREF_SIZE);
        Region bar = new Region();
        bar.getStyleClass().addAll("stage", "stage-" + kind);
        double share = all.total() == 0 ? 0 : (double) nanos / all.total();
        double height = nanos > 0 || reached ? Math.max(LEAST, share * HIGHEST) : 0;
        bar.setMinSize(8, height);
        bar.setMaxSize(8, height);
        bar.setId("stage-" + name);
        VBox stage = new VBox(2, bar, words);
        stage.setAlignment(Pos.TOP_CENTER);
        Parts.tip(stage, () -> WORDS.get(name));
        getChildren().add(stage);
    }

    private static Region tick() {
        Region line = new Region();
        line.setMinSize(1, 14);
        line.setMaxSize(1, 14);
        line.setStyle("-fx-background-color: -mb-line");
        return line;
    }
}
