package dev.mockbell.desktop.view.frame;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.check.Check;
import dev.mockbell.desktop.OnDesktop;
import dev.mockbell.desktop.drive.Hand;
import dev.mockbell.load.LoadShape;
import dev.mockbell.mock.AnswerContent;
import dev.mockbell.mock.MockAnswer;
import dev.mockbell.mock.Pause;
import java.io.IOException;
import java.net.InetAddress;
import java.net.ServerSocket;
import java.util.List;
import javafx.scene.control.TextField;
import javafx.scene.input.KeyCode;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

/** What looks like a field is one: what is typed into it counts. */
class FieldsTest extends OnDesktop {

    @BeforeEach
    void open() {
        desktop.addContract();
    }

    private List<Check> checks() {
        return desktop.models.call().currentProperty().get().checks();
    }

    @Test
    void theEndpointIsTypedOverAndAnEmptyOneGoesByTheContractAgain() throws IOException {
        hand.press(KeyCode.ALT, KeyCode.DIGIT2);
        hand.type("#value-days", "1");
        String contracts = hand.text("#endpoint");
        assertThat(contracts).startsWith(desktop.service.base());
        int silent;
        try (ServerSocket once = new ServerSocket(0, 1, InetAddress.getLoopbackAddress())) {
            silent = once.getLocalPort();
        }
        hand.type("#endpoint", "http://127.0.0.1:" + silent + "/nobody");
        hand.press(KeyCode.ENTER);
        hand.await(
                "the environment's address",
                () -> desktop.desk.project().current().endpoints().values().stream()
                        .anyMatch(e -> e.endsWith(silent + "/nobody")));
        send();
        hand.await("what to do next", () -> desktop.window.stage().getScene().lookup("#change-endpoint") != null);
        assertThat(Hand.on(() -> desktop.models.call().exchange().orElseThrow().note()))
                .contains("127.0.0.1:" + silent);
        hand.click("#change-endpoint");
        hand.await(
                "the keyboard at the endpoint",
                () -> desktop.window.stage().getScene().lookup("#endpoint").isFocused());
        hand.type("#endpoint", "no address at all");
        hand.press(KeyCode.ENTER);
        hand.await("the refusal", () -> !desktop.desk.notices().isEmpty());
        assertThat(hand.text("#endpoint")).as("what was there stays").endsWith(silent + "/nobody");
        hand.type("#endpoint", "");
        hand.press(KeyCode.ENTER);
        hand.await(
                "no address of the environment's",
                () -> desktop.desk.project().current().endpoints().isEmpty());
        hand.press(KeyCode.ALT, KeyCode.DIGIT2);
        assertThat(Hand.on(() -> desktop.models.call().endpoint().address())).isEqualTo(contracts);
        send();
        assertThat(Hand.on(() -> desktop.models.call().exchange().orElseThrow().status()))
                .isEqualTo(200);
    }

    @Test
    void escTakesBackWhatWasTypedAsAnEndpoint() {
        hand.press(KeyCode.ALT, KeyCode.DIGIT2);
        String before = hand.text("#endpoint");
        hand.type("#endpoint", "http://elsewhere.example/");
        hand.press(KeyCode.ESCAPE);
        hand.await(
                "the address as it was",
                () -> ((TextField) desktop.window.stage().getScene().lookup("#endpoint"))
                        .getText()
                        .equals(before));
        hand.press(KeyCode.ALT, KeyCode.DIGIT1);
        assertThat(Hand.on(() -> desktop.desk.project().current().endpoints())).isEmpty();
    }

    @Test
    void checksAreEditedWhereTheyStand() {
        hand.press(KeyCode.ALT, KeyCode.DIGIT2);
        hand.type("#value-days", "2");
        send();
        Hand.run(() -> {
            desktop.models.call().checks().add(new Check.Within(5_000));
            desktop.models.call().checks().add(new Check.Value("//*:fee", "39"));
        });
        hand.await("the failing one", () -> "3 of 4".equals(text("#checks-passed")));
        List<Check> before = Hand.on(this::checks);
        // the last edit button belongs to the check added last
        hand.clickText("Edit");
        hand.type("#ask-name", "40");
        hand.press(KeyCode.ENTER);
        hand.await("all passed", () -> "4 of 4".equals(text("#checks-passed")));
        List<Check> after = Hand.on(this::checks);
        assertThat(after).hasSameSizeAs(before).contains(new Check.Value("//*:fee", "40"));
        assertThat(after.subList(0, 3)).as("the others and the order stay").isEqualTo(before.subList(0, 3));
    }

