package dev.mockbell.desktop.view.traffic;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.desktop.OnDesktop;
import dev.mockbell.desktop.drive.Hand;
import dev.mockbell.desktop.model.Station;
import dev.mockbell.desktop.model.TrafficModel;
import dev.mockbell.exchange.Exchange.Outcome;
import dev.mockbell.exchange.Exchange.Way;
import dev.mockbell.ledger.LedgerFilter;
import dev.mockbell.ledger.Listing;
import dev.mockbell.ledger.Retention;
import dev.mockbell.project.KeptTap;
import dev.mockbell.suite.Case;
import dev.mockbell.suite.DataTable;
import dev.mockbell.suite.KnownValues;
import dev.mockbell.suite.Step;
import dev.mockbell.suite.Suite;
import dev.mockbell.tap.TapPlan;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse.BodyHandlers;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.TimeUnit;
import java.util.stream.Stream;
import javafx.event.Event;
import javafx.scene.Node;
import javafx.scene.canvas.Canvas;
import javafx.scene.control.ListView;
import javafx.scene.input.Clipboard;
import javafx.scene.input.KeyCode;
import javafx.scene.input.MouseButton;
import javafx.scene.input.ScrollEvent;
import javafx.scene.robot.Robot;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

/** The ledger and the tape, by their gestures. */
class TrafficStationTest extends OnDesktop {
    private TrafficModel traffic;

    @BeforeEach
    void open() {
        traffic = desktop.models.traffic();
        desktop.addContract();
        hand.press(KeyCode.ALT, KeyCode.DIGIT2);
        hand.type("#value-days", "2");
        call("Skarn");
    }

    private void call(String peak) {
        hand.type("#value-peak", peak);
        send();
    }

    private void toTraffic(int count) {
        hand.press(KeyCode.ALT, KeyCode.DIGIT5);
        hand.await(count + " exchanges", () -> traffic.listings().size() == count);
    }

    @Test
    void resultsAndOperationsFilterTheLedger() {
        desktop.service.close();
        call("Lost");
        toTraffic(2);
        hand.click("#segment-failed");
        hand.await("the failed one", () -> traffic.listings().size() == 1);
        Listing failed = Hand.on(() -> traffic.listings().get(0));
        assertThat(failed.outcome()).isEqualTo(Outcome.FAILED);
        assertThat(failed.note()).isNotBlank();
        hand.click("#segment-fine");
        hand.await(
                "the fine one",
                () -> traffic.listings().size() == 1
                        && traffic.listings().get(0).outcome() == Outcome.FINE);
        hand.click("#segment-fault");
        hand.await("none", () -> traffic.listings().isEmpty());
        hand.click("#segment-any-result");
        hand.await("all", () -> traffic.listings().size() == 2);
        Hand.run(() ->
                traffic.filterProperty().set(traffic.filterProperty().get().withOperation("Nothing")));
        hand.await("none of it", () -> traffic.listings().isEmpty());
    }

    @Test
    void whatIsTypedBecomesChipsThatAreTakenAwayOneByOne() {
        call("Wolfgill");
        toTraffic(2);
        hand.type("#traffic-filter", "wolf status:2xx");
        hand.await("while it is typed", () -> traffic.listings().size() == 1);
        assertThat(Hand.on(() -> traffic.filterProperty().get().isEmpty())).isTrue();
        hand.press(KeyCode.ENTER);
        hand.await("chips", () -> traffic.filterProperty().get().typed().equals("wolf status:2xx"));
        assertThat(hand.text("#traffic-filter")).isEmpty();
        hand.await("the same", () -> traffic.listings().size() == 1);
        hand.await("the sum", () -> hand.text("#traffic-figures").startsWith("1 exchange · 0 not fine"));
        hand.clickText("“wolf”  ×");
        hand.await("both", () -> traffic.listings().size() == 2);
        assertThat(Hand.on(() -> traffic.effective().typed())).isEqualTo("status:2xx");
        hand.type("#traffic-filter", "took:fast");
        hand.await("why not", () -> hand.text("#traffic-flaw").contains("is no time, such as 200ms"));
        assertThat(Hand.on(() -> traffic.listings().size())).isEqualTo(2);
        hand.press(KeyCode.ESCAPE);
        hand.await("nothing wrong", () -> traffic.flawProperty().get().isEmpty());
    }

