package dev.mockbell.demo;

import dev.mockbell.check.Capture;
import dev.mockbell.check.Check;
import dev.mockbell.contract.Contract;
import dev.mockbell.contract.ContractReader;
import dev.mockbell.contract.DocumentFetcher;
import dev.mockbell.expression.Variable;
import dev.mockbell.load.Conduct;
import dev.mockbell.load.Limit;
import dev.mockbell.load.LoadPlan;
import dev.mockbell.load.LoadShape;
import dev.mockbell.load.LoadShape.Point;
import dev.mockbell.load.Pauses;
import dev.mockbell.load.Share;
import dev.mockbell.mock.MockPlan;
import dev.mockbell.project.Environment;
import dev.mockbell.project.KeptContract;
import dev.mockbell.project.Project;
import dev.mockbell.project.ProjectStore;
import dev.mockbell.project.Settings;
import dev.mockbell.suite.Case;
import dev.mockbell.suite.Step;
import dev.mockbell.suite.Suite;
import dev.mockbell.task.Progress;
import dev.mockbell.task.StopSignal;
import java.nio.file.Path;
import java.time.Clock;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/** Makes the demo project: the contract of the running stand-in, cases, suites, a mock and a load plan. */
public final class DemoProject {
    static final String CONTRACT = "hut-booking";
    private static final String HEAD = "<hb:%1$s xmlns:hb=\"urn:northfell:hut-booking\">\n%2$s</hb:%1$s>";

    private final StandIn standIn;
    private final DocumentFetcher fetcher;
    private final Clock clock;
    private final ProjectStore store = new ProjectStore();

    public DemoProject(StandIn standIn, DocumentFetcher fetcher, Clock clock) {
        this.standIn = standIn;
        this.fetcher = fetcher;
        this.clock = clock;
    }

    /**
     * Writes the project.
     *
     * @param mockPort where its mock listens; 0 for any free port
     */
    public Project create(Path folder, int mockPort) {
        store.create(folder, "Northfell Huts");
        Contract read = new ContractReader(fetcher).read(standIn.wsdl(), Progress.NONE, new StopSignal());
        KeptContract kept = store.saveContract(folder, CONTRACT, "Hut booking", read, clock.instant());
        Contract trails = new ContractReader(fetcher).read(standIn.trails() + "?wsdl", Progress.NONE, new StopSignal());
        store.saveContract(folder, DemoTrails.CONTRACT, "Trail conditions", trails, clock.instant());
        DemoTrails.files(folder, standIn.fronts().keys());
        cases().forEach(c -> store.saveCase(folder, c));
        DemoTrails.cases().forEach(c -> store.saveCase(folder, c));
        suites().forEach(s -> store.saveSuite(folder, s));
        store.saveSuite(folder, DemoTrails.suite());
        DemoMock.files(folder);
        store.saveMock(folder, new DemoMock(kept.contract()).plan(mockPort));
        store.saveLoad(folder, rush());
        store.saveLoad(folder, DemoTrails.load());
        List<Variable> values = List.of(
                new Variable("nights", "2", false),
                new Variable("arrival", LocalDate.now(clock).plusDays(81).toString(), false));
        String mocked = "http://127.0.0.1:" + (mockPort == 0 ? MockPlan.USUAL_PORT : mockPort);
        List<Environment> environments = new ArrayList<>();
        environments.add(new Environment(
                "Local stand-in",
                withQueue(addresses(standIn.soap11(), standIn.soap12())),
                values,
                Map.of(DemoTrails.CONTRACT, DemoTrails.GUIDE)));
        environments.add(
                new Environment("Mock", addresses(mocked + "/hut-booking", mocked + "/hut-booking-12"), values));
        environments.addAll(DemoTrails.environments(standIn.fronts(), values));
        Settings settings = Settings.of("Northfell Huts")
                .withVariables(DemoTrails.variables())
                .withEnvironments(environments, "Local stand-in")
                .withProfiles(DemoTrails.profiles());
        store.saveSettings(Project.of(folder, settings));
        return store.open(folder);
    }

    /** The values of its secrets, by the environment variables that may hold them. */
    public static Map<String, String> secrets() {
        return DemoTrails.secrets();
    }

    private Map<String, String> withQueue(Map<String, String> addresses) {
        Map<String, String> all = new LinkedHashMap<>(addresses);
        all.put(DemoTrails.CONTRACT + "/" + DemoTrails.QUEUE_PORT, standIn.queue());
        return all;
    }

    private static Map<String, String> addresses(String soap11, String soap12) {
        return Map.of(CONTRACT + "/HutBookingSoap11", soap11, CONTRACT + "/HutBookingSoap12", soap12);
    }

    private static String body(String operation, String... lines) {
        StringBuilder content = new StringBuilder();
        for (String line : lines) {
            content.append("  ").append(line).append('\n');
        }
        return HEAD.formatted(operation, content);
    }

    private static String[] party(String hut, String arrival, String nights, List<String> guests, String... more) {
        List<String> lines = new ArrayList<>();
        lines.add("<hb:hutId>" + hut + "</hb:hutId>");
        lines.add("<hb:arrival>" + arrival + "</hb:arrival>");
        lines.add("<hb:nights>" + nights + "</hb:nights>");
        lines.add("<hb:party>");
        for (String guest : guests) {
            String[] facts = guest.split(", ");
            lines.add("  <hb:guest>");
            lines.add("    <hb:name>" + facts[0] + "</hb:name>");
            lines.add("    <hb:age>" + facts[1] + "</hb:age>");
            lines.add("  </hb:guest>");
        }
        lines.add("</hb:party>");
        lines.addAll(List.of(more));
        return lines.toArray(String[]::new);
    }

