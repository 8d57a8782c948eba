package dev.mockbell.desktop;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.check.Check;
import dev.mockbell.check.Verdict;
import dev.mockbell.desktop.drive.Hand;
import dev.mockbell.desktop.model.Station;
import dev.mockbell.exchange.Exchange;
import dev.mockbell.suite.SuiteRunner;
import java.io.IOException;
import java.net.InetAddress;
import java.net.ServerSocket;
import java.nio.file.Files;
import java.nio.file.Path;
import javafx.scene.input.KeyCode;
import org.junit.jupiter.api.Test;

/** The real window, worked by mouse and keys, from an empty project to a load report. */
class SliceTest extends OnDesktop {

    private SuiteRunner.Called called() {
        return Hand.on(() -> desktop.models.call().calledProperty().get());
    }

    private String xml() {
        return Hand.on(() -> desktop.models.call().request().xml());
    }

    @Test
    void anEmptyProjectOffersOneFieldAndTheBoardFollows() {
        assertThat(hand.find("#contract-address")).isPresent();
        desktop.addContract();
        assertThat(hand.find("#board")).isPresent();
        hand.clickText("On the wire");
        hand.clickText("Source");
        hand.clickText("Anatomy");
        assertThat(Files.exists(desktop.project.resolve("contracts/peaks/snapshot.yaml")))
                .isTrue();
    }

    @Test
    void aRequestIsEditedOnBothFacesSentAndSeenToTheByte() {
        desktop.addContract();
        hand.press(KeyCode.ALT, KeyCode.DIGIT2);
        hand.type("#value-peak", "Skarn");
        hand.type("#value-days", "3");
        assertThat(xml()).contains(">Skarn<").contains(">3<");
        hand.click("#include-all");
        hand.await("the guide", () -> desktop.models.call().request().xml().contains("guide"));
        hand.click("#repeat-guide");
        hand.await(
                "two guides",
                () -> desktop.models.call().request().lines().stream()
                                .filter(l -> l.row().label().equals("guide"))
                                .count()
                        == 2);
        hand.press(KeyCode.CONTROL, KeyCode.Z);
        hand.await(
                "one guide",
                () -> desktop.models.call().request().lines().stream()
                                .filter(l -> l.row().label().equals("guide"))
                                .count()
                        == 1);
        send();
        assertThat(called().answer().exchange().status()).isEqualTo(200);
        assertThat(called().result().verdict()).isEqualTo(Verdict.PASSED);
        assertThat(hand.text("#status")).isEqualTo("200 OK");
        hand.await(
                "the wire", () -> !desktop.models.call().faces().wire().bytes().isEmpty());
        assertThat(Hand.on(() -> desktop.models.call().faces().wire().bytes()))
                .contains("POST /peaks HTTP/1.1")
                .contains("SOAPAction: \"urn:climb\"")
                .contains("<p:fee>60</p:fee>");
        assertThat(Hand.on(() -> desktop.models.call().response().lines().stream()
                        .anyMatch(l -> l.row().value().equals("60"))))
                .isTrue();
        hand.clickText("SOAP 1.2");
        send();
        assertThat(called().answer().exchange().endpoint()).endsWith("/peaks-12");
        assertThat(desktop.onDisk().cases())
                .singleElement()
                .satisfies(c -> assertThat(c.body()).contains("Skarn"));
    }

    @Test
    void whatIsWrongIsToldWhileTyping() {
        desktop.addContract();
        hand.press(KeyCode.ALT, KeyCode.DIGIT2);
        hand.type("#value-days", "10");
        assertThat(hand.text("#request-validity")).isEqualTo("days: “10” is more than 9");
        hand.type("#value-days", "{$nowhere}");
        hand.click("#send");
        hand.await(
                "a notice",
                () -> desktop.desk.notices().stream().anyMatch(n -> n.text().contains("nowhere")));
        hand.press(KeyCode.ESCAPE);
        assertThat(Hand.on(() -> desktop.desk.notices().size())).isZero();
    }

