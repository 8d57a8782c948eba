package dev.mockbell.desktop.view.traffic;

import dev.mockbell.desktop.model.TapsModel;
import dev.mockbell.desktop.part.Mark;
import dev.mockbell.desktop.part.Parts;
import dev.mockbell.desktop.view.shared.Copying;
import dev.mockbell.desktop.view.shared.Form;
import dev.mockbell.desktop.view.shared.Numbers;
import dev.mockbell.tap.Holds;
import dev.mockbell.tap.TapHost;
import java.util.Optional;
import javafx.beans.InvalidationListener;
import javafx.geometry.Insets;
import javafx.geometry.Pos;
import javafx.scene.control.Label;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;

/** The relays that are up, a row each: where to call, where it leads, how much has passed. Gone when there is none. */
final class TapsStrip extends VBox {
    private final TapsModel model;

    TapsStrip(TapsModel model) {
        this.model = model;
        setId("taps");
        getStyleClass().add("panel");
        model.up().addListener((InvalidationListener) o -> show());
        model.waiting().addListener((InvalidationListener) o -> show());
        model.countsProperty().addListener((InvalidationListener) o -> show());
        show();
    }

    private void show() {
        getChildren().clear();
        for (TapHost host : model.up()) {
            getChildren().add(row(host));
        }
        Parts.shown(this, !model.up().isEmpty());
    }

    private HBox row(TapHost host) {
        boolean tap = host.plan().target().isPresent();
        Label what =
                Parts.marked(Mark.PASSED, tap ? "Tap" : host.plan().opens() ? "Proxy, opens https" : "Proxy", "strong");
        what.setMinWidth(USE_PREF_SIZE);
        Label here = Parts.text(host.address(), "mono");
        here.setMinWidth(0);
        Label there = Parts.text(
                host.plan()
                        .target()
                        .map(t -> "→ " + t)
                        .orElse("→ wherever its clients say; set it as their HTTP proxy"),
                "second",
                "table-text");
        there.setMinWidth(0);
        Label passed = Parts.text(
                Numbers.whole(host.count()) + " passed"
                        + (host.unrecorded() > 0 ? ", " + Numbers.whole(host.unrecorded()) + " not recorded" : ""),
                "second",
                "table-text");
        passed.setMinWidth(USE_PREF_SIZE);
        HBox row = new HBox(10, what, here, there, Parts.spring(), passed);
        if (host.plan().tls() || host.plan().opens()) {
            row.getChildren()
                    .add(Form.link(
                            "Copy certificate",
                            "The certificate that its clients are to trust, as PEM",
                            () -> model.certificate(Copying::text)));
        }
        Optional<Holds.Rule> rule = host.holds().rule();
        row.getChildren()
                .add(
                        rule.isPresent()
                                ? Form.link(
                                        "Hold no more",
                                        "Let through what waits, and everything after it. Held are "
                                                + HoldForm.words(rule.get()),
                                        () -> model.hold(host, Optional.empty()))
                                : Form.link(
                                        "Hold…",
                                        "Have requests or answers wait for you",
                                        () -> HoldForm.ask(this, model, host)));
        row.getChildren()
                .addAll(
                        Form.link(
                                "Copy address",
                                "What to call in place of the endpoint",
                                () -> Copying.text(tap ? host.address() : host.base())),
                        Form.link("Stop", "Listen no more; connections through it end", () -> model.stop(host)));
        row.setAlignment(Pos.CENTER_LEFT);
        row.setPadding(new Insets(3, 12, 3, 12));
        return row;
    }
}
