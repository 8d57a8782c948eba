package dev.mockbell.desktop;

import dev.mockbell.desktop.drive.Hand;
import java.io.IOException;
import java.nio.file.Path;
import javafx.scene.input.KeyCode;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.io.TempDir;

/** Tests that work a window of their own over an empty project. */
public abstract class OnDesktop {
    @TempDir
    protected Path folder;

    protected Desktops desktop;
    protected Hand hand;

    @BeforeEach
    final void openWindow() throws IOException {
        desktop = new Desktops(folder);
        hand = desktop.hand;
    }

    @AfterEach
    final void closeWindow() {
        desktop.close();
    }

    /** Sends the request of the station Call and waits for what comes back. */
    protected final void send() {
        var before = Hand.on(() -> desktop.models.call().calledProperty().get());
        hand.press(KeyCode.CONTROL, KeyCode.ENTER);
        hand.await("an answer", () -> desktop.models.call().calledProperty().get() != before);
    }
}
