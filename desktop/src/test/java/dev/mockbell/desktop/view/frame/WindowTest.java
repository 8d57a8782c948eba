package dev.mockbell.desktop.view.frame;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.check.Check;
import dev.mockbell.desktop.OnDesktop;
import dev.mockbell.desktop.drive.Hand;
import dev.mockbell.desktop.model.Notice;
import dev.mockbell.desktop.model.Station;
import dev.mockbell.desktop.view.traffic.TapeView;
import dev.mockbell.project.Environment;
import dev.mockbell.project.ProjectStore;
import java.awt.image.BufferedImage;
import java.io.IOException;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.concurrent.atomic.AtomicReference;
import javafx.scene.control.ScrollPane;
import javafx.scene.input.KeyCode;
import javafx.scene.layout.Region;
import org.fxmisc.richtext.CodeArea;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

/** The parts of the window that the slice does not walk through. */
class WindowTest extends OnDesktop {

    @BeforeEach
    void open() {
        desktop.addContract();
    }

    private void sendOnce() {
        hand.press(KeyCode.ALT, KeyCode.DIGIT2);
        hand.type("#value-days", "1");
        send();
    }

    private CodeArea editor() {
        return (CodeArea) hand.find(".code").orElseThrow();
    }

    private String xml() {
        return Hand.on(() -> desktop.models.call().request().xml());
    }

    @Test
    void everyStationIsReachedByItsKeyAndMarkedOnTheRail() {
        for (Station station : Station.values()) {
            hand.press(KeyCode.ALT, KeyCode.valueOf("DIGIT" + station.digit()));
            hand.await(station.title(), () -> desktop.desk.stationProperty().get() == station);
            String id = station.title().toLowerCase(java.util.Locale.ROOT);
            assertThat(hand.find("#" + id + "-station")).as(id).isPresent();
            assertThat(hand.find("#rail-" + id).orElseThrow().getStyleClass()).contains("here");
        }
    }

    @Test
    void aProjectIsDuplicatedIntoAnEmptyFolderAndOpenedThere() {
        AtomicReference<Path> opened = new AtomicReference<>();
        Path copy = folder.resolve("copy");
        Hand.run(() -> {
            desktop.desk.onOpenProject((at, failed) -> opened.set(at));
            desktop.desk.duplicate(copy);
        });
        hand.await("the copy", () -> opened.get() != null);
        assertThat(opened.get()).isEqualTo(copy);
        assertThat(new ProjectStore().open(copy).contracts())
                .usingRecursiveFieldByFieldElementComparatorOnFields("name", "title")
                .isEqualTo(desktop.onDisk().contracts());
        Hand.run(() -> desktop.desk.duplicate(copy));
        hand.await("a sentence", () -> hand.shows("The folder holds something already"));
    }

    @Test
    void aStrokeOfTheTapeOpensItsExchange() {
        sendOnce();
        TapeView tape = (TapeView) hand.find("#tape").orElseThrow();
        hand.await("the stroke", () -> tape.strokeOf(1).isPresent());
        double[] at = Hand.on(() -> {
            double[] point = tape.strokeOf(1).orElseThrow();
            var window = desktop.window.stage();
            return new double[] {
                window.getX() + window.getScene().getX() + point[0],
                window.getY() + window.getScene().getY() + point[1]
            };
        });
        hand.clickAt(at[0], at[1]);
        hand.await("traffic", () -> desktop.desk.stationProperty().get() == Station.TRAFFIC);
        hand.await(
                "the exchange",
                () -> desktop.models.traffic().selectedProperty().get() != null);
        assertThat(Hand.on(
                        () -> desktop.models.traffic().selectedProperty().get().id()))
                .isEqualTo(1);
        assertThat(hand.text("#tape-count")).isEqualTo("1 exchange");
    }

