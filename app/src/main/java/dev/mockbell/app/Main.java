package dev.mockbell.app;

import dev.mockbell.cli.Console;
import dev.mockbell.cli.MockBellCommand;
import java.util.logging.LogManager;

/** Starts Mock Bell. Not itself a window class, so that a command never loads the window's libraries. */
public final class Main {
    private Main() {}

    /** Without arguments the window opens; otherwise the command is carried out. */
    public static void main(String[] args) {
        // libraries that log by java.util.logging would write to the user's terminal
        LogManager.getLogManager().reset();
        Console console = Console.ofProcess();
        String[] given = args.length == 0 ? new String[] {"desktop"} : args;
        int code = MockBellCommand.commandLine(
                        console, new DesktopCommand(console), new DemoCommand(console), new ShotsCommand(console))
                .execute(given);
        System.exit(code);
    }
}
