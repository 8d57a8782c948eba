package dev.mockbell.desktop.view.call;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.check.Capture;
import dev.mockbell.check.Check;
import dev.mockbell.desktop.drive.Hand;
import dev.mockbell.desktop.model.CallModel;
import dev.mockbell.suite.Case;
import java.io.IOException;
import java.nio.file.Path;
import java.util.List;
import javafx.scene.control.ComboBox;
import javafx.scene.control.MenuItem;
import javafx.scene.input.KeyCode;
import org.fxmisc.richtext.CodeArea;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Checks and captures made by pointing in the XML and in the bytes, and captures that are changed afterwards. */
class PointingTest {
    @TempDir
    private Path folder;

    private AnswerDesk desk;
    private Hand hand;
    private CallModel call;

    @BeforeEach
    void open() throws IOException {
        desk = new AnswerDesk(folder);
        hand = desk.hand;
        call = desk.call;
        desk.answers(AnswerDesk.closures("")).send();
    }

    @AfterEach
    void close() {
        desk.close();
    }

    private Case now() {
        return Hand.on(() -> call.currentProperty().get());
    }

    private CodeArea area(String selector) {
        return (CodeArea) hand.find(selector).orElseThrow();
    }

    private void choose(String selector, String words) {
        Hand.run(() -> area(selector).getContextMenu().getItems().stream()
                .filter(i -> words.equals(i.getText()))
                .findFirst()
                .ifPresent(MenuItem::fire));
    }

    private void xmlAt(String xpath) {
        hand.click("#response-faces #segment-xml");
        hand.await(
                "the text",
                () -> hand.find("#response-xml")
                        .filter(n -> Hand.on(() -> ((CodeArea) n).getText()).contains("Birch saddle"))
                        .isPresent());
        hand.type("#answer-xpath", xpath);
        hand.press(KeyCode.ENTER);
        hand.await("the hit", () -> hand.text("#answer-xpath-hits").equals("1 hit"));
    }

    @Test
    void theXmlGivesChecksAndCapturesOfWhereTheCaretIs() {
        xmlAt("//*:closure[2]/*:grade");
        choose("#response-xml", "Check this");
        hand.await(
                "the check",
                () -> now().checks().stream()
                        .anyMatch(c -> c instanceof Check.Value v
                                && v.path().equals("/ListClosuresResponse/closure[2]/grade")
                                && !v.expected().isEmpty()));
        choose("#response-xml", "Capture");
        hand.await(
                "the capture",
                () -> now().captures().equals(List.of(new Capture("grade", "/ListClosuresResponse/closure[2]/grade"))));
        List<Check> before = now().checks();
        xmlAt("//*:closure[2]");
        choose("#response-xml", "Capture");
        hand.await("one more", () -> now().captures().size() == 2);
        assertThat(now().checks()).isEqualTo(before);
    }

    @Test
    void theBytesGiveChecksOfStatusAndHeaders() {
        hand.click("#response-faces #segment-wire");
        hand.await(
                "the bytes",
                () -> hand.find("#wire-bytes")
                        .filter(n -> Hand.on(() -> ((CodeArea) n).getText()).startsWith("HTTP/1.1 200"))
                        .isPresent());
        Hand.run(() -> area("#wire-bytes").moveTo(0, 0));
        choose("#wire-bytes", "Check this header");
        hand.await("the status", () -> now().checks().contains(new Check.StatusIs("200")));
        int line = Hand.on(() -> {
            List<String> lines = area("#wire-bytes").getText().lines().toList();
            int at = 0;
            while (!lines.get(at).toLowerCase(java.util.Locale.ROOT).startsWith("content-type:")) {
                at++;
            }
            return at;
        });
        Hand.run(() -> area("#wire-bytes").moveTo(line, 0));
        choose("#wire-bytes", "Check this header");
        hand.await(
                "the header",
                () -> now().checks().stream()
                        .anyMatch(c -> c instanceof Check.HeaderIs h
                                && h.name().equalsIgnoreCase("Content-Type")
                                && h.wanted().contains("xml")));
        hand.await(
                "they hold",
                () -> call.calledProperty().get().result().checks().stream().allMatch(c -> c.passed()));
    }

    @Test
    @SuppressWarnings("unchecked")
    void aCaptureIsChangedInItsNameAndInWhatItTakes() {
        xmlAt("//*:closure[2]/*:grade");
        choose("#response-xml", "Capture");
        hand.await("the capture", () -> now().captures().size() == 1);
        hand.clickText("Edit");
        hand.type("#capture-name", "no name");
        hand.click("#capture-keep");
        hand.await("refused", () -> hand.text("#capture-flaw").contains("is no name of a variable"));
        assertThat(hand.shows("No suite calls this case yet")).isTrue();
        hand.type("#capture-name", "grades");
        hand.type("#capture-path", "//closure/grade");
        Hand.run(() -> ((ComboBox<String>) hand.find("#capture-takes").orElseThrow()).setValue("a list of values"));
        hand.click("#capture-keep");
        hand.await(
                "changed",
                () -> now().captures()
                        .equals(List.of(new Capture("grades", "//closure/grade", Capture.Takes.LIST, false))));
    }

    @Test
    void theChecksAreTriedAgainstAnyExchange() {
        Hand.run(() -> call.checks().add(new Check.StatusIs("404")));
        hand.await(
                "its result",
                () -> call.calledProperty().get().result().checks().size()
                        == now().checks().size());
        long number = Hand.on(() -> call.exchange().orElseThrow().id());
        hand.click("#try-against");
        hand.type("#try-number", String.valueOf(number));
        hand.click("#try-now");
        hand.await("what it makes of it", () -> hand.shows("Status 404: should be 404, found 200"));
        hand.type("#try-number", "999999");
        hand.click("#try-now");
        hand.await(
                "none of that number",
                () -> desk.desktop.desk.notices().stream()
                        .anyMatch(n -> n.text().contains("no answer with the number 999999")));
    }
}
