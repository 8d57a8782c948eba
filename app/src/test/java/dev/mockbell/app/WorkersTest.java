package dev.mockbell.app;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import dev.mockbell.demo.DemoProject;
import dev.mockbell.load.LoadPlan;
import dev.mockbell.load.LoadShape;
import dev.mockbell.project.ProjectStore;
import dev.mockbell.suite.Case;
import dev.mockbell.suite.Step;
import dev.mockbell.suite.Suite;
import java.io.IOException;
import java.io.InputStream;
import java.net.InetAddress;
import java.net.ServerSocket;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.TimeUnit;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Load by workers, each a process of its own as on machines of their own. */
class WorkersTest {
    @TempDir
    Path folder;

    private final List<Process> processes = new ArrayList<>();

    private Process start(String name, String... args) throws IOException {
        List<String> command = new ArrayList<>(List.of(
                Path.of(System.getProperty("java.home"), "bin", "java").toString(),
                "-Xmx400m",
                "-XX:TieredStopAtLevel=1",
                "-cp",
                System.getProperty("java.class.path"),
                Main.class.getName()));
        command.addAll(List.of(args));
        ProcessBuilder builder = new ProcessBuilder(command)
                .redirectOutput(folder.resolve(name + ".out").toFile())
                .redirectError(folder.resolve(name + ".err").toFile());
        for (String base : List.of("XDG_STATE_HOME", "XDG_CONFIG_HOME", "XDG_DATA_HOME", "XDG_CACHE_HOME")) {
            builder.environment().put(base, folder.resolve("user").toString());
        }
        Process process = builder.start();
        processes.add(process);
        return process;
    }

    @AfterEach
    void end() {
        processes.forEach(Process::destroyForcibly);
    }

    private String text(String file) throws IOException {
        return Files.readString(folder.resolve(file));
    }

    private void await(String file, String words) throws Exception {
        long until = System.nanoTime() + TimeUnit.SECONDS.toNanos(90);
        while (!Files.exists(folder.resolve(file)) || !text(file).contains(words)) {
            assertThat(System.nanoTime())
                    .as(() -> words + " in " + file + " after " + all())
                    .isLessThan(until);
            Thread.sleep(50);
        }
    }

    /** All that was said so far. */
    private String all() {
        StringBuilder all = new StringBuilder();
        for (String name : List.of("load", "one", "two")) {
            for (String kind : List.of(".out", ".err")) {
                try {
                    all.append(name).append(kind).append(": ").append(text(name + kind));
                } catch (IOException nothing) {
                    all.append("nothing");
                }
            }
        }
        return all.toString();
    }

    private static int freePort() throws IOException {
        try (ServerSocket socket = new ServerSocket(0, 1, InetAddress.getLoopbackAddress())) {
            return socket.getLocalPort();
        }
    }

    /** A project whose one case finds huts. */
    private Path project() throws Exception {
        for (String name : List.of("hut-booking.wsdl", "hut-booking.xsd")) {
            try (InputStream in = DemoProject.class.getResourceAsStream(name)) {
                if (in != null) {
                    Files.write(folder.resolve(name), in.readAllBytes());
                }
            }
        }
        Path project = folder.resolve("project");
        assertThat(start(
                                "import",
                                "contract",
                                "import",
                                folder.resolve("hut-booking.wsdl").toString(),
                                "--project",
                                project.toString())
                        .waitFor(60, TimeUnit.SECONDS))
                .isTrue();
        ProjectStore store = new ProjectStore();
        String contract = store.open(project).contracts().get(0).name();
        Case kept = new Case(
                "skarn",
                "Skarn area",
                "",
                contract,
                "FindHuts",
                "HutBookingSoap11",
                "<hb:FindHuts xmlns:hb=\"urn:northfell:hut-booking\"><hb:area>Skarn</hb:area></hb:FindHuts>",
                List.of(),
                List.of(),
                List.of());
        store.saveCase(project, kept);
        store.saveSuite(project, new Suite("find", "Find", List.of(Step.call("Find", kept.reference()))));
        store.saveLoad(project, LoadPlan.of("rush", "Rush", "find", LoadShape.arrivals(20, 12)));
        return project;
    }

    @Test
    void aWorkerThatIsKilledIsToldOfAndTheOtherGoesOnAndNoneIsLeftBehind() throws Exception {
        Path project = project();
        Process mock = start("mock", "mock", project.toString(), "--port", "0");
        await("mock.out", "READY http");
        String endpoint = text("mock.out").lines().findFirst().orElseThrow().split(" ")[1];
        int port = freePort();
        Path invitation = folder.resolve("invitation.json");
        assertThat(start(
                                "invite",
                                "grid",
                                "invite",
                                project.toString(),
                                "--out",
                                invitation.toString(),
                                "--port",
                                String.valueOf(port))
                        .waitFor(30, TimeUnit.SECONDS))
                .isTrue();
        Process one = start("one", "worker", "--invitation", invitation.toString());
        Process two = start("two", "worker", "--invitation", invitation.toString());
        Path results = folder.resolve("results");
        Process load = start(
                "load",
                "load",
                project.toString(),
                "--plan",
                "rush",
                "--endpoint",
                endpoint,
                "--workers",
                "2",
                "--out",
                results.toString());
        await("one.out", "READY 127.0.0.1:");
        await("two.out", "READY 127.0.0.1:");
        await("load.err", "   5 s");
        two.destroyForcibly();
        assertThat(load.waitFor(90, TimeUnit.SECONDS)).isTrue();
        assertThat(text("load.err")).contains("was lost in second").contains("its program ended");
        JsonNode run = new ObjectMapper().readTree(results.resolve("run.json").toFile());
        assertThat(run.path("workers")).hasSize(2);
        assertThat(run.path("workers").toString()).contains("\"LOST\"", "\"DONE\"");
        assertThat(run.path("stopped").asBoolean()).isFalse();
        // 240 were planned, and what one of two did in two seconds or three is lost at most
        assertThat(run.path("total").path("done").asInt()).isBetween(200, 240);
        assertThat(results.resolve("workers.csv")).content().contains("The others took over its part.");
        // the other waits for the next run, and ends with a signal
        await("one.err", "The coordinator is done. Waiting for the next run");
        assertThat(one.isAlive()).isTrue();
        one.destroy();
        assertThat(one.waitFor(30, TimeUnit.SECONDS)).isTrue();
        mock.destroy();
    }

    @Test
    void withoutWorkersNothingOfTheClusterEngineIsLoaded() throws Exception {
        Path loaded = folder.resolve("loaded.txt");
        List<String> command = List.of(
                Path.of(System.getProperty("java.home"), "bin", "java").toString(),
                "-Xlog:class+load:file=" + loaded,
                "-cp",
                System.getProperty("java.class.path"),
                Main.class.getName(),
                "load",
                folder.resolve("none").toString(),
                "--plan",
                "none");
        Process process = new ProcessBuilder(command)
                .redirectOutput(folder.resolve("o").toFile())
                .redirectError(folder.resolve("e").toFile())
                .start();
        assertThat(process.waitFor(60, TimeUnit.SECONDS)).isTrue();
        assertThat(text("e")).contains("There is no project here");
        assertThat(loaded)
                .content()
                .contains("dev.mockbell.cli.LoadCommand")
                .doesNotContain("dev.mockbell.grid.")
                .doesNotContain("org.apache.pekko")
                .doesNotContain(" scala.");
    }
}
