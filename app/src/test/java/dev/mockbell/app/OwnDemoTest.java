package dev.mockbell.app;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.desktop.MockBellWindow;
import dev.mockbell.desktop.Windows;
import dev.mockbell.desktop.drive.Hand;
import dev.mockbell.desktop.toolkit.Toolkit;
import dev.mockbell.desktop.view.frame.Frame;
import dev.mockbell.file.UserFolders;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.util.List;
import java.util.Map;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.TimeUnit;
import javafx.stage.Stage;
import javafx.stage.Window;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** The demo is opened from the start page, beside the user's own project. */
class OwnDemoTest {
    @TempDir
    private Path folder;

    private static List<Stage> demos() {
        return Hand.on(() -> Window.getWindows().stream()
                .filter(w -> w instanceof Stage stage && stage.getTitle().endsWith("Northfell Huts"))
                .map(Stage.class::cast)
                .toList());
    }

    @Test
    void itsServicesRunAndItsWindowIsOpenedOnce() throws Exception {
        Toolkit.start();
        Windows windows = new Windows(
                UserFolders.of(Map.of(), folder.resolve("user")), Clock.systemUTC(), Map.of(), new OwnFleet());
        try (OwnDemo demo = new OwnDemo(folder.resolve("home"), Clock.systemUTC(), Map.of())) {
            windows.onDemo(demo::open);
            CompletableFuture<MockBellWindow> opened = new CompletableFuture<>();
            windows.open(folder.resolve("mine"), opened::complete);
            MockBellWindow mine = opened.get(30, TimeUnit.SECONDS);
            Hand hand = new Hand(mine.stage());
            hand.click("#open-demo");
            // its services take their time where other programs are busy, too
            long until = System.nanoTime() + TimeUnit.SECONDS.toNanos(120);
            while (demos().isEmpty() && System.nanoTime() < until) {
                Thread.sleep(100);
            }
            assertThat(demos()).hasSize(1);
            Stage demos = demos().get(0);
            Frame frame = (Frame) demos.getScene().getRoot();
            Hand other = new Hand(demos);
            other.await("its mock", () -> frame.models().mocks().running() == 1);
            assertThat(frame.models().desk().project().contracts()).hasSize(2);
            assertThat(folder.resolve("home/northfell/mockbell.yaml")).exists();
            hand.click("#open-demo");
            assertThat(demos()).hasSize(1);
            Hand.run(demos::hide);
            Hand.run(() -> mine.stage().hide());
            windows.closed().get(30, TimeUnit.SECONDS);
        }
        assertThat(Files.readString(folder.resolve("home/northfell/mockbell.yaml")))
                .as("it is the user's own from then on")
                .contains("Local stand-in");
    }
}
