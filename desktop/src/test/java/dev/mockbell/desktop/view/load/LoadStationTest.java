package dev.mockbell.desktop.view.load;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.check.Check;
import dev.mockbell.desktop.OnDesktop;
import dev.mockbell.desktop.drive.Hand;
import dev.mockbell.desktop.model.LoadModel;
import dev.mockbell.desktop.model.Station;
import dev.mockbell.load.Limit;
import dev.mockbell.load.LoadPlan;
import dev.mockbell.load.LoadRun;
import dev.mockbell.load.LoadShape;
import java.util.List;
import javafx.scene.input.KeyCode;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

class LoadStationTest extends OnDesktop {
    private LoadModel load;

    @BeforeEach
    void open() {
        load = desktop.models.load();
        desktop.addContract();
    }

    /** A plan of one step, a few times a second for a second. */
    private void plan(List<Check> checks) {
        hand.press(KeyCode.ALT, KeyCode.DIGIT2);
        hand.type("#value-days", "1");
        Hand.run(() -> {
            var call = desktop.models.call();
            call.settle();
            call.keep(call.currentProperty().get().withChecks(checks));
            desktop.models.check().add("Stay");
            desktop.models.check().addStep(call.currentProperty().get());
            load.add(desktop.desk.project().suites().get(0));
            load.keep(shaped(LoadShape.arrivals(10, 1)).withLimits(List.of()));
        });
        hand.press(KeyCode.ALT, KeyCode.DIGIT6);
    }

    private LoadPlan shaped(LoadShape shape) {
        return load.planProperty().get().with(shape);
    }

    private LoadRun run() {
        hand.click("#load-start");
        hand.await(
                "the end",
                () -> load.resultProperty().get() != null
                        && !load.runningProperty().get());
        return Hand.on(() -> load.resultProperty().get());
    }

    @Test
    void withoutASuiteItIsSaidWhereOneIsMade() {
        hand.press(KeyCode.ALT, KeyCode.DIGIT6);
        hand.clickText("Make a load plan");
        hand.await("the hint", () -> hand.find(".menu-item").isPresent());
        assertThat(Hand.on(() -> load.planProperty().get())).isNull();
        hand.press(KeyCode.ESCAPE);
    }

    @Test
    void whatFailsIsKeptAndLeadsToTraffic() {
        plan(List.of(new Check.Value("/ClimbResponse/fee", "999")));
        LoadRun run = run();
        assertThat(run.total().failed()).isEqualTo(run.total().done()).isPositive();
        assertThat(run.reasons().keySet()).containsExactly("check: fee = 999");
        hand.await("what was kept", () -> !load.failures().isEmpty());
        hand.await("the verdict", () -> hand.text("#load-verdict").equals("no limits to judge it by"));
        assertThat(Hand.on(() -> hand.stage().getScene().getFocusOwner().getId()))
                .as("the keyboard stays where it was")
                .isEqualTo("load-start");
        hand.click("#load-failures .list-cell");
        hand.await("the traffic", () -> desktop.desk.stationProperty().get() == Station.TRAFFIC);
        hand.await(
                "the failures there", () -> !desktop.models.traffic().listings().isEmpty());
        assertThat(Hand.on(() -> desktop.models.traffic().filterProperty().get().typed()))
                .isEqualTo("text:\"check: fee = 999\"");
    }

    @Test
    void aLimitIsAddedJudgesTheRunAndIsTakenAway() {
        plan(List.of());
        hand.click("#load-limit-add");
        hand.clickText("Done a second, at least…");
        hand.type("#ask-bound", "1000000");
        hand.press(KeyCode.ENTER);
        hand.await("the limit", () -> load.planProperty().get().limits().size() == 1);
        assertThat(Hand.on(() -> load.planProperty().get().limits()))
                .containsExactly(new Limit(Limit.Measure.RATE, 1_000_000));
        assertThat(run().passed()).isFalse();
        hand.await("the verdict", () -> hand.find("#load-verdict").isPresent());
        assertThat(hand.text("#load-verdict")).isEqualTo("limits not kept");
        hand.clickText("×");
        hand.await("no limit", () -> load.planProperty().get().limits().isEmpty());
    }

    @Test
    void aRunThatIsStoppedKeepsWhatWasMeasured() {
        plan(List.of());
        Hand.run(() -> load.keep(shaped(LoadShape.arrivals(10, 60))));
        hand.click("#load-start");
        hand.await("the first figures", () -> !load.seconds().isEmpty());
        assertThat(hand.text("#load-running")).isEqualTo("running");
        hand.click("#load-start");
        hand.await("the end", () -> load.resultProperty().get() != null);
        LoadRun stopped = Hand.on(() -> load.resultProperty().get());
        assertThat(stopped.stopped()).isTrue();
        assertThat(stopped.total().done()).isPositive();
        assertThat(stopped.seconds()).isLessThan(50);
        hand.await("the word", () -> hand.text("#load-verdict").equals("stopped"));
        assertThat(hand.text("#load-counts")).contains(" done").doesNotContain("in flight");
    }

    @Test
    void aBoundThatIsNoNumberIsRefused() {
        plan(List.of());
        hand.click("#load-limit-add");
        hand.clickText("p95 in ms…");
        hand.type("#ask-bound", "soon");
        hand.press(KeyCode.ENTER);
        hand.await("the refusal", () -> hand.text("#ask-limit-flaw").contains("“soon” is not a number"));
        assertThat(Hand.on(() -> load.planProperty().get().limits())).isEmpty();
    }
}
