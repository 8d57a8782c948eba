package dev.mockbell.desktop.view.load;

import static org.assertj.core.api.Assertions.assertThat;
import static org.mockito.ArgumentMatchers.any;
import static org.mockito.Mockito.mock;
import static org.mockito.Mockito.timeout;
import static org.mockito.Mockito.verify;
import static org.mockito.Mockito.when;

import dev.mockbell.desktop.OnDesktop;
import dev.mockbell.desktop.drive.Hand;
import dev.mockbell.desktop.model.LoadModel;
import dev.mockbell.desktop.model.WorkersModel;
import dev.mockbell.exchange.Exchange;
import dev.mockbell.expression.Expressions;
import dev.mockbell.fleet.Fleet;
import dev.mockbell.fleet.FleetListener;
import dev.mockbell.fleet.FleetOrder;
import dev.mockbell.fleet.FleetSource;
import dev.mockbell.fleet.Gathering;
import dev.mockbell.fleet.Invitation;
import dev.mockbell.fleet.WhenLost;
import dev.mockbell.fleet.WorkerNow;
import dev.mockbell.load.Health;
import dev.mockbell.load.LoadControl;
import dev.mockbell.load.LoadEngine;
import dev.mockbell.load.LoadListener;
import dev.mockbell.load.LoadRun;
import dev.mockbell.load.LoadSecond;
import dev.mockbell.load.LoadShape;
import dev.mockbell.load.WorkerRun;
import dev.mockbell.load.WorkerRun.State;
import dev.mockbell.problem.Problem;
import dev.mockbell.wire.EventLoops;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermission;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.TimeUnit;
import javafx.scene.Node;
import javafx.scene.control.Label;
import javafx.scene.control.ListView;
import javafx.scene.input.KeyCode;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

/** Load that workers make, as the window shows it; who makes it elsewhere is a stand-in here. */
class WorkersTest extends OnDesktop {
    private static final Health WELL = new Health(0.4, 0, 0.31, 0.5, 0, 0.6, 12);
    private static final Health BUSY = new Health(84, 17, 0.96, 0.99, 40, 61, 14);

    private final EventLoops loops = new EventLoops("elsewhere", 1);
    private final FleetSource source = mock(FleetSource.class);
    private final Fleet fleet = mock(Fleet.class);
    private final Gathering gathering = mock(Gathering.class);
    private final CompletableFuture<FleetListener> heard = new CompletableFuture<>();
    private final CompletableFuture<Invitation> own = new CompletableFuture<>();
    private final CompletableFuture<FleetOrder> order = new CompletableFuture<>();
    private LoadModel load;
    private WorkersModel workers;

    @BeforeEach
    void open() {
        load = desktop.models.load();
        workers = desktop.models.workers();
        when(source.fleet()).thenReturn(fleet);
        when(fleet.open(any(), any())).thenAnswer(call -> {
            own.complete(call.getArgument(0));
            heard.complete(call.getArgument(1));
            return gathering;
        });
        when(gathering.run(any(), any(), any())).thenAnswer(call -> {
            order.complete(call.getArgument(0));
            return elsewhere(call.getArgument(0), call.getArgument(1), call.getArgument(2));
        });
        Hand.run(() -> desktop.desk.onFleet(source));
        desktop.addContract();
        hand.press(KeyCode.ALT, KeyCode.DIGIT2);
        hand.type("#value-days", "1");
        Hand.run(() -> {
            var call = desktop.models.call();
            call.settle();
            desktop.models.check().add("Stay");
            desktop.models.check().addStep(call.currentProperty().get());
            load.add(desktop.desk.project().suites().get(0));
            load.keep(load.planProperty().get().with(LoadShape.arrivals(20, 2)).withLimits(List.of()));
        });
        hand.press(KeyCode.ALT, KeyCode.DIGIT6);
    }

    @AfterEach
    void close() {
        loops.close();
    }

