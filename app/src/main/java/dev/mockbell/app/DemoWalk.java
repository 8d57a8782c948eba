package dev.mockbell.app;

import dev.mockbell.check.Verdict;
import dev.mockbell.content.Content;
import dev.mockbell.content.Header;
import dev.mockbell.demo.StandIn;
import dev.mockbell.desktop.MockBellWindow;
import dev.mockbell.desktop.WindowPlace;
import dev.mockbell.desktop.drive.Hand;
import dev.mockbell.desktop.model.Desk;
import dev.mockbell.desktop.model.Models;
import dev.mockbell.desktop.model.Station;
import dev.mockbell.desktop.toolkit.Toolkit;
import dev.mockbell.exchange.Exchange;
import dev.mockbell.file.AtomicFile;
import dev.mockbell.file.UserFolders;
import dev.mockbell.ledger.ExchangeTexts;
import dev.mockbell.ledger.Listing;
import dev.mockbell.load.LoadRun;
import dev.mockbell.project.LoadHistory;
import dev.mockbell.report.HtmlReport;
import dev.mockbell.report.JUnitXml;
import dev.mockbell.report.LoadCsv;
import dev.mockbell.soap.Envelope;
import dev.mockbell.soap.SoapVersion;
import dev.mockbell.suite.Run;
import dev.mockbell.tap.Holds;
import dev.mockbell.task.StopSignal;
import dev.mockbell.wire.CallRequest;
import dev.mockbell.wire.CallResult;
import dev.mockbell.wire.HttpCaller;
import java.io.PrintStream;
import java.net.URI;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.CompletableFuture;
import java.util.function.Supplier;
import java.util.stream.Stream;
import javafx.application.Platform;
import javafx.scene.input.KeyCode;
import javafx.stage.Stage;

/** Walks the example in the real window, by mouse and keys, and says of each step how it went. */
final class DemoWalk {
    private static final String ASKED_BY_CLIENT = "<hb:ListAreas xmlns:hb=\"urn:northfell:hut-booking\"/>";

    private final Supplier<PrintStream> out;
    private final Path folder;
    private final Path project;
    private final StandIn standIn;
    private int failed;
    private int number;
    private Run stay;

    DemoWalk(Supplier<PrintStream> out, Path folder, Path project, StandIn standIn) {
        this.out = out;
        this.folder = folder;
        this.project = project;
        this.standIn = standIn;
    }

    private interface Action {
        String run() throws Exception;
    }

