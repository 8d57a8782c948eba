package dev.mockbell.app;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.TimeUnit;
import javax.imageio.ImageIO;
import javax.xml.XMLConstants;
import javax.xml.transform.stream.StreamSource;
import javax.xml.validation.SchemaFactory;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** The program as a process of its own. */
class DemoTest {
    @TempDir
    Path folder;

    private record Ended(int code, String out, String err) {}

    private Process start(String... args) throws IOException {
        List<String> command = new ArrayList<>(List.of(
                Path.of(System.getProperty("java.home"), "bin", "java").toString(),
                "-Xmx700m",
                "-Dmockbell.log=" + folder.resolve("log.txt"),
                "-cp",
                System.getProperty("java.class.path"),
                "dev.mockbell.app.Main"));
        command.addAll(List.of(args));
        ProcessBuilder builder = new ProcessBuilder(command)
                .redirectOutput(folder.resolve("out.txt").toFile())
                .redirectError(folder.resolve("err.txt").toFile());
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
        assertThat(ended.out()).contains("All 11 steps did what they should.");
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
        assertThat(process.waitFor(10, TimeUnit.SECONDS)).isTrue();
    }

    @Test
    void helpIsThereForEveryCommand() throws Exception {
        Ended ended = run("--help");
        assertThat(ended.code()).isZero();
        assertThat(ended.out()).contains("contract", "call", "check", "mock", "load", "desktop", "demo", "Exit codes");
    }
}
