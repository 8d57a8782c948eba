package dev.mockbell.report;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.ObjectWriter;
import com.fasterxml.jackson.dataformat.csv.CsvGenerator;
import com.fasterxml.jackson.dataformat.csv.CsvMapper;
import com.fasterxml.jackson.dataformat.csv.CsvSchema;
import dev.mockbell.load.LoadRun;
import dev.mockbell.load.LoadSecond;
import dev.mockbell.load.StepFigures;
import dev.mockbell.load.WorkerRun;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;

/** Load figures as CSV (RFC 4180). Times are milliseconds from the intended start. */
public final class LoadCsv {
    private LoadCsv() {}

    /** A line a step, the last one for all together. */
    public static String steps(LoadRun run) {
        List<List<Object>> lines = new ArrayList<>();
        run.steps().forEach(s -> lines.add(line(s)));
        lines.add(line(run.total()));
        return csv("step,done,failed,per_second,min,mean,p50,p90,p95,p99,max,p99.9,begun_p50,begun_p99", lines);
    }

    private static List<Object> line(StepFigures s) {
        List<Object> line = new ArrayList<>(List.of(s.name(), s.done(), s.failed()));
        line.addAll(figures(
                s.perSecond(),
                s.min(),
                s.mean(),
                s.p50(),
                s.p90(),
                s.p95(),
                s.p99(),
                s.max(),
                s.p999(),
                s.begunP50(),
                s.begunP99()));
        return line;
    }

    /** A line a second of the run. */
    public static String seconds(LoadRun run) {
        List<List<Object>> lines = new ArrayList<>();
        for (LoadSecond s : run.history()) {
            List<Object> line = new ArrayList<>(List.of(s.second(), s.intended(), s.done(), s.failed(), s.inFlight()));
            line.addAll(figures(s.p50(), s.p95(), s.p99(), s.health().latestStartMillis()));
            lines.add(line);
        }
        return csv("second,started,done,failed,in_flight,p50,p95,p99,latest_start", lines);
    }

    /** A line for each worker that took part; none for a run that one program made alone. */
    public static String workers(LoadRun run) {
        List<List<Object>> lines = new ArrayList<>();
        for (WorkerRun w : run.workers()) {
            List<Object> line = new ArrayList<>(List.of(
                    w.name(),
                    w.address(),
                    w.cores(),
                    w.state().name().toLowerCase(Locale.ROOT),
                    w.total().done(),
                    w.total().failed(),
                    w.health().lateStarts()));
            line.addAll(figures(
                    w.clockError(),
                    w.total().perSecond(),
                    w.total().p50(),
                    w.total().p95(),
                    w.total().p99(),
                    w.total().max(),
                    w.health().latestStartMillis(),
                    w.health().cpu()));
            line.add(w.told());
            lines.add(line);
        }
        return csv(
                "worker,address,cores,state,done,failed,late_starts,clock_error,per_second,p50,p95,p99,max,latest_start,cpu,told",
                lines);
    }

    /** A line for each second of each worker. */
    public static String workerSeconds(LoadRun run) {
        List<List<Object>> lines = new ArrayList<>();
        for (WorkerRun w : run.workers()) {
            for (WorkerRun.Second s : w.history()) {
                List<Object> line = new ArrayList<>(List.of(w.name(), s.second(), s.done(), s.failed()));
                line.addAll(figures(s.p99(), s.latestStart(), s.cpu()));
                lines.add(line);
            }
        }
        return csv("worker,second,done,failed,p99,latest_start,cpu", lines);
    }

    private static List<String> figures(double... values) {
        List<String> figures = new ArrayList<>();
        for (double value : values) {
            figures.add(String.format(Locale.ROOT, "%.3f", value));
        }
        return figures;
    }

    private static String csv(String columns, List<List<Object>> lines) {
        CsvMapper mapper = new CsvMapper();
        // quoted only where they must be, so that figures stay figures for those who read them
        mapper.enable(CsvGenerator.Feature.STRICT_CHECK_FOR_QUOTING);
        CsvSchema.Builder schema = CsvSchema.builder().setLineSeparator("\r\n");
        for (String column : columns.split(",")) {
            schema.addColumn(column);
        }
        ObjectWriter writer = mapper.writer(schema.build().withHeader());
        try {
            return writer.writeValueAsString(lines);
        } catch (JsonProcessingException e) {
            throw new IllegalStateException("plain values can always be written", e);
        }
    }
}