    /** @return whether every step did what it should */
    boolean walk() {
        Toolkit.start();
        step("Contract: paste the address into an empty project", this::importInto);
        Desk desk = Hand.on(() -> Desk.open(
                project,
                Platform::runLater,
                Clock.systemUTC(),
                UserFolders.of(Map.of(), project.resolveSibling("home")),
                DemoCommand.withSecrets()));
        Hand.run(() -> desk.onFleet(new OwnFleet()));
        MockBellWindow window = Hand.on(() -> MockBellWindow.open(desk, new Stage(), WindowPlace.NONE));
        Hand hand = new Hand(window.stage());
        Models models = window.models();
        step("Contract: the demo project's operation board", () -> {
            hand.await("the board", () -> desk.places().size() == 11);
            return desk.places().size() + " operations";
        });
        step("Mock: start it with one action", () -> mock(hand, models));
        step("Call: reserve bunks by SOAP 1.1", () -> call(hand, models));
        step("Call: edit the sheet, see it in the XML, send by SOAP 1.2", () -> edit(hand, models));
        step("Check: run the suite", () -> check(hand, models));
        step("Mock: a condition leads to a fault", () -> fault(hand, models, desk));
        step("Mock: what is reserved is read back, cancelled and gone", () -> stateful(hand, models, desk));
        step("Load: a curve of arrivals, twice, and both compared", () -> load(hand, models));
        step("Traffic: a client calls the stand-in through a tap", () -> tapped(hand, models));
        step("Traffic: a request is held, two exchanges are compared", () -> held(hand, models));
        step("Traffic: find the fault, open it, send it again", () -> traffic(hand, models));
        TrailWalk trail = new TrailWalk(hand, models, this::picture);
        step("Call: a photo goes as a part, its sender named by a digest", trail::parts);
        step("Call: signed and encrypted, both ways", trail::sealed);
        step("Call: a certificate that is not trusted is shown whole", trail::certificate);
        step("Call: another endpoint, for this case alone", trail::endpoint);
        step("Call: a table inside a value", trail::inside);
        step("Call: what differs from the baseline", trail::compared);
        step("Call: four hundred closures as a table", trail::table);
        step("Call: the bytes of both sides, the photo in hex", trail::wire);
        step("Call: a page in place of an answer", trail::page);
        step("Call: by way of a queue", trail::queue);
        step("Check: the trail behind Digest", () -> trail.suite("Behind Digest"));
        step("Check: the trail with a client certificate", () -> trail.suite("With a client certificate"));
        step("Check: known values, one of them wrong", () -> trail.known("Local stand-in"));
        Hand.run(() -> desk.use("Local stand-in"));
        step("Contract: the board shows what is covered", () -> {
            hand.click("#rail-contract");
            hand.shoot(picture("contract"));
            return "";
        });
        step("Environments: what differs between the places that the services are at", () -> environments(hand));
        step("Reports", () -> reports(models));
        step("Load: by way of a queue", trail::loadByQueue);
        ContractWalk contracts = new ContractWalk(hand, models, this::picture);
        step(
                "Contract: what changed in a later version, and what it touches",
                () -> contracts.changes(folder.resolve("later")));
        step("Contract: one that is written by hand", contracts::written);
        Hand.run(() -> window.stage().hide());
        window.closed().join();
        step(
                "Contract: a page that lists services, in an empty project",
                () -> ContractWalk.start(project.resolveSibling("beside"), standIn, picture("start")));
        out.get().println();
        out.get()
                .println(
                        failed == 0
                                ? "All " + number + " steps did what they should."
                                : failed + " of " + number + " steps failed.");
        out.get().println("Pictures and reports: " + folder);
        return failed == 0;
    }

    private String environments(Hand hand) {
        hand.click("#environment");
        hand.clickText("Environments…");
        hand.await("the table", () -> hand.shows("Security profiles"));
        hand.shoot(picture("environments"));
        hand.press(KeyCode.ESCAPE);
        return "";
    }

    private Path picture(String name) {
        return folder.resolve("pictures").resolve(name + ".png");
    }

    private void step(String name, Action action) {
        number++;
        long from = System.nanoTime();
        String result;
        boolean good = true;
        try {
            result = action.run();
        } catch (Exception | AssertionError e) {
            good = false;
            failed++;
            result = dev.mockbell.problem.Problem.reason(e);
        }
        out.get()
                .printf(
                        "%-6s %s (%d ms)%s%n",
                        good ? "done" : "FAILED",
                        name,
                        (System.nanoTime() - from) / 1_000_000,
                        result.isEmpty() ? "" : " – " + result);
    }

    private static void must(boolean holds, String otherwise) {
        if (!holds) {
            throw new IllegalStateException(otherwise);
        }
    }

    private String importInto() {
        // the folder may hold what an earlier walk left
        Path empty = Stream.iterate(1, n -> n + 1)
                .map(n -> folder.resolve(n == 1 ? "imported" : "imported-" + n))
                .filter(Files::notExists)
                .findFirst()
                .orElseThrow();
        Desk desk = Hand.on(() -> Desk.open(
                empty, Platform::runLater, Clock.systemUTC(), UserFolders.of(Map.of(), empty.resolveSibling("home"))));
        MockBellWindow window = Hand.on(() -> MockBellWindow.open(desk, new Stage(), WindowPlace.NONE));
        Hand hand = new Hand(window.stage());
        hand.type("#contract-address", standIn.wsdl());
        hand.click("#contract-add");
        hand.await("the contract", () -> desk.project().contracts().size() == 1);
        var contract = Hand.on(() -> desk.project().contracts().get(0).contract());
        Hand.run(() -> window.stage().hide());
        must(contract.findings().isEmpty(), "findings: " + contract.findings());
        return contract.documents().size() + " documents, "
                + contract.operations().size() + " operations, no findings";
    }

