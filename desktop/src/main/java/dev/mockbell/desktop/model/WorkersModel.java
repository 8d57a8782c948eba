package dev.mockbell.desktop.model;

import dev.mockbell.assembly.Core;
import dev.mockbell.fleet.FleetListener;
import dev.mockbell.fleet.FleetSource;
import dev.mockbell.fleet.Gathering;
import dev.mockbell.fleet.Invitation;
import dev.mockbell.fleet.Meeting;
import dev.mockbell.fleet.WhenLost;
import dev.mockbell.fleet.WorkerNow;
import dev.mockbell.load.LoadControl;
import dev.mockbell.load.LoadEngine;
import dev.mockbell.load.LoadListener;
import dev.mockbell.load.LoadPlan;
import dev.mockbell.load.LoadRun;
import dev.mockbell.problem.Problem;
import dev.mockbell.project.LocalProject;
import dev.mockbell.project.Project;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.Consumer;
import java.util.function.Supplier;
import javafx.beans.property.BooleanProperty;
import javafx.beans.property.ObjectProperty;
import javafx.beans.property.SimpleBooleanProperty;
import javafx.beans.property.SimpleObjectProperty;
import javafx.collections.FXCollections;
import javafx.collections.ObservableList;

/** Workers that make the project's load together, while the place where they join is open. It ends with the window. */
public final class WorkersModel {
    private static final Duration LIFE_HERE = Duration.ofDays(1);

    private final Desk desk;
    private final BooleanProperty open = new SimpleBooleanProperty();
    private final BooleanProperty opening = new SimpleBooleanProperty();
    private final ObjectProperty<WhenLost> whenLost = new SimpleObjectProperty<>(WhenLost.SHARE);
    private final ObservableList<WorkerNow> workers = FXCollections.observableArrayList();
    private final List<Process> here = new ArrayList<>();
    private boolean ended;
    private volatile Gathering gathering;

    public WorkersModel(Desk desk) {
        this.desk = desk;
        desk.onEnd(this::endForGood);
    }

    private void endForGood() {
        synchronized (here) {
            ended = true;
        }
        end();
    }

    private void end() {
        Gathering now = gathering;
        gathering = null;
        if (now != null) {
            now.close();
        }
        synchronized (here) {
            here.forEach(Process::destroy);
            here.clear();
        }
    }

    /** Ends with the window, also if that has ended while it was being started. */
    private void keep(Process started) {
        synchronized (here) {
            if (ended) {
                started.destroy();
            } else {
                here.add(started);
            }
        }
    }

    /** Whether this program can make load with others. */
    public boolean isThere() {
        return desk.fleet().isPresent();
    }

    /** Whether workers may join, and load is made by them. */
    public BooleanProperty openProperty() {
        return open;
    }

    /** Those that are there. */
    public ObservableList<WorkerNow> workers() {
        return workers;
    }

    /** What becomes of a run when one of them is lost. */
    public ObjectProperty<WhenLost> whenLostProperty() {
        return whenLost;
    }

    /** Where they join. */
    public Meeting meeting() {
        return Meeting.of(desk.project().folder());
    }

    private FleetSource source() {
        return desk.fleet().orElseThrow(() -> Problem.input("This program makes load alone", null, null));
    }

    /** Opens the place where workers join, or closes it; load is made by this program alone then. */
    public void gather(boolean wanted) {
        if (wanted) {
            gathered(() -> {});
        } else if (open.get()) {
            open.set(false);
            workers.clear();
            desk.tasks()
                    .run(
                            () -> {
                                end();
                                return null;
                            },
                            nothing -> {},
                            desk::tell);
        }
    }

    private void gathered(Runnable then) {
        if (open.get()) {
            then.run();
            return;
        }
        if (opening.get()) {
            return;
        }
        opening.set(true);
        Project project = desk.project();
        LocalProject local = desk.local();
        desk.tasks()
                .run(
                        () -> {
                            Meeting meeting = Meeting.of(project.folder());
                            local.checkListening(meeting.host());
                            gathering = source().fleet()
                                    .open(
                                            desk.core()
                                                    .invitation(
                                                            project,
                                                            meeting,
                                                            Invitation.COORDINATOR,
                                                            Invitation.OF_A_COORDINATOR),
                                            new Told());
                            return meeting;
                        },
                        meeting -> {
                            opening.set(false);
                            open.set(true);
                            then.run();
                        },
                        problem -> {
                            opening.set(false);
                            desk.tell(problem, () -> gathered(then));
                        });
    }

    /**
     * Writes an invitation for other machines.
     *
     * @param host the address of this machine by which they reach it
     * @param then hears of the command that is to be given there
     */
    public void invite(Path file, String host, int days, Consumer<String> then) {
        Project project = desk.project();
        LocalProject local = desk.local();
        desk.tasks()
                .run(
                        () -> {
                            local.checkListening(host);
                            Meeting meeting = new Meeting(
                                    host, Meeting.of(project.folder()).port());
                            desk.core()
                                    .invitation(project, meeting, Invitation.WORKER, Duration.ofDays(days))
                                    .write(file);
                            meeting.keep(project.folder());
                            return "mockbell worker --invitation " + file.getFileName();
                        },
                        then::accept,
                        problem -> desk.tell(problem, () -> invite(file, host, days, then)));
    }

    /** Starts a worker on this machine, in a process of its own, whose code is compiled for load. */
    public void startHere() {
        gathered(() -> {
            Project project = desk.project();
            desk.tasks()
                    .run(
                            () -> {
                                Path file = desk.user()
                                        .state()
                                        .resolve("workers")
                                        .resolve(Long.toHexString(System.nanoTime()) + ".json");
                                desk.core()
                                        .invitation(project, Meeting.of(project.folder()), Invitation.WORKER, LIFE_HERE)
                                        .write(file);
                                Process started = source().startWorker(file);
                                started.onExit().thenRun(() -> forget(file));
                                keep(started);
                                return started;
                            },
                            started -> {},
                            desk::tell);
        });
    }

    private static void forget(Path file) {
        try {
            Files.deleteIfExists(file);
        } catch (IOException left) {
            // it expires within a day
            return;
        }
    }

    /** What has a plan carried out by those that are there, as all stands now; it is to be done off the interface thread. */
    Supplier<LoadRun> made(LoadPlan plan, LoadEngine engine, LoadListener listener, LoadControl control) {
        Project project = desk.project();
        LocalProject local = desk.local();
        WhenLost then = whenLost.get();
        return () -> {
            Gathering now = Optional.ofNullable(gathering)
                    .orElseThrow(() -> Problem.input("The place where workers join is closed", null, "Open it again."));
            Core core = desk.core();
            return now.run(
                    core.order(project, plan, engine, local, core.hosts(local), then, control), listener, control);
        };
    }

    /** Brings what is heard of workers to the interface thread. */
    private final class Told implements FleetListener {
        @Override
        public void workers(List<WorkerNow> now) {
            desk.tasks().later(() -> {
                if (open.get() || opening.get()) {
                    workers.setAll(now);
                }
            });
        }

        @Override
        public void told(String sentence) {
            desk.tasks().later(() -> desk.tell(Notice.bad(sentence)));
        }
    }
}
