package dev.mockbell.app;

import dev.mockbell.desktop.model.Line;
import dev.mockbell.desktop.model.MessageModel;
import dev.mockbell.desktop.toolkit.Toolkit;
import dev.mockbell.file.UserFolders;
import dev.mockbell.sheet.SheetRow;
import java.nio.file.Path;
import java.util.Map;

/** A window in which something is typed, in a process that a test ends. */
final class SignalledWindow {
    private SignalledWindow() {}

    public static void main(String[] args) throws InterruptedException {
        Toolkit.offscreen();
        DesktopCommand.show(Path.of(args[0]), UserFolders.ofProcess(), Map.of(), window -> {
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