    private String mock(Hand hand, Models models) {
        Hand.run(() -> models.desk()
                .placeProperty()
                .set(models.desk().place("hut-booking", "ReserveBunks").orElseThrow()));
        hand.press(KeyCode.ALT, KeyCode.DIGIT4);
        hand.click("#mock-start");
        hand.await("the mock to be up", () -> models.mocks().host().isPresent());
        return hand.text("#mock-address");
    }

    private String call(Hand hand, Models models) {
        hand.press(KeyCode.ALT, KeyCode.DIGIT2);
        hand.click("#case-two-nights");
        hand.click("#send");
        hand.await("an answer", () -> models.call().calledProperty().get() != null);
        var called = Hand.on(() -> models.call().calledProperty().get());
        must(
                called.result().verdict() == Verdict.PASSED,
                "a check failed: " + called.result().failures());
        must(
                called.answer().exchange().status() == 200,
                "status " + called.answer().exchange().status());
        hand.press(KeyCode.CONTROL, KeyCode.ENTER);
        hand.await("a second answer", () -> models.call().calledProperty().get() != called);
        hand.clickText("code");
        hand.shoot(picture("call"));
        return "status " + called.answer().exchange().status() + ", "
                + called.result().checks().size() + " checks passed, $code = "
                + called.result().captures().get("code");
    }

    private String edit(Hand hand, Models models) {
        hand.click("#case-party-of-six");
        hand.type("#value-nights", "3");
        must(
                Hand.on(() -> models.call().request().xml().contains("<hb:nights>3</hb:nights>")),
                "the XML does not show the edit");
        hand.clickText("SOAP 1.2");
        hand.click("#send");
        hand.await("an answer", () -> models.call().calledProperty().get() != null);
        var called = Hand.on(() -> models.call().calledProperty().get());
        must(
                called.answer().exchange().endpoint().endsWith("-12"),
                "it went to " + called.answer().exchange().endpoint());
        must(called.answer().fault().isEmpty(), "a fault came");
        must(called.result().verdict() == Verdict.FAILED, "the known price of one night should not hold for three");
        String words = called.result().failures().get(0);
        hand.type("#value-nights", "1");
        hand.clickText("SOAP 1.1");
        return "as it should, the check says: " + words;
    }

    private String check(Hand hand, Models models) {
        hand.press(KeyCode.ALT, KeyCode.DIGIT3);
        hand.click("#choose-suite");
        hand.clickText("A whole stay");
        for (int i = 0; i < 3; i++) {
            hand.press(KeyCode.CONTROL, KeyCode.ENTER);
            hand.await("the run to end", () -> !models.check().runningProperty().get());
        }
        var run = Hand.on(() -> models.check().runs().get(0));
        must(
                run.passed(),
                "the suite failed: "
                        + run.steps().stream()
                                .flatMap(s -> s.failures().stream())
                                .toList());
        stay = run;
        hand.shoot(picture("check"));
        return run.checksPassed() + " of " + run.checks() + " checks passed";
    }

    private String fault(Hand hand, Models models, Desk desk) {
        Hand.run(() -> desk.use("Mock"));
        hand.press(KeyCode.ALT, KeyCode.DIGIT2);
        hand.click("#case-two-nights");
        hand.type("#value-hutId", "NF-99");
        hand.click("#send");
        String mock = Hand.on(() -> models.mocks().host().orElseThrow().base());
        hand.await(
                "a fault",
                () -> models.call()
                        .exchange()
                        .map(e -> e.outcome() != Exchange.Outcome.FINE
                                && e.endpoint().startsWith(mock))
                        .orElse(false));
        var answer = Hand.on(() -> models.call().calledProperty().get().answer());
        must(answer.fault().map(f -> f.title().equals("UnknownHut")).orElse(false), "no UnknownHut came");
        hand.press(KeyCode.CONTROL, KeyCode.Z);
        hand.type("#value-hutId", "NF-07");
        hand.press(KeyCode.CONTROL, KeyCode.ENTER);
        hand.await(
                "the mock's hits",
                () -> models.mocks()
                        .host()
                        .map(h -> h.hits("ReserveBunks") >= 2)
                        .orElse(false));
        Hand.run(() -> desk.use("Local stand-in"));
        hand.press(KeyCode.ALT, KeyCode.DIGIT4);
        hand.shoot(picture("mock"));
        return "UnknownHut by condition, "
                + Hand.on(() -> models.mocks().host().orElseThrow().answered()) + " answered";
    }

