package dev.mockbell.load;

/** Response-time bands for the map: four to each power of ten, from 1 ms to 10 s and beyond. */
public final class ResponseBands {
    public static final int COUNT = 17;

    private ResponseBands() {}

    /** The band's lower edge in microseconds; band 0 starts at 0, the last has no upper edge. */
    public static long lowerMicros(int band) {
        return band == 0 ? 0 : Math.round(1_000 * Math.pow(10, (band - 1) / 4.0));
    }
}
