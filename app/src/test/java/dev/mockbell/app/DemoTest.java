package dev.mockbell.app;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.TimeUnit;
import java.util.stream.Stream;
import javax.imageio.ImageIO;
import javax.xml.XMLConstants;
import javax.xml.transform.stream.StreamSource;
import javax.xml.validation.SchemaFactory;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** The program as a process of its own. */
class DemoTest {
    @TempDir
    Path folder;

    private record Ended(int code, String out, String err) {}

    private Process start(String... args) throws IOException {
        return start(Main.class, args);
    }

    private Process start(Class<?> main, String... args) throws IOException {
        List<String> command = new ArrayList<>();
        if (System.getProperty("os.name").equals("Linux")) {
            // a run in the background hands on these two as ignored, which the program would honour
            command.addAll(List.of("env", "--default-signal=INT,HUP"));
        }
        command.addAll(List.of(
                Path.of(System.getProperty("java.home"), "bin", "java").toString(),
                "-Xmx700m",
                "-Dmockbell.log=" + folder.resolve("log.txt"),
                "-cp",
                System.getProperty("java.class.path"),
                main.getName()));
        command.addAll(List.of(args));
        ProcessBuilder builder = new ProcessBuilder(command)
                .redirectOutput(folder.resolve("out.txt").toFile())
                .redirectError(folder.resolve("err.txt").toFile());
        for (String base : List.of("XDG_STATE_HOME", "XDG_CONFIG_HOME", "XDG_DATA_HOME", "XDG_CACHE_HOME")) {
            builder.environment().put(base, folder.resolve("user").toString());
        }
        builder.environment().remove("DISPLAY");
        builder.environment().remove("WAYLAND_DISPLAY");
        return builder.start();
    }

    private Ended run(String... args) throws IOException, InterruptedException {
        Process process = start(args);
        assertThat(process.waitFor(240, TimeUnit.SECONDS)).isTrue();
        return new Ended(process.exitValue(), text("out.txt"), text("err.txt"));
    }

    private String text(String file) throws IOException {
        return Files.readString(folder.resolve(file), StandardCharsets.UTF_8);
    }

    @Test
    void theDemoWalksTheWholeExampleAndLeavesPicturesAndReports() throws Exception {
        Ended ended = run("demo", "--headless", "--out", folder.resolve("demo").toString());
        assertThat(ended.out()).contains("All 32 steps did what they should.");
        assertThat(ended.code()).isZero();
        assertThat(ended.err()).isEmpty();
        for (String name : List.of("contract", "call", "check", "mock", "traffic", "load")) {
            var picture = ImageIO.read(
                    folder.resolve("demo/pictures/" + name + ".png").toFile());
            assertThat(picture.getWidth()).isEqualTo(1_280);
            assertThat(picture.getHeight()).isEqualTo(800);
        }
        SchemaFactory.newInstance(XMLConstants.W3C_XML_SCHEMA_NS_URI)
                .newSchema(Path.of("..", "core", "src", "test", "resources", "junit.xsd")
                        .toFile())
                .newValidator()
                .validate(new StreamSource(folder.resolve("demo/junit.xml").toFile()));
        assertThat(folder.resolve("demo/load-steps.csv")).content().startsWith("step,done,failed");
        assertThat(folder.resolve("demo/report.html")).content().contains("A whole stay");
    }

    @Test
    void withoutADisplayTheWindowIsExplained() throws Exception {
        Ended ended = run();
        assertThat(ended.code()).isEqualTo(2);
        assertThat(ended.err()).startsWith("There is no display to open a window on. Use the commands");
        assertThat(ended.err().lines()).hasSize(1);
    }

    @Test
    void aMockSaysWhenItListensAndStopsOnASignal() throws Exception {
        Path wsdl = Path.of("..", "demo", "src", "main", "resources", "dev", "mockbell", "demo", "hut-booking.wsdl");
        Process process = start("mock", wsdl.toString(), "--port", "0");
        try {
            for (int i = 0; i < 300 && text("out.txt").lines().count() < 2 && process.isAlive(); i++) {
                Thread.sleep(50);
            }
            assertThat(text("out.txt").lines())
                    .hasSize(2)
                    .allMatch(l -> l.matches("READY (http://127\\.0\\.0\\.1:\\d+/hut-booking(-12)?) \\1\\?wsdl"));
            String address = text("out.txt").split(" ")[2].strip().split("\\s")[0];
            byte[] document = java.net.URI.create(address).toURL().openStream().readAllBytes();
            assertThat(new String(document, StandardCharsets.UTF_8)).contains("HutBooking");
        } finally {
            process.destroy();
        }
        assertThat(process.waitFor(60, TimeUnit.SECONDS)).isTrue();
    }

    @ParameterizedTest
    @ValueSource(strings = {"TERM", "INT", "HUP"})
    void whatIsBeingTypedIsKeptWhenASignalEndsTheWindow(String signal) throws Exception {
        Path wsdl = Path.of("..", "demo", "src", "main", "resources", "dev", "mockbell", "demo", "hut-booking.wsdl");
        Path project = folder.resolve("project");
        assertThat(run("contract", "import", wsdl.toString(), "--project", project.toString())
                        .code())
                .isZero();
        Process process = start(SignalledWindow.class, project.toString(), "typed before the " + signal);
        for (int i = 0; i < 1_200 && !text("out.txt").contains("TYPED") && process.isAlive(); i++) {
            Thread.sleep(50);
        }
        new ProcessBuilder("kill", "-" + signal, String.valueOf(process.pid()))
                .start()
                .waitFor();
        assertThat(process.waitFor(30, TimeUnit.SECONDS)).isTrue();
        assertThat(process.exitValue()).as(text("err.txt")).isGreaterThan(128);
        try (Stream<Path> files = Files.walk(project)) {
            assertThat(files.filter(f -> f.toString().endsWith(".xml")).map(DemoTest::content))
                    .anySatisfy(t -> assertThat(t).contains("typed before the " + signal));
        }
    }

    private static String content(Path file) {
        try {
            return Files.readString(file);
        } catch (IOException e) {
            throw new java.io.UncheckedIOException(e);
        }
    }

    @Test
    void helpIsThereForEveryCommand() throws Exception {
        Ended ended = run("--help");
        assertThat(ended.code()).isZero();
        assertThat(ended.out()).contains("contract", "call", "check", "mock", "load", "desktop", "demo", "Exit codes");
    }
}