    private String stateful(Hand hand, Models models, Desk desk) {
        Hand.run(() -> desk.use("Mock"));
        hand.press(KeyCode.ALT, KeyCode.DIGIT3);
        // so many runs are shown and no more: the newest tells whether there is another
        Instant before = Hand.on(() -> models.check().runs().get(0).started());
        hand.press(KeyCode.CONTROL, KeyCode.ENTER);
        hand.await(
                "the run",
                () -> models.check().runs().get(0).started().isAfter(before)
                        && !models.check().runningProperty().get());
        var run = Hand.on(() -> models.check().runs().get(0));
        must(
                run.passed(),
                "the mock does not keep its state: "
                        + run.steps().stream()
                                .flatMap(s -> s.failures().stream())
                                .toList());
        Hand.run(() -> {
            desk.use("Local stand-in");
            models.mocks().operationProperty().set("ReserveBunks");
            models.mocks().answerProperty().set(3);
        });
        hand.press(KeyCode.ALT, KeyCode.DIGIT4);
        hand.click("#segment-memory");
        hand.shoot(picture("memory"));
        hand.click("#segment-sheet");
        Hand.run(() -> models.mocks().answerProperty().set(0));
        return run.checksPassed() + " of " + run.checks() + " checks passed against it";
    }

    private String load(Hand hand, Models models) {
        hand.press(KeyCode.ALT, KeyCode.DIGIT6);
        LoadRun first = loaded(hand, models, true);
        LoadRun second = loaded(hand, models, false);
        Hand.run(() -> models.load().compare(LoadHistory.Kept.of(first)));
        hand.await("the comparison", () -> hand.find("#load-comparison").isPresent());
        hand.shoot(picture("runs"));
        Hand.run(() -> models.load().compareNoMore());
        must(second.total().done() > 0, "nothing was done");
        must(second.passed(), "limits were not kept: " + second.limits());
        return second.total().done() + " done, " + second.total().failed() + " failed, p95 "
                + Math.round(second.total().p95()) + " ms";
    }

    private LoadRun loaded(Hand hand, Models models, boolean shown) {
        hand.click("#load-start");
        hand.await("the load to start", () -> models.load().runningProperty().get());
        if (shown) {
            hand.await("some seconds of it", () -> models.load().seconds().size() >= 9);
            hand.shoot(picture("load"));
        }
        hand.await(
                "the load to end",
                () -> !models.load().runningProperty().get()
                        && models.load().resultProperty().get() != null);
        return Hand.on(() -> models.load().resultProperty().get());
    }

    private String tapped(Hand hand, Models models) {
        hand.press(KeyCode.ALT, KeyCode.DIGIT5);
        hand.click("#tap");
        hand.clickText("Tap an endpoint…");
        hand.type("#tap-port", "");
        hand.click("#tap-keep");
        hand.await("the tap", () -> !models.taps().up().isEmpty());
        var tap = Hand.on(() -> models.taps().up().get(0));
        CallResult answer = client(tap.address());
        must(answer.response().isPresent(), "no answer came through the tap");
        hand.await(
                "what passed",
                () -> models.traffic().listings().stream().anyMatch(l -> l.way() == Exchange.Way.TAPPED));
        return "the client at " + tap.address() + " was answered with "
                + answer.response().orElseThrow().status();
    }

    /** A client that knows nothing of the tap but its address. */
    private static CallResult client(String address) {
        try (HttpCaller client = new HttpCaller()) {
            String body = Envelope.around(SoapVersion.V11, ASKED_BY_CLIENT, List.of());
            return client.call(
                    new CallRequest(
                            "POST",
                            URI.create(address),
                            List.of(new Header("Content-Type", "text/xml; charset=utf-8")),
                            Content.of(body.getBytes(StandardCharsets.UTF_8)),
                            Duration.ofSeconds(20)),
                    new StopSignal());
        }
    }

