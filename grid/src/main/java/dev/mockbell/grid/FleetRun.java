package dev.mockbell.grid;

import dev.mockbell.exchange.Exchange;
import dev.mockbell.fleet.FleetOrder;
import dev.mockbell.fleet.WhenLost;
import dev.mockbell.load.LoadControl;
import dev.mockbell.load.LoadListener;
import dev.mockbell.load.LoadListener.Phase;
import dev.mockbell.load.LoadRun;
import dev.mockbell.load.LoadSecond;
import dev.mockbell.load.LoadShape;
import dev.mockbell.load.LoadSums;
import dev.mockbell.load.RowUse;
import dev.mockbell.load.WorkerRun.State;
import dev.mockbell.problem.Problem;
import dev.mockbell.project.LoadFile;
import java.io.IOException;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.concurrent.CompletableFuture;
import java.util.function.Consumer;

/** One run as the coordinator leads it, from the order to the last portion. Used by the coordinator's thread alone. */
final class FleetRun {
    /** Between the word to begin and the beginning, so that it is there in time. */
    private static final long LEAD_NANOS = 400_000_000;

    /** Workers get up to speed in it, on machines that may be busy. */
    private static final long PREPARING_NANOS = 180_000_000_000L;

    /** A second is closed without those who are slow, so long after its end. */
    private static final long LATE_NANOS = 1_500_000_000;

    /** After its plan's end and the longest wait for an answer, a run is not waited for longer. */
    private static final long PATIENCE_NANOS = 25_000_000_000L;

    private static final long STOPPED_NANOS = 5_000_000_000L;
    private static final int MOST_KEPT = 1_000;
    private static final int MOST_PIECES = 512;

    /** Who wants a run, and is told of it. */
    record Asked(LoadListener listener, LoadControl control, CompletableFuture<LoadRun> result) {}

    private final long number;
    private final FleetOrder order;
    private final ProjectFiles.Packed files;
    private final List<Member> crew;
    private final LoadSums sums;
    private final LoadListener listener;
    private final LoadControl control;
    private final Consumer<String> teller;
    private final CompletableFuture<LoadRun> result;
    private final List<String> warnings = new ArrayList<>();
    private final Map<String, Integer> kept = new HashMap<>();
    private final int allLanes;
    private int keptInAll;
    private int closed;
    private boolean begun;
    private boolean measuring;
    private boolean endedByLoss;
    private final long ordered;
    private long from;
    private long stopped;
    private Instant started;

    /**
     * @param crew those who take part, in the order of their numbers
     * @param files the project's
     * @param teller hears what people should know
     */
    FleetRun(
            long number,
            FleetOrder order,
            ProjectFiles.Packed files,
            List<Member> crew,
            Asked asked,
            Consumer<String> teller,
            long now) {
        this.number = number;
        this.order = order;
        this.files = files;
        this.crew = crew;
        this.listener = asked.listener();
        this.control = asked.control();
        this.teller = teller;
        this.result = asked.result();
        this.ordered = now;
        this.sums =
                new LoadSums(order.plan(), order.named().steps(), order.named().groups());
        this.allLanes = crew.stream().mapToInt(m -> m.hello().lanes()).sum();
    }

    /** Whether load is made. */
    boolean isBegun() {
        return begun;
    }

    boolean isOver() {
        return result.isDone();
    }

    /** Whether it takes part, or took part until it was lost. */
    boolean has(Member member) {
        return crew.contains(member);
    }

    boolean has(Member member, long run) {
        return run == number && crew.contains(member) && !member.isLost();
    }

    /** Tells everybody what to do. */
    void order() {
        int lane = 0;
        for (int i = 0; i < crew.size(); i++) {
            Member member = crew.get(i);
            member.joins(i, lane, order.named().steps().size());
            member.ref()
                    .tell(new Spoken.Order(
                            number,
                            LoadFile.text(order.plan()),
                            order.environment(),
                            order.secrets(),
                            order.secretHosts(),
                            order.loadable(),
                            i,
                            crew.size(),
                            lane,
                            allLanes,
                            files.digest(),
                            files.pieces().size()));
            lane += member.hello().lanes();
        }
        listener.phase(Phase.READYING);
    }

    void wanted(Member member, int index) {
        if (index >= 0 && index < files.pieces().size()) {
            member.ref().tell(new Spoken.Piece(index, files.pieces().get(index)));
        }
    }

    void prepared(Member member, long now) {
        member.prepared();
        if (!begun && crew.stream().allMatch(Member::isPrepared)) {
            begin(now);
        }
    }

    private void begin(long now) {
        begun = true;
        long at = now + LEAD_NANOS;
        int warmUp = order.plan().conduct().warmUpSeconds();
        from = at + warmUp * 1_000_000_000L;
        started = Instant.now().plusNanos(from - now);
        for (Member member : crew) {
            member.ref().tell(new Spoken.Begin(number, member.tie().there(at)));
        }
        changed(now);
        if (warmUp > 0) {
            listener.phase(Phase.WARMING);
        }
    }

