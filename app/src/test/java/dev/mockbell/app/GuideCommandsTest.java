package dev.mockbell.app;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.cli.Console;
import dev.mockbell.demo.DemoProject;
import dev.mockbell.demo.StandIn;
import dev.mockbell.guide.Guide;
import dev.mockbell.guide.GuideBlock;
import dev.mockbell.wire.EventLoops;
import dev.mockbell.wire.HttpCaller;
import dev.mockbell.wire.HttpFetcher;
import dev.mockbell.xml.XmlLimits;
import java.io.BufferedReader;
import java.io.BufferedWriter;
import java.io.IOException;
import java.io.InputStreamReader;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.time.Clock;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.TimeUnit;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Stream;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.DynamicTest;
import org.junit.jupiter.api.TestFactory;
import org.junit.jupiter.api.io.TempDir;

/** Every command of the guide does what the guide says, in a folder where the demo was started. */
class GuideCommandsTest {
    private static final String WRITTEN = "http://127.0.0.1:8471";
    private static final Pattern WORD = Pattern.compile("\"([^\"]*)\"|(\\S+)");
    private static final Pattern EXITS = Pattern.compile("\\s+# exits (\\d+)$");

    @TempDir
    private static Path folder;

    /** What a command is followed by, with its exit code. */
    private static final String DONE = "-- done ";

    private static StandIn standIn;
    private static Process shell;
    private static BufferedReader fromShell;
    private static BufferedWriter toShell;

    @BeforeAll
    static void demo() throws IOException {
        standIn = StandIn.start(0, Clock.systemUTC());
        try (HttpCaller http = new HttpCaller()) {
            new DemoProject(standIn, HttpFetcher.forEverything(http, XmlLimits.CONTRACT.bytes()), Clock.systemUTC())
                    .create(folder.resolve("northfell"), EventLoops.freePort(18_480));
        }
        shell = start(Shell.class, List.of());
        fromShell = shell.inputReader(StandardCharsets.UTF_8);
        toShell = shell.outputWriter(StandardCharsets.UTF_8);
    }

    @AfterAll
    static void end() throws IOException {
        toShell.close();
        shell.destroyForcibly();
        standIn.close();
    }

    /**
     * A command.
     *
     * @param listens whether it goes on until it is stopped
     */
    private record Line(String page, String text, boolean listens) {
        int exits() {
            Matcher matcher = EXITS.matcher(text);
            return matcher.find() ? Integer.parseInt(matcher.group(1)) : 0;
        }

        List<String> words() {
            String plain = EXITS.matcher(text).replaceFirst("");
            String base = standIn.soap11().replaceFirst("(//[^/]+)/.*", "$1");
            List<String> words = new ArrayList<>();
            Matcher matcher = WORD.matcher(plain.replace(WRITTEN, base));
            while (matcher.find()) {
                words.add(matcher.group(1) == null ? matcher.group(2) : matcher.group(1));
            }
            return words.subList(1, words.size());
        }
    }

    private static List<Line> lines() {
        Guide guide = new Guide();
        List<Line> lines = new ArrayList<>();
        for (Guide.Entry entry : guide.contents()) {
            for (GuideBlock block : guide.page(entry.name()).blocks()) {
                if (block instanceof GuideBlock.Code code && code.info().startsWith("sh")) {
                    code.text()
                            .lines()
                            .forEach(l -> lines.add(
                                    new Line(entry.name(), l, code.info().endsWith("ready"))));
                }
            }
        }
        return lines;
    }

    @TestFactory
    Stream<DynamicTest> everyCommand() {
        List<Line> lines = lines();
        assertThat(lines).hasSizeGreaterThan(30).allMatch(l -> l.text().startsWith("mockbell "));
        return lines.stream()
                .map(l -> DynamicTest.dynamicTest(l.page() + ": " + l.text(), () -> {
                    if (l.listens()) {
                        listens(l);
                    } else {
                        runs(l);
                    }
                }));
    }

    private static Process start(Class<?> main, List<String> words) throws IOException {
        List<String> command = new ArrayList<>(List.of(
                Path.of(System.getProperty("java.home"), "bin", "java").toString(),
                "-XX:TieredStopAtLevel=1",
                "-cp",
                System.getProperty("java.class.path"),
                main.getName()));
        command.addAll(words);
        ProcessBuilder builder =
                new ProcessBuilder(command).directory(folder.toFile()).redirectErrorStream(true);
        builder.environment().putAll(DemoProject.secrets());
        for (String home : List.of("XDG_CONFIG_HOME", "XDG_STATE_HOME", "XDG_CACHE_HOME")) {
            builder.environment().put(home, folder.resolve("home").toString());
        }
        return builder.start();
    }

    private static void runs(Line line) throws IOException {
        toShell.write(String.join("\t", line.words()) + "\n");
        toShell.flush();
        StringBuilder said = new StringBuilder();
        String next = fromShell.readLine();
        while (next != null && !next.startsWith(DONE)) {
            said.append(next).append('\n');
            next = fromShell.readLine();
        }
        // whether load keeps its limits depends on the machine, and either answer is one
        boolean load = line.words().get(0).equals("load");
        assertThat(next).as(said.toString()).isIn(DONE + line.exits(), DONE + (load ? 1 : line.exits()));
    }

    private static void listens(Line line) throws Exception {
        Process process = start(Main.class, line.words());
        try (BufferedReader out = process.inputReader(StandardCharsets.UTF_8)) {
            String first = out.readLine();
            assertThat(first).startsWith("READY http://127.0.0.1:");
            process.destroy();
            assertThat(process.waitFor(60, TimeUnit.SECONDS)).isTrue();
        } finally {
            process.destroyForcibly();
        }
    }

    /** One program after the other carries out commands in the folder, so that Java starts once. */
    static final class Shell {
        private Shell() {}

        public static void main(String[] args) throws IOException {
            BufferedReader in = new BufferedReader(new InputStreamReader(System.in, StandardCharsets.UTF_8));
            for (String line = in.readLine(); line != null; line = in.readLine()) {
                int code = Main.run(Console.ofProcess(), line.split("\t"));
                System.out.println("\n" + DONE + code);
            }
            System.exit(0);
        }
    }
}
