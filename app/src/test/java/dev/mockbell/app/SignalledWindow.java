package dev.mockbell.app;

import dev.mockbell.desktop.drive.Offscreen;
import dev.mockbell.desktop.model.Line;
import dev.mockbell.desktop.model.MessageModel;
import dev.mockbell.sheet.SheetRow;
import java.nio.file.Path;

/** A window in which something is typed, in a process that a test ends. */
final class SignalledWindow {
    private SignalledWindow() {}

    public static void main(String[] args) throws InterruptedException {
        Offscreen.use();
        DesktopCommand.show(Path.of(args[0]), java.util.Map.of(), window -> {
            MessageModel request = window.models().call().request();
            request.lines().stream()
                    .map(Line::row)
                    .filter(SheetRow::editable)
                    .findFirst()
                    .ifPresent(r -> request.type(r, args[1]));
            System.out.println("TYPED");
        });
    }
}