    @Test
    void aFilterIsNamedKeptWithTheProjectAndForgottenWithAWayBack() {
        toTraffic(1);
        Hand.run(() -> traffic.filterProperty().set(LedgerFilter.typed("-result:fine took:>1ms")));
        hand.await("none", () -> traffic.listings().isEmpty());
        hand.click("#traffic-named");
        hand.clickText("Name what is asked now…");
        hand.type("#filter-name", "What went wrong");
        hand.click("#filter-keep");
        assertThat(desktop.onDisk().settings().filters())
                .extracting(f -> f.name() + ": " + f.filter())
                .containsExactly("What went wrong: -result:fine took:1000001ns..");
        hand.click("#traffic-all");
        hand.await("all", () -> traffic.listings().size() == 1);
        hand.click("#traffic-named");
        hand.clickText("What went wrong");
        hand.await("none again", () -> traffic.listings().isEmpty());
        Hand.run(() -> traffic.forget(traffic.named().get(0)));
        assertThat(desktop.onDisk().settings().filters()).isEmpty();
        hand.clickText("Bring it back");
        assertThat(desktop.onDisk().settings().filters()).hasSize(1);
    }

    @Test
    void aClickOnAHeadingOrdersAndThreeBringBackTheNewest() {
        call("Wolfgill");
        desktop.service.close();
        call("Lost");
        toTraffic(3);
        hand.clickText("Status");
        hand.await("the largest first", () -> traffic.listings().get(2).status() == 0);
        hand.clickText("Status ↓");
        hand.await(
                "the smallest first",
                () -> traffic.listings().get(0).status() == 0
                        && traffic.listings().get(2).status() == 200);
        hand.clickText("Status ↑");
        hand.await("the newest first", () -> traffic.listings().get(2).id() == 1);
    }

    @Test
    void twoAreHeldAgainstEachOther() {
        call("Wolfgill");
        toTraffic(2);
        ListView<?> lines = (ListView<?>) hand.find("#ledger .list-view").orElseThrow();
        Hand.run(() -> lines.getSelectionModel().selectIndices(0, 1));
        Hand.run(lines::requestFocus);
        hand.press(KeyCode.C);
        hand.await("what differs", () -> hand.shows("The requests differ in 1 place"));
        hand.await("both values", () -> hand.shows("Skarn") && hand.shows("Wolfgill"));
        shoot("two");
        hand.clickText("Compare no more");
        hand.await("one again", () -> !hand.shows("The requests differ"));
    }

    @Test
    void howMuchIsKeptIsSetAndStaysWithTheProject() {
        toTraffic(1);
        hand.click("#use-these");
        hand.clickText("How much is kept…");
        hand.type("#keep-count", "none");
        hand.click("#kept-much-keep");
        hand.await("why not", () -> hand.text("#kept-much-flaw").contains("is no number"));
        hand.type("#keep-count", "5000");
        hand.type("#keep-days", "30");
        hand.click("#kept-much-keep");
        assertThat(desktop.onDisk().settings().retention())
                .isEqualTo(new Retention(5_000, 8L << 30, Optional.of(Duration.ofDays(30))));
        Hand.run(() -> traffic.retain(Retention.USUAL));
        assertThat(desktop.onDisk().settings().retention()).isEqualTo(Retention.USUAL);
    }

    @Test
    void whatIsPinnedIsMarkedAndAskedFor() {
        call("Wolfgill");
        toTraffic(2);
        Hand.run(() -> traffic.pin(List.of(1L), true));
        hand.await("the mark", () -> traffic.listings().get(1).pinned());
        Hand.run(() -> traffic.filterProperty().set(LedgerFilter.typed("pinned:yes")));
        hand.await(
                "it alone",
                () -> traffic.listings().size() == 1
                        && traffic.listings().get(0).id() == 1);
    }

