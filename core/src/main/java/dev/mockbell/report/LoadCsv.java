package dev.mockbell.report;

import dev.mockbell.load.LoadRun;
import dev.mockbell.load.LoadSecond;
import dev.mockbell.load.StepFigures;
import java.util.Locale;

/** Load figures as CSV (RFC 4180). Times are milliseconds from the intended start. */
public final class LoadCsv {
    private LoadCsv() {}

    /** A line a step, the last one for all together. */
    public static String steps(LoadRun run) {
        StringBuilder out = new StringBuilder("step,done,failed,per_second,min,mean,p50,p90,p95,p99,max\r\n");
        run.steps().forEach(s -> line(s, out));
        line(run.total(), out);
        return out.toString();
    }

    private static void line(StepFigures s, StringBuilder out) {
        out.append(field(s.name())).append(',').append(s.done()).append(',').append(s.failed());
        for (double v : new double[] {s.perSecond(), s.min(), s.mean(), s.p50(), s.p90(), s.p95(), s.p99(), s.max()}) {
            out.append(',').append(String.format(Locale.ROOT, "%.3f", v));
        }
        out.append("\r\n");
    }

    /** A line a second of the run. */
    public static String seconds(LoadRun run) {
        StringBuilder out = new StringBuilder("second,started,done,failed,in_flight,p50,p95,p99,latest_start\r\n");
        for (LoadSecond s : run.history()) {
            out.append(s.second())
                    .append(',')
                    .append(s.intended())
                    .append(',')
                    .append(s.done())
                    .append(',')
                    .append(s.failed())
                    .append(',')
                    .append(s.inFlight());
            for (double v : new double[] {s.p50(), s.p95(), s.p99(), s.latestStartMillis()}) {
                out.append(',').append(String.format(Locale.ROOT, "%.3f", v));
            }
            out.append("\r\n");
        }
        return out.toString();
    }

    private static String field(String text) {
        boolean plain = text.chars().noneMatch(c -> c == ',' || c == '"' || c == '\n' || c == '\r');
        return plain ? text : "\"" + text.replace("\"", "\"\"") + "\"";
    }
}