    @Test
    void keysWorkAlsoWhenNothingHasTheFocus() {
        hand.press(KeyCode.ALT, KeyCode.DIGIT4);
        desktop.startMock();
        Hand.run(() -> {
            var focused = desktop.window.stage().getScene().getFocusOwner();
            if (focused != null && focused.getParent() instanceof javafx.scene.layout.Pane parent) {
                parent.getChildren().remove(focused);
            }
        });
        hand.press(KeyCode.ALT, KeyCode.DIGIT6);
        assertThat(Hand.on(() -> desktop.desk.stationProperty().get())).isEqualTo(Station.LOAD);
    }

    @Test
    void theTapeIsHiddenAndShown() {
        hand.press(KeyCode.CONTROL, KeyCode.J);
        assertThat(hand.find("#tape")).isEmpty();
        hand.press(KeyCode.CONTROL, KeyCode.J);
        assertThat(hand.find("#tape")).isPresent();
    }

    @Test
    void xmlThatIsTypedShowsInTheSheetAndBrokenXmlIsKeptAndTold() {
        hand.press(KeyCode.ALT, KeyCode.DIGIT2);
        hand.click("#segment-xml");
        CodeArea editor = editor();
        Hand.run(() -> {
            editor.requestFocus();
            editor.replaceText(
                    "<p:Climb xmlns:p=\"urn:peaks\">\n  <!-- mine -->\n  <p:peak>Typed</p:peak>\n  <p:days>4</p:days>\n</p:Climb>");
        });
        hand.await(
                "the sheet to follow",
                () -> desktop.models.call().request().lines().stream()
                        .anyMatch(l -> l.row().value().equals("Typed")));
        assertThat(xml()).contains("<!-- mine -->");
        Hand.run(() -> editor.replaceText("<p:Climb xmlns:p=\"urn:peaks\"><oops"));
        hand.await(
                "the reason",
                () -> desktop.models.call().request().troubleProperty().get().contains("not well-formed"));
        assertThat(xml()).endsWith("<oops");
        hand.press(KeyCode.CONTROL, KeyCode.Z);
        hand.await(
                "the text before",
                () -> desktop.models.call().request().xml().contains("Typed")
                        || desktop.models.call().request().xml().contains("peak"));
    }

    @Test
    void theWireOfTheRequestIsShownBeforeItIsSent() {
        hand.press(KeyCode.ALT, KeyCode.DIGIT2);
        hand.type("#value-peak", "{1 + 1}");
        hand.click("#segment-wire");
        hand.await(
                "the preview",
                () -> desktop.models.call().preview().textProperty().get().contains(":peak>2</"));
        assertThat(Hand.on(() -> desktop.models.call().preview().textProperty().get()))
                .contains("POST /peaks HTTP/1.1");
    }

    @Test
    void casesAreRenamedDuplicatedDeletedAndBroughtBack() {
        hand.press(KeyCode.ALT, KeyCode.DIGIT2);
        hand.type("#value-peak", "First");
        hand.click("#case-menu");
        hand.clickText("Name and description…");
        hand.type("#case-title", "The first");
        hand.type("#case-description", "What the first of all is about");
        hand.click("#case-keep");
        hand.await(
                "the name",
                () -> desktop.models.call().currentProperty().get().title().equals("The first"));
        assertThat(Hand.on(() -> desktop.models.call().currentProperty().get().description()))
                .isEqualTo("What the first of all is about");
        hand.click("#case-menu");
        hand.clickText("Duplicate…");
        hand.press(KeyCode.ENTER);
        hand.await("the copy", () -> desktop.models.call().cases().size() == 2);
        assertThat(Hand.on(() -> desktop.models.call().currentProperty().get().body()))
                .contains("First");
        hand.click("#case-menu");
        hand.clickText("Delete   (Delete)");
        hand.await("one left", () -> desktop.models.call().cases().size() == 1);
        hand.clickText("Bring it back");
        hand.await("both", () -> desktop.models.call().cases().size() == 2);
        assertThat(desktop.onDisk().cases()).hasSize(2);
    }