    private String held(Hand hand, Models models) {
        var tap = Hand.on(() -> models.taps().up().get(0));
        Hand.run(() -> models.taps().hold(tap, Optional.of(new Holds.Rule(Holds.Side.REQUESTS, "", true))));
        var waiting = CompletableFuture.supplyAsync(() -> client(tap.address()));
        hand.await("what waits", () -> !models.taps().waiting().isEmpty());
        var alike = Hand.on(() -> models.traffic().listings().stream()
                .filter(l -> l.way() == Exchange.Way.CALLED && "ReserveBunks".equals(l.operation()))
                .map(Listing::id)
                .limit(2)
                .toList());
        must(alike.size() == 2, "there are no two reservations to compare");
        Hand.run(() -> models.traffic().compare(alike.get(0), alike.get(1)));
        hand.await("what differs", () -> models.traffic().twoProperty().get() != null);
        hand.shoot(picture("held"));
        Hand.run(() -> models.traffic().twoProperty().set(null));
        // let through by the keyboard
        hand.press(KeyCode.CONTROL, KeyCode.ENTER);
        var answer = waiting.join();
        must(answer.response().isPresent(), "what was held came to nothing");
        return "a request waited, two reservations were compared meanwhile, then it was let through";
    }

    private String traffic(Hand hand, Models models) {
        hand.press(KeyCode.ALT, KeyCode.DIGIT5);
        hand.click("#segment-failed");
        hand.click("#segment-any-result");
        int all = Hand.on(() -> models.traffic().listings().size());
        hand.type("#traffic-filter", "UnknownHut");
        // in a folder that was walked before, more has the text: load and mocks said it too
        hand.await(
                "only what has the text",
                () -> models.traffic().listings().stream().anyMatch(DemoWalk::isUnknownHut)
                        && models.traffic().listings().size() < all);
        long id = Hand.on(() -> models.traffic().listings().stream()
                .filter(DemoWalk::isUnknownHut)
                .findFirst()
                .orElseThrow()
                .id());
        Hand.run(() -> models.traffic().select(id));
        hand.await("the exchange", () -> models.traffic().selectedProperty().get() != null);
        hand.press(KeyCode.ENTER);
        hand.await("a chip", () -> !models.traffic().filterProperty().get().isEmpty());
        hand.shoot(picture("traffic"));
        Hand.run(() -> List.copyOf(models.taps().up()).forEach(models.taps()::stop));
        int cases = Hand.on(() -> models.call().cases().size());
        hand.click("#send-again");
        hand.await("the call station", () -> models.desk().stationProperty().get() == Station.CALL);
        hand.await("one more case", () -> models.call().cases().size() == cases + 1);
        hand.click("#send");
        hand.await("an answer", () -> models.call().calledProperty().get() != null);
        return "the stand-in answers "
                + Hand.on(() -> models.call().exchange().orElseThrow().note());
    }

    private static boolean isUnknownHut(Listing listing) {
        return listing.note().contains("UnknownHut");
    }

    private String reports(Models models) {
        Run run = stay;
        var desk = models.desk();
        ExchangeTexts exchanges = ExchangeTexts.on(desk.ledger(), desk.redactor());
        var load = Hand.on(() -> models.load().resultProperty().get());
        AtomicFile.write(
                folder.resolve("junit.xml"), JUnitXml.of(List.of(run), Map.of("project", "Northfell Huts"), exchanges));
        AtomicFile.write(
                folder.resolve("report.html"),
                HtmlReport.of(
                        "Northfell Huts",
                        List.of(run),
                        load == null ? List.of() : List.of(load),
                        ZoneId.systemDefault(),
                        exchanges));
        if (load != null) {
            AtomicFile.write(folder.resolve("load-steps.csv"), LoadCsv.steps(load));
            AtomicFile.write(folder.resolve("load-seconds.csv"), LoadCsv.seconds(load));
        }
        return "junit.xml, report.html, load-steps.csv, load-seconds.csv";
    }
}
