package dev.mockbell.project;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.mockbell.check.Capture;
import dev.mockbell.check.Check;
import dev.mockbell.check.CheckResult;
import dev.mockbell.check.Verdict;
import dev.mockbell.contract.Contract;
import dev.mockbell.contract.Contracts;
import dev.mockbell.contract.SourceDocument;
import dev.mockbell.exchange.HttpMessage.Header;
import dev.mockbell.expression.Variable;
import dev.mockbell.load.Limit;
import dev.mockbell.load.LoadPlan;
import dev.mockbell.load.LoadShape;
import dev.mockbell.mock.MockAnswer;
import dev.mockbell.mock.MockPlan;
import dev.mockbell.problem.Problem;
import dev.mockbell.suite.Case;
import dev.mockbell.suite.Run;
import dev.mockbell.suite.Step;
import dev.mockbell.suite.StepResult;
import dev.mockbell.suite.Suite;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class ProjectStoreTest {
    @TempDir
    Path folder;

    private final ProjectStore store = new ProjectStore();
    private final Contract stay = Contracts.stay();
    private final Case kept = new Case(
            "two-nights",
            "Two nights: #1",
            "with \"quotes\"\nand lines",
            "stay",
            "Book",
            "StaySoap11",
            "<a>\n  {$x}\n</a>",
            "<h>{$x}</h>",
            List.of(new Header("X-A", "{$y}")),
            List.of(new Variable("x", "012", false), new Variable("token", "", true)),
            List.of(
                    new Check.Valid(),
                    new Check.NoFault(),
                    new Check.FaultIs("Full"),
                    new Check.Value("/a", "012"),
                    new Check.Condition("1 = 1"),
                    new Check.Within(400)),
            List.of(new Capture("code", "//code")));
    private final Suite suite = new Suite("whole", "Whole", List.of(new Step("Book", "stay/Book/two-nights")));
    private final MockPlan mock = MockPlan.of("stay", stay, 8_480)
            .withAnswers(
                    "Book",
                    List.of(
                            new MockAnswer("$request//nights > 7", true, "Full", "No bunks", "<x/>", 120),
                            MockAnswer.otherwise("sample", "<y/>")));
    private final LoadPlan load = new LoadPlan(
            "rush",
            "Rush",
            "whole",
            "",
            new LoadShape.Users(5, 100),
            30,
            2_000,
            List.of(new Limit(Limit.Measure.P95, 300), new Limit(Limit.Measure.FAILED, 0.5)));

    private Project full() {
        store.create(folder, "Northfell");
        store.saveContract(folder, "stay", "Stay", stay, Instant.parse("2026-11-23T08:00:00Z"));
        store.saveCase(folder, kept);
        store.saveSuite(folder, suite);
        store.saveMock(folder, mock);
        store.saveLoad(folder, load);
        return store.open(folder);
    }

    @Test
    void everythingComesBackAsItWasSaved() {
        Project project = full();
        assertThat(project.troubles()).isEmpty();
        assertThat(project.cases()).containsExactly(kept);
        assertThat(project.suites()).containsExactly(suite);
        assertThat(project.mocks()).containsExactly(mock);
        assertThat(project.loads()).containsExactly(load);
    }

    @Test
    void theSnapshotHoldsTheDocumentsByteForByteAndReadsTheSame() {
        Contract again = full().contract("stay").orElseThrow().contract();
        assertThat(again.documents())
                .extracting(SourceDocument::sha256)
                .isEqualTo(stay.documents().stream().map(SourceDocument::sha256).toList());
        assertThat(again.documents())
                .extracting(SourceDocument::bytes)
                .usingRecursiveComparison()
                .isEqualTo(stay.documents().stream().map(SourceDocument::bytes).toList());
        assertThat(again.operations().keySet()).isEqualTo(stay.operations().keySet());
        assertThat(again.findings())
                .extracting(f -> f.rule() + f.text())
                .isEqualTo(
                        stay.findings().stream().map(f -> f.rule() + f.text()).toList());
    }

    @Test
    void aChangedSnapshotIsToldOfAndUsed() throws IOException {
        full();
        Path wsdl = folder.resolve("contracts/stay/stay.wsdl");
        Files.writeString(wsdl, Files.readString(wsdl) + "\n");
        Project project = store.open(folder);
        assertThat(project.troubles()).singleElement().asString().contains("SHA-256 differs");
        assertThat(project.contracts()).hasSize(1);
    }

    @Test
    void savingAgainChangesNoByte() throws IOException {
        full();
        Path file = folder.resolve("cases/stay/Book/two-nights.yaml");
        String before = Files.readString(file);
        store.saveCase(folder, store.open(folder).cases().get(0));
        assertThat(file).hasContent(before);
    }

    @Test
    void keysThatThisVersionDoesNotKnowStay() throws IOException {
        full();
        Path file = folder.resolve("cases/stay/Book/two-nights.yaml");
        Files.writeString(file, Files.readString(file) + "ticket: NF-1234\n");
        store.saveCase(folder, kept.withName("two-nights", "Renamed"));
        assertThat(file).content().contains("ticket: NF-1234").contains("title: Renamed");
    }

    @Test
    void aDamagedFileIsToldWithItsPlaceLeftAloneAndTheRestOpens() throws IOException {
        full();
        Path file = folder.resolve("suites/whole.yaml");
        Files.writeString(file, "title: x\n  bad: [");
        Project project = store.open(folder);
        assertThat(project.troubles())
                .singleElement()
                .asString()
                .contains("whole.yaml:2:")
                .contains("not well-formed YAML");
        assertThat(project.cases()).hasSize(1);
        assertThat(file).hasContent("title: x\n  bad: [");
        assertThatThrownBy(() -> store.saveSuite(folder, suite)).isInstanceOf(Problem.class);
        assertThat(file).hasContent("title: x\n  bad: [");
    }

    @Test
    void aNewerFormatIsRefusedInOneSentence() throws IOException {
        full();
        Files.writeString(folder.resolve("mockbell.yaml"), "format: 9\nname: x\n");
        assertThatThrownBy(() -> store.open(folder))
                .isInstanceOf(Problem.class)
                .hasMessageContaining("format 9")
                .hasMessageContaining("newer");
    }

    @Test
    void aFolderWithoutAProjectIsNamed() {
        assertThatThrownBy(() -> store.open(folder))
                .isInstanceOf(Problem.class)
                .hasMessageContaining("no project here");
    }

    @Test
    void anUnknownCheckIsNamedWithTheKnownOnes() throws IOException {
        full();
        Path file = folder.resolve("cases/stay/Book/two-nights.yaml");
        Files.writeString(file, "checks:\n  - mood: good\n");
        assertThat(store.open(folder).troubles())
                .singleElement()
                .asString()
                .contains("mood")
                .contains("withinMillis");
    }

    @Test
    void aDeletedCaseIsGone() {
        full();
        store.deleteCase(folder, kept);
        assertThat(store.open(folder).cases()).isEmpty();
    }

    @Test
    void runsAreRememberedNewestFirst() {
        store.create(folder, "x");
        RunHistory history = new RunHistory(folder);
        StepResult step = new StepResult(
                "Book",
                Verdict.FAILED,
                12.5,
                7,
                List.of(CheckResult.failed("t", "1", "2", "/a")),
                Map.of("code", "R-1"),
                "");
        for (int i = 1; i <= 3; i++) {
            history.add(new Run(
                    "whole", "Whole", "test", Instant.parse("2026-11-23T08:00:0" + i + "Z"), 20, List.of(step)));
        }
        List<Run> latest = history.latest("whole", 2);
        assertThat(latest)
                .extracting(r -> r.started().toString())
                .containsExactly("2026-11-23T08:00:03Z", "2026-11-23T08:00:02Z");
        assertThat(latest.get(0).steps()).containsExactly(step);
        assertThat(folder.resolve(".mockbell/.gitignore")).hasContent("*\n");
    }

    @ParameterizedTest
    @CsvSource({
        "'Two nights, half board', two-nights-half-board",
        "Übernachtung, ubernachtung",
        "'///', unnamed",
        "HutBooking, hut-booking"
    })
    void fileNamesComeFromTitles(String title, String name) {
        assertThat(Names.of(title)).isEqualTo(name);
    }
}
