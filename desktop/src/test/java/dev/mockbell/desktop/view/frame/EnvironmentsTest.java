package dev.mockbell.desktop.view.frame;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.desktop.Desktops;
import dev.mockbell.desktop.drive.Hand;
import dev.mockbell.expression.Variable;
import dev.mockbell.project.Environment;
import dev.mockbell.project.ProjectStore;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import javafx.scene.input.KeyCode;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** The table of environments. */
class EnvironmentsTest {
    @TempDir
    private Path folder;

    private Desktops desktop;
    private Hand hand;

    @BeforeEach
    void open() throws Exception {
        desktop = new Desktops(folder);
        hand = desktop.hand;
        desktop.addContract();
        Hand.run(() -> desktop.desk.change(p -> p.with(p.settings()
                .withVariables(List.of(new Variable("days", "2", false), new Variable("key", "", true)))
                .withEnvironments(
                        List.of(
                                new Environment("Local", Map.of(), List.of()),
                                new Environment(
                                        "Test",
                                        Map.of("peaks/Peaks11", "http://127.0.0.1:1/test"),
                                        List.of(new Variable("days", "5", false)))),
                        "Local"))));
    }

    @AfterEach
    void close() {
        desktop.close();
    }

    private void table() {
        hand.click("#environment");
        hand.clickText("Environments…");
        hand.await("the table", () -> hand.find("#environments-table").isPresent());
    }

    private Environment now(String name) {
        return desktop.desk.project().environments().stream()
                .filter(e -> e.name().equals(name))
                .findFirst()
                .orElseThrow();
    }

    @Test
    void whatEachSaysStandsBesideTheOthersAndIsChanged() {
        table();
        hand.await("the secret", () -> hand.shows("no value here"));
        shoot("environments");
        assertThat(hand.text("#environment-1-days")).isEqualTo("5");
        hand.type("#environment-0-days", "7");
        hand.press(KeyCode.ENTER);
        hand.await("the value", () -> now("Local").variables().equals(List.of(new Variable("days", "7", false))));
        hand.type("#environment-1-days", "");
        hand.press(KeyCode.ENTER);
        hand.await("nothing said", () -> now("Test").variables().isEmpty());
        hand.type("#environment-0-address-peaks-Peaks12", "http://127.0.0.1:2/local");
        hand.click("#environment-0-days");
        hand.await("the address", () -> now("Local").endpoints().containsValue("http://127.0.0.1:2/local"));
        desktop.settled();
        assertThat(new ProjectStore().open(desktop.project).settings().environments())
                .isEqualTo(desktop.desk.project().environments());
    }

    @Test
    void theTableFollowsWhenOneComesBackWhileItIsOpen() {
        table();
        hand.click("#environment-menu-Local");
        hand.clickText("Delete");
        hand.await("one column", () -> hand.find("#environment-menu-Local").isEmpty());
        Hand.run(() -> desktop.window.frame().requestFocus());
        hand.press(KeyCode.CONTROL, KeyCode.Z);
        hand.await("both columns", () -> hand.find("#environment-menu-Local").isPresent());
        hand.type("#environment-0-days", "7");
        hand.press(KeyCode.ENTER);
        hand.await("the value", () -> now("Local").variables().equals(List.of(new Variable("days", "7", false))));
        assertThat(now("Test").variables()).as("and nothing in its neighbour").hasSize(1);
    }

    @Test
    void oneIsCopiedMarkedLiveAndDeletedAndComesBack() {
        table();
        hand.click("#environment-menu-Test");
        hand.clickText("Copy…");
        hand.type("#environment-name", "Local");
        hand.click("#environment-keep");
        hand.await("the flaw", () -> hand.text("#environment-flaw").contains("“Local” already"));
        hand.type("#environment-name", "Live");
        hand.click("#environment-keep");
        hand.await("it", () -> desktop.desk.project().environments().size() == 3);
        hand.await("the table again", () -> hand.find("#environment-menu-Live").isPresent());
        hand.click("#environment-menu-Live");
        hand.clickText("It is live: warn of it");
        hand.await("live", () -> now("Live").live());
        hand.press(KeyCode.ESCAPE);
        hand.await("the warning", () -> hand.shows("◆ live: Live ▾"));
        shoot("environment-live");
        table();
        hand.click("#environment-menu-Live");
        hand.clickText("Delete");
        hand.await("gone", () -> desktop.desk.project().environments().size() == 2);
        hand.press(KeyCode.ESCAPE);
        hand.clickText("Bring it back");
        hand.await("back", () -> desktop.desk.project().environments().size() == 3);
        assertThat(now("Live").variables()).containsExactly(new Variable("days", "5", false));
        assertThat(desktop.desk.project().environment()).isEqualTo("Live");
    }

    @Test
    void aValueIsAddedAndAnEnvironmentRenamed() {
        table();
        hand.click("#environment-value");
        hand.type("#environment-name", "1 2");
        hand.click("#environment-keep");
        hand.await("the flaw", () -> hand.text("#environment-flaw").contains("no name of a variable"));
        hand.type("#environment-name", "season");
        hand.click("#environment-keep");
        hand.await("its row", () -> hand.find("#environment-1-season").isPresent());
        hand.type("#environment-1-season", "winter");
        hand.press(KeyCode.ENTER);
        hand.await("the value", () -> now("Test").variables().contains(new Variable("season", "winter", false)));
        hand.click("#environment-menu-Test");
        hand.clickText("Rename…");
        hand.type("#environment-name", "Trial");
        hand.click("#environment-keep");
        hand.await(
                "renamed",
                () -> desktop.desk.project().environments().stream()
                        .anyMatch(e -> e.name().equals("Trial")));
    }

    private void shoot(String name) {
        String out = System.getProperty("mockbell.looks", "");
        if (!out.isEmpty()) {
            hand.shoot(Path.of(out, name + ".png"));
        }
    }
}