    private String text(String selector) {
        var node = desktop.window.stage().getScene().lookup(selector);
        return node instanceof javafx.scene.control.Labeled l ? l.getText() : "";
    }

    @Test
    void anAnswersDelayAndReasonAreKeptOnLeavingTheField() {
        hand.press(KeyCode.ALT, KeyCode.DIGIT4);
        hand.await("the sample", () -> !desktop.models.mocks().answers().isEmpty());
        hand.click("#add-answer");
        hand.clickText("Fault Closed");
        hand.await("the fault", () -> desktop.models.mocks().answers().size() == 2);
        hand.click("#segment-behaviour");
        hand.type("#mock-reason", "Closed for the season");
        hand.type("#mock-delay", "250");
        hand.type("#mock-when", "$hits = 1");
        hand.press(KeyCode.ENTER);
        hand.await("all three", () -> {
            MockAnswer a = desktop.models.mocks().answers().get(0);
            return a.when().equals("$hits = 1")
                    && a.pause().equals(new Pause.Fixed(250))
                    && a.content() instanceof AnswerContent.Fault f
                    && f.reason().equals("Closed for the season");
        });
        hand.type("#mock-delay", "a while");
        hand.press(KeyCode.ENTER);
        hand.await(
                "the refusal",
                () -> desktop.desk.notices().stream().anyMatch(n -> n.text().contains("a while")));
        assertThat(Hand.on(() -> desktop.models.mocks().answers().get(0).pause()))
                .isEqualTo(new Pause.Fixed(250));
    }

    @Test
    void aLoadPlansShapeIsChosenAndItsFieldsCount() {
        hand.press(KeyCode.ALT, KeyCode.DIGIT2);
        Hand.run(() -> {
            desktop.models.check().add("Stay");
            desktop.models
                    .check()
                    .addStep(desktop.models.call().currentProperty().get());
            desktop.models.load().add(desktop.desk.project().suites().get(0));
        });
        hand.press(KeyCode.ALT, KeyCode.DIGIT6);
        assertThat(Hand.on(() -> desktop.models.load().planProperty().get().shape()))
                .isEqualTo(LoadShape.arrivals(10, 30));
        hand.click("#segment-users");
        hand.type("#load-users", "7");
        // the click into the next field keeps what was typed in the one before
        hand.click("#load-seconds");
        hand.await(
                "seven users",
                () -> desktop.models.load().planProperty().get().shape().equals(LoadShape.users(7, 30)));
        hand.type("#load-users", "NaN");
        hand.press(KeyCode.ENTER);
        hand.await(
                "the refusal",
                () -> desktop.desk.notices().stream().anyMatch(n -> n.text().contains("NaN")));
        assertThat(Hand.on(() -> desktop.models.load().planProperty().get().shape()))
                .isEqualTo(LoadShape.users(7, 30));
    }

    @Test
    void theProjectsNameOpensTheProjectsThereAre() {
        hand.click("#project");
        hand.await(
                "the menu",
                () -> javafx.stage.Window.getWindows().stream()
                        .anyMatch(w -> w.isShowing()
                                && w instanceof javafx.scene.control.ContextMenu m
                                && "project-menu".equals(m.getId())));
        List<String> items = Hand.on(() -> javafx.stage.Window.getWindows().stream()
                .filter(w -> w instanceof javafx.scene.control.ContextMenu)
                .flatMap(w -> ((javafx.scene.control.ContextMenu) w).getItems().stream())
                .map(i -> String.valueOf(i.getText()))
                .toList());
        assertThat(items).anyMatch(t -> t.startsWith("Open a project")).anyMatch(t -> t.startsWith("New project"));
        assertThat(items).as("none was open before").anyMatch(t -> t.startsWith("Projects that were open before"));
        hand.press(KeyCode.ESCAPE);
    }

    @Test
    void whatIsTypedIsKeptWhenAnotherStationIsGoneTo() {
        hand.press(KeyCode.ALT, KeyCode.DIGIT4);
        hand.await("the sample", () -> !desktop.models.mocks().answers().isEmpty());
        hand.click("#segment-behaviour");
        hand.type("#mock-delay", "75");
        hand.press(KeyCode.ALT, KeyCode.DIGIT1);
        hand.await(
                "the delay",
                () -> desktop.models.mocks().answers().get(0).pause().equals(new Pause.Fixed(75)));
        assertThat(Hand.on(() -> desktop.window.stage().getScene().getFocusOwner()))
                .as("the keyboard is at nothing in particular")
                .isSameAs(desktop.window.frame());
    }
}
