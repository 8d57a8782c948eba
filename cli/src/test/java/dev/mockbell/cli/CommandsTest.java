package dev.mockbell.cli;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import dev.mockbell.check.Check;
import dev.mockbell.contract.Contract;
import dev.mockbell.contract.ContractReader;
import dev.mockbell.contract.DocumentFetcher;
import dev.mockbell.expression.Expressions;
import dev.mockbell.load.Limit;
import dev.mockbell.load.LoadPlan;
import dev.mockbell.load.LoadShape;
import dev.mockbell.mock.MockAnswer;
import dev.mockbell.mock.MockHost;
import dev.mockbell.mock.MockPlan;
import dev.mockbell.mock.MockSurroundings;
import dev.mockbell.project.ProjectStore;
import dev.mockbell.suite.Case;
import dev.mockbell.suite.Step;
import dev.mockbell.suite.Suite;
import dev.mockbell.task.Progress;
import dev.mockbell.task.StopSignal;
import dev.mockbell.wire.EventLoops;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.PrintStream;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.CompletableFuture;
import org.HdrHistogram.AbstractHistogram;
import org.HdrHistogram.HistogramLogReader;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** The commands as a person types them, against a service on the loopback address. */
class CommandsTest {
    static final String WSDL = """
            <definitions name="Peaks" targetNamespace="urn:peaks:s" xmlns="http://schemas.xmlsoap.org/wsdl/" xmlns:tns="urn:peaks:s"
              xmlns:p="urn:peaks" xmlns:soap="http://schemas.xmlsoap.org/wsdl/soap/" xmlns:xs="http://www.w3.org/2001/XMLSchema">
              <types><xs:schema targetNamespace="urn:peaks" elementFormDefault="qualified">
                <xs:element name="Height"><xs:complexType><xs:sequence><xs:element name="peak" type="xs:string"/>
                  <xs:element name="unit" type="xs:string" minOccurs="0"/></xs:sequence></xs:complexType></xs:element>
                <xs:element name="HeightResponse"><xs:complexType><xs:sequence><xs:element name="metres" type="xs:int"/></xs:sequence></xs:complexType></xs:element>
                <xs:element name="NoPeak"><xs:complexType><xs:sequence><xs:element name="peak" type="xs:string"/></xs:sequence></xs:complexType></xs:element>
              </xs:schema></types>
              <message name="In"><part name="b" element="p:Height"/></message>
              <message name="Out"><part name="b" element="p:HeightResponse"/></message>
              <message name="No"><part name="f" element="p:NoPeak"/></message>
              <portType name="PT"><operation name="Height"><input message="tns:In"/><output message="tns:Out"/><fault name="NoPeak" message="tns:No"/></operation></portType>
              <binding name="B" type="tns:PT"><soap:binding transport="http://schemas.xmlsoap.org/soap/http"/>
                <operation name="Height"><soap:operation soapAction="urn:height"/><input><soap:body use="literal"/></input>
                <output><soap:body use="literal"/></output><fault name="NoPeak"><soap:fault name="NoPeak" use="literal"/></fault></operation></binding>
              <service name="Peaks"><port name="PeaksPort" binding="tns:B"><soap:address location="%s"/></port></service>
            </definitions>""";

    @TempDir
    Path folder;

    private final EventLoops loops = new EventLoops("test", 1);
    private final ByteArrayOutputStream out = new ByteArrayOutputStream();
    private final ByteArrayOutputStream err = new ByteArrayOutputStream();
    private MockHost service;
    private Path wsdl;

    @BeforeEach
    void serve() throws Exception {
        wsdl = Files.writeString(folder.resolve("peaks.wsdl"), WSDL.formatted("http://127.0.0.1:1/peaks"));
        Contract contract = read();
        var fault = contract.operation("Height", null)
                .orElseThrow()
                .operation()
                .faults()
                .get(0);
        MockPlan plan = MockPlan.of("peaks", contract, 0)
                .withAnswers(
                        "Height",
                        List.of(
                                MockPlan.fault(contract, fault, "$request//peak = 'Atlantis'"),
                                MockAnswer.otherwise(
                                        "echo",
                                        "<p:HeightResponse xmlns:p='urn:peaks'><p:metres>{string-length($request//peak) * 100}</p:metres></p:HeightResponse>")));
        service = MockHost.start(contract, plan, MockSurroundings.alone(loops, new Expressions(), null, e -> {}));
        Files.writeString(wsdl, WSDL.formatted(service.addresses().get("PeaksPort")));
    }

