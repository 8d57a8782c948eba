package dev.mockbell.desktop.view.call;

import dev.mockbell.desktop.Desktops;
import dev.mockbell.desktop.drive.Hand;
import dev.mockbell.desktop.model.CallModel;
import java.io.IOException;
import java.nio.file.Path;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.io.TempDir;

/** For tests that work the Call station: each has a window of its own there. */
abstract class OnCallDesk {
    @TempDir
    Path folder;

    CallDesk desk;
    Desktops desktop;
    Hand hand;
    CallModel call;

    @BeforeEach
    void open() throws IOException {
        desk = new CallDesk(folder);
        desktop = desk.desktop;
        hand = desk.hand;
        call = desk.call;
    }

    @AfterEach
    void close() {
        desk.close();
    }
}
