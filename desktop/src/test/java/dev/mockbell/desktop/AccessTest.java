package dev.mockbell.desktop;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.desktop.drive.Hand;
import dev.mockbell.desktop.model.Appearance.Theme;
import dev.mockbell.desktop.model.Station;
import java.util.Locale;
import java.util.Set;
import java.util.TreeSet;
import javafx.scene.input.KeyCode;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Every screen in both themes: what the keyboard reaches has a name and a role, and what is written can be read. */
class AccessTest extends OnDesktop {
    private final Set<String> flaws = new TreeSet<>();

    private void look(String where) {
        desktop.settled();
        Hand.run(() -> {
            desktop.window.frame().applyCss();
            desktop.window.frame().layout();
        });
        flaws.addAll(Access.flaws(desktop.window.stage().getScene(), where));
    }

    private void go(Station station) {
        hand.press(KeyCode.ALT, KeyCode.valueOf("DIGIT" + station.digit()));
        hand.await(station.title(), () -> desktop.desk.stationProperty().get() == station);
    }

    private void found(String action) {
        hand.press(KeyCode.CONTROL, KeyCode.K);
        hand.type("#finder-field", action);
        hand.press(KeyCode.ENTER);
        desktop.settled();
    }

    @ParameterizedTest
    @ValueSource(strings = {"light", "dark"})
    void everyScreenCanBeReadAndHeard(String theme) throws Exception {
        if (theme.equals("dark")) {
            Hand.run(() -> desktop.desk.appearance().choose(Theme.DARK));
        }
        look("start");
        desktop.addContract();
        desktop.addFlawedContract();
        look("contract");
        for (String face : new String[] {"takes", "gives", "faults", "source", "on-the-wire"}) {
            hand.find("#segment-" + face).ifPresent(n -> {
                hand.click("#segment-" + face);
                look("contract " + face);
            });
        }
        go(Station.CALL);
        hand.type("#value-days", "12");
        look("call");
        send();
        look("call, answered");
        for (String face : new String[] {"xml", "headers", "security", "parts", "wire", "table", "sheet"}) {
            hand.find("#segment-" + face).ifPresent(n -> {
                hand.click("#segment-" + face);
                look("call " + face);
            });
        }
        Hand.run(() -> {
            desktop.models.check().add("Whole stay");
            desktop.models
                    .check()
                    .addStep(desktop.models.call().currentProperty().get());
        });
        go(Station.CHECK);
        hand.press(KeyCode.CONTROL, KeyCode.ENTER);
        hand.await(
                "a run",
                () -> desktop.models.check().runs().size() == 1
                        && !desktop.models.check().runningProperty().get());
        look("check");
        go(Station.MOCK);
        desktop.startMock();
        look("mock");
        go(Station.TRAFFIC);
        hand.await("the exchange", () -> !desktop.models.traffic().latest(1).isEmpty());
        look("traffic");
        Hand.run(() -> desktop.models.load().add(desktop.desk.project().suites().get(0)));
        go(Station.LOAD);
        look("load");
        hand.press(KeyCode.CONTROL, KeyCode.K);
        look("finder");
        hand.press(KeyCode.ESCAPE);
        hand.press(KeyCode.F1);
        hand.await("the page", () -> desktop.models.guide().pageProperty().get() != null);
        look("help");
        hand.press(KeyCode.ESCAPE);
        // what lies over the window, by what the finder calls it
        for (String action : new String[] {
            "Variables, secrets and functions",
            "Name and describe the case",
            "Boundary cases",
            "Add a check",
            "Environments",
            "Copy the request as a curl command",
            "Forward proxy",
            "Settings… in Mock"
        }) {
            go(Station.CALL);
            found(action);
            look(action.toLowerCase(Locale.ROOT));
            hand.press(KeyCode.ESCAPE);
        }
        go(Station.CONTRACT);
        found("Compare Peaks with its source");
        hand.await("no change", () -> desktop.models.changes().shownProperty().get() != null);
        look("changes");
        hand.press(KeyCode.ESCAPE);
        Hand.run(() -> desktop.models.written().begin("Lost and found"));
        hand.await("the table", () -> hand.find("#written").isPresent());
        look("written");
        assertThat(flaws).as("%s flaws", flaws.size()).isEmpty();
    }
}