    @Test
    void aTapIsStartedSeenAndStoppedAndWhatPassesIsListed() throws Exception {
        toTraffic(1);
        hand.click("#tap");
        hand.clickText("Tap an endpoint…");
        assertThat(Hand.on(() -> desktop.models.taps().endpoints())).contains(desktop.service.base() + "/peaks");
        hand.type("#tap-port", "");
        hand.click("#tap-keep");
        hand.await("the tap", () -> !desktop.models.taps().up().isEmpty());
        String address = Hand.on(() -> desktop.models.taps().up().get(0).address());
        var answer = HttpClient.newHttpClient()
                .send(HttpRequest.newBuilder(URI.create(address + "?wsdl")).build(), BodyHandlers.ofString());
        assertThat(answer.body()).contains(address.replaceFirst("/peaks.*", ""));
        hand.await("what passed", () -> traffic.listings().size() == 2);
        assertThat(Hand.on(() -> traffic.listings().get(0).way())).isEqualTo(Way.TAPPED);
        hand.await("the count", () -> hand.shows("1 passed"));
        hand.clickText("↔ tapped");
        hand.await("it", () -> traffic.selectedProperty().get() != null);
        hand.clickText("Stop");
        hand.await("none", () -> desktop.models.taps().up().isEmpty());
        hand.await("its row is gone", () -> !hand.shows("1 passed"));
        assertThat(desktop.onDisk().taps()).extracting(KeptTap::id).containsExactly("peaks");
        hand.click("#start-peaks");
        hand.await("it again", () -> !desktop.models.taps().up().isEmpty());
        assertThat(desktop.onDisk().taps()).as("it is the same one").hasSize(1);
        hand.clickText("Stop");
        hand.await("it rests", () -> hand.find("#start-peaks").isPresent());
        shoot("kept-tap");
        hand.clickText("Forget");
        hand.await("it is forgotten", () -> hand.find("#start-peaks").isEmpty());
        hand.clickText("Bring it back");
        hand.await("it is back", () -> hand.find("#start-peaks").isPresent());
        assertThat(desktop.onDisk().taps()).hasSize(1);
    }

    @Test
    void theEndpointOfAnOperationIsTappedByOneClickAndASecondTellsOfTheSame() {
        hand.press(KeyCode.ALT, KeyCode.DIGIT1);
        hand.click("#tap-it");
        hand.await("the tap", () -> desktop.models.taps().up().size() == 1);
        String address = Hand.on(() -> desktop.models.taps().up().get(0).address());
        hand.await("where to call", () -> hand.shows("What is called at " + address));
        hand.click("#tap-it");
        hand.clickText("See it");
        assertThat(Hand.on(() -> desktop.desk.stationProperty().get())).isEqualTo(Station.TRAFFIC);
        assertThat(Hand.on(() -> desktop.models.taps().up().size())).isEqualTo(1);
    }

    @Test
    void columnsThatWereChosenAreThereTheNextTime() {
        toTraffic(1);
        LedgerList list = Hand.on(() -> new LedgerList(traffic));
        assertThat(Hand.on(list::hidden)).containsExactlyInAnyOrder("Number", "Caller");
        Hand.run(() -> list.turn("Caller"));
        hand.await("it is written", () -> habits().contains("ledger.hidden=Number\n"));
        assertThat(Hand.on(() -> new LedgerList(traffic).hidden())).containsExactly("Number");
        Hand.run(() -> list.turn("From"));
        hand.await("that too", () -> habits().contains("ledger.hidden=From Number\n"));
    }

