package dev.mockbell.bench;

import java.io.PrintStream;
import java.nio.charset.StandardCharsets;
import java.util.List;

/**
 * Benchmarks, run by hand: {@code ./mockbell bench load}, {@code mock}, {@code contract}, {@code sheet}, {@code call}, {@code answer},
 * {@code check}, {@code tap} or {@code all}. Each measures the product's part
 * beside a plain one of the standard library, in interleaved turns of one run, so that a machine which is busy with
 * other things is busy with both; the ratio is the figure to quote.
 */
public final class Bench {
    private Bench() {}

    /** Takes the name of a benchmark; all of them without one. */
    public static void main(String[] args) throws Exception {
        PrintStream out = new PrintStream(System.out, true, StandardCharsets.UTF_8);
        String which = args.length == 0 ? "all" : args[0];
        if ("soak".equals(which)) {
            // an hour, unless it is to be less; not among all
            new MockSoak(out, args.length > 1 ? Integer.parseInt(args[1]) : 60).run();
            System.exit(0);
        }
        if ("whole".equals(which)) {
            // window, mock, tap and load together, for an hour unless it is to be less
            new WholeSoak(out, args.length > 1 ? Integer.parseInt(args[1]) : 60).run();
            System.exit(0);
        }
        if ("ledger".equals(which)) {
            // a million, unless it is to be fewer; not among all
            new LedgerBench(out, args.length > 1 ? Integer.parseInt(args[1]) : 1_000_000).run();
            System.exit(0);
        }
        if ("grid".equals(which)) {
            // starts up to eight more programs; not among all
            new GridBench(out, args.length > 1 ? List.of(Integer.parseInt(args[1])) : List.of(1, 3, 8)).run();
            System.exit(0);
        }
        if ("live".equals(which)) {
            // fifty thousand a second, unless it is to be fewer; not among all
            new LiveBench(out, args.length > 1 ? Integer.parseInt(args[1]) : 50_000).run();
            System.exit(0);
        }
        if ("scale".equals(which)) {
            new ScaleSimulation(out).run();
            System.exit(0);
        }
        if (!List.of("all", "load", "mock", "contract", "sheet", "call", "answer", "check", "tap")
                .contains(which)) {
            out.println("There is no benchmark " + which
                    + ". There are load, mock, contract, sheet, call, answer, check, tap, all,"
                    + " grid WORKERS, live RATE, scale, ledger COUNT, soak MINUTES, and whole MINUTES.");
            System.exit(2);
        }
        boolean all = "all".equals(which);
        if (all || "load".equals(which)) {
            new LoadBench(out).run();
        }
        if (all || "mock".equals(which)) {
            new MockBench(out).run();
        }
        if (all || "contract".equals(which)) {
            new ContractBench(out).run();
        }
        if (all || "sheet".equals(which)) {
            new SheetBench(out).run();
        }
        if (all || "call".equals(which)) {
            new CallBench(out).run();
        }
        if (all || "answer".equals(which)) {
            new AnswerBench(out).run();
        }
        if (all || "check".equals(which)) {
            new CheckBench(out).run();
        }
        if (all || "tap".equals(which)) {
            new TapBench(out).run();
        }
        System.exit(0);
    }
}
