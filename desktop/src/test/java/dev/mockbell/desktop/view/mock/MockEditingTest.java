package dev.mockbell.desktop.view.mock;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.desktop.drive.Hand;
import dev.mockbell.desktop.part.XmlArea;
import dev.mockbell.mock.AnswerContent;
import dev.mockbell.mock.Conduct;
import dev.mockbell.mock.MemoryStep;
import dev.mockbell.mock.MockAnswer;
import dev.mockbell.mock.MockEvent;
import dev.mockbell.mock.MockPlan;
import dev.mockbell.mock.Pause;
import dev.mockbell.mock.Trial;
import dev.mockbell.mock.Trouble;
import dev.mockbell.mock.Turns;
import dev.mockbell.mock.ValueChange;
import dev.mockbell.soap.Envelope;
import dev.mockbell.soap.SoapVersion;
import java.util.List;
import java.util.Optional;
import javafx.scene.input.KeyCode;
import org.junit.jupiter.api.Test;

class MockEditingTest extends MockDesk {
    private MockAnswer first() {
        return mocks.answers().get(0);
    }

    private void add(String item) {
        int before = Hand.on(() -> mocks.answers().size());
        hand.click("#add-answer");
        hand.clickText(item);
        hand.await("the answer", () -> mocks.answers().size() == before + 1);
    }

    private void when(String condition) {
        hand.type("#mock-when", condition);
        hand.press(KeyCode.ENTER);
        hand.await("the condition", () -> first().when().equals(condition));
    }

    private void pick(String box, String item) {
        hand.click(box);
        hand.clickText(item);
    }

    private Conduct conduct() {
        return mocks.plan().orElseThrow().conduct();
    }

    @Test
    void whatDoesNotParseIsKeptAsTypedWhileTheLastGoodVersionIsServed() {
        start();
        add("A message");
        when("$request//days = 3");
        climb(3);
        when("$request//days = 3 and");
        hand.await("the remark", () -> hand.find("#mock-remark").isPresent());
        hand.clickText("The last good version is served");
        assertThat(climb(3).status()).isEqualTo(200);
        assertThat(Hand.on(() -> mocks.host().orElseThrow().answerHits("Climb")))
                .containsExactly(2L, 0L);
        when("$request//days = 4");
        hand.await("no remark", () -> hand.find("#mock-remark").isEmpty());
    }

    @Test
    void howAnAnswerBehavesIsChosen() {
        add("A message");
        when("$request//days = 3");
        hand.click("#segment-behaviour");
        hand.type("#mock-times", "2-3");
        hand.press(KeyCode.ENTER);
        hand.await("the times", () -> first().turns().calls().toString().equals("2-3"));
        hand.type("#mock-caller", "ann");
        hand.press(KeyCode.ENTER);
        hand.await("the caller", () -> first().turns().caller().equals("ann"));
        pick("#mock-chosen", "At random, by weight");
        hand.await("chance", () -> first().turns().choice() == Turns.Chosen.AT_RANDOM);
        hand.type("#mock-weight", "5");
        hand.press(KeyCode.ENTER);
        hand.await("the weight", () -> first().turns().weight() == 5);
        pick("#mock-wait", "From … to …");
        hand.type("#mock-high", "90");
        hand.press(KeyCode.ENTER);
        hand.await("the pause", () -> first().pause().equals(new Pause.Between(50, 90)));
        pick("#mock-trouble", "Slow bytes");
        hand.await("the trouble", () -> first().trouble().kind() == Trouble.Kind.SLOW);
        hand.type("#mock-amount", "700");
        hand.press(KeyCode.ENTER);
        hand.await("the amount", () -> first().trouble().amount() == 700);
        hand.type("#mock-times", "4-2");
        hand.press(KeyCode.ENTER);
        hand.await(
                "the refusal",
                () -> desktop.desk.notices().stream().anyMatch(n -> n.text().contains("4-2")));
        MockAnswer kept =
                desktop.onDisk().mock("peaks").orElseThrow().of("Climb").get(0);
        assertThat(kept).isEqualTo(Hand.on(this::first));
    }

