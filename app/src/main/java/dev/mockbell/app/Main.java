package dev.mockbell.app;

import dev.mockbell.cli.Console;
import dev.mockbell.cli.MockBellCommand;
import dev.mockbell.file.UserFolders;
import java.nio.file.Path;
import java.util.List;
import org.slf4j.LoggerFactory;

/** Starts Mock Bell. Not itself a window class, so that a command never loads the window's libraries. */
public final class Main {
    private static final String JDK_PARSERS = "com.sun.org.apache.xerces.internal.jaxp.";

    private Main() {}

    /** Without arguments the window opens; otherwise the command is carried out. */
    public static void main(String[] args) {
        String[] given = args.length == 0 ? new String[] {"desktop"} : args;
        prepare();
        boolean window = given[0].equals("desktop");
        beside(window);
        if (window) {
            DesktopCommand.toolkit(UserFolders.ofProcess());
        }
        Console console = Console.ofProcess();
        System.exit(run(console, given));
    }

    /**
     * Begins, beside the rest of a start, what it will wait for: whoever asks for a class or file that is not there, as
     * libraries do of what they could use, has all jars of the class path opened; the log takes as long to be set up.
     */
    private static void beside(boolean logs) {
        Thread preparing = new Thread(
                () -> {
                    Main.class.getClassLoader().getResource("META-INF/none");
                    if (logs) {
                        LoggerFactory.getLogger(Main.class);
                    }
                },
                "preparing");
        preparing.setDaemon(true);
        preparing.start();
    }

    /** What libraries are told before any of them is used. */
    static void prepare() {
        // libraries that log by java.util.logging would write to the user's terminal. Told by a name, since asking its
        // manager opens every jar of the class path
        System.setProperty("java.util.logging.config.class", NoHandlers.class.getName());
        // the argument parser seeks a library of colours that is not there
        System.setProperty("org.fusesource.jansi.Ansi.disable", "true");
        // two threads that log first at the same time are told of on the terminal; what they logged is in the file all
        // the same
        System.setProperty("slf4j.internal.verbosity", "ERROR");
        // the SOAP stack of the stand-in takes whatever parser is first on the class path and complains of it; the
        // JDK's own serves it well. The core makes its parsers by class and is not touched by this
        System.setProperty("javax.xml.parsers.SAXParserFactory", JDK_PARSERS + "SAXParserFactoryImpl");
        System.setProperty("javax.xml.parsers.DocumentBuilderFactory", JDK_PARSERS + "DocumentBuilderFactoryImpl");
        // without it the stand-in's server waits 40 ms for an acknowledgement between the head and body of an answer
        System.setProperty("sun.net.httpserver.nodelay", "true");
        UserFolders user = UserFolders.ofProcess();
        given("mockbell.log", user.state().resolve("mockbell.log"));
        // the window's libraries unpack themselves into the home folder otherwise
        given("javafx.cachedir", user.cache().resolve("openjfx"));
    }

    private static void given(String property, Path usual) {
        if (System.getProperty(property) == null) {
            System.setProperty(property, usual.toString());
        }
    }

    /** Carries a command out and gives its exit code. */
    static int run(Console console, String... given) {
        try {
            return MockBellCommand.commandLine(
                            console,
                            List.of(given),
                            new OwnFleet()::fleet,
                            new DesktopCommand(console),
                            new DemoCommand(console),
                            new ShotsCommand(console))
                    .execute(given);
        } catch (OutOfMemoryError e) {
            console.err().println("There is not enough memory for this. Give more by MOCKBELL_OPTS=-Xmx4g.");
        } catch (StackOverflowError e) {
            console.err()
                    .println(
                            "The input is nested too deep to be worked on. Lower --most-nesting to have it told where.");
        }
        return 2;
    }
}