    @Test
    void theWaitIsStoppedByTheSameButton() {
        Hand.run(() -> {
            var kept = desktop.models.mocks().contractProperty().get();
            desktop.models
                    .mocks()
                    .start(kept, desktop.models.mocks().plan().orElseThrow().withPort(0));
        });
        hand.await("the mock", () -> desktop.models.mocks().host().isPresent());
        hand.await("its sample", () -> !desktop.models.mocks().answers().isEmpty());
        Hand.run(() -> desktop.models
                .mocks()
                .edits()
                .change(0, desktop.models.mocks().answers().get(0).withDelay(15_000)));
        String address = Hand.on(
                () -> desktop.models.mocks().host().orElseThrow().addresses().get("Peaks11"));
        Hand.run(() -> desktop.desk.change(p -> p.with(p.settings()
                .withEnvironments(List.of(new Environment("slow", Map.of("peaks", address), List.of())), "slow"))));
        hand.press(KeyCode.ALT, KeyCode.DIGIT2);
        hand.click("#send");
        hand.await("the wait", () -> desktop.models.call().waitingProperty().get());
        assertThat(hand.text("#send")).isEqualTo("Stop");
        hand.click("#send");
        hand.await(
                "the end of it", () -> !desktop.models.call().waitingProperty().get());
        assertThat(Hand.on(() -> desktop.models.call().exchange().orElseThrow().note()))
                .isEqualTo("Stopped");
        assertThat(hand.text("#status")).isEqualTo("no answer");
    }

    @Test
    void checksAreAddedFromTheMenuAndTakenAway() {
        sendOnce();
        hand.click("#add-check");
        hand.clickText("Answered within…");
        hand.type("#ask-name", "5000");
        hand.press(KeyCode.ENTER);
        hand.await(
                "the check",
                () -> desktop.models.call().currentProperty().get().checks().contains(new Check.Within(5_000)));
        hand.await(
                "its result",
                () -> desktop.models
                                .call()
                                .calledProperty()
                                .get()
                                .result()
                                .checks()
                                .size()
                        == 3);
        assertThat(hand.text("#checks-passed")).isEqualTo("3 of 3");
        Hand.run(() -> desktop.models.call().checks().remove(new Check.Within(5_000)));
        hand.await(
                "two left",
                () -> desktop.models.call().currentProperty().get().checks().size() == 2);
        hand.click("#add-check");
        hand.clickText("Answered within…");
        hand.type("#ask-name", "soon");
        hand.press(KeyCode.ENTER);
        hand.await(
                "the refusal",
                () -> hand.find("#check-flaw")
                        .filter(n -> ((javafx.scene.control.Label) n).getText().contains("soon"))
                        .isPresent());
        hand.type("#ask-name", "6000");
        hand.click("#check-stops");
        hand.click("#check-keep");
        hand.await(
                "one that stops the run",
                () -> desktop.models.call().currentProperty().get().checks().stream()
                        .anyMatch(c -> c.equals(new Check.Stopping(new Check.Within(6_000)))));
    }

    @Test
    void theBoardIsFilteredAsOneTypes() {
        hand.type("#board-filter", "nothing like it");
        assertThat(hand.find("#board")
                        .map(n -> Hand.on(() ->
                                ((dev.mockbell.desktop.part.Grid<?>) n).items().size())))
                .contains(0);
        hand.type("#board-filter", "cli");
        assertThat(hand.find("#board")
                        .map(n -> Hand.on(() ->
                                ((dev.mockbell.desktop.part.Grid<?>) n).items().size())))
                .contains(2);
    }

    @Test
    void aFindingLeadsToItsLineInTheSource() throws IOException {
        desktop.addFlawedContract();
        hand.press(KeyCode.ESCAPE);
        hand.clickText("Show");
        hand.clickText("unresolved-port-type");
        hand.await("the source", () -> hand(".code"));
        CodeArea source = editor();
        int line = Hand.on(source::getCurrentParagraph);
        assertThat(Hand.on(() -> source.getParagraph(line).getText())).contains("tns:Gone");
    }

    private boolean hand(String selector) {
        return desktop.window.stage().getScene().getRoot().lookup(selector) != null;
    }

