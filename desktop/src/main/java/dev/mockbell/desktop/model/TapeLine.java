package dev.mockbell.desktop.model;

import dev.mockbell.exchange.Exchange.Outcome;
import dev.mockbell.exchange.Exchange.Way;
import dev.mockbell.ledger.Listing;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;

/**
 * The newest exchanges in the order in which they ended, as many as the tape shows; what is drawn of each stands in arrays, so that
 * a hundred thousand are gone through in a moment. Safe for many threads.
 */
public final class TapeLine {
    private static final Outcome[] OUTCOMES = Outcome.values();
    private static final Way[] WAYS = Way.values();

    /** An exchange that began before another may have ended long after it. */
    private static final long LONGEST_MILLIS = 600_000;

    private final Listing[] lines;
    private final long[] started;
    private final byte[] codes;
    private int first;
    private int size;

    /** @param most how many are held */
    TapeLine(int most) {
        lines = new Listing[most];
        started = new long[most];
        codes = new byte[most];
    }

    /**
     * What is in a span, the oldest first.
     *
     * @param started in milliseconds since 1970
     */
    public record Part(Listing[] lines, long[] started, byte[] codes) {
        public static final Part NONE = new Part(new Listing[0], new long[0], new byte[0]);

        public int size() {
            return lines.length;
        }

        public Outcome outcome(int index) {
            return OUTCOMES[codes[index] & 3];
        }

        public Way way(int index) {
            return WAYS[codes[index] >> 2];
        }

        /** How many ended so. */
        public int count(Outcome outcome) {
            int count = 0;
            for (byte code : codes) {
                count += (code & 3) == outcome.ordinal() ? 1 : 0;
            }
            return count;
        }
    }

    synchronized void add(Listing line) {
        int at = (first + size) % lines.length;
        put(at, line);
        if (size < lines.length) {
            size++;
        } else {
            first = (first + 1) % lines.length;
        }
    }

    private void put(int at, Listing line) {
        lines[at] = line;
        started[at] = line.started().toEpochMilli();
        codes[at] = (byte) (line.outcome().ordinal() | line.way().ordinal() << 2);
    }

    /** Puts what was there before it, the newest first, in front. */
    synchronized void before(List<Listing> older) {
        long oldest = size == 0 ? Long.MAX_VALUE : lines[first].id();
        for (Listing line : older) {
            if (line.id() < oldest && size < lines.length) {
                first = (first + lines.length - 1) % lines.length;
                put(first, line);
                size++;
            }
        }
    }

    /** Those that began since a moment. */
    public synchronized Part since(Instant from) {
        long wanted = from.toEpochMilli();
        int count = 0;
        while (count < size && started[index(size - 1 - count)] >= wanted - LONGEST_MILLIS) {
            count++;
        }
        Listing[] found = new Listing[count];
        long[] when = new long[count];
        byte[] how = new byte[count];
        int kept = 0;
        for (int i = size - count; i < size; i++) {
            int at = index(i);
            if (started[at] >= wanted) {
                found[kept] = lines[at];
                when[kept] = started[at];
                how[kept] = codes[at];
                kept++;
            }
        }
        return kept == count
                ? new Part(found, when, how)
                : new Part(Arrays.copyOf(found, kept), Arrays.copyOf(when, kept), Arrays.copyOf(how, kept));
    }

    private int index(int i) {
        return (first + i) % lines.length;
    }

    /** The newest, the newest first. */
    synchronized List<Listing> newest(int most) {
        List<Listing> found = new ArrayList<>();
        for (int i = size - 1; i >= 0 && found.size() < most; i--) {
            found.add(lines[index(i)]);
        }
        return found;
    }
}
