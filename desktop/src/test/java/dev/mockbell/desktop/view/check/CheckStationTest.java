package dev.mockbell.desktop.view.check;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.check.Check;
import dev.mockbell.check.Verdict;
import dev.mockbell.desktop.OnDesktop;
import dev.mockbell.desktop.drive.Hand;
import dev.mockbell.desktop.model.CheckModel;
import dev.mockbell.desktop.model.Station;
import dev.mockbell.suite.KnownValues;
import dev.mockbell.suite.Run;
import dev.mockbell.suite.Step;
import dev.mockbell.suite.StepPath;
import java.nio.file.Files;
import java.util.List;
import javafx.scene.control.ComboBox;
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
        desktop.settled();
        assertThat(Files.readString(desktop.project.resolve("reports/stay.xml")))
                .contains("<testsuite name=\"Stay\"")
                .contains("failures=\"0\"");
        assertThat(Files.readString(desktop.project.resolve("reports/stay.html")))
                .contains("1 of 1 checks passed");
    }

    private void twice() {
        Hand.run(() -> {
            Step call = check.step().orElseThrow();
            check.edits()
                    .replace(StepPath.parse("1"), new Step.Until("Again", true, "$status = 200", 3, 0, List.of(call)));
        });
    }

    @Test
    void knownValuesAreEditedRunRowByRowAndTakenFromWhatWasFound() {
        suite("20");
        Hand.run(() -> check.edits().knownOf(StepPath.parse("1"), "days\tfee\n1\t20\n2\t99\n"));
        hand.await("the table", () -> hand.find("#known-1-1").isPresent());
        hand.clickText("Columns…");
        bind("days", KnownValues.Use.SETS, "/Climb/days");
        bind("fee", KnownValues.Use.IS, "/ClimbResponse/fee");
        hand.click("#columns-keep");
        hand.await(
                "bound",
                () -> ((Step.Call) check.suiteProperty().get().steps().get(0))
                        .known()
                        .orElseThrow()
                        .columns()
                        .equals(List.of(
                                new KnownValues.Column("days", KnownValues.Use.SETS, "/Climb/days"),
                                new KnownValues.Column("fee", KnownValues.Use.IS, "/ClimbResponse/fee"))));
        Hand.run(() -> desktop.desk.change(p -> p.withCase(p.cases().stream()
                .filter(c -> c.title().equals("Fee 20"))
                .findFirst()
                .orElseThrow()
                .withChecks(List.of()))));
        Run run = run();
        assertThat(run.steps().get(0).inner())
                .extracting(r -> r.verdict())
                .containsExactly(Verdict.PASSED, Verdict.FAILED);
        hand.await("found beside it", () -> hand.find("#known-take-1").isPresent());
        hand.click("#known-take-1");
        hand.await("taken", () -> known(1, 1).equals("40"));
        assertThat(run().passed()).isTrue();
        Hand.run(() -> check.edits().undo());
        assertThat(known(1, 1)).isEqualTo("99");
        hand.type("#known-1-1", "40.0");
        hand.press(KeyCode.ENTER);
        hand.await("typed", () -> known(1, 1).equals("40.0"));
        hand.await("written beside the suite", () -> {
            try {
                return Files.exists(desktop.project.resolve("suites/stay-fee-20.csv"))
                        && Files.readString(desktop.project.resolve("suites/stay-fee-20.csv"))
                                .contains("2,40.0");
            } catch (java.io.IOException e) {
                return false;
            }
        });
    }

    @SuppressWarnings("unchecked")
    private void bind(String column, KnownValues.Use use, String path) {
        ComboBox<String> uses =
                (ComboBox<String>) hand.find("#column-use-" + column).orElseThrow();
        ComboBox<String> paths =
                (ComboBox<String>) hand.find("#column-path-" + column).orElseThrow();
        Hand.run(() -> uses.getSelectionModel().select(use.title()));
        hand.await("the paths of the contract", () -> {
            Hand.run(() -> uses.getOnAction().handle(null));
            return paths.getItems().contains(path);
        });
        Hand.run(() -> paths.getSelectionModel().select(path));
    }

    private String known(int row, int column) {
        return Hand.on(() -> ((Step.Call) check.suiteProperty().get().steps().get(0))
                .known()
                .orElseThrow()
                .table()
                .rows()
                .get(row)
                .get(column));
    }

    @Test
    void stepsOfEveryKindAreAskedForInAForm() {
        suite("20");
        hand.click("#add-step");
        hand.clickText("Repeat until…");
        hand.click("#step-keep");
        assertThat(hand.text("#step-flaw")).contains("The condition is missing");
        hand.type("#step-condition", "//fee = 20");
        hand.type("#step-times", "many");
        hand.click("#step-keep");
        assertThat(hand.text("#step-flaw")).contains("“many” is no number of times");
        hand.type("#step-times", "2");
        hand.click("#step-keep");
        hand.await("the step", () -> steps().equals(List.of("Fee 20", "Wait for it")));
        hand.click("#add-step");
        hand.clickText("Pause…");
        hand.type("#step-millis", "1");
        hand.click("#step-keep");
        hand.await("within it", () -> check.pathProperty().get().equals(StepPath.parse("2.1")));
        Run run = run();
        assertThat(run.passed()).isTrue();
        assertThat(run.at(StepPath.parse("2.1")).orElseThrow().name()).isEqualTo("Pause");
        Hand.run(() -> check.edits().moveTo(StepPath.parse("1"), StepPath.parse("2"), true));
        assertThat(Hand.on(() -> check.suiteProperty().get().at(StepPath.parse("1.2"))))
                .map(Step::name)
                .contains("Fee 20");
    }

    @Test
    void aPartIsRunTheRestIsOffAndTheLogIsSearched() {
        suite("20", "21", "20");
        run();
        int before = Hand.on(() -> check.runs().size());
        Hand.run(() -> check.runFailed());
        hand.await(
                "the run",
                () -> check.runs().size() == before + 1
                        && !check.runningProperty().get());
        assertThat(Hand.on(() -> check.runs().get(0)).steps())
                .extracting(s -> s.verdict())
                .containsExactly(Verdict.OFF, Verdict.FAILED, Verdict.OFF);
        hand.click("#segment-log");
        hand.await("the log", () -> hand.shows("2  Fee 21: failed"));
        hand.type("#log-search", "→ status");
        hand.await("the lines with that", () -> !hand.shows("2  Fee 21: failed"));
        hand.click("#segment-request");
        hand.await("what was sent", () -> hand.shows("Climb"));
    }

    @Test
    void whatWasFoundIsAcceptedAndAStepThatTurnsIsCalledUnsteady() {
        suite("21");
        run();
        hand.click("#accept-found");
        Run second = run();
        hand.click("#segment-run-before");
        hand.await("what changed", () -> hand.shows("1  Fee 21: result failed → passed"));
        hand.click("#segment-checks");
        assertThat(second.passed()).isTrue();
        // the case asks for something else now
        assertThat(Hand.on(() -> check.turns(StepPath.parse("1")))).isZero();
        hand.clickText("Undo");
        run();
        assertThat(Hand.on(() -> check.turns(StepPath.parse("1")))).isZero();
    }

    @Test
    void aStepThatTurnsThoughNothingWasChangedIsCalledUnsteady() {
        suite("20");
        var call = desktop.models.call();
        Hand.run(() -> {
            call.keep(call.currentProperty()
                    .get()
                    .withChecks(List.of(new Check.Condition("number(substring-after(//*:permit, 'P-')) mod 2 = 1"))));
        });
        assertThat(List.of(run().passed(), run().passed(), run().passed())).containsExactly(true, false, true);
        assertThat(Hand.on(() -> check.turns(StepPath.parse("1")))).isEqualTo(2);
        hand.await("said", () -> hand.shows("unsteady"));
    }

    @Test
    void severalSuitesRunSideBySideAndEachKeepsItsOwnRuns() {
        suite("20");
        Hand.run(() -> {
            Step call = check.step().orElseThrow();
            check.edits().add(StepPath.Part.STEPS, new Step.Pause("Wait", true, 2_000));
            check.add("Fails");
            check.edits().add(StepPath.Part.STEPS, call);
            check.edits().knownOf(StepPath.parse("1"), "days\tfee\n1\t99\n");
            check.edits()
                    .known(
                            StepPath.parse("1"),
                            k -> new KnownValues(
                                    k.table(),
                                    List.of(new KnownValues.Column("fee", KnownValues.Use.IS, "/ClimbResponse/fee"))));
            check.edits().add(StepPath.Part.STEPS, new Step.Pause("Wait", true, 2_000));
            check.add("Empty");
        });
        hand.click("#run-more");
        hand.clickText("Several suites…");
        hand.await("the form", () -> hand.shows("has no steps"));
        hand.clickText("2 side by side");
        hand.click("#several-keep");
        hand.await("both under way", () -> check.countRunning() == 2);
        assertThat(Hand.on(() -> check.runningProperty().get())).isFalse();
        hand.await("said beside the suite", () -> hand.shows("2 other suites running"));
        Hand.run(() -> check.open(desktop.desk.project().suite("fails").orElseThrow()));
        hand.await(
                "its run", () -> check.runningProperty().get() && check.runs().size() == 1);
        hand.await(
                "what came of them",
                () -> desktop.desk.notices().stream()
                        .anyMatch(n -> n.text().equals("2 suites were run, 1 failed: “Fails”.")));
        assertThat(Hand.on(() -> check.runs().get(0).passed())).isFalse();
        Hand.run(() -> check.open(desktop.desk.project().suite("stay").orElseThrow()));
        hand.await("the other's run", () -> check.runs().size() == 1);
        assertThat(Hand.on(() -> check.runs().get(0).passed())).isTrue();
    }

    @Test
    void aSuiteIsRunAgainUntilItIsStopped() {
        suite("20");
        twice();
        Hand.run(() -> check.repeat(1));
        hand.await(
                "a second run",
                () -> check.runs().size() >= 2 && !check.runningProperty().get());
        Hand.run(() -> check.repeat(0));
        assertThat(Hand.on(() -> check.runs().get(0).passed())).isTrue();
    }

    @Test
    void anotherSuiteIsLookedAtWhileOneRunsAndKeepsItsOwnRuns() {
        suite("20");
        Hand.run(() -> check.edits().add(StepPath.Part.STEPS, new Step.Pause("Wait", true, 1_500)));
        var first = Hand.on(() -> check.suiteProperty().get());
        Hand.run(() -> {
            check.runOrStop();
            check.add("Other");
        });
        hand.await("the end of the run", () -> !check.runningProperty().get());
        assertThat(Hand.on(() -> List.copyOf(check.runs()))).isEmpty();
        Hand.run(() -> check.open(first));
        hand.await("its run", () -> check.runs().size() == 1);
        assertThat(Hand.on(() -> check.runs().get(0).passed())).isTrue();
    }
}
