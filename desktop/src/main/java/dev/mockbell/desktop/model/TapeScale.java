package dev.mockbell.desktop.model;

import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;

/**
 * Where moments stand on the tape. Time in which nothing happens is folded to a narrow piece, so that the last minute's traffic does
 * not sit in the corner of an empty hour; the rest shares the width by how long it is.
 */
public final class TapeScale {
    /** What a folded piece takes, in pixels. */
    public static final double FOLD = 22;

    /** So much of the span around each exchange is never folded. */
    private static final int AROUND = 12;

    /** A quiet time shorter than that part of the span is not worth a fold. */
    private static final int WORTH = 10;

    private final List<Piece> pieces = new ArrayList<>();

    /**
     * A stretch of time.
     *
     * @param from in milliseconds since 1970, as {@code until}
     * @param x where it begins, in pixels
     * @param width in pixels
     */
    public record Piece(long from, long until, boolean folded, double x, double width) {
        public Duration time() {
            return Duration.ofMillis(until - from);
        }
    }

    private TapeScale() {}

    /**
     * A scale.
     *
     * @param moments at which something happened, in milliseconds since 1970, in any order; it is sorted
     */
    public static TapeScale of(Instant start, Instant end, long[] moments, double width) {
        long from = start.toEpochMilli();
        long until = Math.max(from + 1, end.toEpochMilli());
        TapeScale scale = new TapeScale();
        List<long[]> stretches = stretches(from, until, moments);
        long open = 0;
        int folds = 0;
        for (long[] s : stretches) {
            open += s[2] == 0 ? s[1] - s[0] : 0;
            folds += s[2] == 0 ? 0 : 1;
        }
        double room = Math.max(1, width - folds * FOLD);
        double x = 0;
        for (long[] s : stretches) {
            boolean folded = s[2] != 0;
            double wide = folded ? FOLD : room * (s[1] - s[0]) / Math.max(1, open);
            scale.pieces.add(new Piece(s[0], s[1], folded, x, wide));
            x += wide;
        }
        return scale;
    }

    /** From, until, and 1 where it is folded. */
    private static List<long[]> stretches(long from, long until, long[] moments) {
        long span = until - from;
        long around = span / AROUND;
        List<long[]> found = new ArrayList<>();
        Arrays.sort(moments);
        long at = from;
        for (long moment : moments) {
            if (moment < from || moment > until) {
                continue;
            }
            long quiet = moment - around;
            if (quiet - at > span / WORTH) {
                found.add(new long[] {at, quiet, 1});
                at = quiet;
            }
            long to = Math.min(until, moment + around);
            add(found, at, to);
            at = Math.max(at, to);
        }
        if (found.isEmpty()) {
            return List.of(new long[] {from, until, 0});
        }
        if (until - at > span / WORTH) {
            found.add(new long[] {at, until, 1});
        } else if (until > at) {
            add(found, at, until);
        }
        return found;
    }

    /** Makes the last open stretch longer, or begins one. */
    private static void add(List<long[]> found, long at, long to) {
        long[] last = found.isEmpty() ? null : found.get(found.size() - 1);
        if (last != null && last[2] == 0) {
            last[1] = Math.max(last[1], to);
        } else if (to > at) {
            found.add(new long[] {at, to, 0});
        }
    }

    /** Its stretches, one after the other. */
    public List<Piece> pieces() {
        return pieces;
    }

    /** The time that is not folded. */
    public Duration open() {
        return Duration.ofMillis(pieces.stream()
                .filter(p -> !p.folded())
                .mapToLong(p -> p.until() - p.from())
                .sum());
    }

    /** Where a moment stands. */
    public double x(long millis) {
        Piece p = pieces.get(index(millis));
        double part = (double) (millis - p.from()) / Math.max(1, p.until() - p.from());
        return p.x() + p.width() * part;
    }

    private int index(long millis) {
        int low = 0;
        int high = pieces.size() - 1;
        while (low < high) {
            int middle = (low + high + 1) >>> 1;
            if (pieces.get(middle).from() <= millis) {
                low = middle;
            } else {
                high = middle - 1;
            }
        }
        return low;
    }

    /** The moment that stands there. */
    public Instant at(double x) {
        Piece p = pieces.get(0);
        for (Piece next : pieces) {
            if (next.x() <= x) {
                p = next;
            }
        }
        double part = p.width() == 0 ? 0 : (x - p.x()) / p.width();
        return Instant.ofEpochMilli(p.from() + Math.round((p.until() - p.from()) * part));
    }

    /** Whether a moment is in a folded stretch. */
    public boolean isFolded(long millis) {
        return pieces.get(index(millis)).folded();
    }
}
