package dev.mockbell.bench;

import dev.mockbell.grid.PortionBytes;
import dev.mockbell.load.Health;
import dev.mockbell.load.LoadPlan;
import dev.mockbell.load.LoadShape;
import dev.mockbell.load.LoadSums;
import dev.mockbell.load.PartSums;
import dev.mockbell.load.Portion;
import dev.mockbell.load.Spent;
import java.io.IOException;
import java.io.PrintStream;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.SplittableRandom;
import java.util.stream.IntStream;
import org.HdrHistogram.Histogram;

/**
 * How far one coordinator goes: portions as workers send them are really encoded, decoded and added up, one after the other as
 * the coordinator does; the network and the clocks are simulated. What comes first to its end is named.
 */
final class ScaleSimulation {
    private static final int[] WORKERS = {10, 100, 1_000};
    private static final int STEPS = 5;
    private static final int RATE = 2_000;
    private static final int SAMPLE = 60;

    /** A sign of life with its answer, with what TLS and the cluster engine put around them; measured by hand. */
    private static final int PING_BYTES = 620;

    /** A second, while load is made. */
    private static final double PINGS = 5.0 / 3;

    /**
     * What the cluster engine says among its nodes, to and from one of them, in bytes a second: measured when each had heartbeats
     * for nine others and twice the gossip, so that it is less now.
     */
    private static final int CLUSTER_BYTES = 14_000;

    private static final double LINE_BYTES = 125e6;

    private final PrintStream out;
    private final SplittableRandom random = new SplittableRandom(5);

    ScaleSimulation(PrintStream out) {
        this.out = out;
    }

    void run() throws IOException {
        out.println(String.format(
                Locale.ROOT,
                "one coordinator; each worker carries out %d steps, %d a second in all, and reports once a second",
                STEPS,
                RATE));
        List<byte[]> portions = new ArrayList<>();
        for (int i = 0; i < SAMPLE; i++) {
            portions.add(PortionBytes.of(portion(1)));
        }
        double bytes = portions.stream().mapToInt(b -> b.length).average().orElse(0);
        double merge = merge(portions);
        double memory = memory();
        out.println(String.format(
                Locale.ROOT,
                "a portion has %.1f KB; to read it and add it up takes %.2f ms; the coordinator keeps %.0f KB for each worker",
                bytes / 1_024,
                merge * 1_000,
                memory / 1_024));
        out.println(
                "workers  to the coordinator  its processor  its memory  clocks within (median, worst)  what ends first");
        for (int workers : WORKERS) {
            double traffic = workers * (bytes + PINGS * PING_BYTES) + CLUSTER_BYTES;
            double busy = workers * (merge + PINGS * 25e-6);
            double[] error = clocks(workers);
            out.println(String.format(
                    Locale.ROOT,
                    "%7d  %10.2f MB/s     %8.0f %%      %6.0f MB   %6.2f ms, %.2f ms            %s",
                    workers,
                    traffic / 1e6,
                    busy * 100,
                    (workers * memory + 40e6) / 1e6,
                    error[0] / 1e6,
                    error[1] / 1e6,
                    first(traffic / LINE_BYTES, busy)));
        }
        out.println(String.format(
                Locale.ROOT,
                "the one thread that adds up is busy all the time with %.0f workers; a line of 1 Gbit/s is full with %.0f",
                1 / (merge + PINGS * 25e-6),
                LINE_BYTES / (bytes + PINGS * PING_BYTES)));
    }

    private static String first(double line, double busy) {
        if (line < 0.5 && busy < 0.5) {
            return "nothing";
        }
        return busy >= line ? "the thread that adds up" : "the line";
    }

