package dev.mockbell.desktop;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.desktop.drive.Hand;
import dev.mockbell.desktop.model.Desk;
import dev.mockbell.desktop.model.Station;
import dev.mockbell.file.UserFolders;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.util.List;
import java.util.Map;
import javafx.application.Platform;
import javafx.stage.Stage;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** A project is found again where it was left. */
class LeftOffTest {
    @TempDir
    private Path folder;

    private MockBellWindow again(Path project) {
        Desk desk = Hand.on(() -> Desk.open(
                project, Platform::runLater, Clock.systemUTC(), UserFolders.of(Map.of(), folder.resolve("home"))));
        return Hand.on(() -> MockBellWindow.open(desk, new Stage(), WindowPlace.NONE));
    }

    private static void leave(MockBellWindow window) {
        Hand.run(() -> window.stage().hide());
        window.closed().join();
    }

    @Test
    void stationOperationCaseAndSuiteAreThoseThatWereLeft() throws IOException {
        Desktops desktop = new Desktops(folder);
        desktop.addContract();
        Hand.run(() -> {
            desktop.models.call().add("Second", true);
            desktop.models.check().add("First suite");
            desktop.models.check().add("Other suite");
            desktop.desk.go(Station.LOAD);
        });
        desktop.close();
        MockBellWindow window = again(desktop.project);
        assertThat(Hand.on(() -> window.models().desk().stationProperty().get()))
                .isEqualTo(Station.LOAD);
        assertThat(Hand.on(() -> window.models().call().currentProperty().get().title()))
                .isEqualTo("Second");
        assertThat(Hand.on(() -> window.models().check().suiteProperty().get().title()))
                .isEqualTo("Other suite");
        leave(window);
        // what is no more is passed over
        Path kept = desktop.project.resolve(".mockbell/left");
        assertThat(kept).exists();
        for (String text :
                List.of("station=ELSEWHERE\ncontract=gone\nsuite=\\u00", "\0\0", "contract=peaks\ncase=none")) {
            Files.writeString(kept, text);
            MockBellWindow other = again(desktop.project);
            assertThat(Hand.on(() -> other.models().desk().stationProperty().get()))
                    .isEqualTo(Station.CONTRACT);
            assertThat(Hand.on(() -> other.models().call().currentProperty().get()))
                    .isNotNull();
            leave(other);
        }
    }

    @Test
    void theFacesThatWereLookedAtAndTheColumnInUseAreThoseThatWereLeft() throws IOException {
        Desktops desktop = new Desktops(folder);
        desktop.addContract();
        Hand.run(() -> desktop.desk.go(Station.CALL));
        desktop.hand.clickText("Headers");
        desktop.hand.click("#response-faces #segment-wire");
        desktop.close();
        MockBellWindow window = again(desktop.project);
        Hand hand = new Hand(window.stage());
        hand.await("the headers", () -> hand.shows("Delivery"));
        assertThat(window.models().desk().views())
                .containsEntry("call.request", "HEADERS")
                .containsEntry("call.response", "WIRE");
        leave(window);
    }
}
