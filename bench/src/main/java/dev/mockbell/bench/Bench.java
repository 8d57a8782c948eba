package dev.mockbell.bench;

/** Benchmarks, run by hand. */
public final class Bench {
    private Bench() {}

    /** Not yet. */
    public static void main(String[] args) {
        System.out.println("no benchmarks yet");
    }
}
