package dev.mockbell.load;

/**
 * Which part of a run a generator makes. All lanes of all generators are numbered through, and of all arrivals, or users, each
 * lane has every so-manieth: together they keep the plan's curve whatever the generators' sizes.
 *
 * @param number of the generator, from 0
 * @param parts how many generators there are
 * @param firstLane the number of its first lane among all
 * @param allLanes how many lanes there are in all
 */
public record LoadPart(int number, int parts, int firstLane, int allLanes) {
    public LoadPart {
        if (number < 0 || number >= parts || firstLane < 0 || firstLane >= allLanes) {
            throw new IllegalArgumentException("part " + number + " of " + parts + ", lane " + firstLane);
        }
    }

    /** All of it. */
    static LoadPart whole(int lanes) {
        return new LoadPart(0, 1, 0, lanes);
    }
}