    @Test
    void noticesComeWithAWayOutAndGo() {
        AtomicInteger runs = new AtomicInteger();
        Hand.run(() -> desktop.desk.tell(Notice.bad("Something is amiss.", "Mend it", runs::incrementAndGet)));
        hand.clickText("Mend it");
        assertThat(runs).hasValue(1);
        Hand.run(() -> {
            for (int i = 0; i < 9; i++) {
                desktop.desk.tell(Notice.bad("Trouble " + i));
            }
        });
        assertThat(Hand.on(() -> desktop.desk.notices().size())).isEqualTo(5);
    }

    @Test
    void whereThereIsLessRoomThanAStationNeedsItIsMovedThrough() {
        hand.press(KeyCode.ALT, KeyCode.DIGIT2);
        hand.await("the sheet", () -> hand.find("#value-days").isPresent());
        assertThat(hand.find(".moved")).isEmpty();
        Hand.run(() -> {
            desktop.window.stage().setMinWidth(0);
            desktop.window.stage().setMinHeight(0);
            desktop.window.stage().setWidth(960);
            desktop.window.stage().setHeight(540);
        });
        hand.await("room to move", () -> hand.find(".moved").isPresent());
        ScrollPane moved = (ScrollPane) hand.find(".moved").orElseThrow();
        hand.await("laid out", () -> ((Region) moved.getContent()).getWidth() >= 940);
        assertThat(Hand.on(() -> hand.find("#call-station")
                        .orElseThrow()
                        .localToScene(0, 0)
                        .getX()))
                .as("nothing is cut off at the left")
                .isEqualTo(78);
        assertThat(hand.find("#tape")).as("the tape gives way").isEmpty();
        Hand.run(() -> {
            desktop.window.stage().setWidth(1_280);
            desktop.window.stage().setHeight(800);
        });
        hand.await(
                "all of it",
                () -> hand.find(".moved").isEmpty() && hand.find("#tape").isPresent());
    }

    @Test
    void theDarkThemeIsDark() {
        BufferedImage light = hand.picture();
        hand.click("#settings");
        hand.clickText("Dark");
        hand.await("dark", () -> desktop.window.frame().getStyleClass().contains("dark"));
        BufferedImage dark = hand.picture();
        assertThat(light.getRGB(700, 640) & 0xFF).isGreaterThan(200);
        assertThat(dark.getRGB(700, 640) & 0xFF).isLessThan(80);
    }

    @Test
    void theWindowIsAsLargeAsDesignedAndNotBlank() {
        BufferedImage picture = hand.picture();
        assertThat(picture.getWidth()).isEqualTo(1_280);
        assertThat(picture.getHeight()).isEqualTo(800);
        assertThat(picture.getRGB(640, 5) & 0xFFFFFF).isEqualTo(0x1E2B33);
        // at the left margin of the tape: further right the hours of the time line may stand
        assertThat(picture.getRGB(3, 795) & 0xFFFFFF).isEqualTo(0x17222A);
    }

    @Test
    void stepsAreMovedTakenOutAndPutBack() {
        sendOnce();
        Hand.run(() -> {
            desktop.models.check().add("Stay");
            var kept = desktop.models.call().currentProperty().get();
            desktop.models.check().addStep(kept);
            desktop.models.call().add("Other", true);
            desktop.models
                    .check()
                    .addStep(desktop.models.call().currentProperty().get());
        });
        hand.press(KeyCode.ALT, KeyCode.DIGIT3);
        hand.clickText("Move up");
        assertThat(Hand.on(() -> desktop.models
                        .check()
                        .suiteProperty()
                        .get()
                        .steps()
                        .get(0)
                        .name()))
                .isEqualTo("Other");
        hand.clickText("Take out");
        assertThat(Hand.on(() ->
                        desktop.models.check().suiteProperty().get().steps().size()))
                .isEqualTo(1);
        hand.clickText("Put it back");
        assertThat(Hand.on(() ->
                        desktop.models.check().suiteProperty().get().steps().size()))
                .isEqualTo(2);
    }
}