    private String habits() {
        try (Stream<Path> all = Files.walk(folder.resolve("home"))) {
            Path file = all.filter(p -> p.endsWith("habits")).findFirst().orElse(null);
            return file == null ? "" : Files.readString(file);
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    @Test
    void aRequestWaitsInTheBandAndIsLetThroughChangedOrAnswered() throws Exception {
        toTraffic(1);
        Hand.run(() -> desktop.models.taps().start(TapPlan.to(URI.create(desktop.service.base() + "/peaks"), 0)));
        hand.await("the tap", () -> !desktop.models.taps().up().isEmpty());
        hand.clickText("Hold…");
        hand.type("#hold-where", "$request[");
        hand.click("#hold-keep");
        hand.await("why not", () -> !hand.text("#hold-flaw").isEmpty());
        hand.type("#hold-where", "$operation = 'Climb'");
        hand.click("#hold-keep");
        hand.await("the rule", () -> hand.shows("Hold no more"));
        var first = client("Needle");
        hand.await("the band", () -> hand.shows("The request Climb waits"));
        assertThat(first.isDone()).isFalse();
        assertThat(hand.shows("tap on")).isTrue();
        hand.press(KeyCode.ALT, KeyCode.DIGIT2);
        hand.click("#pill-held");
        assertThat(Hand.on(() -> desktop.desk.stationProperty().get())).isEqualTo(Station.TRAFFIC);
        shoot("held");
        hand.click("#held-change-1");
        hand.await("its sheet", () -> hand.find("#held-sheet #value-peak").isPresent());
        shoot("held-change");
        hand.type("#held-sheet #value-peak", "{{Pillar}}");
        hand.click("#segment-xml");
        hand.await("the same as XML", () -> shows("{Pillar}") && shows("Envelope"));
        hand.click("#held-keep");
        assertThat(first.get(20, TimeUnit.SECONDS)).contains(":fee>");
        hand.await(
                "its record",
                () -> traffic.listings().stream().anyMatch(l -> l.note().equals("the request was changed by hand")));
        long number = Hand.on(() -> traffic.listings().stream()
                .filter(l -> l.note().equals("the request was changed by hand"))
                .findFirst()
                .orElseThrow()
                .id());
        assertThat(desktop.desk.ledger().get(number).orElseThrow().request().text())
                .contains(">{Pillar}<");
        var second = client("Skarn");
        hand.await("the next", () -> desktop.models.taps().waiting().size() == 1);
        hand.click("#held-answer-2");
        hand.await(
                "the mock's answer", () -> hand.find("#held-sheet #value-fee").isPresent());
        hand.click("#held-keep");
        assertThat(second.get(20, TimeUnit.SECONDS)).contains("ClimbResponse");
        var third = client("Wolfgill");
        hand.await("the third", () -> desktop.models.taps().waiting().size() == 1);
        hand.press(KeyCode.CONTROL, KeyCode.ENTER);
        assertThat(third.get(20, TimeUnit.SECONDS)).contains(":fee>");
        hand.await("none waits", () -> !hand.shows("The request Climb waits"));
        var fourth = client("Wolfgill");
        hand.await("the fourth", () -> desktop.models.taps().waiting().size() == 1);
        hand.clickText("Hold no more");
        assertThat(fourth.get(20, TimeUnit.SECONDS))
                .as("what waits is let through")
                .contains(":fee>");
    }

    @Test
    void whatCanBePressedStaysWhereItIsWhileMorePassesAndMoreWaits() throws Exception {
        toTraffic(1);
        Hand.run(() -> desktop.models.taps().start(TapPlan.to(URI.create(desktop.service.base() + "/peaks"), 0)));
        hand.await("the tap", () -> !desktop.models.taps().up().isEmpty());
        hand.await("its row", () -> hand.shows("0 passed"));
        Node stop = hand.find("#taps .button").orElseThrow();
        assertThat(client("Needle").get(20, TimeUnit.SECONDS)).contains(":fee>");
        hand.await("it is counted", () -> hand.shows("1 passed"));
        assertThat(hand.find("#taps .button")).containsSame(stop);

        hand.clickText("Hold…");
        hand.type("#hold-where", "$operation = 'Climb'");
        hand.click("#hold-keep");
        hand.await("the rule", () -> hand.shows("Hold no more"));
        var first = client("Needle");
        hand.await("it waits", () -> hand.find("#held-through-1").isPresent());
        Node through = hand.find("#held-through-1").orElseThrow();
        var second = client("Skarn");
        hand.await("both wait", () -> hand.find("#held-through-2").isPresent());
        assertThat(hand.find("#held-through-1")).containsSame(through);
        Node other = hand.find("#held-through-2").orElseThrow();
        hand.click("#held-through-1");
        assertThat(first.get(20, TimeUnit.SECONDS)).contains(":fee>");
        hand.await("its row is gone", () -> hand.find("#held-through-1").isEmpty());
        assertThat(hand.find("#held-through-2")).containsSame(other);
        var third = client("Wolfgill");
        hand.await("two again", () -> hand.find("#held-all").isPresent());
        hand.click("#held-all");
        assertThat(second.get(20, TimeUnit.SECONDS)).contains(":fee>");
        assertThat(third.get(20, TimeUnit.SECONDS)).contains(":fee>");
        hand.await("the band is gone", () -> desktop.models.taps().waiting().isEmpty() && !shows(" waits"));
    }

    /** A picture, where one is wanted. */
    private void shoot(String name) {
        String out = System.getProperty("mockbell.looks", "");
        if (!out.isEmpty()) {
            hand.shoot(Path.of(out, name + ".png"));
        }
    }

    private CompletableFuture<String> client(String peak) {
        String address = Hand.on(() -> desktop.models.taps().up().get(0).address());
        HttpRequest request = HttpRequest.newBuilder(URI.create(address))
                .header("Content-Type", "text/xml; charset=utf-8")
                .POST(HttpRequest.BodyPublishers.ofString(
                        "<e:Envelope xmlns:e='http://schemas.xmlsoap.org/soap/envelope/'><e:Body><p:Climb xmlns:p='urn:peaks'><p:peak>"
                                + peak + "</p:peak><p:days>2</p:days></p:Climb></e:Body></e:Envelope>"))
                .build();
        return HttpClient.newHttpClient()
                .sendAsync(request, BodyHandlers.ofString())
                .thenApply(r -> r.body());
    }

    @Test
    void exchangesGoToAHarFileAndComeBack() throws Exception {
        toTraffic(1);
        Path file = folder.resolve("a.har");
        Hand.run(() -> desktop.models.har().write(traffic.effective(), file));
        hand.await("the file", () -> Files.exists(file));
        desktop.settled();
        assertThat(Files.readString(file)).contains("Skarn");
        Hand.run(() -> desktop.models.har().read(file));
        hand.await("it again", () -> traffic.listings().size() == 2);
        assertThat(Hand.on(() -> traffic.listings().get(0).operation())).isEqualTo("Climb");
        Files.writeString(file, "{}");
        Hand.run(() -> desktop.models.har().read(file));
        hand.await("why not", () -> hand.shows("no HAR file"));
    }

    @Test
    void whatIsListedBecomesAMockThatAnswersAsItWas() {
        call("Wolfgill");
        toTraffic(2);
        hand.click("#use-these");
        hand.clickText("Answer like these…");
        hand.click("#learn-keep");
        var mocks = desktop.models.mocks();
        hand.await("the answers", () -> mocks.answers().size() == 2);
        assertThat(Hand.on(() -> desktop.desk.stationProperty().get())).isEqualTo(Station.MOCK);
        assertThat(Hand.on(() -> mocks.answers().stream().map(a -> a.when()).toList()))
                .containsExactly("$request//peak = 'Skarn'", "$request//peak = 'Wolfgill'");
        hand.clickText("Take it back");
        hand.await("as before", () -> mocks.answers().size() != 2);
    }

    @Test
    void oneExchangeBecomesAnAnswerForRequestsLikeIt() {
        toTraffic(1);
        hand.clickText("→ called");
        hand.await("it", () -> traffic.selectedProperty().get() != null);
        hand.click("#keep-as");
        hand.clickText("Answer of the mock…");
        hand.click("#learn-in-time");
        hand.click("#learn-keep");
        var mocks = desktop.models.mocks();
        hand.await("the answer", () -> mocks.answers().size() == 2);
        assertThat(Hand.on(() -> mocks.answers().get(0).when())).contains("$request//peak = 'Skarn'");
        assertThat(Hand.on(() -> mocks.answers().get(1).conditional())).isFalse();
    }

    @Test
    void anExchangeBecomesABaselineAndARowOfKnownValuesAndBothCanBeTakenBack() {
        Case kept = Hand.on(() -> desktop.models.call().currentProperty().get());
        KnownValues known = new KnownValues(
                new DataTable("t.csv", List.of("peak", "fee"), List.of(List.of("Needle", "1"))),
                List.of(
                        new KnownValues.Column("peak", KnownValues.Use.SETS, "/Climb/peak"),
                        new KnownValues.Column("fee", KnownValues.Use.IS, "/ClimbResponse/fee")));
        Suite suite = new Suite(
                "peaks", "Peaks", List.of(new Step.Call("Climb", true, kept.reference(), Optional.of(known))));
        Hand.run(() -> desktop.desk.change(p -> p.withCase(kept).withSuite(suite)));
        toTraffic(1);
        hand.clickText("→ called");
        hand.await("it", () -> traffic.selectedProperty().get() != null);
        hand.click("#keep-as");
        hand.clickText("Baseline of");
        hand.clickText(kept.title());
        hand.await("it is said", () -> hand.shows("Number 1 is the baseline"));
        assertThat(desktop.onDisk().kept(kept.reference()).orElseThrow().baseline())
                .hasValueSatisfying(b -> assertThat(b.xml()).contains("fee>"));
        hand.clickText("Take it back");
        assertThat(desktop.onDisk().kept(kept.reference()).orElseThrow().baseline())
                .isEmpty();
        hand.click("#keep-as");
        hand.clickText("Row of known values of");
        hand.clickText("Peaks, step 1 Climb");
        hand.await("it is said", () -> hand.shows("is row 2 of Peaks, step 1 Climb"));
        assertThat(rows().get(1).get(0)).isEqualTo("Skarn");
        hand.clickText("Take it back");
        assertThat(rows()).hasSize(1);
    }

    private List<List<String>> rows() {
        return ((Step.Call)
                        desktop.onDisk().suite("peaks").orElseThrow().steps().get(0))
                .known()
                .orElseThrow()
                .table()
                .rows();
    }

    @Test
    void anExchangeIsSeenAsBodyAndToTheByteAndCopied() {
        toTraffic(1);
        hand.clickText("→ called");
        hand.await("it", () -> traffic.selectedProperty().get() != null);
        var exchange = Hand.on(() -> traffic.selectedProperty().get());
        assertThat(exchange.request().text()).contains("Skarn");
        hand.await("its message", () -> shows("Skarn"));
        assertThat(shows("POST /peaks HTTP/1.1")).isFalse();
        hand.click("#segment-wire");
        hand.await("the bytes", () -> shows("POST /peaks HTTP/1.1"));
        hand.clickText("Copy request");
        hand.await(
                "the copy",
                () -> String.valueOf(Clipboard.getSystemClipboard().getString()).contains("Skarn"));
    }

    /** Whether a text is in one of the areas that are shown; from any thread. */
    private boolean shows(String text) {
        return javafx.application.Platform.isFxApplicationThread() ? shown(text) : Hand.on(() -> shown(text));
    }

    private boolean shown(String text) {
        return desktop.window.stage().getScene().getRoot().lookupAll(".code").stream()
                .filter(dev.mockbell.desktop.part.Parts::isShown)
                .anyMatch(n -> ((org.fxmisc.richtext.CodeArea) n).getText().contains(text));
    }

    @Test
    void theOneThatIsLookedAtStaysWhileOthersCome() {
        toTraffic(1);
        hand.clickText("→ called");
        hand.await("it", () -> traffic.selectedProperty().get() != null);
        long id = Hand.on(() -> traffic.selectedProperty().get().id());
        hand.press(KeyCode.ALT, KeyCode.DIGIT2);
        call("Needle");
        toTraffic(2);
        assertThat(Hand.on(() -> traffic.selectedProperty().get().id())).isEqualTo(id);
    }

    @Test
    void aSpanOfTheTapeFiltersTrafficAndTheChipShowsAllAgain() {
        TapeView tape = (TapeView) hand.find("#tape").orElseThrow();
        Canvas canvas = (Canvas) Hand.on(() -> tape.lookup("Canvas"));
        double[] stroke = onScreen(tape, 1);
        drag(stroke[0] - 40, stroke[0] + 12, stroke[1]);
        hand.await("traffic", () -> desktop.desk.stationProperty().get() == Station.TRAFFIC);
        hand.await("a span", () -> traffic.filterProperty().get().during().isPresent());
        hand.await("the one in it", () -> traffic.listings().size() == 1);
        drag(stroke[0] - 300, stroke[0] - 200, stroke[1]);
        hand.await("none in that", () -> traffic.listings().isEmpty());
        hand.click(".chip.here");
        hand.await("all times", () -> traffic.filterProperty().get().during().isEmpty());
        hand.await("all", () -> traffic.listings().size() == 1);
        assertThat(canvas.getWidth()).isGreaterThan(500);
    }

    @Test
    void theWheelZoomsTheTapeWithinBounds() {
        TapeView tape = (TapeView) hand.find("#tape").orElseThrow();
        Canvas canvas = (Canvas) Hand.on(() -> tape.lookup("Canvas"));
        assertThat(says("now · 5 min")).isTrue();
        wheel(canvas, 1);
        assertThat(says("now · 2 min")).isTrue();
        for (int i = 0; i < 12; i++) {
            wheel(canvas, 1);
        }
        assertThat(says("now · 10 s")).isTrue();
        for (int i = 0; i < 30; i++) {
            wheel(canvas, -1);
        }
        assertThat(says("now · 1440 min")).isTrue();
        assertThat(Hand.on(() -> tape.strokeOf(1))).isPresent();
    }

    private boolean says(String words) {
        return Hand.on(() -> desktop.window.stage().getScene().getRoot().lookupAll(".label").stream()
                .anyMatch(n ->
                        n instanceof javafx.scene.control.Label l && l.getText().equals(words)));
    }

    private static void wheel(Canvas canvas, double by) {
        Hand.run(() -> Event.fireEvent(
                canvas,
                new ScrollEvent(
                        ScrollEvent.SCROLL,
                        10,
                        10,
                        10,
                        10,
                        false,
                        false,
                        false,
                        false,
                        false,
                        false,
                        0,
                        by * 40,
                        0,
                        by * 40,
                        ScrollEvent.HorizontalTextScrollUnits.NONE,
                        0,
                        ScrollEvent.VerticalTextScrollUnits.NONE,
                        0,
                        0,
                        null)));
    }

    private double[] onScreen(TapeView tape, long id) {
        hand.await("the stroke", () -> tape.strokeOf(id).isPresent());
        return Hand.on(() -> {
            double[] point = tape.strokeOf(id).orElseThrow();
            var window = desktop.window.stage();
            return new double[] {
                window.getX() + window.getScene().getX() + point[0],
                window.getY() + window.getScene().getY() + point[1]
            };
        });
    }

    private void drag(double fromX, double toX, double y) {
        Hand.run(() -> {
            Robot robot = new Robot();
            robot.mouseMove(fromX, y);
            robot.mousePress(MouseButton.PRIMARY);
            robot.mouseMove((fromX + toX) / 2, y);
            robot.mouseMove(toX, y);
            robot.mouseRelease(MouseButton.PRIMARY);
        });
        Hand.run(() -> {});
    }
}
