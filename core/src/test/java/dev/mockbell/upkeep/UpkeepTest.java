package dev.mockbell.upkeep;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.change.ContractChange;
import dev.mockbell.change.ContractChanges;
import dev.mockbell.change.Excerpt;
import dev.mockbell.check.Capture;
import dev.mockbell.check.Check;
import dev.mockbell.contract.Contract;
import dev.mockbell.contract.Contracts;
import dev.mockbell.load.LoadPlan;
import dev.mockbell.load.LoadShape;
import dev.mockbell.mock.MockAnswer;
import dev.mockbell.mock.MockPlan;
import dev.mockbell.project.KeptContract;
import dev.mockbell.project.Project;
import dev.mockbell.project.Settings;
import dev.mockbell.suite.Case;
import dev.mockbell.suite.DataTable;
import dev.mockbell.suite.KnownValues;
import dev.mockbell.suite.Step;
import dev.mockbell.suite.Suite;
import dev.mockbell.task.StopSignal;
import java.nio.file.Path;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

class UpkeepTest {
    private static final String OLD = contract(
            "<xs:element name='nights'><xs:simpleType><xs:restriction base='xs:int'><xs:maxInclusive value='14'/></xs:restriction></xs:simpleType></xs:element>",
            "<xs:element name='refund' type='xs:int'/>",
            "Reserve");
    private static final String NEW = contract(
            "<xs:element name='nights'><xs:simpleType><xs:restriction base='xs:int'><xs:maxInclusive value='10'/></xs:restriction></xs:simpleType></xs:element>"
                    + "<xs:element name='email' type='xs:string'/>",
            "<xs:element name='refundTotal' type='xs:int'/>",
            "Reserve");
    private static final String RESERVE = "<t:Root xmlns:t='urn:t'><t:nights>%s</t:nights></t:Root>";

    private Project project;

    /** An operation that takes one sequence and gives another. */
    private static String contract(String takes, String gives, String operation) {
        return Contracts.wsdl(Contracts.schema("<xs:element name='Root'><xs:complexType><xs:sequence>" + takes
                        + "</xs:sequence></xs:complexType></xs:element>"
                        + "<xs:element name='Given'><xs:complexType><xs:sequence>" + gives
                        + "</xs:sequence></xs:complexType></xs:element>"))
                .replace(
                        "<message name=\"M\">",
                        "<message name=\"G\"><part name=\"p\" element=\"t:Given\"/></message><message name=\"M\">")
                .replace("<output message=\"tns:M\"/>", "<output message=\"tns:G\"/>")
                .replace("name=\"Do\"", "name=\"" + operation + "\"");
    }

    @BeforeEach
    void aProject() {
        Contract was = Contracts.of("a.wsdl", OLD);
        Project made = Project.of(Path.of("northfell"), Settings.of("Northfell"))
                .withContract(new KeptContract("huts", "Huts", Instant.EPOCH, was));
        Case fortnight = new Case(
                "fortnight",
                "A fortnight",
                "",
                "huts",
                "Reserve",
                "",
                RESERVE.formatted(14),
                List.of(),
                List.of(new Check.Value("/t:Given/t:refund", "12"), new Check.Condition("contains(., 'refund')")),
                List.of(new Capture("back", "//t:refund")));
        Case two = new Case(
                "two", "Two nights", "", "huts", "Reserve", "", RESERVE.formatted(2), List.of(), List.of(), List.of());
        Case refused = new Case(
                "refused",
                "Refused",
                "",
                "huts",
                "Reserve",
                "",
                RESERVE.formatted(99),
                List.of(),
                List.of(new Check.FaultIs("")),
                List.of());
        KnownValues known = new KnownValues(
                new DataTable("known.csv", List.of("nights", "back"), List.of(List.of("3", "1"), List.of("12", "2"))),
                List.of(
                        new KnownValues.Column("nights", KnownValues.Use.SETS, "/Root/nights"),
                        new KnownValues.Column("back", KnownValues.Use.IS, "//t:refund")));
        Step step = new Step.Call("stay", true, "huts/Reserve/two", Optional.of(known));
        MockPlan mock = MockPlan.sampling("huts", 0)
                .withAnswers(
                        "Reserve",
                        List.of(
                                MockAnswer.message(
                                        "//t:nights > 3",
                                        "long",
                                        "<t:Given xmlns:t='urn:t'><t:refund>{1 + 1}</t:refund></t:Given>"),
                                MockAnswer.otherwise("none", "")));
        project = made.withCase(fortnight)
                .withCase(two)
                .withCase(refused)
                .withSuite(new Suite("whole", "Whole stay", List.of(step)))
                .withMock(mock)
                .withLoad(LoadPlan.of("busy", "Busy", "whole", LoadShape.arrivals(1, 1)));
    }