    @Test
    void statusFieldsAndMemoryAreGivenInTheirFaces() {
        start();
        add("A message");
        when("$request//days = 3");
        hand.click("#segment-headers");
        hand.type("#mock-status", "201");
        hand.press(KeyCode.ENTER);
        hand.await("the status", () -> first().head().status() == 201);
        hand.click("#mock-field-add");
        hand.await("the field", () -> !first().head().fields().isEmpty());
        hand.type("#mock-field-0-0", "X-Days");
        hand.type("#mock-field-0-1", "{$request//days}");
        hand.press(KeyCode.ENTER);
        hand.await("its value", () -> first().head().fields().get(0).value().equals("{$request//days}"));
        hand.click("#segment-memory");
        hand.click("#mock-remember-add");
        hand.await("the step", () -> !first().after().isEmpty());
        hand.type("#mock-remember-0-0", "$days");
        hand.type("#mock-remember-0-2", "$request//days/string()");
        hand.press(KeyCode.ENTER);
        hand.await(
                "the value",
                () -> first().after().equals(List.of(new MemoryStep.Remember("days", "", "$request//days/string()"))));
        assertThat(climb(3).status()).isEqualTo(201);
        hand.clickText("$days");
        hand.press(KeyCode.ENTER);
        hand.type("#remembered-value", "7 + 1");
        hand.click("#remembered-keep");
        hand.await(
                "the change",
                () -> mocks.host().orElseThrow().remembered(9).get(0).text().equals("8"));
        hand.click("#mock-forget-all");
        hand.await("nothing", () -> mocks.host().orElseThrow().remembered(9).isEmpty());
    }

    @Test
    void aRequestIsTriedAndChangedWithoutAClient() {
        add("Fault Closed");
        when("$request//days = 9");
        hand.click("#mock-try");
        hand.clickText("Answer 2 of Climb, status 200");
        hand.clickText("Not answer 1: $request//days is “2”, not = 9");
        hand.press(KeyCode.ESCAPE);
        hand.await("closed", () -> hand.find("#trial-words").isEmpty());
        assertThat(Hand.on(() -> mocks.host().isPresent())).isFalse();
    }

    @Test
    void aRequestThatCameIsShownMaskedAndTriedAsItCame() {
        add("A message");
        when("$headers//*:Password = 'granite-17'");
        String token = "<w:Security xmlns:w='urn:w'><w:UsernameToken><w:Username>guide</w:Username>"
                + "<w:Password>granite-17</w:Password></w:UsernameToken></w:Security>";
        MockEvent.Kept came = Trial.typed(
                Envelope.around(SoapVersion.V11, "<Climb xmlns='urn:peaks'><days>4</days></Climb>", List.of(token)));
        Hand.run(() -> TrialForm.ask(hand.find("#mock-try").orElseThrow(), mocks, Optional.of(came)));
        hand.clickText("Answer 1 of Climb, status 200");
        XmlArea shown = (XmlArea) hand.find("#trial-request").orElseThrow();
        assertThat(Hand.on(shown::text)).contains("<days>4</days>").doesNotContain("granite-17");
    }

    @Test
    void whatGotNoAnswerSaysWhichCameNearestAndOneClickMakesOne() {
        Hand.run(() -> mocks.edits()
                .plan(p -> p.withAnswers(
                        "Climb", List.of(MockAnswer.message("$request//days = 9", "nine", "<c:x xmlns:c='urn:c'/>")))));
        start();
        assertThat(climb(4).status()).isEqualTo(500);
        hand.await("the nearest", () -> hand.find("#mock-nearest").isPresent());
        assertThat(hand.text("#mock-nearest")).contains("answer 1").contains("$request//days is “4”, not = 9");
        hand.click("#mock-answer-it");
        hand.await("the answer", () -> mocks.answers().size() == 2);
        assertThat(Hand.on(() -> mocks.answers().get(1).when())).isEqualTo("$request//days = '4'");
        assertThat(climb(4).status()).isEqualTo(200);
    }

    @Test
    void anOperationIsConcealedAndExposed() {
        start();
        hand.click("#mock-conceal");
        hand.await("concealed", () -> conduct().concealed().contains("Climb"));
        assertThat(climb(1).status()).isEqualTo(500);
        hand.click("#mock-conceal");
        hand.await("exposed", () -> conduct().concealed().isEmpty());
        assertThat(climb(1).status()).isEqualTo(200);
    }

    @Test
    void settingsAreKeptAndWhatCannotBeMeantIsSaidInTheForm() {
        hand.click("#mock-settings");
        hand.type("#settings-port", "70000");
        hand.click("#settings-keep");
        hand.await("the flaw", () -> hand.text("#settings-flaw").contains("from 0 to 65535"));
        hand.type("#settings-port", "0");
        hand.type("#settings-path-Peaks11", "/mountains");
        hand.click("#settings-keep");
        hand.await("the path", () -> conduct().paths().containsValue("/mountains"));
        start();
        assertThat(Hand.on(() -> mocks.host().orElseThrow().addresses().get("Peaks11")))
                .endsWith("/mountains");
        assertThat(climb(1).status()).isEqualTo(200);
    }

