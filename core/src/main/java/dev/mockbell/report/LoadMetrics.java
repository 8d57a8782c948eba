package dev.mockbell.report;

import dev.mockbell.load.Health;
import dev.mockbell.load.LoadSecond;
import dev.mockbell.load.StepFigures;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.function.ToDoubleFunction;

/**
 * The figures of a run under way for a monitoring system, as Prometheus text (version 0.0.4) or OpenMetrics (1.0.0). Both are the
 * same but for the names of counters' families and the mark at the end.
 */
public final class LoadMetrics {
    /** The media type of Prometheus text. */
    public static final String TEXT = "text/plain; version=0.0.4; charset=utf-8";

    /** The media type of OpenMetrics. */
    public static final String OPEN = "application/openmetrics-text; version=1.0.0; charset=utf-8";

    private final boolean open;
    private final String plan;
    private final StringBuilder out = new StringBuilder();

    private LoadMetrics(boolean open, String plan) {
        this.open = open;
        this.plan = plan;
    }

    /**
     * The figures.
     *
     * @param open whether as OpenMetrics
     * @param now the last second; null before the first
     */
    public static String of(boolean open, String plan, LoadSecond now) {
        LoadMetrics made = new LoadMetrics(open, plan);
        if (now != null) {
            made.all(now);
        }
        return made.out + (open ? "# EOF\n" : "");
    }

    private void all(LoadSecond now) {
        List<StepFigures> rows = new ArrayList<>(now.steps());
        rows.add(now.total());
        counter("mockbell_load_requests", "Requests answered or failed.", rows, s -> s.done());
        counter("mockbell_load_failures", "Requests that failed.", rows, s -> s.failed());
        family("mockbell_load_response_seconds", "summary", "Response times from the intended start.");
        for (StepFigures s : rows) {
            quantile(s, "0.5", s.p50());
            quantile(s, "0.9", s.p90());
            quantile(s, "0.95", s.p95());
            quantile(s, "0.99", s.p99());
            sample("mockbell_load_response_seconds_sum", labels(s, ""), s.mean() * s.done() / 1_000);
            sample("mockbell_load_response_seconds_count", labels(s, ""), s.done());
        }
        gauge("mockbell_load_in_flight", "Requests under way.", now.inFlight());
        gauge("mockbell_load_users", "Users at work.", now.users());
        Health h = now.health();
        gauge("mockbell_load_connections", "Open connections.", h.connections());
        gauge(
                "mockbell_load_latest_start_seconds",
                "Greatest lateness of a start in the last second.",
                h.latestStartMillis() / 1_000);
        gauge(
                "mockbell_load_loop_delay_seconds",
                "Greatest delay of an event loop in the last second.",
                h.loopDelayMillis() / 1_000);
        gauge("mockbell_load_cpu_share", "Use of all processors by the generator, 0 to 1.", Math.max(0, h.cpu()));
    }

    private void counter(String name, String help, List<StepFigures> rows, ToDoubleFunction<StepFigures> of) {
        // a family of OpenMetrics is named without the _total that its samples have
        family(open ? name : name + "_total", "counter", help);
        rows.forEach(s -> sample(name + "_total", labels(s, ""), of.applyAsDouble(s)));
    }

    private void gauge(String name, String help, double value) {
        family(name, "gauge", help);
        sample(name, "{plan=\"" + escaped(plan) + "\"}", value);
    }

    private void quantile(StepFigures s, String quantile, double millis) {
        sample("mockbell_load_response_seconds", labels(s, ",quantile=\"" + quantile + "\""), millis / 1_000);
    }

    private void family(String name, String type, String help) {
        out.append("# HELP ").append(name).append(' ').append(help).append('\n');
        out.append("# TYPE ").append(name).append(' ').append(type).append('\n');
    }

    private void sample(String name, String labels, double value) {
        out.append(name).append(labels).append(' ').append(number(value)).append('\n');
    }

    private String labels(StepFigures s, String more) {
        return "{plan=\"" + escaped(plan) + "\",step=\"" + escaped(s.name()) + "\"" + more + "}";
    }

    private static String escaped(String text) {
        return text.replace("\\", "\\\\").replace("\"", "\\\"").replace("\n", "\\n");
    }

    private static String number(double value) {
        return value == Math.rint(value) ? Long.toString((long) value) : String.format(Locale.ROOT, "%.6f", value);
    }
}
