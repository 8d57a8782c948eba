package dev.mockbell.desktop.view.contract;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.check.Capture;
import dev.mockbell.check.Check;
import dev.mockbell.desktop.OnDesktop;
import dev.mockbell.desktop.drive.Hand;
import dev.mockbell.project.KeptContract;
import dev.mockbell.suite.Case;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import javafx.scene.control.Label;
import javafx.scene.input.KeyCode;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

/** A contract held against its source, by gestures. */
class ChangesTest extends OnDesktop {
    private static final String CLIMB =
            "<p:Climb xmlns:p=\"urn:peaks\"><p:peak>Stag</p:peak><p:days>9</p:days></p:Climb>";

    @BeforeEach
    void aContractWithCases() {
        desktop.addContract();
        Hand.run(() -> desktop.desk.change(p -> p.withCase(new Case(
                        "nine",
                        "Nine days",
                        "",
                        kept().name(),
                        "Climb",
                        "",
                        CLIMB,
                        List.of(),
                        List.of(new Check.Value("/ClimbResponse/fee", "180")),
                        List.of(new Capture("fee", "//fee"))))
                .withCase(new Case(
                        "two",
                        "Two days",
                        "",
                        kept().name(),
                        "Climb",
                        "",
                        CLIMB.replace(">9<", ">2<"),
                        List.of(),
                        List.of(),
                        List.of()))));
    }

    private KeptContract kept() {
        return desktop.desk.project().contracts().get(0);
    }

    private void source(String from, String to) throws IOException {
        Files.writeString(desktop.wsdl, Files.readString(desktop.wsdl).replace(from, to));
    }

    private void shoot(String name) {
        String out = System.getProperty("mockbell.looks", "");
        if (!out.isEmpty()) {
            hand.shoot(Path.of(out, name + ".png"));
        }
    }

    private String text(String selector) {
        return Hand.on(() -> ((Label) hand.find(selector).orElseThrow()).getText());
    }

    private void compareWithMuch() throws IOException {
        source("maxInclusive value=\"9\"", "maxInclusive value=\"7\"");
        source(
                "<xs:element name=\"guide\" type=\"xs:string\" minOccurs=\"0\" maxOccurs=\"3\"/>",
                "<xs:element name=\"guide\" type=\"xs:string\" minOccurs=\"0\" maxOccurs=\"5\"/><xs:element name=\"email\" type=\"xs:string\"/>");
        source("name=\"fee\"", "name=\"fees\"");
        source("/peaks-12\"", "/v2/peaks\"");
        hand.click("#compare-" + kept().name());
        hand.await("what changed", () -> hand.find("#changes").isPresent());
    }

    @Test
    void whatChangedIsShownTakenOverWithItsMendingAndTakenBack() throws IOException {
        compareWithMuch();
        assertThat(hand.shows("takes · days")).isTrue();
        assertThat(hand.shows("up to 7")).isTrue();
        assertThat(hand.shows("1 case")).isTrue();
        assertThat(text("#change-sentence")).contains("up to 9").contains("up to 7");
        hand.await("the lines", () -> hand.shows("maxInclusive"));
        shoot("changes");
        hand.click("#changes-next");
        hand.click("#changes-next");
        assertThat(text("#change-sum")).contains("2 cases");
        shoot("changes-touched");
        hand.clickText("For the service");
        assertThat(hand.shows("break the service")).isTrue();
        hand.clickText("Documents");
        assertThat(hand.find("#document-lines")).isPresent();
        shoot("changes-documents");
        hand.clickText("For callers");
        hand.press(KeyCode.CONTROL, KeyCode.ENTER);
        hand.await("the board", () -> hand.find("#board").isPresent());
        hand.await(
                "the new contract",
                () -> kept().contract().documents().get(0).text().contains("email"));
        var disk = desktop.onDisk();
        assertThat(disk.contracts().get(0).contract().documents().get(0).text()).contains("fees");
        Case nine = disk.kept(kept().name() + "/Climb/nine").orElseThrow();
        assertThat(nine.body()).contains("<p:email>");
        assertThat(nine.checks()).containsExactly(new Check.Value("/ClimbResponse/fees", "180"));
        hand.clickText("Undo");
        hand.await(
                "the old contract",
                () -> !kept().contract().documents().get(0).text().contains("email"));
        var back = desktop.onDisk();
        assertThat(back.contracts().get(0).contract().documents().get(0).text()).contains("name=\"fee\"");
        assertThat(back.kept(kept().name() + "/Climb/nine").orElseThrow().body())
                .isEqualTo(CLIMB);
    }

    @Test
    void whatIsProposedCanBeLeftOneByOneOrAll() throws IOException {
        compareWithMuch();
        hand.click("#change-leave-all");
        assertThat(text("#change-sum")).contains("0 things will be changed");
        hand.click("#segment-expect-a-fault");
        assertThat(text("#change-sum")).contains("1 thing will be changed");
        hand.click("#changes-take");
        hand.await("the board", () -> hand.find("#board").isPresent());
        var disk = desktop.onDisk();
        assertThat(disk.kept(kept().name() + "/Climb/nine").orElseThrow().checks())
                .containsExactly(new Check.FaultIs(""));
        assertThat(disk.kept(kept().name() + "/Climb/two").orElseThrow().body()).doesNotContain("email");
    }

    @Test
    void escapeLeavesItAsItIs() throws IOException {
        compareWithMuch();
        hand.press(KeyCode.ESCAPE);
        hand.await("the board", () -> hand.find("#board").isPresent());
        assertThat(desktop.onDisk()
                        .contracts()
                        .get(0)
                        .contract()
                        .documents()
                        .get(0)
                        .text())
                .doesNotContain("email");
    }

    @Test
    void thatNothingChangedIsSaidAndThereIsNothingToTakeOver() {
        hand.click("#manage-" + kept().name());
        hand.click("#contract-compare");
        hand.await("what changed", () -> hand.find("#changes").isPresent());
        assertThat(hand.shows("Nothing changed.")).isTrue();
        assertThat(Hand.on(() -> hand.find("#changes-take").orElseThrow().isDisabled()))
                .isTrue();
        shoot("changes-none");
    }

    @Test
    void aSourceThatIsGoneIsSaidAndTheContractStays() throws IOException {
        Files.delete(desktop.wsdl);
        hand.click("#compare-" + kept().name());
        hand.await("the words", () -> hand.shows("Try again"));
        assertThat(hand.find("#board")).isPresent();
    }

    @Test
    void aMockThatRunsIsToldToBeStartedAnewWithTheContract() throws IOException {
        desktop.startMock();
        compareWithMuch();
        hand.click("#changes-take");
        hand.await("the words", () -> hand.shows("goes on with the contract as it was"));
        hand.clickText("Restart it");
        hand.await(
                "the mock of the new contract",
                () -> Hand.on(() -> desktop.models
                        .mocks()
                        .host()
                        .filter(h -> h.contract() == kept().contract())
                        .isPresent()));
    }
}
