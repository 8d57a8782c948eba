package dev.mockbell.app;

import dev.mockbell.check.Verdict;
import dev.mockbell.desktop.drive.Hand;
import dev.mockbell.desktop.model.CalledEndpoint;
import dev.mockbell.desktop.model.Models;
import dev.mockbell.exchange.Exchange;
import dev.mockbell.project.ProjectBench;
import dev.mockbell.suite.SuiteRunner;
import java.nio.file.Path;
import java.util.function.Function;
import javafx.scene.control.ToggleButton;
import javafx.scene.input.KeyCode;
import org.fxmisc.richtext.CodeArea;

/** The steps of the example that deal with what services ask for beside the message. */
final class TrailWalk {
    private final Hand hand;
    private final Models models;
    private final Function<String, Path> pictures;

    TrailWalk(Hand hand, Models models, Function<String, Path> pictures) {
        this.hand = hand;
        this.models = models;
        this.pictures = pictures;
    }

    private void open(String contract, String operation, String environment) {
        Hand.run(() -> {
            models.desk().use(environment);
            models.desk()
                    .placeProperty()
                    .set(models.desk().place(contract, operation).orElseThrow());
        });
        hand.press(KeyCode.ALT, KeyCode.DIGIT2);
    }

    private SuiteRunner.Called send() {
        int before = Hand.on(() -> models.call().calls());
        hand.press(KeyCode.CONTROL, KeyCode.ENTER);
        hand.await("an answer", () -> models.call().calls() > before);
        return Hand.on(() -> models.call().calledProperty().get());
    }

    private static void passed(SuiteRunner.Called called) {
        if (called.result().verdict() != Verdict.PASSED) {
            throw new IllegalStateException(
                    called.result().failures() + " " + called.result().problem());
        }
    }

    /** A photo goes beside the envelope, whose caller is named by a digest. */
    String parts() {
        open("trail-conditions", "UploadPhoto", "Local stand-in");
        hand.click("#segment-parts");
        SuiteRunner.Called called = send();
        passed(called);
        hand.await("its place", () -> hand.shows("in the place of a value"));
        hand.shoot(pictures.apply("parts"));
        hand.click("#segment-sheet");
        return called.answer().exchange().request().attachments().size() + " part";
    }

    /** Every step of a suite behind a front. */
    String suite(String environment) {
        Hand.run(() -> models.desk().use(environment));
        hand.press(KeyCode.ALT, KeyCode.DIGIT3);
        hand.click("#choose-suite");
        hand.clickText("On the trail");
        hand.press(KeyCode.CONTROL, KeyCode.ENTER);
        hand.await("the run to start", () -> models.check().runningProperty().get());
        hand.await("the run to end", () -> !models.check().runningProperty().get());
        var run = Hand.on(() -> models.check().runs().get(0));
        if (!run.passed()) {
            throw new IllegalStateException(run.steps().stream()
                    .flatMap(s -> s.failures().stream())
                    .toList()
                    .toString());
        }
        return run.checksPassed() + " of " + run.checks() + " checks passed";
    }

    /** Of what is known one row is wrong, and that is said; what was found is taken as expected. */
    String known(String environment) {
        Hand.run(() -> models.desk().use(environment));
        hand.press(KeyCode.ALT, KeyCode.DIGIT3);
        hand.clickText("Known elevations");
        hand.type("#known-1-3", "3001.00");
        hand.press(KeyCode.ENTER);
        hand.press(KeyCode.CONTROL, KeyCode.ENTER);
        hand.await("the run to start", () -> models.check().runningProperty().get());
        hand.await("the run to end", () -> !models.check().runningProperty().get());
        hand.await(
                "the failed step",
                () -> models.check()
                        .result()
                        .filter(r -> r.verdict() == Verdict.FAILED)
                        .isPresent());
        hand.shoot(pictures.apply("known"));
        hand.click("#known-take-1");
        hand.press(KeyCode.CONTROL, KeyCode.ENTER);
        hand.await("the run to start", () -> models.check().runningProperty().get());
        hand.await("the run to end", () -> !models.check().runningProperty().get());
        var run = Hand.on(() -> models.check().runs().get(0));
        if (!run.passed()) {
            throw new IllegalStateException("what was accepted does not pass");
        }
        return "7 rows, one was wrong and accepted";
    }

    /** What is signed and encrypted comes back so, and is read. */
    String sealed() {
        open("hut-booking", "ListAreas", "Signed and encrypted");
        hand.click("#segment-security");
        SuiteRunner.Called called = send();
        passed(called);
        hand.shoot(pictures.apply("security"));
        hand.click("#segment-sheet");
        return called.answer().exchange().note();
    }

    /** A certificate that nobody has said anything of is shown whole. */
    String certificate() {
        open("hut-booking", "ListAreas", "Behind TLS");
        Hand.run(() -> models.call().security().pick(ProjectBench.NOBODY));
        Exchange exchange = send().answer().exchange();
        if (exchange.response().isPresent()) {
            throw new IllegalStateException("an answer came from a server that is not trusted");
        }
        hand.click("#look-at-certificate");
        hand.await("the certificate", () -> hand.find("#trust-certificate").isPresent());
        hand.shoot(pictures.apply("certificate"));
        Hand.run(() -> models.call().security().pick(""));
        SuiteRunner.Called called = send();
        passed(called);
        return Hand.on(() -> called.answer().exchange().secured().orElseThrow().version());
    }