    private Contract read() {
        return new ContractReader(DocumentFetcher.files(1 << 20))
                .read(wsdl.toString(), Progress.NONE, new StopSignal());
    }

    @AfterEach
    void close() {
        service.close();
        loops.close();
    }

    private int run(String... args) {
        out.reset();
        err.reset();
        return MockBellCommand.commandLine(new Console(
                        new PrintStream(out, true, StandardCharsets.UTF_8),
                        new PrintStream(err, true, StandardCharsets.UTF_8)))
                .execute(args);
    }

    private String out() {
        return out.toString(StandardCharsets.UTF_8);
    }

    private String err() {
        return err.toString(StandardCharsets.UTF_8);
    }

    @Test
    void showPrintsTheDocumentedJson() throws Exception {
        assertThat(run("contract", "show", wsdl.toString(), "--json")).isZero();
        JsonNode json = new ObjectMapper().readTree(out());
        assertThat(json.path("format").asInt()).isEqualTo(1);
        assertThat(json.path("wsdl").asText()).isEqualTo("1.1");
        JsonNode port = json.path("services").path(0).path("ports").path(0);
        assertThat(port.path("protocol").asText()).isEqualTo("soap11");
        assertThat(port.path("binding").asText()).isEqualTo("{urn:peaks:s}B");
        JsonNode operation = port.path("operations").path(0);
        assertThat(operation.path("name").asText()).isEqualTo("Height");
        assertThat(operation.path("style").asText()).isEqualTo("document");
        assertThat(operation.path("pattern").asText()).isEqualTo("request-response");
        assertThat(operation.path("input").path("headers").asInt()).isZero();
        assertThat(operation.path("faults").path(0).asText()).isEqualTo("NoPeak");
        assertThat(json.path("documents").path(0).path("sha256").asText()).hasSize(64);
        assertThat(json.path("findings").isArray()).isTrue();
    }

    @Test
    void sampleWritesAFileAMessageAndAnIndex() throws Exception {
        Path samples = folder.resolve("samples");
        assertThat(run("contract", "sample", wsdl.toString(), "--out", samples.toString(), "--full"))
                .isZero();
        assertThat(samples.resolve("PeaksPort/Height.request.xml"))
                .content()
                .contains("unit>")
                .contains("soap:Envelope");
        assertThat(samples.resolve("PeaksPort/Height.response.xml")).exists();
        JsonNode index =
                new ObjectMapper().readTree(samples.resolve("index.json").toFile());
        assertThat(index).hasSize(3);
        assertThat(index.get(0).path("soapAction").asText()).isEqualTo("urn:height");
        assertThat(index.get(1).path("direction").asText()).isEqualTo("response");
    }

    @Test
    void aCallPrintsTheAnswer() {
        assertThat(run("call", wsdl.toString(), "--operation", "Height", "--set", "peak=Skarn"))
                .isZero();
        assertThat(out()).contains("<p:metres>500</p:metres>");
        assertThat(err()).startsWith("status 200, ");
    }

    @Test
    void aValueCanBeSetWhereThePartIsLeftOutAndOnlyThere() {
        assertThat(run("call", wsdl.toString(), "--operation", "Height", "--set", "unit=m", "--wire"))
                .isZero();
        assertThat(out()).contains("unit>m<");
        assertThat(run("call", wsdl.toString(), "--operation", "Height", "--set", "/Height/nobody=1"))
                .isEqualTo(2);
        assertThat(err()).contains("Nothing in the request is at that path");
    }

    @Test
    void aNameAloneLeadsToThePartWhereverTheContractHasIt() {
        assertThat(run("call", wsdl.toString(), "--operation", "Height", "--set", "//unit=m", "--wire"))
                .isZero();
        assertThat(out()).contains("unit>m<");
        assertThat(run("call", wsdl.toString(), "--operation", "Height", "--set", "//nobody=m"))
                .isEqualTo(2);
        assertThat(run("call", wsdl.toString(), "--operation", "Height", "--set", "header::Trace/id=m"))
                .isEqualTo(2);
        assertThat(err()).contains("The contract names no header Trace").contains("It names none.");
    }