    private Upkeep upkeep(String now) {
        KeptContract kept = project.contract("huts").orElseThrow();
        ContractChanges changes =
                ContractChanges.between(kept.contract(), Contracts.of("a.wsdl", now), new StopSignal());
        return Upkeep.of(project, kept, changes, new StopSignal());
    }

    private static ContractChange at(Upkeep upkeep, String path) {
        return upkeep.changes().changes().stream()
                .filter(c -> c.path().equals(path))
                .findFirst()
                .orElseThrow();
    }

    @Test
    void saysWhichCasesKnownValuesChecksAnswersAndLoadsAChangeTouches() {
        Upkeep upkeep = upkeep(NEW);
        assertThat(upkeep.words(at(upkeep, "nights"))).isEqualTo("1 case, 1 known value");
        assertThat(upkeep.words(at(upkeep, "email"))).isEqualTo("2 cases, 1 load");
        assertThat(upkeep.words(at(upkeep, "refund"))).isEqualTo("1 known value, 1 check, 1 capture, 1 mock answer");
        assertThat(upkeep.touched())
                .as("one that expects a fault may be wrong on purpose")
                .noneMatch(t -> t.name().equals("Refused"));
        assertThat(upkeep.by(at(upkeep, "nights")).get(0).words()).contains("14");
    }

    @Test
    void proposalsMendWhatCanBeMendedAndLeaveTheRest() {
        Upkeep upkeep = upkeep(NEW);
        KeptContract fresh =
                new KeptContract("huts", "Huts", Instant.EPOCH, upkeep.changes().is());
        Project taken = upkeep.taken(project, fresh, upkeep.proposals());
        Case fortnight = taken.kept("huts/Reserve/fortnight").orElseThrow();
        assertThat(fortnight.body()).contains("<t:email>").contains("<t:nights>14<");
        assertThat(fortnight.checks())
                .containsExactly(
                        new Check.Value("/t:Given/t:refundTotal", "12"), new Check.Condition("contains(., 'refund')"));
        assertThat(fortnight.captures()).extracting(Capture::path).containsExactly("//t:refundTotal");
        assertThat(taken.mock("huts").orElseThrow().of("Reserve").get(0).body()).contains("<t:refundTotal>{1 + 1}<");
        assertThat(taken.suite("whole")).isEqualTo(project.suite("whole"));
        Upkeep again = Upkeep.of(
                taken,
                fresh,
                ContractChanges.between(fresh.contract(), fresh.contract(), new StopSignal()),
                new StopSignal());
        assertThat(again.touched()).isEmpty();
    }

    @Test
    void nothingChosenChangesNothingButTheContract() {
        Upkeep upkeep = upkeep(NEW);
        KeptContract fresh =
                new KeptContract("huts", "Huts", Instant.EPOCH, upkeep.changes().is());
        Project taken = upkeep.taken(project, fresh, Map.of());
        assertThat(taken.cases()).isEqualTo(project.cases());
        assertThat(taken.mocks()).isEqualTo(project.mocks());
        assertThat(taken.contract("huts")).contains(fresh);
    }

    @Test
    void aCaseCanBeMadeToExpectAFaultNow() {
        Upkeep upkeep = upkeep(NEW);
        Touched fortnight = upkeep.by(at(upkeep, "nights")).get(0);
        Way refused = fortnight.ways().stream()
                .filter(w -> w.title().equals("expect a fault"))
                .findFirst()
                .orElseThrow();
        KeptContract fresh =
                new KeptContract("huts", "Huts", Instant.EPOCH, upkeep.changes().is());
        Project taken = upkeep.taken(project, fresh, Map.of(fortnight, refused));
        assertThat(taken.kept("huts/Reserve/fortnight").orElseThrow().checks()).containsExactly(new Check.FaultIs(""));
    }