    private Portion portion(int second) {
        List<Histogram> times = new ArrayList<>();
        List<Histogram> begun = new ArrayList<>();
        List<Long> failed = new ArrayList<>();
        for (int step = 0; step < STEPS; step++) {
            Histogram all = empty();
            Histogram own = empty();
            for (int i = 0; i < RATE / STEPS; i++) {
                // most answers within some tens of milliseconds, a few much later
                long micros = Math.max(1, (long) (20_000 * Math.exp(0.7 * gauss())));
                all.recordValue(Math.min(3_600_000_000L, micros + random.nextInt(100)));
                own.recordValue(Math.min(3_600_000_000L, micros));
            }
            times.add(all);
            begun.add(own);
            failed.add((long) random.nextInt(3));
        }
        List<Histogram> stages = new ArrayList<>();
        for (int i = 0; i < Spent.Stage.values().length; i++) {
            Histogram stage = empty();
            for (int n = 0; n < RATE; n++) {
                stage.recordValue(1 + random.nextInt(200));
            }
            stages.add(stage);
        }
        return new Portion(
                second,
                times,
                begun,
                stages,
                failed,
                IntStream.range(0, STEPS).mapToObj(i -> 0L).toList(),
                RATE,
                RATE,
                12,
                0,
                new Health(0.4, 0, 0.3, 0.4, 0, 0.5, 64),
                Map.of("fault HutFull", 3L));
    }

    private double gauss() {
        double sum = 0;
        for (int i = 0; i < 12; i++) {
            sum += random.nextDouble();
        }
        return sum - 6;
    }

    private static Histogram empty() {
        return new Histogram(1, 3_600_000_000L, 3);
    }

    /** How long it takes to read a portion and add it up, in seconds of one thread. */
    private double merge(List<byte[]> portions) throws IOException {
        LoadSums sums = new LoadSums(
                LoadPlan.of("p", "P", "s", LoadShape.arrivals(RATE, 3_600)),
                IntStream.range(0, STEPS).mapToObj(i -> "step " + i).toList(),
                List.of());
        PartSums part = new PartSums(STEPS);
        double best = Double.MAX_VALUE;
        for (int round = 0; round < 12; round++) {
            long began = System.nanoTime();
            for (byte[] bytes : portions) {
                Portion read = PortionBytes.read(bytes);
                sums.add(read);
                part.add(read);
            }
            best = Math.min(best, (System.nanoTime() - began) / 1e9 / portions.size());
        }
        return best;
    }

    /** What is kept for a worker, in bytes. */
    private static double memory() {
        int count = 200;
        List<PartSums> kept = new ArrayList<>();
        Runtime runtime = Runtime.getRuntime();
        System.gc();
        long before = runtime.totalMemory() - runtime.freeMemory();
        for (int i = 0; i < count; i++) {
            kept.add(new PartSums(STEPS));
        }
        System.gc();
        double each = (runtime.totalMemory() - runtime.freeMemory() - before) / (double) kept.size();
        return Math.max(0, each);
    }

    /**
     * By how much clocks are known, as median and worst of all workers: each is asked twenty times in a network where a way takes
     * 0.1 ms and now and then much more, and answers are read one after the other.
     */
    private double[] clocks(int workers) {
        double[] best = new double[workers];
        Arrays.fill(best, Double.MAX_VALUE);
        for (int round = 0; round < 20; round++) {
            double[] arrives = new double[workers];
            for (int w = 0; w < workers; w++) {
                // asked one after the other
                arrives[w] = w * 12e3 + way() + way();
            }
            Integer[] order = IntStream.range(0, workers).boxed().toArray(Integer[]::new);
            Arrays.sort(order, (a, b) -> Double.compare(arrives[a], arrives[b]));
            double free = 0;
            for (int w : order) {
                double read = Math.max(free, arrives[w]);
                free = read + 25e3;
                best[w] = Math.min(best[w], (read - w * 12e3) / 2);
            }
        }
        Arrays.sort(best);
        return new double[] {best[workers / 2], best[workers - 1]};
    }

    private double way() {
        return random.nextInt(20) == 0 ? 2e6 + random.nextDouble() * 6e6 : 80e3 + random.nextDouble() * 60e3;
    }
}