    @Test
    void variablesAndFunctionsWorkInSetValuesAndBodies() throws Exception {
        assertThat(run(
                        "call",
                        wsdl.toString(),
                        "--operation",
                        "Height",
                        "--set",
                        "peak={upper-case($p)} & {bell:base64('x')}",
                        "--var",
                        "p=skarn"))
                .isZero();
        assertThat(out()).contains("<p:metres>1200</p:metres>");
        Path body = Files.writeString(
                folder.resolve("body.xml"), "<p:Height xmlns:p='urn:peaks'><p:peak>{$nobody}</p:peak></p:Height>");
        assertThat(run("call", wsdl.toString(), "--operation", "Height", "--body", body.toString()))
                .isEqualTo(2);
        assertThat(err()).contains("nobody");
    }

    @Test
    void theRequestIsPrintedAsSomethingToPasteElsewhere() {
        for (String form : List.of("curl", "raw", "java")) {
            assertThat(run("call", wsdl.toString(), "--operation", "Height", "--set", "peak=Skarn", "--copy", form))
                    .isZero();
            assertThat(out()).contains("Skarn").contains("SOAPAction");
        }
    }

    @Test
    void boundarySamplesSayWhatToExpect() throws Exception {
        Path samples = folder.resolve("boundary");
        assertThat(run("contract", "sample", wsdl.toString(), "--out", samples.toString(), "--boundary"))
                .isZero();
        JsonNode index =
                new ObjectMapper().readTree(samples.resolve("index.json").toFile());
        List<String> expected = new java.util.ArrayList<>();
        for (JsonNode entry : index) {
            assertThat(samples.resolve(entry.path("file").asText())).content().contains("soap:Envelope");
            expected.add(
                    entry.path("title").asText() + " " + entry.path("expected").asText());
        }
        assertThat(expected).contains("Everything in accepted", "Required only accepted", "peak missing refused");
    }

    @Test
    void aFaultAndNoAnswerHaveTheirExitCodes() {
        assertThat(run("call", wsdl.toString(), "--operation", "Height", "--set", "/Height/peak=Atlantis", "--json"))
                .isEqualTo(3);
        assertThat(out()).contains("\"outcome\" : \"fault\"").contains("NoPeak");
        assertThat(run("call", wsdl.toString(), "--operation", "Height", "--endpoint", "http://127.0.0.1:1/x"))
                .isEqualTo(4);
        assertThat(err()).contains("Nothing answers at 127.0.0.1:1");
    }

    @Test
    void theWireIsPrintedOnRequest() {
        run("call", wsdl.toString(), "--operation", "Height", "--wire");
        assertThat(out())
                .contains("POST /peaks HTTP/1.1")
                .contains("SOAPAction: \"urn:height\"")
                .contains("HTTP/1.1 200 OK");
    }

    @Test
    void aProjectIsMadeByAnImport() {
        Path project = folder.resolve("proj");
        assertThat(run("contract", "import", wsdl.toString(), "--project", project.toString()))
                .isZero();
        assertThat(project.resolve("contracts/peaks/snapshot.yaml")).exists();
        assertThat(run("contract", "show", project.toString())).isZero();
        assertThat(out()).contains("Height");
    }

    /** One case with these checks, in a suite, in a plan of load with these limits. */
    static void fill(Path project, List<Check> checks, Limit... limits) {
        ProjectStore store = new ProjectStore();
        Case kept = new Case(
                "skarn",
                "Skarn",
                "",
                "peaks",
                "Height",
                "",
                "<p:Height xmlns:p='urn:peaks'><p:peak>Skarn</p:peak></p:Height>",
                List.of(),
                checks,
                List.of());
        store.saveCase(project, kept);
        store.saveSuite(project, new Suite("all", "All peaks", List.of(Step.call("Skarn", kept.reference()))));
        store.saveLoad(
                project,
                LoadPlan.of("rush", "Rush", "all", LoadShape.arrivals(20, 1)).withLimits(List.of(limits)));
    }