    @Test
    void casesOfAnOperationThatGotAnotherNameGoThereAndThoseOfOneThatIsGoneStay() {
        Upkeep renamed = upkeep(OLD.replace("name=\"Reserve\"", "name=\"ReserveBunk\""));
        KeptContract fresh = new KeptContract(
                "huts", "Huts", Instant.EPOCH, renamed.changes().is());
        Project taken = renamed.taken(project, fresh, renamed.proposals());
        assertThat(taken.cases("huts", "ReserveBunk")).hasSize(3);
        Upkeep gone = upkeep(OLD.replace("name=\"Reserve\"", "name=\"Zzyzx\""));
        assertThat(gone.proposals()).isEmpty();
        assertThat(gone.touched())
                .filteredOn(t -> t.kind() == Touched.Kind.CASE)
                .hasSize(3);
    }

    @Test
    void anEnvironmentThatOverridesAnAddressIsTold() {
        project = project.with(project.settings()
                        .withEnvironments(
                                List.of(new dev.mockbell.project.Environment("local", Map.of(), List.of(), Map.of())),
                                "local"))
                .withEndpoint("huts", "Port", "http://127.0.0.1:9/mine");
        Upkeep upkeep = upkeep(OLD.replace(":1/t", ":2/t"));
        assertThat(upkeep.touched()).singleElement().satisfies(t -> {
            assertThat(t.kind()).isEqualTo(Touched.Kind.ENVIRONMENT);
            assertThat(t.words()).contains("http://127.0.0.1:9/mine");
        });
    }

    @Test
    void takingOverIsTakenBackWhereNothingWasChangedSince() {
        Upkeep upkeep = upkeep(NEW);
        KeptContract kept = project.contract("huts").orElseThrow();
        KeptContract fresh =
                new KeptContract("huts", "Huts", Instant.EPOCH, upkeep.changes().is());
        Project taken = upkeep.taken(project, fresh, upkeep.proposals());
        Project back = Upkeep.back(project, taken, taken, kept);
        assertThat(back.cases()).containsExactlyInAnyOrderElementsOf(project.cases());
        assertThat(back.mocks()).isEqualTo(project.mocks());
        assertThat(back.contract("huts")).contains(kept);
        Case edited = taken.kept("huts/Reserve/two").orElseThrow().withDescription("edited since");
        Project later = Upkeep.back(project, taken, taken.withCase(edited), kept);
        assertThat(later.kept("huts/Reserve/two")).contains(edited);
        Upkeep moving = upkeep(OLD.replace("name=\"Reserve\"", "name=\"ReserveBunk\""));
        Project moved = moving.taken(project, fresh, moving.proposals());
        assertThat(Upkeep.back(project, moved, moved, kept).cases())
                .containsExactlyInAnyOrderElementsOf(project.cases());
    }

    @Test
    void theLinesAroundAChangeAreShownWithWhatWentAndWhatIsNew() {
        String old = OLD.replace("><", ">\n<");
        project = project.withContract(new KeptContract("huts", "Huts", Instant.EPOCH, Contracts.of("a.wsdl", old)));
        Upkeep upkeep = upkeep(old.replace("value='14'", "value='10'"));
        List<Excerpt.Line> lines = Excerpt.of(upkeep.changes(), at(upkeep, "nights"));
        assertThat(lines)
                .filteredOn(l -> l.kind() == Excerpt.Kind.GONE)
                .singleElement()
                .satisfies(l -> assertThat(l.text()).contains("'14'"));
        assertThat(lines)
                .filteredOn(l -> l.kind() == Excerpt.Kind.NEW)
                .singleElement()
                .satisfies(l -> assertThat(l.text()).contains("'10'"));
        int gone = lines.indexOf(lines.stream()
                .filter(l -> l.kind() == Excerpt.Kind.GONE)
                .findFirst()
                .orElseThrow());
        assertThat(lines.get(gone + 1).kind()).isEqualTo(Excerpt.Kind.NEW);
    }
}
