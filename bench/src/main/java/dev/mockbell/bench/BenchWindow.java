package dev.mockbell.bench;

import dev.mockbell.desktop.MockBellWindow;
import dev.mockbell.desktop.WindowPlace;
import dev.mockbell.desktop.drive.Hand;
import dev.mockbell.desktop.model.Desk;
import dev.mockbell.desktop.toolkit.Toolkit;
import dev.mockbell.file.UserFolders;
import java.nio.file.Path;
import java.time.Clock;
import java.util.Map;
import javafx.application.Platform;
import javafx.stage.Stage;

/** The window of a project, without a monitor. */
final class BenchWindow {
    private static final int SETTLING_MILLIS = 8_000;

    private BenchWindow() {}

    static MockBellWindow open(Path folder) {
        Toolkit.offscreen();
        Toolkit.start();
        Desk desk = Hand.on(() -> Desk.open(
                folder,
                Platform::runLater,
                Clock.systemUTC(),
                UserFolders.of(Map.of(), folder.resolveSibling("home"))));
        return Hand.on(() -> {
            MockBellWindow window = MockBellWindow.open(desk, new Stage(), WindowPlace.NONE);
            window.practise();
            return window;
        });
    }

    /** Waits until what a window does by itself after its start is over: it brings calling and showing to speed. */
    static void settle() {
        try {
            Thread.sleep(SETTLING_MILLIS);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
    }
}
