package dev.mockbell.grid;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.mockbell.fleet.Invitation;
import dev.mockbell.fleet.WhenLost;
import dev.mockbell.load.LoadControl;
import dev.mockbell.load.LoadListener;
import dev.mockbell.load.LoadRun;
import dev.mockbell.load.LoadSecond;
import dev.mockbell.load.LoadShape;
import dev.mockbell.load.WorkerRun;
import dev.mockbell.load.WorkerRun.State;
import dev.mockbell.problem.Problem;
import dev.mockbell.suite.Stays;
import dev.mockbell.task.StopSignal;
import dev.mockbell.wire.PlainServer;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.TimeUnit;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** What becomes of a run when workers are lost. */
class LossTest {
    @TempDir
    Path folder;

    private final PlainServer server = PlainServer.says(PlainServer.ok(Stays.answer("R", "1")));

    @AfterEach
    void close() {
        server.close();
    }

    private CompletableFuture<LoadRun> start(Crew crew, LoadShape shape, WhenLost whenLost) {
        StayProject.in(folder, server.address(), Stays.BODY, List.of());
        CompletableFuture<Void> second = new CompletableFuture<>();
        CompletableFuture<LoadRun> result = crew.start(
                crew.order(folder, StayProject.plan(shape), Map.of(), whenLost),
                new LoadListener() {
                    @Override
                    public void second(LoadSecond now) {
                        second.complete(null);
                    }
                },
                new LoadControl(new StopSignal()));
        second.orTimeout(30, TimeUnit.SECONDS).join();
        return result;
    }

    @Test
    void theOthersTakeOverThePartOfOneThatLeft() {
        try (Crew crew = new Crew(3)) {
            CompletableFuture<LoadRun> result = start(crew, LoadShape.arrivals(60, 10), WhenLost.SHARE);
            crew.stops.get(0).stop();
            LoadRun run = result.orTimeout(30, TimeUnit.SECONDS).join();
            assertThat(run.workers()).extracting(WorkerRun::state).containsOnlyOnce(State.LOST);
            assertThat(run.stopped()).isFalse();
            assertThat(run.passed()).isTrue();
            // 600 were planned, and of one in three some seconds at most is not counted
            assertThat(run.total().done()).isBetween(500L, 600L);
            assertThat(server.requests().size()).isBetween((int) run.total().done(), 601);
            long after = run.history().subList(7, 10).stream()
                    .mapToLong(LoadSecond::intended)
                    .sum();
            assertThat(after).isBetween(160L, 190L);
            WorkerRun lost = run.workers().stream()
                    .filter(w -> w.state() == State.LOST)
                    .findFirst()
                    .orElseThrow();
            assertThat(lost.told())
                    .matches(
                            "Lost in second [2-7]: it was stopped at its machine\\. What it did after second \\d is not"
                                    + " counted.*The others took over its part\\.");
            assertThat(run.warnings()).anyMatch(w -> w.startsWith(lost.name()) && w.contains("was lost in second"));
            assertThat(crew.told).anyMatch(t -> t.contains("was lost in second"));
        }
    }

    @Test
    void aRunThatIsToEndWithALossEndsAndHasNotPassed() {
        try (Crew crew = new Crew(2)) {
            CompletableFuture<LoadRun> result = start(crew, LoadShape.users(4, 60), WhenLost.END);
            crew.stops.get(1).stop();
            LoadRun run = result.orTimeout(40, TimeUnit.SECONDS).join();
            assertThat(run.stopped()).isTrue();
            // of 60: how soon depends on what else the machine does
            assertThat(run.seconds()).isLessThan(40);
            assertThat(run.passed()).isFalse();
            assertThat(run.total().done()).isPositive();
            assertThat(run.warnings()).anyMatch(w -> w.contains("users") && w.endsWith("The run was ended."));
            // who is left can be used at once
            assertThat(crew.workers()).hasSize(1);
            assertThat(crew.run(folder, StayProject.plan(LoadShape.arrivals(10, 1)))
                            .total()
                            .done())
                    .isEqualTo(10);
        }
    }

    @Test
    void oneThatCameDuringARunAndLeavesIsNoLossToIt() {
        try (Crew crew = new Crew(1)) {
            CompletableFuture<LoadRun> result = start(crew, LoadShape.arrivals(20, 8), WhenLost.END);
            crew.worker(crew.fleet, crew.invitation(Invitation.WORKER));
            crew.await(2);
            crew.stops.get(1).stop();
            LoadRun run = result.orTimeout(30, TimeUnit.SECONDS).join();
            assertThat(run.total().done()).isEqualTo(160);
            assertThat(run.stopped()).isFalse();
            assertThat(run.workers()).hasSize(1);
            assertThat(crew.told).anyMatch(t -> t.matches("worker 2 .* left: it was stopped at its machine\\."));
        }
    }

    @Test
    void usersOfOneThatLeftAreAtWorkElsewhere() {
        try (Crew crew = new Crew(2)) {
            CompletableFuture<LoadRun> result = start(crew, LoadShape.users(8, 5), WhenLost.SHARE);
            crew.stops.get(0).stop();
            LoadRun run = result.orTimeout(30, TimeUnit.SECONDS).join();
            assertThat(run.history().get(run.history().size() - 2).users()).isEqualTo(8);
        }
    }

    @Test
    void withNobodyLeftTheRunEndsWithAReport() {
        try (Crew crew = new Crew(1)) {
            CompletableFuture<LoadRun> result = start(crew, LoadShape.arrivals(30, 60), WhenLost.SHARE);
            crew.stops.get(0).stop();
            LoadRun run = result.orTimeout(40, TimeUnit.SECONDS).join();
            assertThat(run.warnings()).anyMatch(w -> w.endsWith("Nobody is left, and the run ended."));
            assertThat(run.total().done()).isPositive();
            assertThatThrownBy(() -> crew.run(folder, StayProject.plan(LoadShape.arrivals(10, 1))))
                    .isInstanceOf(Problem.class)
                    .hasMessageContaining("There is no worker");
        }
    }

    @Test
    void workersStopTheirLoadAndWaitWhenTheCoordinatorIsGone() {
        Crew crew = new Crew(1);
        try {
            CompletableFuture<LoadRun> result = start(crew, LoadShape.arrivals(50, 60), WhenLost.SHARE);
            // it goes without a word, as a process does that is killed
            ((PekkoGathering) crew.gathering).vanish();
            Crew.pause(3_300);
            int then = server.requests().size();
            Crew.pause(1_000);
            assertThat(server.requests()).hasSize(then);
            assertThat(crew.heard.get(0)).anyMatch(w -> w.startsWith("The coordinator is not heard of any more"));
            assertThat(crew.working.get(0).isDone()).isFalse();
            assertThat(result).isCompletedExceptionally();
            // and joins the next at the same place
            try (var again =
                    crew.fleet.open(crew.invitation(Invitation.COORDINATOR), dev.mockbell.fleet.FleetListener.NONE)) {
                long until = System.nanoTime() + TimeUnit.SECONDS.toNanos(30);
                while (again.workers().isEmpty() && System.nanoTime() < until) {
                    Crew.pause(100);
                }
                assertThat(again.workers()).hasSize(1);
            }
        } finally {
            crew.close();
        }
    }
}
