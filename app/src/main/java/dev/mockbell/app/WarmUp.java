package dev.mockbell.app;

import dev.mockbell.cli.Console;
import dev.mockbell.demo.DemoProject;
import dev.mockbell.demo.StandIn;
import dev.mockbell.desktop.MockBellWindow;
import dev.mockbell.desktop.drive.Hand;
import dev.mockbell.desktop.model.Station;
import dev.mockbell.desktop.toolkit.Toolkit;
import dev.mockbell.file.UserFolders;
import dev.mockbell.wire.HttpCaller;
import dev.mockbell.wire.HttpFetcher;
import dev.mockbell.xml.XmlLimits;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.util.List;
import java.util.Map;
import java.util.jar.JarFile;
import javafx.scene.input.KeyCode;
import javafx.stage.Stage;

/**
 * Opens the window once offscreen on the demo's project and goes through it, and calls some commands, so that the JVM can
 * archive the classes that a start needs: in the ways that they are really begun, since what differs is not in the archive.
 */
public final class WarmUp {
    /** Parts of the toolkit that are there with a screen alone, of every platform. */
    private static final List<String> ON_A_SCREEN =
            List.of("com/sun/glass/ui/gtk/", "com/sun/glass/ui/win/", "com/sun/glass/ui/mac/", "com/sun/prism/es2/");

    private WarmUp() {}

    /** Takes no arguments. */
    public static void main(String[] args) throws IOException {
        Path folder = Files.createTempDirectory("mockbell-warm-up-");
        System.setProperty("mockbell.log", folder.resolve("log").toString());
        System.setProperty("javafx.cachedir", folder.resolve("openjfx").toString());
        Main.prepare();
        try {
            window(folder);
            onAScreen();
        } catch (RuntimeException | LinkageError | IOException | InterruptedException none) {
            // a machine for commands alone has not what a window needs
            System.err.println(none.getMessage());
        }
        commands(folder);
        System.exit(0);
    }

    private static void window(Path folder) throws IOException, InterruptedException {
        Toolkit.offscreen();
        Clock clock = Clock.systemUTC();
        Path project = folder.resolve("northfell");
        try (HttpCaller http = new HttpCaller();
                StandIn standIn = StandIn.start(0, clock)) {
            new DemoProject(standIn, HttpFetcher.forEverything(http, XmlLimits.CONTRACT.bytes()), clock)
                    .create(project, 0);
            UserFolders user = UserFolders.of(Map.of(), folder.resolve("home"));
            // a window is left with something open, and found again with it
            for (int i = 0; i < 2; i++) {
                DesktopCommand.show(project, user, DemoCommand.withSecrets(), window -> gone(() -> walk(window)));
            }
        }
    }

    private static void gone(Runnable walk) {
        Thread walking = new Thread(walk, "walking");
        walking.setDaemon(true);
        walking.start();
    }

    private static void walk(MockBellWindow window) {
        Stage stage = window.stage();
        try {
            Hand hand = new Hand(stage);
            for (Station station : Station.values()) {
                Hand.run(() -> window.models().desk().go(station));
                hand.picture();
            }
            Hand.run(() -> window.models()
                    .desk()
                    .placeProperty()
                    .set(window.models()
                            .desk()
                            .place("hut-booking", "ReserveBunks")
                            .orElseThrow()));
            hand.press(KeyCode.ALT, KeyCode.DIGIT2);
            hand.click("#case-two-nights");
            hand.click("#send");
            hand.await(
                    "an answer", () -> window.models().call().calledProperty().get() != null);
            hand.picture();
            for (String face : List.of("xml", "table", "wire", "sheet")) {
                hand.click("#response-faces #segment-" + face);
                hand.picture();
            }
            Hand.run(() -> window.models().desk().go(Station.CHECK));
            hand.click("#run-suite");
            hand.await("a run", () -> !window.models().check().runs().isEmpty());
            hand.picture();
        } finally {
            Hand.run(stage::hide);
        }
    }

    /** Loads, without more, what the toolkit takes in place of what it renders into memory with. */
    private static void onAScreen() throws IOException {
        String jar = javafx.stage.Screen.class
                .getProtectionDomain()
                .getCodeSource()
                .getLocation()
                .getPath();
        try (JarFile classes = new JarFile(jar)) {
            classes.stream()
                    .map(entry -> entry.getName())
                    .filter(name ->
                            name.endsWith(".class") && ON_A_SCREEN.stream().anyMatch(name::startsWith))
                    .forEach(name -> {
                        try {
                            Class.forName(
                                    name.substring(0, name.length() - ".class".length())
                                            .replace('/', '.'),
                                    false,
                                    WarmUp.class.getClassLoader());
                        } catch (ClassNotFoundException | LinkageError none) {
                            // it is of another platform, and the archive does without it
                            System.err.println(none.getMessage());
                        }
                    });
        }
    }

    /** The commands that are called most from scripts, on the contract of the demo. */
    private static void commands(Path folder) throws IOException {
        for (String name : List.of("hut-booking.wsdl", "hut-booking.xsd")) {
            try (InputStream in = DemoProject.class.getResourceAsStream(name)) {
                if (in != null) {
                    Files.write(folder.resolve(name), in.readAllBytes());
                }
            }
        }
        Console console = Console.ofProcess();
        String wsdl = folder.resolve("hut-booking.wsdl").toString();
        Main.run(console, "contract", "show", "--help");
        Main.run(console, "contract", "show", wsdl);
        Main.run(console, "contract", "show", "--json", wsdl);
        Main.run(
                console,
                "contract",
                "sample",
                wsdl,
                "--out",
                folder.resolve("samples").toString());
        Main.run(console, "contract", "show", folder.resolve("none").toString());
    }
}