    private Path project(String expected) {
        Path project = folder.resolve("proj");
        run("contract", "import", wsdl.toString(), "--project", project.toString());
        fill(
                project,
                List.of(new Check.Valid(), new Check.Value("//metres", expected)),
                new Limit(Limit.Measure.FAILED, 1));
        return project;
    }

    @Test
    void checkSaysPassedOrFailedByExitCodeAndReports() {
        Path project = project("500");
        Path junit = folder.resolve("r.xml");
        Path html = folder.resolve("r.html");
        assertThat(run("check", project.toString(), "--junit", junit.toString(), "--html", html.toString()))
                .isZero();
        assertThat(out()).contains("passed   1  Skarn").contains("2 of 2 checks passed");
        assertThat(junit).content().contains("tests=\"1\" failures=\"0\"");
        assertThat(html).exists();
        project("501");
        assertThat(run("check", project.toString(), "--suite", "all")).isEqualTo(1);
        assertThat(out()).contains("should be 501, found 500");
    }

    @Test
    void checkRunsPartsRowsAndSuitesSideBySide() throws IOException {
        Path project = project("{$want}");
        Path json = folder.resolve("events.jsonl");
        Path data = folder.resolve("rows.csv");
        Files.writeString(data, "\uFEFFwant;note\n500;right\n501;wrong\n");
        assertThat(run("check", project.toString(), "--var", "want=500", "--json", json.toString()))
                .isZero();
        List<String> events = Files.readAllLines(json);
        assertThat(events).hasSize(5);
        assertThat(events.get(3))
                .contains("\"event\":\"step-finished\"")
                .contains("\"step\":\"1\"")
                .contains("\"verdict\":\"passed\"");
        assertThat(run("check", project.toString(), "--data", data.toString(), "--parallel", "2"))
                .isEqualTo(1);
        assertThat(out())
                .contains("All peaks · row 1")
                .contains("All peaks · row 2")
                .contains("3 of 4 checks passed");
        assertThat(run("check", project.toString(), "--step", "2", "--var", "want=500"))
                .isEqualTo(2);
        assertThat(err()).contains("The suite has no step 2");
        assertThat(run("check", project.toString(), "--var", "want=499")).isEqualTo(1);
        assertThat(run("check", project.toString(), "--rerun-failed", "--var", "want=500"))
                .isZero();
        assertThat(run("check", project.toString(), "--rerun-failed")).isZero();
        assertThat(out()).contains("nothing failed in its newest run");
        assertThat(run("check", project.toString(), "--var", "want=600", "--set", "/Height/peak=Kettle"))
                .isZero();
        assertThat(run("check", project.toString(), "--var", "want=500", "--set", "/Height/lodge=x"))
                .isEqualTo(2);
        assertThat(err()).contains("No request of the suites has something at that path");
    }

    @Test
    void checkSaysWhenNobodyAnswers() {
        Path project = project("500");
        ProjectStore store = new ProjectStore();
        Case kept = store.open(project).cases().get(0);
        store.saveCase(project, kept.withDelivery(kept.delivery().to("http://127.0.0.1:1/")));
        assertThat(run("check", project.toString())).isEqualTo(4);
        assertThat(out()).contains("Nothing answers at 127.0.0.1:1");
    }

    @Test
    void aCaseIsCalledByName() {
        assertThat(run("call", project("500").toString(), "--operation", "Height", "--case", "skarn"))
                .isZero();
        assertThat(out()).contains("500");
        assertThat(run("call", project("500").toString(), "--operation", "Height", "--case", "nope"))
                .isEqualTo(2);
        assertThat(err()).contains("There are: skarn.");
    }

    @Test
    void loadKeepsItsLimitsOrNot() {
        Path project = project("500");
        Path results = folder.resolve("load");
        assertThat(run("load", project.toString(), "--plan", "rush", "--out", results.toString()))
                .isZero();
        assertThat(out()).contains("kept").contains("failed under 1 %");
        assertThat(results.resolve("steps.csv")).content().contains("Skarn,20,0,");
        assertThat(results.resolve("seconds.csv")).exists();
        assertThat(run("load", project.toString(), "--plan", "rush", "--endpoint", "http://127.0.0.1:1/"))
                .isEqualTo(1);
        assertThat(out()).contains("NOT KEPT").contains("Nothing answers at 127.0.0.1:1");
    }