    @Test
    void checksAndCapturesAreMadeByPointingAndASuiteCarriesThem() {
        desktop.addContract();
        hand.press(KeyCode.ALT, KeyCode.DIGIT2);
        hand.type("#value-days", "3");
        send();
        hand.clickText("fee");
        hand.click("#check-this");
        hand.await(
                "the check",
                () -> desktop.models
                        .call()
                        .currentProperty()
                        .get()
                        .checks()
                        .contains(new Check.Value("/ClimbResponse/fee", "60")));
        hand.clickText("permit");
        hand.click("#capture-this");
        hand.await(
                "the capture",
                () -> desktop.models.call().currentProperty().get().captures().size() == 1);
        hand.click("#new-case");
        hand.type("#ask-name", "Second");
        hand.press(KeyCode.ENTER);
        hand.await("two cases", () -> desktop.models.call().cases().size() == 2);
        hand.type("#value-peak", "{$permit}");
        Hand.run(() -> {
            desktop.models.check().add("Stay");
            desktop.desk.project().cases().stream()
                    .sorted(java.util.Comparator.comparing(c -> c.id()))
                    .forEach(desktop.models.check()::addStep);
        });
        hand.press(KeyCode.ALT, KeyCode.DIGIT3);
        hand.click("#run-suite");
        hand.await(
                "the run",
                () -> !desktop.models.check().runningProperty().get()
                        && !desktop.models.check().runs().isEmpty());
        var run = Hand.on(() -> desktop.models.check().runs().get(0));
        assertThat(run.steps()).hasSize(2);
        assertThat(run.passed()).as(run.steps().toString()).isTrue();
        assertThat(hand.text("#last-run")).isEqualTo("last run passed");
        hand.click("#write-reports");
        hand.await("the reports", () -> Files.exists(desktop.project.resolve("reports/stay.xml")));
        String permit = run.steps().get(0).captures().get("permit");
        long exchange = run.steps().get(1).exchange();
        Hand.run(() -> desktop.models.traffic().open(exchange));
        hand.await(
                "the exchange",
                () -> desktop.models.traffic().selectedProperty().get() != null);
        assertThat(Hand.on(() -> desktop.models
                        .traffic()
                        .selectedProperty()
                        .get()
                        .request()
                        .text()))
                .contains(">" + permit + "<");
    }

    @Test
    void aMockIsOneActionAndItsFaultComesByCondition() {
        desktop.addContract();
        hand.press(KeyCode.ALT, KeyCode.DIGIT4);
        // whatever listens on the usual port of this machine
        Hand.run(() -> {
            var plan = desktop.models.mocks().plan().orElseThrow().withPort(0);
            desktop.desk.change(p -> p.withMock(plan));
        });
        hand.click("#mock-start");
        hand.await("the mock", () -> desktop.models.mocks().host().isPresent());
        assertThat(hand.text("#pill-mocks")).contains("1 mock up");
        hand.click("#add-answer");
        hand.clickText("Fault Closed");
        hand.await("the answer", () -> desktop.models.mocks().answers().size() == 2);
        hand.type("#mock-when", "$request//days > 5");
        hand.press(KeyCode.ENTER);
        hand.await(
                "the condition",
                () -> desktop.models.mocks().answers().get(0).when().contains("5"));
        hand.await("it to be served", () -> {
            var served = desktop.models.mocks().host().orElseThrow().plan().of("Climb");
            return !served.isEmpty() && served.get(0).when().contains("5");
        });
        hand.type("#mock-when", "$request//[");
        hand.press(KeyCode.ENTER);
        hand.await("the remark", () -> hand.find("#mock-remark").isPresent());
        assertThat(hand.text("#mock-remark")).contains("does not parse");
        String address = Hand.on(
                () -> desktop.models.mocks().host().orElseThrow().addresses().get("Peaks11"));
        assertThat(hand.text("#mock-address")).isEqualTo(address);
        int before = Hand.on(() ->
                desktop.models.traffic().tape().since(java.time.Instant.EPOCH).size());
        var http = new dev.mockbell.wire.HttpCaller();
        var soap = dev.mockbell.soap.Envelope.around(
                dev.mockbell.soap.SoapVersion.V11,
                "<Climb xmlns='urn:peaks'><peak>x</peak><days>7</days></Climb>",
                java.util.List.of());
        var result = http.call(
                new dev.mockbell.wire.CallRequest(
                        "POST",
                        java.net.URI.create(address),
                        java.util.List.of(new dev.mockbell.content.Header(
                                "Content-Type", dev.mockbell.soap.SoapVersion.V11.contentType(""))),
                        dev.mockbell.content.Content.of(soap.getBytes(java.nio.charset.StandardCharsets.UTF_8)),
                        java.time.Duration.ofSeconds(60)),
                new dev.mockbell.task.StopSignal());
        http.close();
        assertThat(result.response().orElseThrow().text()).contains("Closed");
        hand.await(
                "the tape",
                () -> desktop.models
                                .traffic()
                                .tape()
                                .since(java.time.Instant.EPOCH)
                                .size()
                        == before + 1);
        assertThat(Hand.on(() -> desktop.models.traffic().latest(1).get(0).way()))
                .isEqualTo(Exchange.Way.ANSWERED);
        hand.click("#mock-stop");
        hand.await("the mock down", () -> desktop.models.mocks().host().isEmpty());
    }

