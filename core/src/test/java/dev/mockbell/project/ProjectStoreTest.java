package dev.mockbell.project;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.mockbell.check.Capture;
import dev.mockbell.check.Check;
import dev.mockbell.check.CheckResult;
import dev.mockbell.check.Verdict;
import dev.mockbell.compare.Baseline;
import dev.mockbell.content.Header;
import dev.mockbell.contract.Contract;
import dev.mockbell.contract.Contracts;
import dev.mockbell.contract.SourceDocument;
import dev.mockbell.expression.Variable;
import dev.mockbell.load.Conduct;
import dev.mockbell.load.Limit;
import dev.mockbell.load.LoadPlan;
import dev.mockbell.load.LoadShape;
import dev.mockbell.load.Pauses;
import dev.mockbell.load.RowUse;
import dev.mockbell.load.Share;
import dev.mockbell.mock.MockAnswer;
import dev.mockbell.mock.MockPlan;
import dev.mockbell.problem.Problem;
import dev.mockbell.request.Delivery;
import dev.mockbell.request.PartText;
import dev.mockbell.soap.Addressing;
import dev.mockbell.suite.Case;
import dev.mockbell.suite.Run;
import dev.mockbell.suite.Step;
import dev.mockbell.suite.StepPath;
import dev.mockbell.suite.StepResult;
import dev.mockbell.suite.Suite;
import dev.mockbell.tap.TapPlan;
import dev.mockbell.wire.Framing;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class ProjectStoreTest {
    @TempDir
    Path temp;

    private Path folder;

    @BeforeEach
    void inAFolderOfItsOwn() {
        folder = temp.resolve("project");
    }

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
            "Guest",
            Delivery.USUAL
                    .to("http://{$x}/there")
                    .with(Addressing.V200408)
                    .replyingTo("http://{$x}/")
                    .in("UTF-16")
                    .with(Delivery.Compression.DEFLATE)
                    .with(new Framing(true, true))
                    .following(true)
                    .onOwnConnection(true)
                    .inliningUpTo(12)
                    .with(new Delivery.Waiting(1.5, 2, 30)),
            List.of(new PartText("map", "parts/map.png", "image/png"), new PartText("a", "b", "")),
            Optional.of(new Baseline(Instant.parse("2027-02-14T10:00:00Z"), List.of("//at", "/a/b[2]"), "<right/>")),
            List.of(new Variable("x", "012", false), new Variable("token", "", true)),
            List.of(
                    new Check.Valid(),
                    new Check.NoFault(),
                    new Check.FaultIs("Full"),
                    new Check.Value("/a", "012"),
                    new Check.Condition("1 = 1"),
                    new Check.Within(400)),
            List.of(new Capture("code", "//code")));
    private final Suite suite = new Suite("whole", "Whole", List.of(Step.call("Book", "stay/Book/two-nights")));
    private final MockPlan mock = MockPlan.of("stay", stay, 8_480)
            .withAnswers(
                    "Book",
                    List.of(
                            MockAnswer.fault("$request//nights > 7", "Full", "No bunks", "<x/>")
                                    .withDelay(120),
                            MockAnswer.otherwise("sample", "<y/>")));
    private final LoadPlan load = new LoadPlan(
            "rush",
            "Rush",
            List.of(Share.ofSuite("whole").withWeight(60), new Share(Share.Kind.CASE, "stay/Book/c", 2.5)),
            "",
            new LoadShape(
                    LoadShape.Kind.USERS,
                    List.of(new LoadShape.Point(0, 5), new LoadShape.Point(30, 80.5), new LoadShape.Point(30, 2))),
            Pauses.uniform(100, 2_500),
            Optional.of(new RowUse("suites/huts.csv", RowUse.Order.ONCE, true)),
            new Conduct(2_000, false, 40, false, 3, 12.5, 42, 5),
            List.of(new Limit(Limit.Measure.P95, 300), new Limit("Reserve", Limit.Measure.FAILED, 0.5, true, 10)));

    private final KeptTap tap = new KeptTap(
            "huts",
            new TapPlan("127.0.0.2", 8499, Optional.of(TapPlan.target("https://huts.example/stay")), true, false));

    private Project full() {
        store.create(folder, "Northfell");
        store.saveContract(folder, "stay", "Stay", stay, Instant.parse("2026-11-23T08:00:00Z"));
        store.saveCase(folder, kept);
        store.saveSuite(folder, suite);
        store.saveMock(folder, mock);
        store.saveLoad(folder, load);
        store.saveTap(folder, tap);
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
        assertThat(project.taps()).containsExactly(tap);
        assertThat(StrictSchemas.flaws(folder, Path.of("..", "docs", "schemas")))
                .isEmpty();
    }

    @Test
    void aTapThatLeadsToNoAddressIsToldOfAndTheOthersOpen() throws IOException {
        full();
        Files.writeString(folder.resolve("taps/bad.yaml"), "forward: ftp://huts.example/\n");
        Files.writeString(folder.resolve("taps/proxy.yaml"), "opensTls: true\nport: 0\n");
        Project project = store.open(folder);
        assertThat(project.taps()).extracting(KeptTap::id).containsExactly("huts", "proxy");
        assertThat(project.tap("proxy").plan()).isEqualTo(TapPlan.proxy(0).opening(true));
        assertThat(project.troubles()).singleElement().asString().contains("bad.yaml", "ftp://huts.example/");
        assertThatThrownBy(() -> project.tap("none")).hasMessageContaining("huts, proxy");
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
                    "whole",
                    "Whole",
                    "test",
                    Instant.parse("2026-11-23T08:00:0" + i + "Z"),
                    20,
                    List.of(),
                    List.of(step),
                    List.of(),
                    Map.of(StepPath.parse("1"), "b" + i)));
        }
        List<Run> latest = history.latest("whole", 2);
        assertThat(latest)
                .extracting(r -> r.started().toString())
                .containsExactly("2026-11-23T08:00:03Z", "2026-11-23T08:00:02Z");
        assertThat(latest.get(0).steps()).containsExactly(step);
        assertThat(latest.get(0).bases()).isEqualTo(Map.of(StepPath.parse("1"), "b3"));
        assertThat(latest.get(0).alike(latest.get(1), StepPath.parse("1"))).isFalse();
        assertThat(latest.get(0).alike(latest.get(1), StepPath.parse("2"))).isTrue();
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

    @ParameterizedTest
    @CsvSource(delimiter = '|', textBlock = """
            mocks/stay.yaml          | port: 8480                  | port: eighty            | port must be a whole number, not “eighty”
            mocks/stay.yaml          | port: 8480                  | port: 99999             | at most 65535
            loads/rush.yaml          | warmUpSeconds: 3            | warmUpSeconds: -1       | warmUpSeconds must be at least 0
            loads/rush.yaml          | level: 80.5                 | level: many             | level
            loads/rush.yaml          | measure: p95                | measure: p96            | one of p50, p90
            suites/whole.yaml        | call: stay/Book/two-nights  | cal: stay/Book/x        | steps/0 must be one of: call, pauseMillis
            cases/stay/Book/two-nights.yaml | withinMillis: 400    | withinMillis: soon      | withinMillis
            cases/stay/Book/two-nights.yaml | port: StaySoap11     | port: [StaySoap11]      | port must be text, not a list
            """)
    void aWrongValueIsToldWithItsLineNeverTakenForADefaultAndNeverSavedOver(
            String name, String right, String wrong, String told) throws IOException {
        full();
        Path file = folder.resolve(name);
        String text = Files.readString(file);
        assertThat(text).contains(right);
        String broken = text.replace(right, wrong);
        int line = (int) broken.substring(0, broken.indexOf(wrong)).lines().count();
        Files.writeString(file, broken);
        Project project = store.open(folder);
        assertThat(project.troubles()).singleElement().asString().contains(told);
        assertThat(project.troubles().get(0))
                .matches("(?s).*" + java.util.regex.Pattern.quote(name) + ":(" + line + "|" + Math.max(1, line - 1)
                        + "|" + (line + 1) + ")\\b.*");
        for (Change change : List.of(
                Change.of(kept.withName("two-nights", "Other")),
                Change.of(suite.withSteps(List.of())),
                Change.of(mock.withPort(1)),
                Change.of(load.with(load.shape().withSeconds(1))))) {
            try {
                change.write(store, folder);
            } catch (Problem refused) {
                assertThat(refused).hasMessageContaining(told);
            }
        }
        assertThat(file).hasContent(broken);
    }

    @Test
    void aWrongSettingLeavesTheRestOpenAndSaysThatTheAddressesAreNotKnown() throws IOException {
        full();
        Path file = folder.resolve("mockbell.yaml");
        Files.writeString(file, "format: 1\nname: Northfell\nenvironments: live\n");
        Project project = store.open(folder);
        assertThat(project.troubles())
                .singleElement()
                .asString()
                .contains("mockbell.yaml:3")
                .contains("a list");
        assertThat(project.cases()).hasSize(1);
        assertThatThrownBy(() -> ProjectBench.unknown(project).endpoint("stay", "StaySoap11"))
                .isInstanceOf(Problem.class)
                .hasMessageContaining("where to send");
        assertThatThrownBy(() -> store.saveSettings(project)).isInstanceOf(Problem.class);
        assertThat(file).content().contains("environments: live");
    }

    @Test
    void keysThatThisVersionDoesNotKnowStayAtEveryDepth() throws IOException {
        full();
        Path cases = folder.resolve("cases/stay/Book/two-nights.yaml");
        Files.writeString(
                cases,
                Files.readString(cases)
                        .replace("  - withinMillis: 400\n", "  - withinMillis: 400\n    soft: true\n")
                        .replace("  - name: X-A\n", "  - name: X-A\n    note: 007\n"));
        Path mocks = folder.resolve("mocks/stay.yaml");
        Files.writeString(
                mocks,
                Files.readString(mocks)
                        .replace("      title: Full\n", "      title: Full\n      owner: anna\n")
                        .replace("    - title: Full\n", "    - title: Full\n      owner: anna\n"));
        List<Check> checks = new java.util.ArrayList<>(kept.checks());
        checks.remove(0);
        store.saveCase(folder, kept.withChecks(checks));
        store.saveMock(
                folder,
                mock.withAnswers(
                        "Book",
                        List.of(
                                mock.of("Book").get(0).withDelay(0),
                                mock.of("Book").get(1))));
        assertThat(cases)
                .content()
                .contains("soft: true")
                .contains("note: \"007\"")
                .doesNotContain("valid:");
        assertThat(mocks).content().contains("owner: anna").doesNotContain("delayMillis");
        assertThat(store.open(folder).troubles()).isEmpty();
    }

    @Test
    void whateverOneFileHoldsTheOthersOpen() throws IOException {
        full();
        Path mocks = folder.resolve("mocks/stay.yaml");
        Files.writeString(
                mocks,
                Files.readString(mocks)
                        .replaceFirst("body: [a-z.-]+", "body: \"a\\\\0b.xml\"")
                        .replace("a\\\\0b", "a\\0b"));
        Path snapshot = folder.resolve("contracts/stay/snapshot.yaml");
        Files.writeString(snapshot, Files.readString(snapshot).replaceAll("uri: .*", "uri: \"http://[bad host/\""));
        Files.write(folder.resolve("suites/other.yaml"), new byte[] {(byte) 0xFF, (byte) 0xFE, 0, 1});
        Files.writeString(folder.resolve("suites/bomb.yaml"), "a: &a [1]\nb: &b [*a,*a]\nc: &c [*b,*c]\n");
        Files.writeString(folder.resolve("suites/deep.yaml"), "steps: " + "[".repeat(5_000));
        Project project = store.open(folder);
        assertThat(project.troubles()).hasSize(5).allMatch(t -> t.contains(folder.toString()));
        assertThat(project.cases()).containsExactly(kept);
        assertThat(project.suites()).containsExactly(suite);
        assertThat(project.loads()).containsExactly(load);
    }

    @Test
    void numbersThatAreMeantAsTextStayAsTheyWereWritten() throws IOException {
        store.create(folder, "x");
        Files.writeString(
                folder.resolve("mockbell.yaml"),
                "format: 1\nname: 007\nvariables:\n  zip: 01067\n  price: 1.50\n  land: no\n  none: null\n");
        Project project = store.open(folder);
        assertThat(project.troubles()).isEmpty();
        assertThat(project.name()).isEqualTo("007");
        assertThat(project.settings().variables())
                .extracting(Variable::value)
                .containsExactly("01067", "1.50", "no", "");
        store.saveSettings(project);
        assertThat(store.open(folder).settings()).isEqualTo(project.settings());
    }

    @Test
    void aMocksBodyIsReadFromItsFolderAndFromNowhereElse() throws IOException {
        full();
        Path secret = Files.writeString(folder.resolveSibling("secret.txt"), "t0p");
        Path mocks = folder.resolve("mocks/stay.yaml");
        String good = Files.readString(mocks);
        Path link = folder.resolve("mocks/stay/link.xml");
        Files.createSymbolicLink(link, secret);
        for (String body :
                List.of("/etc/passwd", "../../../" + secret.getFileName(), "../../mockbell.yaml", "link.xml")) {
            Files.writeString(mocks, good.replaceFirst("body: [a-z.-]+", "body: " + body));
            Project project = store.open(folder);
            assertThat(project.troubles()).as(body).singleElement().asString().contains("leads out");
            assertThat(project.mocks()).isEmpty();
        }
    }

    @Test
    void namesThatLookLikePathsStayInside() throws IOException {
        store.create(folder, "x");
        Case evil = kept.under("../../../../evil", "../../../evil");
        store.saveCase(folder, evil);
        store.saveSuite(folder, new Suite("../evil", "Evil", List.of()));
        try (var all = Files.walk(folder.getParent(), 2)) {
            assertThat(all.filter(p -> !p.startsWith(folder)))
                    .noneMatch(p -> p.getFileName().toString().contains("evil"));
        }
        Project project = store.open(folder);
        assertThat(project.cases()).containsExactly(evil);
        assertThat(project.suites()).extracting(Suite::id).containsExactly("../evil");
        Case longest = kept.under("x".repeat(400), "a");
        store.saveCase(folder, longest);
        assertThat(store.open(folder).cases()).contains(longest);
    }

    @Test
    void aPartOfTheProjectThatIsALinkElsewhereIsToldAndNotFollowed() throws IOException {
        store.create(folder, "x");
        Path outside = Files.createDirectories(folder.resolveSibling("outside"));
        Files.createSymbolicLink(folder.resolve("suites"), outside);
        assertThat(store.open(folder).troubles()).singleElement().asString().contains("leads out");
        assertThatThrownBy(() -> store.saveSuite(folder, suite)).isInstanceOf(Problem.class);
        assertThat(outside).isEmptyDirectory();
        Files.createSymbolicLink(folder.resolve(".mockbell"), outside);
        assertThatThrownBy(() -> ProjectStore.ledger(folder)).isInstanceOf(Problem.class);
    }

    @Test
    void whatBelongsToThisMachineMayHoldNoLinkThatSomebodyBroughtAlong() throws IOException {
        store.create(folder, "x");
        Path outside = Files.createDirectories(folder.resolveSibling("outside"));
        for (String place : List.of("runs", "versions", "ledger.db", "runs-of/whole/authority.pem")) {
            Path link = ProjectStore.hidden(folder).resolve(place);
            Files.createDirectories(link.getParent());
            Files.createSymbolicLink(link, place.contains(".") ? outside.resolve("made") : outside);
            assertThatThrownBy(() -> store.open(folder)).as(place).hasMessageContaining("holds a link");
            assertThatThrownBy(() -> store.openWithoutContracts(folder)).isInstanceOf(Problem.class);
            Files.delete(link);
        }
        assertThat(outside).isEmptyDirectory();
        assertThat(store.open(folder).troubles()).isEmpty();
    }

    @Test
    void aNameThatWouldBeAPathLeadsNowhereWhenReportsAreWrittenOrContractsMoved() throws IOException {
        store.create(folder, "x");
        assertThat(ProjectStore.report(folder, "../../evil.xml"))
                .isEqualTo(folder.resolve("reports/%2E.%2F..%2Fevil.xml"));
        Files.createDirectories(folder.resolve("contracts/%2E.%2Fevil"));
        Path aside = store.removeContract(folder, "../evil");
        assertThat(aside.normalize()).startsWith(folder.resolve(".mockbell/removed"));
        Files.createSymbolicLink(folder.resolve("reports"), Files.createDirectories(folder.resolveSibling("outside")));
        assertThatThrownBy(() -> ProjectStore.report(folder, "a.xml")).hasMessageContaining("leads out");
        Files.createSymbolicLink(folder.resolve("parts"), folder.resolveSibling("outside"));
        Path photo = Files.writeString(folder.resolveSibling("photo.png"), "x");
        assertThatThrownBy(() -> CaseParts.take(folder, photo)).hasMessageContaining("leads out");
    }

    @Test
    void runsAreForTheUserAlone() throws IOException {
        store.create(folder, "x");
        new RunHistory(folder).add(new Run("../whole", "Whole", "", Instant.EPOCH, 1, List.of()));
        try (var all = Files.walk(folder.resolve(".mockbell"))) {
            Path run =
                    all.filter(p -> p.toString().endsWith(".json")).findFirst().orElseThrow();
            assertThat(java.nio.file.attribute.PosixFilePermissions.toString(Files.getPosixFilePermissions(run)))
                    .isEqualTo("rw-------");
        }
        assertThat(new RunHistory(folder).latest("../whole", 5)).hasSize(1);
    }

    @Test
    void aDamagedLedgerIsKeptAsideAndANewOneStarted() throws IOException {
        store.create(folder, "x");
        Path file = Files.writeString(ProjectStore.ledger(folder), "no ledger at all, but quite long enough for one");
        List<String> told = new java.util.ArrayList<>();
        ProjectStore.openLedger(Project.of(folder, Settings.of("p")), told::add).close();
        assertThat(told).singleElement().asString().contains("damaged");
        try (var all = Files.list(file.getParent())) {
            assertThat(all.filter(p -> p.getFileName().toString().startsWith("ledger-damaged")))
                    .singleElement()
                    .satisfies(p -> assertThat(p).content().startsWith("no ledger"));
        }
    }

    @Test
    void aBaselineLiesInAFileOfItsOwnGoesWithItsCaseAndIsLeftAloneWhenItCannotBeRead() throws IOException {
        store.create(folder, "P");
        store.saveContract(folder, "stay", "Stay", stay, Instant.EPOCH);
        store.saveCase(folder, kept);
        Path file = folder.resolve("baselines/stay/Book/two-nights.xml");
        assertThat(file).hasContent("<right/>");
        Files.write(file, new byte[] {'<', (byte) 0xE5, '>'});
        Project read = store.open(folder);
        assertThat(read.troubles()).anySatisfy(t -> assertThat(t).contains("The baseline's file has bytes"));
        assertThat(read.cases()).as("the case is there all the same").hasSize(1);
        store.saveCase(folder, read.cases().get(0));
        assertThat(Files.readAllBytes(file)).hasSize(3);
        store.saveCase(folder, kept.withBaseline(Optional.empty()));
        assertThat(file).doesNotExist();
        store.saveCase(folder, kept);
        store.deleteCase(folder, kept);
        assertThat(file).doesNotExist();
    }

    @Test
    void aProjectMayBeNamedByItsMainFile() throws Exception {
        store.create(folder, "x");
        assertThat(ProjectStore.folderOf(folder.resolve("mockbell.yaml"))).isEqualTo(folder);
        assertThat(ProjectStore.folderOf(folder)).isEqualTo(folder);
        Path other = Files.writeString(folder.resolve("other.yaml"), "");
        assertThat(ProjectStore.folderOf(other)).isEqualTo(other);
    }
}