    /** As it may be where others only run a project: what was found is told all the same. */
    @Test
    void aProjectThatCannotBeWrittenIsRunAndSaysWhatIsNotKept() throws IOException {
        Path project = project("500");
        Path hidden = project.resolve(".mockbell");
        Files.writeString(hidden, "in the way");
        Path junit = folder.resolve("checks.xml");
        assertThat(run("check", project.toString(), "--junit", junit.toString()))
                .isZero();
        assertThat(err())
                .contains("Nothing is recorded: the project's folder cannot be written.")
                .contains("The runs cannot be kept: ");
        assertThat(junit).content().contains("failures=\"0\"");
        Path results = folder.resolve("load");
        assertThat(run("load", project.toString(), "--plan", "rush", "--out", results.toString()))
                .isZero();
        assertThat(err()).contains("Nothing is recorded").contains("The run cannot be kept: ");
        assertThat(results.resolve("steps.csv")).content().contains("Skarn,20,0,");
        assertThat(run("ledger", "list", project.toString())).isEqualTo(2);
        assertThat(hidden).hasContent("in the way");
    }

    @Test
    void loadTellsProgramsWhatItFoundAndHoldsARunAgainstTheLast() throws Exception {
        Path project = project("500");
        Path results = folder.resolve("load");
        Path junit = folder.resolve("limits.xml");
        assertThat(run(
                        "load",
                        project.toString(),
                        "--plan",
                        "rush",
                        "--json",
                        "--out",
                        results.toString(),
                        "--junit",
                        junit.toString()))
                .isZero();
        JsonNode figures = new ObjectMapper().readTree(out());
        assertThat(figures.path("total").path("done").asInt()).isEqualTo(20);
        assertThat(figures.path("plan").path("suite").asText()).isEqualTo("all");
        assertThat(figures.path("passed").asBoolean()).isTrue();
        assertThat(new ObjectMapper().readTree(results.resolve("run.json").toFile()))
                .isEqualTo(figures);
        assertThat(junit).content().contains("tests=\"1\" failures=\"0\"", "failed under 1 %");
        try (HistogramLogReader log =
                new HistogramLogReader(results.resolve("times.hlog").toFile())) {
            long count = 0;
            for (var h = log.nextIntervalHistogram(); h != null; h = log.nextIntervalHistogram()) {
                count += ((AbstractHistogram) h).getTotalCount();
            }
            assertThat(count).isEqualTo(20);
        }
        assertThat(run("load", project.toString(), "--plan", "rush", "--compare"))
                .isZero();
        assertThat(out()).contains("beside the run of", "95 % sure", "p50 ms", "failed %");
        assertThat(run("load", project.toString(), "--plan", "rush", "--seconds", "2", "--compare=5"))
                .isZero();
        assertThat(out().lines().filter(l -> l.startsWith("beside the run of"))).hasSize(2);
        assertThat(out()).contains("  the plan's shape: ");
    }

    @Test
    void metricsAreThereWhileItRuns() throws Exception {
        Path project = project("500");
        int port = EventLoops.freePort(18_700);
        var done = CompletableFuture.supplyAsync(() ->
                run("load", project.toString(), "--plan", "rush", "--seconds", "4", "--metrics", String.valueOf(port)));
        HttpClient client = HttpClient.newHttpClient();
        HttpRequest request = HttpRequest.newBuilder(URI.create("http://127.0.0.1:" + port + "/metrics"))
                .header("Accept", "application/openmetrics-text; version=1.0.0")
                .build();
        String text = "";
        while (!done.isDone() && !text.contains("step=\"Skarn\"")) {
            try {
                text = client.send(request, HttpResponse.BodyHandlers.ofString())
                        .body();
            } catch (IOException notYet) {
                Thread.sleep(50);
            }
        }
        assertThat(text)
                .contains("# TYPE mockbell_load_requests counter", "step=\"Skarn\"")
                .endsWith("# EOF\n");
        assertThat(done.join()).isZero();
    }

