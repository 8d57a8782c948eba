package dev.mockbell.cli;

import dev.mockbell.assembly.Core;
import dev.mockbell.fleet.Fleet;
import dev.mockbell.fleet.FleetListener;
import dev.mockbell.fleet.FleetOrder;
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
import java.time.Instant;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import java.util.function.Supplier;

/** Has a plan carried out by workers, once enough of them have joined. */
final class Gathered {
    private static final int LOOK_MILLIS = 100;

    private final Console console;
    private final Supplier<Fleet> fleet;
    private final CommandCore core;
    private final SecretsTo secretsTo;

    Gathered(Console console, Supplier<Fleet> fleet, CommandCore core, SecretsTo secretsTo) {
        this.console = console;
        this.fleet = fleet;
        this.core = core;
        this.secretsTo = secretsTo;
    }

    /**
     * @param wait for how many seconds workers are waited for
     * @throws Problem when too few have come by then, or as a run by this machine alone
     */
    LoadRun run(
            Project project,
            LoadPlan plan,
            LoadEngine engine,
            int workers,
            int wait,
            WhenLost whenLost,
            LoadListener listener,
            LoadControl control) {
        if (workers < 1) {
            throw Problem.input("A run needs a worker at least", "--workers", null);
        }
        Core parts = core.parts();
        LocalProject local = parts.locals().of(project.folder());
        FleetOrder order =
                parts.order(project, plan, engine, local, secretsTo.and(parts.hosts(local)), whenLost, control);
        Meeting meeting = Meeting.of(project.folder());
        local.checkListening(meeting.host());
        Invitation own = parts.invitation(project, meeting, Invitation.COORDINATOR, Invitation.OF_A_COORDINATOR);
        try (Gathering gathering = fleet.get().open(own, new Telling())) {
            console.note("Waiting for " + workers + " workers at " + meeting.host() + ":" + meeting.port() + "…");
            await(gathering, workers, wait, control);
            return gathering.run(order, listener, control);
        }
    }

    private static void await(Gathering gathering, int workers, int wait, LoadControl control) {
        Instant until = Instant.now().plusSeconds(wait);
        while (true) {
            List<WorkerNow> there = gathering.workers().stream()
                    .filter(w -> w.clockError() >= 0)
                    .toList();
            if (there.size() >= workers) {
                return;
            }
            if (control.isEnding()) {
                throw Problem.stopped();
            }
            if (Instant.now().isAfter(until)) {
                throw Problem.of(
                        Problem.Kind.NO_ANSWER,
                        there.size() + " of " + workers + " workers have joined in " + wait + " s",
                        null,
                        "Start the others by “mockbell worker --invitation FILE”"
                                + (there.isEmpty() ? "." : ", or give --workers " + there.size() + "."),
                        null);
            }
            try {
                Thread.sleep(LOOK_MILLIS);
            } catch (InterruptedException e) {
                Thread.currentThread().interrupt();
                throw Problem.stopped();
            }
        }
    }

    /** Says who comes and what happens. */
    private final class Telling implements FleetListener {
        private final Set<String> known = new HashSet<>();

        @Override
        public void workers(List<WorkerNow> now) {
            for (WorkerNow w : now) {
                if (w.clockError() >= 0 && known.add(w.address())) {
                    console.note(String.format(
                            Locale.ROOT,
                            "%s joined: %s, %d cores, clock within %.2f ms",
                            w.name(),
                            w.address(),
                            w.cores(),
                            w.clockError()));
                }
            }
        }

        @Override
        public void told(String sentence) {
            console.note(sentence);
        }
    }
}