    /** Makes the load with the engine of this program, and says that three others did. */
    private LoadRun elsewhere(FleetOrder given, LoadListener listener, LoadControl control) {
        LoadEngine engine = new LoadEngine(loops, new Expressions());
        LoadRun run = engine.run(
                given.plan(),
                Hand.on(() -> desktop.desk.bench()),
                host -> true,
                new LoadListener() {
                    @Override
                    public void phase(Phase phase) {
                        listener.phase(phase);
                    }

                    @Override
                    public void second(LoadSecond second) {
                        listener.second(second);
                        heard.join().workers(three("at work"));
                    }

                    @Override
                    public void failure(Exchange exchange) {
                        listener.failure(exchange);
                    }
                },
                control);
        List<WorkerRun> by = List.of(
                new WorkerRun("worker 1", "10.0.0.7:41101", 8, 7, 0.21, run.total(), WELL, State.DONE, "", List.of()),
                new WorkerRun(
                        "worker 2",
                        "10.0.0.8:41101",
                        8,
                        7,
                        0.34,
                        run.total(),
                        BUSY,
                        State.DONE,
                        "Was silent for 5.1 s until second 9, and went on; what was due meanwhile started late.",
                        List.of()),
                new WorkerRun(
                        "worker 3",
                        "10.0.0.9:41101",
                        4,
                        3,
                        0.27,
                        run.total(),
                        WELL,
                        State.LOST,
                        "Lost in second 2: its program ended. What it did after second 1 is not counted. The others took"
                                + " over its part.",
                        List.of()));
        List<String> warnings = new ArrayList<>(run.warnings());
        warnings.add(0, "worker 3 (10.0.0.9:41101) was lost in second 2: its program ended.");
        return new LoadRun(
                run.plan(),
                run.started(),
                run.seconds(),
                run.stopped(),
                run.total(),
                run.steps(),
                run.spent(),
                run.reasons(),
                run.limits(),
                run.history(),
                run.health(),
                warnings,
                run.times(),
                by);
    }

    private static WorkerNow worker(int number, State state, String doing, Health health) {
        return new WorkerNow(
                "worker " + number,
                "10.0.0." + (6 + number) + ":41101",
                "0.1.0",
                8,
                0.2 + number / 10.0,
                state,
                doing,
                620,
                number == 2 ? 4 : 0,
                18.4,
                health);
    }

    private static List<WorkerNow> three(String doing) {
        return List.of(
                worker(1, State.AT_WORK, doing, WELL),
                worker(2, State.SLOW, doing, BUSY),
                worker(3, State.AT_WORK, doing, WELL));
    }

    private void crew(String words) {
        hand.click("#load-crew");
        hand.clickText(words);
    }

    private void gather() {
        crew("Made by workers, who join here");
        hand.await("the place", () -> workers.openProperty().get());
    }

    private boolean shown() {
        return hand.find("#load-workers").filter(Node::isVisible).isPresent();
    }

    private List<String> words(String within) {
        return Hand.on(() -> hand.find(within).orElseThrow().lookupAll(".label").stream()
                .map(n -> ((Label) n).getText())
                .toList());
    }

    private List<?> rows() {
        return Hand.on(
                () -> List.copyOf(((ListView<?>) hand.find("#load-worker-rows").orElseThrow()).getItems()));
    }

    @Test
    void workersAreShownAsTheyComeAndAsTheyStand() {
        assertThat(hand.text("#load-crew")).isEqualTo("Made here ▾");
        gather();
        assertThat(own.join().host()).isEqualTo("127.0.0.1");
        assertThat(own.join().port()).isEqualTo(Invitation.USUAL_PORT);
        assertThat(hand.text("#load-crew")).isEqualTo("0 workers ▾");
        heard.join().workers(three("waits"));
        hand.await("three", () -> rows().size() == 3);
        assertThat(hand.text("#load-crew")).isEqualTo("3 workers ▾");
        for (String words : List.of("worker 1", "waits", "says nothing", "10.0.0.8:41101", "96 %")) {
            hand.await("“" + words + "”", () -> hand.shows(words));
        }
        heard.join().workers(List.of(worker(1, State.AT_WORK, "waits", WELL)));
        hand.await("one", () -> hand.text("#load-crew").equals("1 worker ▾"));
        heard.join().told("worker 2 (10.0.0.8:41101) left: its program ended.");
        hand.await(
                "the word of it",
                () -> desktop.desk.notices().stream()
                        .anyMatch(n -> n.text().contains("worker 2 (10.0.0.8:41101) left")));
    }

