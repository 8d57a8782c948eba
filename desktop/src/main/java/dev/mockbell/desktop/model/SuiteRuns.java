package dev.mockbell.desktop.model;

import dev.mockbell.ledger.ExchangeTexts;
import dev.mockbell.report.RunLog;
import dev.mockbell.suite.Run;
import dev.mockbell.suite.RunEvent;
import dev.mockbell.suite.RunListener;
import dev.mockbell.suite.RunPlan;
import dev.mockbell.suite.StepPath;
import dev.mockbell.suite.StepResult;
import dev.mockbell.suite.Suite;
import dev.mockbell.task.StopSignal;
import java.time.Instant;
import java.time.ZoneId;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.atomic.AtomicBoolean;
import java.util.function.Consumer;

/** Runs suites off the interface thread: any number of them side by side, each of them once at a time. */
final class SuiteRuns {
    /** So often, in milliseconds, what a run does is told; many steps end within it. */
    private static final long BEAT = 100;

    /** Hears of all runs, on the interface thread. */
    interface Listener {
        void started(Live run);

        /** Results have come since the last beat. */
        void beat(Live run);

        /** A run is over; one that could not be made has no outcome. */
        void ended(Live run);
    }

    /** A run of a suite, as far as it has come. */
    static final class Live {
        private final Suite suite;
        private final Run begun;
        private final StopSignal stop = new StopSignal();
        private final RunLog log = new RunLog(ZoneId.systemDefault());
        private final Map<StepPath, StepResult> results = new ConcurrentHashMap<>();
        private final Set<StepPath> under = ConcurrentHashMap.newKeySet();
        private final AtomicBoolean due = new AtomicBoolean();
        private Run done;
        private boolean over;

        Live(Suite suite, Run begun) {
            this.suite = suite;
            this.begun = begun;
        }

        Suite suite() {
            return suite;
        }

        RunLog log() {
            return log;
        }

        boolean isOver() {
            return over;
        }

        /** What the register shows of it: the outcome when there is one, until then what was begun. */
        Run shown() {
            return done == null ? begun : done;
        }

        Optional<Run> done() {
            return Optional.ofNullable(done);
        }

        boolean is(Run run) {
            return run == begun || run == done;
        }

        Optional<StepResult> at(StepPath path) {
            return Optional.ofNullable(results.get(path));
        }

        boolean isUnder(StepPath path) {
            return under.contains(path);
        }
    }

    private final Desk desk;
    private final Listener listener;
    /** The newest run of each suite, by the suite's id. */
    private final Map<String, Live> newest = new HashMap<>();

    SuiteRuns(Desk desk, Listener listener) {
        this.desk = desk;
        this.listener = listener;
    }

    /** The newest run that was made of a suite here, under way or over. */
    Optional<Live> of(String suite) {
        return Optional.ofNullable(newest.get(suite));
    }

    /** A run as it is, or was, made here. */
    Optional<Live> live(Run run) {
        return of(run.suite()).filter(l -> l.is(run));
    }

    boolean isRunning(String suite) {
        return of(suite).filter(l -> !l.isOver()).isPresent();
    }

    /** How many suites are under way. */
    long running() {
        return newest.values().stream().filter(l -> !l.isOver()).count();
    }

    void stop(String suite) {
        of(suite).ifPresent(l -> l.stop.stop());
    }

    void stopAll() {
        newest.values().forEach(l -> l.stop.stop());
    }

    /**
     * Starts a run of a suite that is not under way.
     *
     * @param then hears, after the listener, when it is over
     */
    void start(Suite suite, RunPlan plan, Consumer<Live> then) {
        Live live = new Live(
                suite,
                new Run(
                        suite.id(),
                        suite.title(),
                        desk.bench().environment(),
                        Instant.now(desk.clock()),
                        0,
                        List.of()));
        newest.put(suite.id(), live);
        listener.started(live);
        RunListener all = RunListener.all(List.of(live.log, event -> heard(live, event)));
        var runner = desk.runner();
        ExchangeTexts exchanges = ExchangeTexts.on(desk.ledger(), desk.redactor());
        desk.tasks()
                .run(
                        () -> {
                            Run done = runner.run(suite, plan, all, live.stop);
                            desk.saver().submit(() -> {
                                desk.history().add(done);
                                desk.history().keep(done, live.log.text(), exchanges);
                                return done;
                            });
                            return done;
                        },
                        done -> {
                            live.done = done;
                            over(live, then);
                        },
                        problem -> {
                            desk.tell(problem);
                            over(live, then);
                        });
    }

    private void over(Live live, Consumer<Live> then) {
        live.over = true;
        // the outcome has them too
        live.results.clear();
        live.under.clear();
        listener.ended(live);
        then.accept(live);
    }

    /** On the thread of the run: what there is to see is told a few times a second, not for every step. */
    private void heard(Live live, RunEvent event) {
        if (event instanceof RunEvent.StepStarted started) {
            live.under.add(started.path());
        } else if (event instanceof RunEvent.StepFinished done) {
            live.under.remove(done.path());
            live.results.put(done.path(), done.result());
        } else if (!(event instanceof RunEvent.RowFinished)) {
            return;
        }
        if (live.due.compareAndSet(false, true)) {
            desk.tasks().after(BEAT, live, () -> {
                live.due.set(false);
                listener.beat(live);
            });
        }
    }

    /**
     * Runs several suites, so many of them at a time; those that are under way already are left out.
     *
     * @param then hears how each that was run ended, when all have
     */
    void several(List<Suite> suites, int atATime, Consumer<List<Live>> then) {
        Deque<Suite> waiting =
                new ArrayDeque<>(suites.stream().filter(s -> !isRunning(s.id())).toList());
        List<Live> ended = new ArrayList<>();
        int[] under = {0};
        Runnable[] next = new Runnable[1];
        next[0] = () -> {
            while (under[0] < atATime && !waiting.isEmpty()) {
                Suite suite = waiting.pop();
                if (isRunning(suite.id())) {
                    continue;
                }
                under[0]++;
                start(suite, RunPlan.ALL, live -> {
                    under[0]--;
                    ended.add(live);
                    if (live.stop.isStopped()) {
                        // who stops one of them does not want those that wait
                        waiting.clear();
                    }
                    next[0].run();
                });
            }
            if (under[0] == 0 && waiting.isEmpty()) {
                then.accept(List.copyOf(ended));
            }
        };
        next[0].run();
    }
}
