package dev.mockbell.grid;

import java.util.List;
import java.util.Map;
import java.util.Set;
import org.apache.pekko.actor.typed.ActorRef;

/**
 * What coordinator and workers say to each other. Nothing else is taken from the network: the names of these records are the
 * list of what is allowed.
 */
interface Spoken {
    /** So much of anything large is sent in one piece. */
    int PIECE = 96 << 10;

    /** What a worker says; its id is random, and new each time that it joins. */
    sealed interface ToCoordinator extends Spoken, Coordinator.Heard {
        String id();
    }

    /** What the coordinator says. */
    sealed interface ToWorker extends Spoken, WorkerPost.Heard {}

    /**
     * A worker is here; said again until it is answered.
     *
     * @param address by which it is reached
     * @param lanes how many it has
     */
    record Hello(String id, ActorRef<ToWorker> worker, String version, String address, int cores, int lanes)
            implements ToCoordinator {}

    /** It is one of the crew, under a name. */
    record Welcome(String name) implements ToWorker {}

    /** It is not taken, and why. */
    record Refused(String why) implements ToWorker {}

    /**
     * A sign of life that asks for another.
     *
     * @param sent by the coordinator's clock
     * @param clockError how well the worker's clock is known, in nanoseconds; negative when it is not
     */
    record Ping(long sent, long clockError) implements ToWorker {}

    /** @param here by the worker's clock */
    record Pong(String id, long sent, long here) implements ToCoordinator {}

    /**
     * What to do. Its text never shows a secret.
     *
     * @param run its number
     * @param part the number of the worker among those of the run; the other numbers are those of its part
     * @param files which files the project has, by their digest
     * @param pieces in how many they come
     */
    record Order(
            long run,
            String plan,
            String environment,
            Map<String, String> secrets,
            Set<String> secretHosts,
            Set<String> loadable,
            int part,
            int parts,
            int firstLane,
            int allLanes,
            String files,
            int pieces)
            implements ToWorker {
        @Override
        public String toString() {
            return "order " + run;
        }
    }

    /** The worker wants a piece of the files. */
    record Wanted(String id, int index) implements ToCoordinator {}

    record Piece(int index, byte[] bytes) implements ToWorker {}

    /** The worker does this now, for people. */
    record Doing(String id, long run, String what) implements ToCoordinator {}

    /** All is prepared. */
    record Prepared(String id, long run) implements ToCoordinator {}

    /** @param at when, by the worker's clock */
    record Begin(long run, long at) implements ToWorker {}

    record Factor(double factor) implements ToWorker {}

    /** Nothing new is to come in. */
    record EndGently() implements ToWorker {}

    /** The run ends at once. */
    record EndNow() implements ToWorker {}

    /** The part of lanes whose worker was lost. */
    record TakeOver(List<Integer> lanes) implements ToWorker {}

    /** What a parcel is of. */
    enum Of {
        PORTION,
        FAILURE
    }

    /**
     * A piece of something large.
     *
     * @param number of the parcel, by kind, from 0
     */
    record Parcel(String id, long run, Of of, long number, int index, int pieces, byte[] bytes)
            implements ToCoordinator {}

    /** All of a second has been sent. */
    record SecondOver(String id, long run, int second) implements ToCoordinator {}

    /** @param seconds how long it took */
    record Finished(String id, long run, double seconds) implements ToCoordinator {}

    /** It cannot begin, or go on. */
    record Failed(String id, long run, String why) implements ToCoordinator {}

    /** It was told to stop, by who sits at it. */
    record Leaving(String id) implements ToCoordinator {}

    /** There will be no more runs here. */
    record Over() implements ToWorker {}
}
