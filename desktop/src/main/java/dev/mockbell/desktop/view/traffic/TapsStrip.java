package dev.mockbell.desktop.view.traffic;

import dev.mockbell.desktop.model.TapsModel;
import dev.mockbell.desktop.part.Mark;
import dev.mockbell.desktop.part.Parts;
import dev.mockbell.desktop.view.shared.Copying;
import dev.mockbell.desktop.view.shared.Form;
import dev.mockbell.desktop.view.shared.Numbers;
import dev.mockbell.project.KeptTap;
import dev.mockbell.tap.Holds;
import dev.mockbell.tap.TapHost;
import dev.mockbell.tap.TapPlan;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import javafx.beans.InvalidationListener;
import javafx.geometry.Insets;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.ScrollPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;

/** The relays that are up, a row each: where to call, where it leads, how much has passed; then those that the project keeps. Gone when there is none. */
final class TapsStrip extends VBox {
    /** More than so many rows are scrolled. */
    private static final int MOST = 4;

    private static final double ROW = 26;
    private static final String PASSED = "passed-count";

    private final TapsModel model;
    private final VBox inner = new VBox();
    private final ScrollPane several = new ScrollPane(inner);

    /** By what they are of; those that stay are not made anew, whatever passes. */
    private Map<Object, HBox> rows = Map.of();

    TapsStrip(TapsModel model) {
        this.model = model;
        setId("taps");
        getStyleClass().add("panel");
        several.setFitToWidth(true);
        several.setMinHeight(MOST * ROW);
        several.setMaxHeight(MOST * ROW);
        model.up().addListener((InvalidationListener) o -> show());
        model.waiting().addListener((InvalidationListener) o -> show());
        model.countsProperty().addListener((InvalidationListener) o -> show());
        show();
    }

    private void show() {
        Map<Object, HBox> now = new LinkedHashMap<>();
        for (TapHost host : model.up()) {
            Object key = List.of(host, host.holds().rule());
            HBox row = rows.get(key);
            now.put(key, row == null ? row(host) : row);
            ((Label) now.get(key).lookup("." + PASSED)).setText(passed(host));
        }
        for (KeptTap kept : model.resting()) {
            HBox row = rows.get(kept);
            now.put(kept, row == null ? row(kept) : row);
        }
        rows = now;
        List<Node> wanted = List.copyOf(now.values());
        if (wanted.size() > MOST) {
            Parts.keep(inner, wanted);
            Parts.keep(this, List.of(several));
        } else {
            Parts.keep(this, wanted);
        }
        Parts.shown(this, !wanted.isEmpty());
    }

    private static String passed(TapHost host) {
        return Numbers.whole(host.count()) + " passed"
                + (host.unrecorded() > 0 ? ", " + Numbers.whole(host.unrecorded()) + " not recorded" : "");
    }

    /** One that is kept and not up: starting it is one click. */
    private HBox row(KeptTap kept) {
        TapPlan plan = kept.plan();
        Label what = Parts.marked(
                Mark.NOT_RUN,
                plan.target().isPresent() ? "Tap" : plan.opens() ? "Proxy, opens https" : "Proxy",
                "second");
        what.setMinWidth(USE_PREF_SIZE);
        Label where = Parts.text(
                (plan.port() == 0 ? "any free port" : "port " + plan.port())
                        + plan.target().map(t -> " → " + t).orElse(""),
                "second",
                "table-text");
        where.setMinWidth(0);
        Button start = Form.link("Start", "Listen, pass on and record", () -> model.start(kept));
        start.setId("start-" + kept.id());
        HBox row = new HBox(
                10,
                what,
                where,
                Parts.spring(),
                start,
                Form.link("Forget", "Take it out of the project", () -> model.forget(kept)));
        row.setAlignment(Pos.CENTER_LEFT);
        row.setPadding(new Insets(3, 12, 3, 12));
        return row;
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
        Label passed = Parts.text(passed(host), "second", "table-text", PASSED);
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
