package dev.mockbell.cli;

import static org.assertj.core.api.Assertions.assertThat;
import static org.mockito.ArgumentMatchers.any;
import static org.mockito.ArgumentMatchers.eq;
import static org.mockito.Mockito.doAnswer;
import static org.mockito.Mockito.mock;
import static org.mockito.Mockito.never;
import static org.mockito.Mockito.verify;
import static org.mockito.Mockito.when;

import dev.mockbell.expression.Expressions;
import dev.mockbell.fleet.Fleet;
import dev.mockbell.fleet.FleetOrder;
import dev.mockbell.fleet.Gathering;
import dev.mockbell.fleet.Invitation;
import dev.mockbell.fleet.Meeting;
import dev.mockbell.fleet.WhenLost;
import dev.mockbell.fleet.WorkerListener;
import dev.mockbell.fleet.WorkerNow;
import dev.mockbell.load.Health;
import dev.mockbell.load.LoadEngine;
import dev.mockbell.load.LoadPlan;
import dev.mockbell.load.LoadRun;
import dev.mockbell.load.LoadShape;
import dev.mockbell.load.WorkerRun;
import dev.mockbell.load.WorkerRun.State;
import dev.mockbell.problem.Problem;
import dev.mockbell.project.ProjectStore;
import dev.mockbell.wire.Connect;
import dev.mockbell.wire.EventLoops;
import dev.mockbell.wire.PlainServer;
import dev.mockbell.wire.jms.ProviderJars;
import java.io.ByteArrayOutputStream;
import java.io.PrintStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermission;
import java.nio.file.attribute.PosixFilePermissions;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** The commands of load from many machines, over a stand-in of the machines. */
class WorkerCommandsTest {
    @TempDir
    Path folder;

    private final Fleet fleet = mock(Fleet.class);
    private final Gathering gathering = mock(Gathering.class);
    private final ByteArrayOutputStream out = new ByteArrayOutputStream();
    private final ByteArrayOutputStream err = new ByteArrayOutputStream();
    private final EventLoops loops = new EventLoops("test", 1);
    private PlainServer server;
    private Path project;

    @BeforeEach
    void make() throws Exception {
        server = PlainServer.says(
                PlainServer.ok(
                        "<e:Envelope xmlns:e=\"http://schemas.xmlsoap.org/soap/envelope/\"><e:Body>"
                                + "<p:HeightResponse xmlns:p='urn:peaks'><p:metres>500</p:metres></p:HeightResponse></e:Body></e:Envelope>"));
        Path wsdl = Files.writeString(
                folder.resolve("peaks.wsdl"), CommandsTest.WSDL.formatted(server.address() + "peaks"));
        project = folder.resolve("proj");
        run("contract", "import", wsdl.toString(), "--project", project.toString());
        CommandsTest.fill(project, List.of());
        when(fleet.open(any(), any())).thenReturn(gathering);
        when(gathering.workers()).thenReturn(List.of(there(1, 0.2))).thenReturn(List.of(there(1, 0.2), there(2, 0.3)));
    }

    @AfterEach
    void close() {
        server.close();
        loops.close();
    }

    private static WorkerNow there(int number, double error) {
        return new WorkerNow(
                "worker " + number,
                "10.0.0." + number + ":4000",
                "0.1.0",
                8,
                error,
                State.AT_WORK,
                "waits",
                0,
                0,
                0,
                Health.UNKNOWN);
    }

    private int run(String... args) {
        out.reset();
        err.reset();
        Console console = new Console(
                new PrintStream(out, true, StandardCharsets.UTF_8), new PrintStream(err, true, StandardCharsets.UTF_8));
        return MockBellCommand.commandLine(console, List.of(args), () -> fleet).execute(args);
    }

    private String out() {
        return out.toString(StandardCharsets.UTF_8);
    }

    private String err() {
        return err.toString(StandardCharsets.UTF_8);
    }