    @Test
    void aTakenPortIsOfferedAnother() throws IOException {
        desktop.addContract();
        try (ServerSocket taken = new ServerSocket(0, 1, InetAddress.getLoopbackAddress())) {
            Hand.run(() -> {
                var kept = desktop.models.mocks().contractProperty().get();
                desktop.models
                        .mocks()
                        .start(kept, desktop.models.mocks().plan().orElseThrow().withPort(taken.getLocalPort()));
            });
            hand.await(
                    "the notice",
                    () -> desktop.desk.notices().stream().anyMatch(n -> n.text().contains("is in use by")));
            String use = Hand.on(
                    () -> desktop.desk.notices().get(0).action().orElseThrow().words());
            hand.clickText(use);
            hand.await("the mock", () -> desktop.models.mocks().host().isPresent());
            assertThat(use)
                    .isEqualTo("Use "
                            + Hand.on(() ->
                                    desktop.models.mocks().host().orElseThrow().port()));
        }
    }

    @Test
    void trafficIsFilteredOpenedAndSentAgain() {
        desktop.addContract();
        hand.press(KeyCode.ALT, KeyCode.DIGIT2);
        hand.type("#value-peak", "Needle");
        hand.type("#value-days", "1");
        send();
        hand.type("#value-peak", "Haystack");
        send();
        hand.press(KeyCode.ALT, KeyCode.DIGIT5);
        hand.await("both", () -> desktop.models.traffic().listings().size() == 2);
        hand.type("#traffic-filter", "needle");
        hand.await("one", () -> desktop.models.traffic().listings().size() == 1);
        hand.click("#segment-we-answered");
        hand.await("none", () -> desktop.models.traffic().listings().isEmpty());
        hand.click("#segment-all");
        hand.await("one again", () -> desktop.models.traffic().listings().size() == 1);
        hand.clickText("→ called");
        hand.await(
                "it is open", () -> desktop.models.traffic().selectedProperty().get() != null);
        hand.click("#send-again");
        hand.await("the call station", () -> desktop.desk.stationProperty().get() == Station.CALL);
        assertThat(xml()).contains("Needle");
        send();
        assertThat(called().answer().exchange().status()).isEqualTo(200);
    }

    @Test
    void loadIsMadeShownAndJudged() {
        desktop.addContract();
        hand.press(KeyCode.ALT, KeyCode.DIGIT2);
        hand.type("#value-days", "1");
        Hand.run(() -> {
            desktop.models.check().add("Stay");
            desktop.models
                    .check()
                    .addStep(desktop.models.call().currentProperty().get());
            desktop.models.load().add(desktop.desk.project().suites().get(0));
        });
        hand.press(KeyCode.ALT, KeyCode.DIGIT6);
        hand.type("#load-seconds", "2");
        hand.press(KeyCode.ENTER);
        hand.type("#load-rate", "15");
        hand.press(KeyCode.ENTER);
        hand.click("#load-start");
        hand.await("the start", () -> desktop.models.load().runningProperty().get());
        hand.await("the end", () -> desktop.models.load().resultProperty().get() != null);
        var run = Hand.on(() -> desktop.models.load().resultProperty().get());
        assertThat(run.total().done()).isEqualTo(30);
        assertThat(run.total().failed()).isZero();
        assertThat(hand.text("#load-verdict")).isIn("limits kept", "limits not kept");
        assertThat(Hand.on(() -> desktop.models.load().seconds().size())).isPositive();
    }

    @Test
    void theFinderLeadsToOperationsAndActions() {
        desktop.addContract();
        hand.press(KeyCode.CONTROL, KeyCode.K);
        hand.type("#finder-field", "go to load");
        hand.press(KeyCode.ENTER);
        hand.await("the load station", () -> desktop.desk.stationProperty().get() == Station.LOAD);
        hand.press(KeyCode.CONTROL, KeyCode.K);
        hand.type("#finder-field", "climb");
        hand.press(KeyCode.ENTER);
        hand.await("the operation", () -> desktop.desk.stationProperty().get() == Station.CALL);
        hand.press(KeyCode.F1);
        assertThat(hand.find("#overlay")).isPresent();
        hand.press(KeyCode.ESCAPE);
        assertThat(hand.find("#overlay")).isEmpty();
    }

    @Test
    void whatIsNoWsdlIsRefusedInWordsAndNothingIsLost() throws IOException {
        Path page = Files.writeString(folder.resolve("page.wsdl"), "<html></html>");
        hand.type("#contract-address", page.toString());
        hand.click("#contract-add");
        hand.await(
                "the notice",
                () -> desktop.desk.notices().stream().anyMatch(n -> n.text().contains("web page, not a WSDL")));
        assertThat(Hand.on(() -> desktop.desk.project().contracts().size())).isZero();
        hand.press(KeyCode.ESCAPE);
        desktop.addContract();
        assertThat(Hand.on(() -> desktop.desk.places().size())).isEqualTo(1);
    }
}
