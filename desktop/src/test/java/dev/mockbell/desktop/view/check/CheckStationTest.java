package dev.mockbell.desktop.view.check;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.check.Check;
import dev.mockbell.check.Verdict;
import dev.mockbell.desktop.OnDesktop;
import dev.mockbell.desktop.drive.Hand;
import dev.mockbell.desktop.model.CheckModel;
import dev.mockbell.desktop.model.Station;
import dev.mockbell.suite.Run;
import dev.mockbell.suite.Step;
import dev.mockbell.suite.StepPath;
import java.nio.file.Files;
import java.util.List;
import javafx.scene.input.KeyCode;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

class CheckStationTest extends OnDesktop {
    private CheckModel check;

    @BeforeEach
    void open() {
        check = desktop.models.check();
        desktop.addContract();
        hand.press(KeyCode.ALT, KeyCode.DIGIT2);
        hand.type("#value-days", "1");
        Hand.run(() -> desktop.models.call().settle());
    }

    /** Cases that ask for these fees, each a step of a suite. */
    private void suite(String... fees) {
        Hand.run(() -> {
            check.add("Stay");
            var call = desktop.models.call();
            for (String fee : fees) {
                call.add("Fee " + fee, true);
                call.keep(call.currentProperty().get().withChecks(List.of(new Check.Value("/ClimbResponse/fee", fee))));
                check.addStep(call.currentProperty().get());
            }
        });
        hand.press(KeyCode.ALT, KeyCode.DIGIT3);
    }

    private Run run() {
        int before = Hand.on(() -> check.runs().size());
        hand.press(KeyCode.CONTROL, KeyCode.ENTER);
        hand.await(
                "the run",
                () -> check.runs().size() == before + 1
                        && !check.runningProperty().get());
        return Hand.on(() -> check.runs().get(0));
    }

    private List<String> steps() {
        return Hand.on(() ->
                check.suiteProperty().get().steps().stream().map(Step::name).toList());
    }

    @Test
    void aSuiteIsMadeByNameAndStepsAreChosenFromTheCases() {
        hand.press(KeyCode.ALT, KeyCode.DIGIT3);
        hand.clickText("Make a suite");
        hand.type("#ask-suite", "Whole stay");
        hand.press(KeyCode.ENTER);
        hand.await("the suite", () -> check.suiteProperty().get() != null);
        hand.await("its words", () -> hand.text("#choose-suite").equals("Whole stay ▾"));
        hand.press(KeyCode.CONTROL, KeyCode.ENTER);
        hand.await(
                "nothing to run",
                () -> desktop.desk.notices().stream().anyMatch(n -> n.text().contains("the suite has no steps")));
        hand.click("#add-step");
        hand.clickText("Climb");
        hand.clickText("Sample");
        hand.await("the step", () -> steps().size() == 1);
        assertThat(Hand.on(() -> desktop.desk.project().suites().get(0).steps()))
                .hasSize(1);
    }

    @Test
    void whatFailedIsSaidInWordsAndLeadsToItsExchangeAndCase() {
        suite("20", "21");
        Run run = run();
        assertThat(run.steps()).extracting(s -> s.verdict()).containsExactly(Verdict.PASSED, Verdict.FAILED);
        assertThat(hand.text("#last-run")).isEqualTo("last run failed: 1 check");
        hand.clickText("fee = 21");
        hand.clickText("/ClimbResponse/fee");
        hand.click("#open-exchange");
        hand.await("the traffic", () -> desktop.desk.stationProperty().get() == Station.TRAFFIC);
        hand.await(
                "the exchange",
                () -> desktop.models.traffic().selectedProperty().get() != null);
        assertThat(Hand.on(
                        () -> desktop.models.traffic().selectedProperty().get().id()))
                .isEqualTo(run.steps().get(1).exchange());
        hand.press(KeyCode.ALT, KeyCode.DIGIT3);
        hand.clickText("Open case");
        hand.await("the case", () -> desktop.desk.stationProperty().get() == Station.CALL);
        assertThat(Hand.on(() -> desktop.models.call().currentProperty().get().title()))
                .isEqualTo("Fee 21");
    }

    @Test
    void stepsAreMovedTakenOutAndPutBack() {
        suite("20", "21", "22");
        hand.clickText("Fee 22");
        hand.await("the step", () -> check.pathProperty().get().equals(StepPath.parse("3")));
        hand.clickText("Move up");
        hand.await("moved", () -> steps().equals(List.of("Fee 20", "Fee 22", "Fee 21")));
        hand.clickText("Take out");
        hand.await("out", () -> steps().equals(List.of("Fee 20", "Fee 21")));
        hand.clickText("Put it back");
        hand.await("back", () -> steps().equals(List.of("Fee 20", "Fee 22", "Fee 21")));
        assertThat(Hand.on(() -> desktop.desk.project().suites().get(0).steps().stream()
                        .map(Step::name)
                        .toList()))
                .isEqualTo(steps());
    }

    @Test
    void runsStandBesideEachOtherNewestFirstAndTheNewestIsReported() throws Exception {
        suite("20");
        Run first = run();
        Run second = run();
        assertThat(Hand.on(() -> List.copyOf(check.runs()))).containsExactly(second, first);
        assertThat(hand.text("#last-run")).isEqualTo("last run passed");
        hand.click("#write-reports");
        hand.await("the reports", () -> Files.exists(desktop.project.resolve("reports/stay.html")));
        assertThat(Files.readString(desktop.project.resolve("reports/stay.xml")))
                .contains("<testsuite name=\"Stay\"")
                .contains("failures=\"0\"");
        assertThat(Files.readString(desktop.project.resolve("reports/stay.html")))
                .contains("1 of 1 checks passed");
    }
}