    private static Case kept(
            String operation, String id, String title, String body, List<Check> checks, Capture... captures) {
        return new Case(
                id, title, "", CONTRACT, operation, "HutBookingSoap11", body, List.of(), checks, List.of(captures));
    }

    private static List<Case> cases() {
        Check valid = new Check.Valid();
        Check fine = new Check.NoFault();
        Check quick = new Check.Within(2_000);
        String total = "/ReserveBunksResponse/reservation/total";
        String code = "/ReserveBunksResponse/reservation/code";
        String byCode = body("GetReservation", "<hb:code>{$code}</hb:code>");
        List<String> two = List.of("Ines Okafor, 34", "Tomas Lindqvist, 8");
        List<String> six = List.of(
                "Ines Okafor, 34",
                "Tomas Lindqvist, 8",
                "Mira Solberg, 41",
                "Jon Haugen, 43",
                "Aila Nutti, 12",
                "Per Nutti, 10");
        return List.of(
                kept(
                        "FindHuts",
                        "skarn-area",
                        "Skarn area",
                        body("FindHuts", "<hb:area>Skarn</hb:area>", "<hb:from>{$arrival}</hb:from>"),
                        List.of(valid, fine, new Check.Condition("count(/FindHutsResponse/hut) ge 1"), quick),
                        new Capture("hut", "/FindHutsResponse/hut[bunksFree >= 6][last()]/hutId")),
                kept(
                        "ReserveBunks",
                        "two-nights",
                        "Two nights, half board",
                        body(
                                "ReserveBunks",
                                party(
                                        "NF-07",
                                        "{$arrival}",
                                        "{$nights}",
                                        two,
                                        "<hb:board>HALF</hb:board>",
                                        "<hb:contact>",
                                        "  <hb:phone>+47 555 0142</hb:phone>",
                                        "</hb:contact>")),
                        List.of(valid, fine, new Check.Value(total, "{92.25 * $nights}"), quick),
                        new Capture("code", code),
                        new Capture("total", total)),
                kept(
                        "ReserveBunks",
                        "party-of-six",
                        "Party of six",
                        body("ReserveBunks", party("NF-07", "{$arrival}", "1", six)),
                        List.of(valid, fine, new Check.Value(total, "216.00"))),
                kept(
                        "ReserveBunks",
                        "hut-is-full",
                        "Hut is full",
                        body("ReserveBunks", party("NF-12", "{$arrival}", "1", six)),
                        List.of(valid, new Check.FaultIs("HutFull"))),
                kept(
                        "ReserveBunks",
                        "arrival-in-the-past",
                        "Arrival in the past",
                        body("ReserveBunks", party("NF-07", "2020-02-12", "1", two)),
                        List.of(new Check.FaultIs("BadDate"))),
                kept(
                        "GetReservation",
                        "read-it-back",
                        "Read it back",
                        byCode,
                        List.of(valid, fine, new Check.Value("/GetReservationResponse/reservation/total", "{$total}"))),
                kept("GetReservation", "gone", "Gone", byCode, List.of(new Check.FaultIs("UnknownReservation"))),
                kept(
                        "CancelReservation",
                        "cancel",
                        "Cancel",
                        body("CancelReservation", "<hb:code>{$code}</hb:code>"),
                        List.of(valid, fine, new Check.Value("/CancelReservationResponse/refund", "{$total * 0.9}"))),
                kept(
                        "ListAreas",
                        "all-areas",
                        "All areas",
                        "<hb:ListAreas xmlns:hb=\"urn:northfell:hut-booking\"/>",
                        List.of(valid, fine)),
                kept(
                        "ReportSighting",
                        "eagle",
                        "An eagle",
                        body(
                                "ReportSighting",
                                "<hb:species>Golden eagle</hb:species>",
                                "<hb:area>Skarn</hb:area>",
                                "<hb:seenAt>{$arrival}T10:15:00Z</hb:seenAt>"),
                        List.of(fine)));
    }

    private static List<Suite> suites() {
        return List.of(
                new Suite(
                        "whole-stay",
                        "A whole stay",
                        List.of(
                                step("Find a hut", "FindHuts/skarn-area"),
                                step("Reserve", "ReserveBunks/two-nights"),
                                step("Read it back", "GetReservation/read-it-back"),
                                step("Too many", "ReserveBunks/hut-is-full"),
                                step("Cancel", "CancelReservation/cancel"),
                                step("Gone", "GetReservation/gone"))),
                new Suite(
                        "book-and-cancel",
                        "Book and cancel",
                        List.of(
                                step("Reserve", "ReserveBunks/two-nights"),
                                step("Read it back", "GetReservation/read-it-back"),
                                step("Cancel", "CancelReservation/cancel"))));
    }

    private static Step step(String name, String reference) {
        return Step.call(name, CONTRACT + "/" + reference);
    }

    private static LoadPlan rush() {
        LoadShape curve = new LoadShape(
                LoadShape.Kind.ARRIVALS,
                List.of(new Point(0, 8), new Point(3, 8), new Point(6, 30), new Point(10, 30), new Point(12, 6)));
        return LoadPlan.of("saturday-rush", "Saturday rush", "book-and-cancel", curve)
                .withMix(List.of(
                        new Share(Share.Kind.CASE, CONTRACT + "/FindHuts/skarn-area", 60),
                        Share.ofSuite("book-and-cancel").withWeight(40)))
                .with(Pauses.uniform(20, 80))
                .with(Conduct.USUAL.withTimeout(5_000).withSeed(42))
                .withLimits(List.of(
                        new Limit(Limit.Measure.P95, 1_000),
                        new Limit(Limit.Measure.FAILED, 0.5),
                        new Limit("Reserve", Limit.Measure.P99, 2_000, false, 0),
                        new Limit("", Limit.Measure.HELD, 90, true, 8)));
    }
}