    @Test
    void answersAreMovedDuplicatedAndAllOfItUndone() {
        add("A message");
        when("$hits = 1");
        add("Fault Closed");
        hand.click("#mock-up-one");
        hand.await("moved", () -> first().title().equals("Closed"));
        hand.click("#mock-duplicate");
        hand.await("two of it", () -> mocks.answers().size() == 4);
        MockPlan full = Hand.on(() -> mocks.plan().orElseThrow());
        for (int i = 0; i < 2; i++) {
            Hand.run(() -> mocks.edits().undo());
        }
        assertThat(Hand.on(() -> mocks.answers().stream().map(MockAnswer::title).toList()))
                .containsExactly("message", "Closed", "sample");
        for (int i = 0; i < 2; i++) {
            Hand.run(() -> mocks.edits().redo());
        }
        assertThat(Hand.on(() -> mocks.plan().orElseThrow())).isEqualTo(full);
    }

    @Test
    void whatIsPassedOnIsChangedAsTheFormSays() {
        add("Pass on to the live endpoint");
        hand.type("#mock-onward", "http://127.0.0.1:1/peaks");
        hand.press(KeyCode.ENTER);
        hand.click("#mock-asked-add");
        hand.type("#mock-asked-0-0", "//days");
        hand.type("#mock-asked-0-1", "9");
        hand.press(KeyCode.ENTER);
        AnswerContent.PassOn wanted = new AnswerContent.PassOn(
                "http://127.0.0.1:1/peaks", false, List.of(new ValueChange("//days", "9")), List.of());
        hand.await("the content", () -> first().content().equals(wanted));
        hand.click("#mock-else");
        hand.await("the way out", () -> first().content() instanceof AnswerContent.PassOn p && p.elseNext());
        start();
        when("true()");
        assertThat(climb(1).status()).isEqualTo(200);
    }

    @Test
    void aRowOfTheSheetSaysHowOftenItIsWritten() {
        Hand.run(
                () -> mocks.edits()
                        .plan(
                                p -> p.withAnswers(
                                        "Climb",
                                        List.of(
                                                MockAnswer.otherwise(
                                                        "permit",
                                                        "<p:ClimbResponse xmlns:p='urn:peaks'><p:permit>a</p:permit><p:fee>1.00</p:fee></p:ClimbResponse>")))));
        hand.await("the sheet", () -> hand.shows("permit"));
        Hand.run(() -> hand.stage().getScene().lookup("#mock-sheet").lookupAll(".label").stream()
                .filter(n ->
                        n instanceof javafx.scene.control.Label l && l.getText().equals("fee"))
                .findFirst()
                .orElseThrow()
                .fireEvent(new javafx.scene.input.ContextMenuEvent(
                        javafx.scene.input.ContextMenuEvent.CONTEXT_MENU_REQUESTED, 5, 5, 300, 400, false, null)));
        hand.clickText("How often…");
        hand.type("#ask-text", "if $request//days = 3");
        hand.click("#ask-text-done");
        hand.await("the instruction", () -> first().body().contains("<?if $request//days = 3?>"));
        hand.clickText("if $request//days = 3");
        start();
        assertThat(climb(3).text()).contains("fee>");
        assertThat(climb(2).text()).doesNotContain("fee>");
    }

    @Test
    void aRequestThatCameIsTriedAgain() {
        start();
        climb(4);
        hand.await("it is listed", () -> !requests().getItems().isEmpty());
        Hand.run(() -> {
            requests().getSelectionModel().select(0);
            requests().requestFocus();
        });
        hand.press(KeyCode.ENTER);
        hand.clickText("Answer 1 of Climb, status 200");
        hand.press(KeyCode.ESCAPE);
    }

    @Test
    void whatCountsFromTheNextStartOnIsSaidWithAWayToIt() {
        start();
        String before = Hand.on(() -> mocks.host().orElseThrow().base());
        hand.click("#mock-settings");
        hand.type("#settings-path-Peaks11", "/up/there");
        hand.click("#settings-keep");
        hand.clickText("Restart it");
        hand.await(
                "the mock anew",
                () -> mocks.host()
                        .filter(h -> h.addresses().get("Peaks11").endsWith("/up/there"))
                        .isPresent());
        assertThat(climb(1).status()).isEqualTo(200);
        assertThat(before).startsWith("http://127.0.0.1:");
    }

    private javafx.scene.control.ListView<?> requests() {
        return (javafx.scene.control.ListView<?>)
                hand.stage().getScene().lookup("#mock-latest").lookup(".list-view");
    }
}