    /** A value that is a table of its own is opened beside the answer. */
    String inside() {
        open("trail-conditions", "GetTrailReport", "Local stand-in");
        passed(send());
        hand.click("#chip-stages");
        hand.await("its rows", () -> hand.find("#inside-table").isPresent());
        hand.shoot(pictures.apply("inside"));
        String facts = hand.text("#inside-facts");
        hand.click("#inside-close");
        return facts;
    }

    /** What differs from an answer that was kept, with one place left out. */
    String compared() {
        open("trail-conditions", "GetTrailReport", "Local stand-in");
        passed(send());
        hand.click("#keep-baseline");
        hand.await("it is kept", () -> models.call().compared().baseline().isPresent());
        hand.type("#value-trailId", "T-008");
        send();
        hand.await("what differs", () -> models.call().compared().withBaseline().isPresent());
        String words = Hand.on(
                () -> models.call().compared().withBaseline().orElseThrow().words());
        hand.await("it is shown", () -> hand.text("#baseline-words").equals(words));
        hand.shoot(pictures.apply("compared"));
        hand.click("#drop-baseline");
        hand.await("it is gone", () -> models.call().compared().baseline().isEmpty());
        Hand.run(() -> models.desk().notices().clear());
        hand.type("#value-trailId", "T-007");
        hand.press(KeyCode.ENTER);
        return words;
    }

    /** What repeats as a table, some rows of it, for a spreadsheet. */
    String table() {
        open("trail-conditions", "ListClosures", "Local stand-in");
        passed(send());
        hand.click("#show-as-table");
        hand.await("the rows", () -> hand.text("#table-count").equals("400 rows"));
        hand.type("#table-where", "stage >= 4");
        hand.press(KeyCode.ENTER);
        hand.await("some of them", () -> hand.text("#table-count").contains(" of 400"));
        hand.shoot(pictures.apply("table"));
        hand.click("#copy-rows");
        String count = hand.text("#table-count");
        hand.click("#response-faces #segment-sheet");
        return count;
    }

    /** The bytes of both sides; of the request the photo is no text. */
    String wire() {
        open("trail-conditions", "UploadPhoto", "Local stand-in");
        passed(send());
        hand.click("#response-faces #segment-wire");
        hand.await("the bytes", () -> models.call().faces().wire().bytes().contains("89 50 4e 47"));
        String bytes = Hand.on(() -> models.call().faces().wire().bytes());
        int before = (int) bytes.substring(0, bytes.indexOf("89 50 4e 47"))
                .chars()
                .filter(c -> c == '\n')
                .count();
        Hand.run(() -> ((CodeArea) hand.find("#wire-bytes").orElseThrow()).showParagraphAtTop(before - 16));
        hand.shoot(pictures.apply("wire"));
        hand.click("#response-faces #segment-sheet");
        return bytes.length() + " characters";
    }

    /** A page in the place of an answer, from a path that is none. */
    String page() {
        open("trail-conditions", "Ping", "Local stand-in");
        String before = hand.text("#endpoint");
        Hand.run(
                () -> models.call().endpoint().keep(before.replaceAll("/[^/]*$", "/nowhere"), CalledEndpoint.For.CASE));
        SuiteRunner.Called called = send();
        hand.await("what it is", () -> hand.text("#answer-flaw").startsWith("Status 404"));
        hand.shoot(pictures.apply("page"));
        Hand.run(() -> models.call().endpoint().keep("", CalledEndpoint.For.CASE));
        return called.answer().exchange().note();
    }

    /** Another address is for this case or for the environment. */
    String endpoint() {
        open("hut-booking", "ListAreas", "Local stand-in");
        String before = hand.text("#endpoint");
        hand.type("#endpoint", before + "?from=trail");
        Hand.run(() -> hand.find("#endpoint-for")
                .map(n -> (ToggleButton)
                        ((javafx.scene.layout.HBox) n).getChildren().get(0))
                .orElseThrow()
                .fire());
        hand.shoot(pictures.apply("endpoint"));
        hand.press(KeyCode.ENTER);
        hand.await("the case's", () -> hand.text("#endpoint-from").equals("of this case"));
        hand.type("#endpoint", "");
        hand.press(KeyCode.ENTER);
        hand.await(
                "the environment's",
                () -> Hand.on(() -> models.call().endpoint().address()).equals(before));
        return hand.text("#endpoint-from");
    }

    /** The same case by way of a queue: a message to a broker, its answer by correlation. */
    String queue() {
        open("trail-conditions", "Ping", "Local stand-in");
        hand.clickText("Up, by queue");
        SuiteRunner.Called called = send();
        passed(called);
        var exchange = called.answer().exchange();
        hand.click("#response-faces #segment-wire");
        hand.shoot(pictures.apply("queue"));
        hand.click("#response-faces #segment-sheet");
        return exchange.request().title() + ", " + exchange.timing().totalMillis() + " ms";
    }

    /** And many of them. */
    String loadByQueue() {
        hand.press(KeyCode.ALT, KeyCode.DIGIT6);
        hand.click("#load-plans");
        hand.clickText("Trail by queue");
        hand.click("#load-start");
        hand.await("the load to start", () -> models.load().runningProperty().get());
        hand.await(
                "the load to end",
                () -> !models.load().runningProperty().get()
                        && models.load().resultProperty().get() != null);
        var run = Hand.on(() -> models.load().resultProperty().get());
        if (!run.passed() || run.total().done() != 40) {
            throw new IllegalStateException(run.total().done() + " of 40 done, " + run.reasons());
        }
        hand.shoot(pictures.apply("load-by-queue"));
        return run.total().done() + " done, " + run.total().failed() + " failed, p95 "
                + Math.round(run.total().p95()) + " ms";
    }
}