    @Test
    void aRunIsMadeByThemAndTellsWhatEachDid() {
        gather();
        heard.join().workers(three("waits"));
        crew("When a worker is lost");
        hand.clickText("The run ends");
        hand.press(KeyCode.ESCAPE);
        hand.click("#load-start");
        hand.await("the end", () -> load.resultProperty().get() != null);
        FleetOrder given = order.orTimeout(60, TimeUnit.SECONDS).join();
        assertThat(given.whenLost()).isEqualTo(WhenLost.END);
        assertThat(given.plan()).isEqualTo(Hand.on(() -> load.planProperty().get()));
        assertThat(given.named().steps()).containsExactly("Sample");
        assertThat(given.loadable()).containsExactly("127.0.0.1");
        assertThat(rows()).hasSize(3);
        hand.await("the rows", () -> hand.shows("did its part"));
        assertThat(words("#load-workers")).anyMatch(t -> t.startsWith("Lost in second 2"));
        assertThat(words("#load-doubts")).anyMatch(t -> t.contains("worker 3 (10.0.0.9:41101) was lost"));
        String out = System.getProperty("mockbell.looks", "");
        if (!out.isEmpty()) {
            hand.shoot(Path.of(out, "workers.png"));
        }
        // the answers are a click away
        hand.click("#segment-where-the-answers-fell");
        hand.await("the map", () -> !shown());
        hand.click("#segment-workers");
        hand.await("the rows", this::shown);
        // and the run that is kept says the same
        Path reports = desktop.project.resolve("reports");
        hand.click("#load-runs");
        hand.clickText("Write a report of this run");
        hand.await(
                "the report",
                () -> desktop.desk.notices().stream().anyMatch(n -> n.text().startsWith("The report")));
        assertThat(reports.resolve(given.plan().id()).resolve("workers.csv"))
                .content()
                .contains("worker 3");
        assertThat(reports.resolve(given.plan().id()).resolve("report.html"))
                .content()
                .contains("worker 3", "Lost in second 2");
        assertThat(reports.resolve(given.plan().id()).resolve("limits.xml")).exists();
    }

    @Test
    void whenTheWindowMakesTheLoadAgainThePlaceIsClosed() {
        gather();
        crew("Made by this window");
        hand.await("closed", () -> !workers.openProperty().get());
        verify(gathering, timeout(5_000)).close();
        assertThat(hand.text("#load-crew")).isEqualTo("Made here ▾");
        hand.click("#load-start");
        hand.await("the end", () -> load.resultProperty().get() != null);
        assertThat(order).isNotDone();
    }

    @Test
    void aPlaceThatIsTakenIsSaid() {
        when(fleet.open(any(), any()))
                .thenThrow(Problem.of(Problem.Kind.PORT_TAKEN, "It is not possible to listen there", null, null, null));
        crew("Made by workers, who join here");
        hand.await(
                "the word of it",
                () -> desktop.desk.notices().stream().anyMatch(n -> n.text().contains("not possible to listen")));
        assertThat(Hand.on(() -> workers.openProperty().get())).isFalse();
    }

    @Test
    void otherMachinesAreInvitedByAFile() throws Exception {
        Path file = desktop.project.resolveSibling("for-others.json");
        crew("Invite other machines…");
        hand.type("#invite-days", "2");
        hand.type("#invite-file", file.toString());
        hand.press(KeyCode.ENTER);
        hand.await(
                "the file",
                () -> desktop.desk.notices().stream()
                        .anyMatch(n -> n.text().contains("mockbell worker --invitation for-others.json")));
        Invitation read = Invitation.read(file);
        assertThat(read.expires())
                .isBetween(
                        Instant.now().plus(Duration.ofHours(47)), Instant.now().plus(Duration.ofHours(49)));
        assertThat(Files.getPosixFilePermissions(file))
                .containsExactlyInAnyOrder(PosixFilePermission.OWNER_READ, PosixFilePermission.OWNER_WRITE);
        assertThat(read.key(Instant.now())).isNotNull();
    }

    @Test
    void beyondThisMachineIsListenedOnlyOnceTheUserHasSaidSo() {
        Path file = desktop.project.resolveSibling("wide.json");
        crew("Invite other machines…");
        hand.type("#invite-host", "192.0.2.7");
        hand.type("#invite-file", file.toString());
        hand.press(KeyCode.ENTER);
        hand.await("the question", () -> hand.shows("Allow it on this machine"));
        assertThat(file).doesNotExist();
        hand.clickText("Allow it on this machine");
        hand.await("the file", () -> Files.exists(file));
        assertThat(Invitation.read(file).host()).isEqualTo("192.0.2.7");
    }

    @Test
    void aWorkerOfThisMachineIsStartedAndEndsWithTheWindow() throws Exception {
        Process process = mock(Process.class);
        CompletableFuture<Path> invitation = new CompletableFuture<>();
        when(process.onExit()).thenReturn(new CompletableFuture<>());
        when(source.startWorker(any())).thenAnswer(call -> {
            invitation.complete(call.getArgument(0));
            return process;
        });
        crew("Start a worker on this machine");
        Path file = invitation.orTimeout(60, TimeUnit.SECONDS).join();
        assertThat(Invitation.read(file).host()).isEqualTo("127.0.0.1");
        assertThat(file.toString()).doesNotStartWith(desktop.project.toString());
        hand.await("the place", () -> workers.openProperty().get());
        Hand.run(() -> desktop.window.stage().hide());
        verify(process, timeout(10_000)).destroy();
        verify(gathering, timeout(10_000)).close();
    }
}