    @Test
    void loadAsksBeforeItGoesElsewhereAndRemembersTheAnswer() {
        Path project = project("500");
        String[] load = {
            "load",
            project.toString(),
            "--plan",
            "rush",
            "--rate",
            "60",
            "--seconds",
            "0.2",
            "--endpoint",
            "http://192.0.2.1/"
        };
        assertThat(run(load)).isEqualTo(2);
        assertThat(err()).contains("192.0.2.1", "--confirm 192.0.2.1");
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "contract show none.wsdl|2|There is no such file",
                "contract show http://127.0.0.1:1/x?wsdl|4|Nothing answers",
                "contract show|2|Try “mockbell contract show --help”",
                "nonsense|2|Try “mockbell --help”",
                "check .|2|no project here",
                "load . --plan x|2|no project here",
                "mock none.wsdl|2|no such file"
            })
    void mistakesAreOneSentenceAndAnExitCode(String line, int code, String words) {
        List<String> args = new ArrayList<>(List.of(line.split(" ")));
        args.replaceAll(a -> a.equals(".") ? folder.toString() : a);
        assertThat(run(args.toArray(String[]::new))).isEqualTo(code);
        assertThat(err()).contains(words).doesNotContain("Exception").doesNotContain("\tat ");
        assertThat(err().lines()).hasSize(1);
    }

    @Test
    void aWebPageInsteadOfAWsdlIsNamed() throws Exception {
        Path page = Files.writeString(folder.resolve("page.wsdl"), "<!DOCTYPE html><html></html>");
        assertThat(run("contract", "show", page.toString())).isEqualTo(2);
        assertThat(err())
                .isEqualTo("This is a web page, not a WSDL (" + page.toUri()
                        + "). The WSDL is often at the service's address with ?wsdl behind it.\n");
    }

    @Test
    void lintAnswersNoWhenThereIsAnError() throws Exception {
        assertThat(run("contract", "lint", wsdl.toString())).isZero();
        Files.writeString(wsdl, Files.readString(wsdl).replace("type=\"tns:PT\"", "type=\"tns:Gone\""));
        assertThat(run("contract", "lint", wsdl.toString())).isEqualTo(1);
        assertThat(out()).contains("unresolved-port-type");
    }

    @Test
    void anOperationThatIsNotThereIsAnsweredWithThoseThatAre() {
        assertThat(run("call", wsdl.toString(), "--operation", "Depth")).isEqualTo(2);
        assertThat(err()).contains("There are Height.");
    }

    @Test
    void aPathThatFindsNothingIsTold() {
        assertThat(run("call", wsdl.toString(), "--operation", "Height", "--set", "gone=1"))
                .isEqualTo(2);
        assertThat(err()).contains("Nothing in the request is at that path");
    }

    @Test
    void aDamagedFileIsToldAndNeverLooksLikeSuccess() throws Exception {
        Path project = project("500");
        Path damaged = project.resolve("cases/peaks/Height/broken.yaml");
        Files.writeString(damaged, "title: [");
        assertThat(run("check", project.toString())).isEqualTo(2);
        assertThat(err()).contains("broken.yaml:1:").contains("left as it is");
        assertThat(out()).contains("2 of 2 checks passed");
        assertThat(damaged).hasContent("title: [");
    }

    @Test
    void severalSourcesGiveAListAndTheWorstExitCode() throws Exception {
        assertThat(run("contract", "show", "--json", wsdl.toString(), "none.wsdl", wsdl.toString()))
                .isEqualTo(2);
        JsonNode all = new ObjectMapper().readTree(out());
        assertThat(all).hasSize(3);
        assertThat(all.get(1).path("source").asText()).isEqualTo("none.wsdl");
        assertThat(all.get(1).path("problem").asText()).isNotEmpty();
        assertThat(err()).contains("none.wsdl");
    }

    @Test
    void anExpressionThatDoesNotParseIsOneSentence() throws Exception {
        Path body = Files.writeString(
                folder.resolve("b.xml"), "<p:Height xmlns:p='urn:peaks'><p:peak>{1 +}</p:peak></p:Height>");
        assertThat(run("call", wsdl.toString(), "--operation", "Height", "--body", body.toString()))
                .isEqualTo(2);
        assertThat(err()).startsWith("The expression does not parse").contains("1 +");
        assertThat(err().lines()).hasSize(1);
    }

    @Test
    void aBodyFromAFileIsSentWithItsExpressionsFilled() throws Exception {
        Path body = Files.writeString(
                folder.resolve("b.xml"),
                "<?xml version='1.0'?>\n<p:Height xmlns:p='urn:peaks'><p:peak>{concat('a', 'bc')}</p:peak></p:Height>");
        assertThat(run("call", wsdl.toString(), "--operation", "Height", "--body", body.toString()))
                .isZero();
        assertThat(out()).contains("300");
    }

    @Test
    void aContractIsExportedAtAnotherAddress() throws Exception {
        Path one = folder.resolve("out").resolve("one.wsdl");
        assertThat(run(
                        "contract",
                        "export",
                        wsdl.toString(),
                        "--out",
                        one.toString(),
                        "--host",
                        "huts.example",
                        "--port",
                        "81"))
                .isZero();
        assertThat(one).content().contains("http://huts.example:81/");
        assertThat(run(
                        "contract",
                        "export",
                        wsdl.toString(),
                        "--out",
                        folder.resolve("z.zip").toString(),
                        "--as-fetched"))
                .isZero();
        assertThat(folder.resolve("z.zip")).exists();
        assertThat(run("contract", "export", wsdl.toString(), "--out", one.toString(), "--as-fetched"))
                .isEqualTo(2);
        assertThat(err.toString(StandardCharsets.UTF_8)).contains("Leave out --as-fetched");
    }

    @Test
    void lintGivesOneResultASourceAndGoesOnAfterOneThatCannotBeRead() throws Exception {
        assertThat(run("contract", "lint", "--json", folder.resolve("none.wsdl").toString(), wsdl.toString()))
                .isEqualTo(2);
        JsonNode all = new ObjectMapper().readTree(out.toByteArray());
        assertThat(all).hasSize(2);
        assertThat(all.get(0).path("problem").asText()).contains("no such file");
        assertThat(all.get(1).path("findings").isArray()).isTrue();
    }

    @Test
    void faultsAreSampledAndListedInTheIndex() throws Exception {
        Path samples = folder.resolve("samples");
        assertThat(run("contract", "sample", wsdl.toString(), "--out", samples.toString(), "--full"))
                .isZero();
        JsonNode index =
                new ObjectMapper().readTree(samples.resolve("index.json").toFile());
        assertThat(index).hasSize(3);
        assertThat(index.get(2).path("direction").asText()).isEqualTo("fault");
        assertThat(index.get(2).path("fault").asText()).isEqualTo("NoPeak");
        assertThat(samples.resolve(index.get(2).path("file").asText()))
                .content()
                .contains("faultstring")
                .contains("NoPeak");
    }

    @Test
    void limitsAreAdjustable() {
        assertThat(run("contract", "show", wsdl.toString(), "--most-nesting", "3"))
                .isEqualTo(2);
        assertThat(err.toString(StandardCharsets.UTF_8)).contains("nested more than 3 deep");
        assertThat(run("contract", "show", wsdl.toString(), "--timeout", "0")).isEqualTo(2);
        assertThat(err.toString(StandardCharsets.UTF_8)).contains("positive number");
    }

    @Test
    void onlyTheCommandThatIsNamedIsBuiltAndHelpShowsAll() {
        Console console = new Console(new PrintStream(out), new PrintStream(err));
        assertThat(MockBellCommand.commandLine(console, List.of("contract", "show"), () -> null)
                        .getSubcommands()
                        .keySet())
                .containsExactly("contract");
        assertThat(MockBellCommand.commandLine(console, List.of("--help"), () -> null)
                        .getSubcommands()
                        .keySet())
                .contains("contract", "call", "check", "mock", "load");
        assertThat(MockBellCommand.commandLine(console, List.of("contract"), () -> null)
                        .getSubcommands()
                        .get("contract")
                        .getSubcommands())
                .hasSize(9);
    }

    @Test
    void aTakenPortIsToldByTheMockCommand() {
        assertThat(run("mock", wsdl.toString(), "--port", String.valueOf(service.port())))
                .isEqualTo(2);
        assertThat(err()).startsWith("Port " + service.port() + " is in use by").contains("which is free");
    }
}