    private LoadRun made(FleetOrder order, dev.mockbell.load.LoadControl control, State second) {
        LoadRun run = new LoadEngine(loops, new Expressions(), Connect.USUAL, ProviderJars.NONE, false)
                .run(
                        order.plan(),
                        dev.mockbell.project.ProjectBench.unknown(new ProjectStore().open(project)),
                        host -> true,
                        dev.mockbell.load.LoadListener.NONE,
                        control);
        List<WorkerRun> by = List.of(
                new WorkerRun(
                        "worker 1", "10.0.0.1:4000", 8, 7, 0.2, run.total(), Health.UNKNOWN, State.DONE, "", List.of()),
                new WorkerRun(
                        "worker 2",
                        "10.0.0.2:4000",
                        8,
                        7,
                        0.3,
                        run.total(),
                        Health.UNKNOWN,
                        second,
                        second == State.LOST ? "Lost in second 1: its program ended." : "",
                        List.of(new WorkerRun.Second(1, 20, 0, 4.5, 0.2, 0.3))));
        return new LoadRun(
                run.plan(),
                run.started(),
                run.seconds(),
                second == State.LOST,
                run.total(),
                run.steps(),
                run.spent(),
                run.reasons(),
                run.limits(),
                run.history(),
                run.health(),
                run.warnings(),
                run.times(),
                by);
    }

    @Test
    void anInvitationIsForItsFilesOwnerAndSaysWhereToCome() throws Exception {
        Path open = Files.createDirectory(folder.resolve("open"));
        Files.setPosixFilePermissions(open, PosixFilePermissions.fromString("rwxrwxr-x"));
        Path file = open.resolve("invitation.json");
        assertThat(run("grid", "invite", project.toString(), "--out", file.toString(), "--port", "9123", "--days", "3"))
                .as(err())
                .isZero();
        assertThat(out()).contains("Invitation to 127.0.0.1:9123, good until");
        assertThat(Files.getPosixFilePermissions(file))
                .containsExactlyInAnyOrder(PosixFilePermission.OWNER_READ, PosixFilePermission.OWNER_WRITE);
        assertThat(PosixFilePermissions.toString(Files.getPosixFilePermissions(open)))
                .as("somebody else's folder")
                .isEqualTo("rwxrwxr-x");
        Invitation read = Invitation.read(file);
        assertThat(read.project()).isEqualTo("proj");
        assertThat(read.expires())
                .isBetween(
                        Instant.now().plus(Duration.ofHours(71)), Instant.now().plus(Duration.ofHours(73)));
        assertThat(read.toString()).doesNotContain("PRIVATE");
        assertThat(Meeting.of(project)).isEqualTo(new Meeting("127.0.0.1", 9123));
        // the next one is for the same place
        assertThat(run("grid", "invite", project.toString(), "--out", file.toString()))
                .isZero();
        assertThat(Invitation.read(file).port()).isEqualTo(9123);
        verify(fleet, never()).open(any(), any());
    }

    @Test
    void whatIsNoInvitationIsSaidToBeNone() throws Exception {
        assertThat(run(
                        "grid",
                        "invite",
                        project.toString(),
                        "--out",
                        folder.resolve("i").toString(),
                        "--days",
                        "0"))
                .isEqualTo(2);
        assertThat(err()).contains("1 to 365 days");
        assertThat(run("grid")).isEqualTo(2);
        assertThat(run("worker", "--invitation", folder.resolve("none.json").toString()))
                .isEqualTo(2);
        assertThat(err()).contains("There is no such invitation").contains("mockbell grid invite");
        for (String text :
                List.of("", "[]", "{\"format\":1}", "{\"format\":9}", "{\"format\":1,\"host\":\"h\",\"port\":1}")) {
            Path file = Files.writeString(folder.resolve("bad.json"), text);
            assertThat(run("worker", "--invitation", file.toString())).as(text).isEqualTo(2);
            assertThat(err()).as(text).containsAnyOf("is no invitation", "A newer version");
        }
    }

    @Test
    void aWorkerSaysReadyAndWhatHappens() {
        Path file = folder.resolve("invitation.json");
        run("grid", "invite", project.toString(), "--out", file.toString());
        doAnswer(call -> {
                    WorkerListener listener = call.getArgument(2);
                    listener.told("Joined as worker 1.");
                    listener.ready("10.0.0.9:4100", 8, 0.25, "0.1.0");
                    return null;
                })
                .when(fleet)
                .work(any(), eq("10.0.0.9"), any(), any());
        assertThat(run("worker", "--invitation", file.toString(), "--host", "10.0.0.9"))
                .isZero();
        assertThat(out()).isEqualTo("READY 10.0.0.9:4100, 8 cores, clock within 0.25 ms, version 0.1.0\n");
        assertThat(err()).contains("Joined as worker 1.");
    }

