package dev.mockbell.report;

import dev.mockbell.problem.Problem;
import java.io.IOException;
import java.io.OutputStream;
import java.io.PrintStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import org.HdrHistogram.Histogram;
import org.HdrHistogram.HistogramLogWriter;

/** A log of histograms (HdrHistogram log format 1.3), one a second, in microseconds, shown in milliseconds. */
public final class LoadLog implements AutoCloseable {
    private static final double MICROS = 1_000;

    private final PrintStream out;
    private final HistogramLogWriter writer;
    private boolean begun;

    /** @throws Problem when the file cannot be written */
    public LoadLog(Path file) {
        try {
            Files.createDirectories(file.toAbsolutePath().getParent());
            OutputStream stream = Files.newOutputStream(file);
            out = new PrintStream(stream, false, StandardCharsets.UTF_8);
        } catch (IOException e) {
            throw Problem.of(
                    Problem.Kind.INPUT,
                    "The log of histograms cannot be written: " + Problem.reason(e),
                    file.toString(),
                    "Check the path and the room on the disk.",
                    e);
        }
        writer = new HistogramLogWriter(out);
    }

    /**
     * One second more.
     *
     * @param second from 1
     * @param times not kept
     */
    public void second(int second, Histogram times, long nowMillis) {
        if (!begun) {
            begun = true;
            writer.setBaseTime(nowMillis - 1_000);
            writer.outputLogFormatVersion();
            writer.outputBaseTime(nowMillis - 1_000);
            writer.outputStartTime(nowMillis - 1_000);
            writer.outputLegend();
        }
        writer.outputIntervalHistogram(second - 1.0, second, times, MICROS);
    }

    @Override
    public void close() {
        out.close();
    }
}