    /** The rate was changed, or it is to end. */
    void changed(long now) {
        if (control.stop().isStopped()) {
            if (stopped == 0) {
                stopped = now;
                say(new Spoken.EndNow());
            }
        } else if (control.isEnding()) {
            say(new Spoken.EndGently());
        } else if (control.factor() != 1 || begun) {
            say(new Spoken.Factor(control.factor()));
        }
    }

    private void say(Spoken.ToWorker what) {
        crew.stream()
                .filter(m -> !m.isLost() && !m.isFinished())
                .forEach(m -> m.ref().tell(what));
    }

    void parcel(Member member, Spoken.Parcel piece) {
        member.parcel(piece, MOST_PIECES).ifPresent(bytes -> {
            try {
                if (piece.of() == Spoken.Of.PORTION) {
                    var portion = PortionBytes.read(bytes);
                    sums.add(portion);
                    member.sums().add(portion);
                } else {
                    keep(FailureBytes.read(bytes));
                }
            } catch (IOException | IllegalArgumentException | IndexOutOfBoundsException e) {
                tell(
                        member,
                        "something that it sent could not be read and is not counted (" + Problem.reason(e) + ").");
            }
        });
    }

    private void keep(Exchange failure) {
        if (keptInAll < MOST_KEPT
                && kept.merge(failure.note(), 1, Integer::sum)
                        <= order.plan().conduct().failuresKept()) {
            keptInAll++;
            listener.failure(failure);
        }
    }

    void secondOver(Member member, int second, long now) {
        member.secondOver(second);
        closeSeconds(now);
    }

    private void closeSeconds(long now) {
        while (begun && !isOver()) {
            int next = closed + 1;
            boolean given = crew.stream().anyMatch(m -> m.secondsOver() >= next);
            boolean late = now - from > next * 1_000_000_000L + LATE_NANOS;
            boolean waits = crew.stream()
                    .anyMatch(m -> !m.isLost()
                            && !m.isFinished()
                            && m.secondsOver() < next
                            && !(late && m.state() == State.SLOW));
            if (!given || waits) {
                return;
            }
            close();
        }
    }

    private void close() {
        closed++;
        LoadSecond second = sums.close(closed);
        listener.times(closed, sums.times(closed));
        listener.second(second);
        if (sums.endsEarly()) {
            control.stopGently();
        }
    }

    void finished(Member member, double seconds, long now) {
        member.finished(seconds);
        member.state(State.DONE);
        closeSeconds(now);
        endWhenAllHave(now);
    }

    private void endWhenAllHave(long now) {
        if (crew.stream().allMatch(m -> m.isLost() || m.isFinished())) {
            end(now);
        }
    }

    /** It cannot begin, or go on. */
    void failed(Member member, String why, long now) {
        if (begun) {
            lost(member, "it could not go on: " + why, now);
        } else {
            giveUp(Problem.input(
                    member.name() + " at " + member.hello().address() + " cannot begin: " + unstopped(why),
                    null,
                    null));
        }
    }

    private static String unstopped(String why) {
        return why.endsWith(".") ? why.substring(0, why.length() - 1) : why;
    }

    private void giveUp(Problem problem) {
        if (!result.isDone()) {
            say(new Spoken.EndNow());
            result.completeExceptionally(problem);
        }
    }

    /**
     * It is given up; why is a clause.
     *
     * @return whether that concerns this run, and was told
     */
    boolean lost(Member member, String why, long now) {
        if (!crew.contains(member) || member.isFinished() || isOver()) {
            return false;
        }
        member.state(State.LOST);
        if (!begun) {
            giveUp(Problem.of(
                    Problem.Kind.NO_ANSWER,
                    member.name() + " at " + member.hello().address() + " was lost before the run began: " + why,
                    null,
                    "Start the run again with those that are there.",
                    null));
            return true;
        }
        double second = Math.max(0, (now - from) / 1e9);
        // it happened just after its last word, not when it was noticed
        double silent = Math.max(0, second - member.silence(now) / 1e9);
        List<Member> others =
                crew.stream().filter(m -> !m.isLost() && !m.isFinished()).toList();
        boolean over = second >= order.plan().seconds() || control.isEnding();
        boolean shared = !over && !others.isEmpty() && order.whenLost() == WhenLost.SHARE;
        StringBuilder text = new StringBuilder(String.format(
                Locale.ROOT,
                "lost in second %d: %s. What it did after second %d is not counted",
                (int) silent + 1,
                why,
                member.secondsOver()));
        double due = order.plan().shape().due(member.secondsOver(), second)
                * control.factor()
                * member.lanes().size()
                / allLanes;
        if (due >= 1) {
            text.append(String.format(
                    Locale.ROOT,
                    "; about %.0f arrivals were due from it in that time, and nothing is known of them",
                    due));
        } else if (order.plan().shape().kind() == LoadShape.Kind.USERS) {
            text.append(String.format(
                    Locale.ROOT,
                    "; its part of the users, %d of %d, was missing for %.1f s",
                    member.lanes().size(),
                    allLanes,
                    second - member.secondsOver()));
        }
        text.append('.');
        if (order.plan().rows().filter(r -> r.order() == RowUse.Order.ONCE).isPresent()) {
            text.append(" Rows that were its own and not yet taken are left out.");
        }
        if (shared) {
            share(member, others);
            text.append(" The others took over its part.");
        } else if (!over) {
            endedByLoss = true;
            text.append(others.isEmpty() ? " Nobody is left, and the run ended." : " The run was ended.");
            say(new Spoken.EndGently());
        }
        tell(member, text.toString());
        closeSeconds(now);
        endWhenAllHave(now);
        return true;
    }