    @Test
    void loadWaitsForItsWorkersAndTellsWhatEachDid() {
        List<FleetOrder> orders = new ArrayList<>();
        when(gathering.run(any(), any(), any())).thenAnswer(call -> {
            orders.add(call.getArgument(0));
            return made(call.getArgument(0), call.getArgument(2), State.DONE);
        });
        Path results = folder.resolve("results");
        assertThat(run(
                        "load",
                        project.toString(),
                        "--plan",
                        "rush",
                        "--workers",
                        "2",
                        "--when-lost",
                        "end",
                        "--out",
                        results.toString()))
                .as(err())
                .isZero();
        assertThat(orders).hasSize(1);
        assertThat(orders.get(0).whenLost()).isEqualTo(WhenLost.END);
        assertThat(orders.get(0).named().hosts()).containsExactly("127.0.0.1");
        assertThat(out()).contains("worker 1 ").contains("10.0.0.2:4000, 8 cores, clock within 0.30 ms");
        assertThat(results.resolve("workers.csv")).content().contains("worker 2,\"10.0.0.2:4000\"".replace("\"", ""));
        assertThat(results.resolve("worker-seconds.csv"))
                .content()
                .isEqualTo("worker,second,done,failed,p99,latest_start,cpu\r\nworker 2,1,20,0,4.500,0.200,0.300\r\n");
        assertThat(results.resolve("limits.xml")).exists();
        assertThat(results.resolve("report.html")).content().contains("worker 2", "10.0.0.2:4000");
        assertThat(results.resolve("run.json")).content().contains("\"workers\"", "\"clockError\"");
        verify(gathering).close();
        var kept = new dev.mockbell.project.LoadHistory(project).latest("rush", 1);
        assertThat(kept.get(0).workers()).hasSize(2);
        assertThat(kept.get(0).workers().get(1).history())
                .containsExactly(new WorkerRun.Second(1, 20, 0, 4.5, 0.2, 0.3));
    }

    @Test
    void aRunThatALossEndedHasNotPassed() {
        when(gathering.run(any(), any(), any()))
                .thenAnswer(call -> made(call.getArgument(0), call.getArgument(2), State.LOST));
        assertThat(run("load", project.toString(), "--plan", "rush", "--workers", "2"))
                .isEqualTo(1);
        assertThat(out()).contains("Lost in second 1: its program ended.");
    }

    @Test
    void tooFewWorkersAreSaidAndNothingIsLoaded() {
        when(gathering.workers()).thenReturn(List.of(there(1, 0.2), there(2, -1)));
        assertThat(run("load", project.toString(), "--plan", "rush", "--workers", "2", "--wait", "0"))
                .isEqualTo(4);
        assertThat(err()).contains("1 of 2 workers have joined in 0 s").contains("or give --workers 1");
        assertThat(run("load", project.toString(), "--plan", "rush", "--workers", "0"))
                .isEqualTo(2);
        verify(gathering, never()).run(any(), any(), any());
        assertThat(server.requests()).isEmpty();
    }

    @Test
    void withoutWorkersTheFleetIsNotAskedFor() {
        Console console = new Console(new PrintStream(out), new PrintStream(err));
        String[] args = {"load", project.toString(), "--plan", "rush"};
        assertThat(MockBellCommand.commandLine(console, List.of(args), () -> {
                            throw new AssertionError("nobody wanted workers");
                        })
                        .execute(args))
                .isZero();
    }

    @Test
    void anOrderIsCheckedForWhatMeansSomethingElseElsewhereAndForSecrets() {
        FleetOrder order = new FleetOrder(
                LoadPlan.of("p", "P", "s", LoadShape.arrivals(1, 1)),
                project,
                "",
                new LoadEngine.Named(List.of("S"), List.of(), List.of("127.0.0.1")),
                java.util.Map.of(),
                java.util.Set.of(),
                java.util.Set.of(),
                WhenLost.SHARE);
        order.check(List.of("127.0.0.1", "localhost"));
        assertThat(problem(() -> order.check(List.of("127.0.0.1", "10.0.0.4"))))
                .contains("goes to 127.0.0.1, which on every machine is that machine itself");
        FleetOrder secret = new FleetOrder(
                order.plan(),
                project,
                "",
                new LoadEngine.Named(List.of("S"), List.of(), List.of("huts.example")),
                java.util.Map.of("key", "hush"),
                java.util.Set.of("10.0.0.4"),
                java.util.Set.of(),
                WhenLost.SHARE);
        secret.check(List.of("10.0.0.4", "127.0.0.1"));
        assertThat(problem(() -> secret.check(List.of("10.0.0.5"))))
                .contains("The worker at 10.0.0.5 needs the project's secrets")
                .contains("--secrets-to 10.0.0.5")
                .doesNotContain("hush");
    }

    private static String problem(Runnable what) {
        try {
            what.run();
            return "none";
        } catch (Problem problem) {
            return problem.getMessage();
        }
    }
}
