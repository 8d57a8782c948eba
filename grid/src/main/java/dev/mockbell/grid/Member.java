package dev.mockbell.grid;

import dev.mockbell.fleet.WorkerNow;
import dev.mockbell.load.Health;
import dev.mockbell.load.PartSums;
import dev.mockbell.load.WorkerRun;
import dev.mockbell.load.WorkerRun.State;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import org.apache.pekko.actor.typed.ActorRef;

/** A worker as the coordinator knows it. Used by the coordinator's thread alone. */
final class Member {
    private static final String WAITS = "waits";
    private static final double MILLION = 1e6;

    private final String name;
    private final Spoken.Hello hello;
    private final ClockTie tie = new ClockTie();
    private long heard;
    private long probed;
    private State state = State.AT_WORK;
    private String doing = WAITS;
    private final List<Integer> lanes = new ArrayList<>();
    private final Map<String, Pieces> parcels = new HashMap<>();
    private int part;
    private boolean prepared;
    private boolean finished;
    private double seconds;
    private int secondsOver;
    private PartSums sums = new PartSums(0);
    private final List<String> told = new ArrayList<>();
    private int silences;
    private long longest;
    private int longestUntil;

    /** @param now by this clock */
    Member(String name, Spoken.Hello hello, long now) {
        this.name = name;
        this.hello = hello;
        this.heard = now;
    }

    String name() {
        return name;
    }

    String id() {
        return hello.id();
    }

    Spoken.Hello hello() {
        return hello;
    }

    String host() {
        return hello.address().substring(0, hello.address().lastIndexOf(':'));
    }

    int port() {
        return Integer.parseInt(hello.address().substring(hello.address().lastIndexOf(':') + 1));
    }

    ActorRef<Spoken.ToWorker> ref() {
        return hello.worker();
    }

    ClockTie tie() {
        return tie;
    }

    /** It was heard of; gives for how long it had not been, in nanoseconds. */
    long heard(long now) {
        long silence = now - heard;
        heard = now;
        return silence;
    }

    long silence(long now) {
        return now - heard;
    }

    /** Whether it is time to find out whether its machine answers. */
    boolean probeIsDue(long now, long every) {
        if (now - probed < every) {
            return false;
        }
        probed = now;
        return true;
    }

    State state() {
        return state;
    }

    void state(State other) {
        state = other;
    }

    boolean isLost() {
        return state == State.LOST;
    }

    void doing(String what) {
        doing = what;
    }

    /** Begins a run. */
    void joins(int number, int firstLane, int steps) {
        part = number;
        lanes.clear();
        for (int i = 0; i < hello.lanes(); i++) {
            lanes.add(firstLane + i);
        }
        parcels.clear();
        told.clear();
        prepared = false;
        finished = false;
        secondsOver = 0;
        silences = 0;
        longest = 0;
        sums = new PartSums(steps);
    }

    int part() {
        return part;
    }

    /** The lanes that are its own now. */
    List<Integer> lanes() {
        return lanes;
    }

    boolean isPrepared() {
        return prepared;
    }

    void prepared() {
        prepared = true;
    }

    boolean isFinished() {
        return finished;
    }

    void finished(double took) {
        finished = true;
        seconds = took;
        doing = WAITS;
    }

    double seconds() {
        return seconds;
    }

    int secondsOver() {
        return secondsOver;
    }

    void secondOver(int second) {
        secondsOver = Math.max(secondsOver, second);
    }

    PartSums sums() {
        return sums;
    }

    /** It said nothing for so long, and then went on. */
    void wasSilent(long nanos, int second) {
        silences++;
        if (nanos > longest) {
            longest = nanos;
            longestUntil = second;
        }
    }

    /** What there is to say of that. */
    Optional<String> silences() {
        return silences == 0
                ? Optional.empty()
                : Optional.of(String.format(
                        Locale.ROOT,
                        "silent for %.1f s until second %d%s, and went on; what was due meanwhile started late.",
                        longest / 1e9,
                        longestUntil,
                        silences == 1 ? "" : " (the longest of " + silences + " times)"));
    }

    void tell(String sentence) {
        told.add(sentence);
    }

    /** Adds a piece of a parcel; gives the parcel once it is whole. */
    Optional<byte[]> parcel(Spoken.Parcel piece, int most) {
        if (piece.pieces() < 1 || piece.pieces() > most) {
            return Optional.empty();
        }
        String key = piece.of() + " " + piece.number();
        Optional<byte[]> whole =
                parcels.computeIfAbsent(key, k -> new Pieces(piece.pieces())).add(piece.index(), piece.bytes());
        if (whole.isPresent()) {
            parcels.remove(key);
        }
        return whole;
    }

    private double clockError() {
        return tie.isKnown() ? tie.error() / MILLION : -1;
    }

    WorkerNow now() {
        boolean working = secondsOver > 0 && !finished;
        return new WorkerNow(
                name,
                hello.address(),
                hello.version(),
                hello.cores(),
                clockError(),
                state,
                doing,
                working ? sums.done() : 0,
                working ? sums.failed() : 0,
                working ? sums.p99() : 0,
                working ? sums.health() : Health.UNKNOWN);
    }

    WorkerRun run(double took) {
        return new WorkerRun(
                name,
                hello.address(),
                hello.cores(),
                hello.lanes(),
                clockError(),
                sums.total(took),
                sums.worst(),
                isLost() ? State.LOST : State.DONE,
                String.join(" ", told),
                sums.history());
    }
}