    private void share(Member member, List<Member> others) {
        Map<Member, List<Integer>> more = new HashMap<>();
        for (int i = 0; i < member.lanes().size(); i++) {
            // to who has the fewest
            Member least = others.get(0);
            for (Member other : others) {
                if (load(other, more) < load(least, more)) {
                    least = other;
                }
            }
            more.computeIfAbsent(least, m -> new ArrayList<>())
                    .add(member.lanes().get(i));
        }
        more.forEach((other, lanes) -> {
            other.lanes().addAll(lanes);
            other.ref().tell(new Spoken.TakeOver(List.copyOf(lanes)));
        });
    }

    /** How many lanes each of its own carries. */
    private static double load(Member member, Map<Member, List<Integer>> more) {
        return (double) (member.lanes().size()
                        + more.getOrDefault(member, List.of()).size())
                / member.hello().lanes();
    }

    /** It was silent for a while and is there again. */
    void back(Member member, long silence) {
        if (begun && crew.contains(member) && !member.isFinished()) {
            int second = (int) Math.max(0, (System.nanoTime() - from) / 1e9) + 1;
            member.wasSilent(silence, second);
            teller.accept(String.format(
                    Locale.ROOT,
                    "%s (%s) was silent for %.1f s until second %d, and goes on.",
                    member.name(),
                    member.hello().address(),
                    silence / 1e9,
                    second));
        }
    }

    private void tell(Member member, String sentence) {
        member.tell(sentence.substring(0, 1).toUpperCase(Locale.ROOT) + sentence.substring(1));
        String whole = member.name() + " (" + member.hello().address() + ") "
                + (sentence.startsWith("lost") ? "was " : "") + sentence;
        warnings.add(whole);
        teller.accept(whole);
    }

    /** Sees to what has its time. */
    void tick(long now) {
        if (!begun) {
            if (control.isEnding()) {
                giveUp(Problem.stopped());
            } else if (now - ordered > PREPARING_NANOS) {
                String who = String.join(
                        ", ",
                        crew.stream()
                                .filter(m -> !m.isPrepared())
                                .map(Member::name)
                                .toList());
                giveUp(Problem.of(
                        Problem.Kind.NO_ANSWER,
                        who + " had not got ready after " + PREPARING_NANOS / 1_000_000_000L + " s",
                        null,
                        "See what that machine is busy with.",
                        null));
            }
            return;
        }
        if (!measuring && now >= from) {
            measuring = true;
            listener.phase(Phase.MEASURING);
        }
        closeSeconds(now);
        long most = (long) (order.plan().seconds() * 1e9)
                + order.plan().conduct().timeoutMillis() * 1_000_000
                + PATIENCE_NANOS;
        if (stopped != 0 && now - stopped > STOPPED_NANOS || now - from > most) {
            for (Member member : crew) {
                if (!member.isFinished() && !member.isLost()) {
                    lost(member, "it did not come to an end", now);
                }
            }
        }
    }

    private void end(long now) {
        if (isOver()) {
            return;
        }
        int last = crew.stream().mapToInt(Member::secondsOver).max().orElse(0);
        while (closed < last) {
            close();
        }
        double seconds = crew.stream()
                .filter(Member::isFinished)
                .mapToDouble(Member::seconds)
                .max()
                .orElse(Math.max(0.001, (now - from) / 1e9));
        for (Member member : crew) {
            member.silences().ifPresent(s -> {
                member.tell("Was " + s);
                warnings.add(member.name() + " (" + member.hello().address() + ") was " + s);
            });
        }
        result.complete(sums.result(
                started,
                seconds,
                control.isEnding() || endedByLoss,
                warnings,
                crew.stream().map(m -> m.run(seconds)).toList()));
    }
}
