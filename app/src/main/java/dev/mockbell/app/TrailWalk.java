package dev.mockbell.app;

import dev.mockbell.check.Verdict;
import dev.mockbell.desktop.drive.Hand;
import dev.mockbell.desktop.model.Models;
import dev.mockbell.exchange.Exchange;
import dev.mockbell.project.ProjectBench;
import dev.mockbell.suite.SuiteRunner;
import java.nio.file.Path;
import java.util.function.Function;
import javafx.scene.control.ToggleButton;
import javafx.scene.input.KeyCode;

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
}
