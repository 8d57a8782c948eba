package dev.mockbell.desktop.view.load;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.check.Check;
import dev.mockbell.desktop.OnDesktop;
import dev.mockbell.desktop.drive.Hand;
import dev.mockbell.desktop.model.LoadModel;
import dev.mockbell.desktop.model.Moments;
import dev.mockbell.desktop.model.Station;
import dev.mockbell.desktop.view.shared.Numbers;
import dev.mockbell.load.Limit;
import dev.mockbell.load.LoadPlan;
import dev.mockbell.load.LoadRun;
import dev.mockbell.load.LoadShape;
import dev.mockbell.load.Pauses;
import dev.mockbell.project.LoadHistory;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import javafx.event.EventType;
import javafx.geometry.Point2D;
import javafx.scene.Node;
import javafx.scene.control.ComboBox;
import javafx.scene.input.KeyCode;
import javafx.scene.input.MouseButton;
import javafx.scene.input.MouseEvent;
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
    void aRunThatCannotBeKeptIsShownAllTheSame() throws IOException {
        plan(List.of());
        // a file where its folder is to be
        Files.writeString(desktop.desk.project().folder().resolve(".mockbell").resolve("loads"), "in the way");
        assertThat(run().total().done()).isPositive();
        hand.await(
                "it is told",
                () -> desktop.desk.notices().stream()
                        .anyMatch(n -> n.text().startsWith("The run is shown, and cannot be kept: ")));
        hand.await("its verdict", () -> hand.text("#load-verdict").equals("no limits to judge it by"));
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
        hand.await("it is under way", () -> hand.find("#load-running").isPresent());
        Node stop = hand.find("#load-start").orElseThrow();
        Node limit = hand.find("#load-limit-add").orElseThrow();
        hand.await("the first figures", () -> !load.seconds().isEmpty());
        assertThat(hand.text("#load-running")).isEqualTo("running");
        // what can be pressed hears a click that a second or a phase comes into
        assertThat(hand.find("#load-start")).containsSame(stop);
        assertThat(hand.find("#load-limit-add")).containsSame(limit);
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

    @Test
    void aPointOfTheCurveIsDraggedMadeMovedByKeysAndTakenAway() {
        plan(List.of());
        Hand.run(() -> load.keep(shaped(LoadShape.arrivals(10, 20))));
        CurveEditor curve = (CurveEditor) hand.find("#load-curve").orElseThrow();
        hand.await("it is laid out", () -> Hand.on(() -> curve.getWidth() > 100));
        Hand.run(() -> {
            // on the line, half way
            press(curve, MouseEvent.MOUSE_PRESSED, 0.5, 10);
            press(curve, MouseEvent.MOUSE_DRAGGED, 0.5, 4);
            press(curve, MouseEvent.MOUSE_RELEASED, 0.5, 4);
        });
        hand.await(
                "three points", () -> load.planProperty().get().shape().points().size() == 3);
        LoadShape.Point made =
                Hand.on(() -> load.planProperty().get().shape().points().get(1));
        assertThat(made.at()).isBetween(9.0, 11.0);
        assertThat(made.level()).isBetween(3.5, 4.5);
        shoot("curve");
        Hand.run(curve::requestFocus);
        hand.press(KeyCode.ALT, KeyCode.UP);
        hand.await(
                "it is higher",
                () -> load.planProperty().get().shape().points().get(1).level() > made.level());
        assertThat(desktop.onDisk().loads().get(0).shape())
                .isEqualTo(load.planProperty().get().shape());
        hand.press(KeyCode.DELETE);
        hand.await("two points", () -> load.planProperty().get().shape().isConstant());
    }

    private static void press(CurveEditor curve, EventType<MouseEvent> kind, double share, double level) {
        double x = 14 + (curve.getWidth() - 26) * share;
        double y = curve.getHeight() - 20 - (curve.getHeight() - 34) * level / 11.5;
        // an event is told in the scene's coordinates
        Point2D at = curve.localToScene(x, y);
        curve.fireEvent(new MouseEvent(
                kind,
                at.getX(),
                at.getY(),
                at.getX(),
                at.getY(),
                MouseButton.PRIMARY,
                1,
                false,
                false,
                false,
                false,
                true,
                false,
                false,
                false,
                false,
                false,
                null));
    }

    /** A picture, where one is wanted. */
    private void shoot(String name) {
        String out = System.getProperty("mockbell.looks", "");
        if (!out.isEmpty()) {
            hand.shoot(Path.of(out, name + ".png"));
        }
    }

    @Test
    void theCurveIsTypedAsATableAndWhatIsNoPointIsSaid() {
        plan(List.of());
        hand.click("#load-points");
        hand.type("#load-point-rows", "0 5\n10 fast");
        hand.click("#load-points-keep");
        hand.await("why not", () -> hand.text("#load-points-flaw").contains("“fast” is not a number"));
        hand.type("#load-point-rows", "0\t5\n10;20\n10 2\n30 2");
        hand.click("#load-points-keep");
        hand.await(
                "the words",
                () -> hand.text("#load-words").equals("from 5 to 20/s in 10 s, at once to 2/s, 2/s for 20 s"));
        assertThat(desktop.onDisk().loads().get(0).shape().points()).hasSize(4);
    }

    @Test
    void theMixPausesAndConductAreSetAndStayWithTheProject() {
        plan(List.of());
        hand.click("#load-mix-add");
        hand.clickText("Case: Climb, Sample");
        hand.await("two parts", () -> load.planProperty().get().mix().size() == 2);
        hand.type("#load-weight-1", "0");
        hand.press(KeyCode.ENTER);
        hand.await("why not", () -> hand.shows("What has the weight 0 would never come"));
        assertThat(hand.text("#load-weight-1")).isEqualTo("1");
        hand.type("#load-weight-1", "3");
        hand.click("#load-pauses-change");
        Hand.run(() -> ((ComboBox<?>) hand.find("#load-pause-kind").orElseThrow())
                .getSelectionModel()
                .select(2));
        hand.type("#load-pause-low", "5");
        hand.type("#load-pause-high", "15");
        hand.click("#load-pause-keep");
        hand.await("the pause", () -> hand.text("#load-pauses").equals("Pause: 5 ms to 15 ms, uniform"));
        hand.click("#load-conduct");
        shoot("load-conduct");
        hand.type("#load-validated", "200");
        hand.click("#load-conduct-keep");
        hand.await("why not", () -> hand.text("#load-conduct-flaw").contains("at most 100 %"));
        hand.type("#load-validated", "50");
        hand.click("#load-connections-kept");
        hand.click("#load-conduct-keep");
        LoadPlan kept = desktop.onDisk().loads().get(0);
        assertThat(kept.mix().get(1).weight()).isEqualTo(3);
        assertThat(kept.pauses()).isEqualTo(Pauses.uniform(5, 15));
        assertThat(kept.conduct().keepsConnections()).isFalse();
        assertThat(kept.conduct().validatedPercent()).isEqualTo(50);
        LoadRun run = run();
        assertThat(run.total().failed()).as(run.reasons().toString()).isZero();
        assertThat(run.steps()).hasSize(2);
    }

    @Test
    void aRunGoesFasterEndsGentlyIsKeptAndHeldAgainstTwoOthers() {
        plan(List.of());
        for (int i = 1; i <= 3; i++) {
            int runs = i;
            Hand.run(() -> load.keep(shaped(LoadShape.arrivals(5 + 5 * runs, 60))));
            hand.click("#load-start");
            hand.await("the first figures", () -> load.seconds().size() >= 2);
            hand.click("#load-faster");
            hand.await("faster", () -> hand.text("#load-factor").equals("× 1.25"));
            hand.click("#load-gently");
            hand.await(
                    "the end",
                    () -> load.runs().size() == runs && !load.runningProperty().get());
        }
        List<LoadHistory.Kept> kept = List.copyOf(Hand.on(load::runs));
        LoadHistory.Kept first = kept.get(2);
        assertThat(first.done()).isPositive();
        choose("Compare with", kept.get(1));
        hand.await("the comparison", () -> hand.shows("The plan differs. shape: 15/s for 1 min → 20/s for 1 min"));
        choose("Compare with", first);
        String when = Moments.toTheSecond(first.started());
        hand.await("a third", () -> hand.text("#load-compared-sure").contains(when));
        shoot("load-three");
        // the earlier of the first two is still what they are held against
        assertThat(hand.text("#load-compared-plan"))
                .isEqualTo("The plan of " + when + " differs. shape: 15/s for 1 min → 10/s for 1 min\nThe plan of "
                        + Moments.toTheSecond(kept.get(0).started())
                        + " differs. shape: 15/s for 1 min → 20/s for 1 min");
        hand.click("#load-compared-run-1");
        hand.await("the other base", () -> hand.text("#load-compared-plan").contains("shape: 10/s for 1 min → 15/s"));
        // chosen once more it is left out, and two are left
        choose("Compare with", first);
        hand.await("two", () -> !hand.shows("95 % sure of (ms)") && hand.shows("95 % sure of"));
        hand.clickText("Compare no more");
        hand.await("the run alone", () -> hand.find("#load-comparison").isEmpty());
        desktop.settled();
        assertThat(new LoadHistory(desktop.project).latest(first.plan(), 10))
                .extracting(r -> r.total().done())
                .containsExactlyInAnyOrderElementsOf(
                        kept.stream().map(LoadHistory.Kept::done).toList());
    }

    private void choose(String menu, LoadHistory.Kept run) {
        hand.click("#load-runs");
        hand.clickText(menu);
        hand.clickText(Moments.toTheSecond(run.started()) + " · " + run.done() + " done, p95 "
                + Numbers.millis(run.p95()) + " ms");
    }

    @Test
    void aRunThatTheWindowIsClosedOnIsKept() {
        plan(List.of());
        Hand.run(() -> load.keep(shaped(LoadShape.arrivals(10, 60))));
        hand.click("#load-start");
        hand.await("the first figures", () -> !load.seconds().isEmpty());
        Hand.run(() -> hand.stage().hide());
        desktop.window.closed().join();
        assertThat(new LoadHistory(desktop.project)
                        .latest(load.planProperty().get().id(), 10))
                .singleElement()
                .satisfies(r -> assertThat(r.total().done()).isPositive());
    }
}
