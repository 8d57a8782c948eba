package dev.mockbell.bench;

import dev.mockbell.expression.Expressions;
import dev.mockbell.load.LoadControl;
import dev.mockbell.load.LoadEngine;
import dev.mockbell.load.LoadListener;
import dev.mockbell.load.LoadPlan;
import dev.mockbell.load.LoadRun;
import dev.mockbell.load.LoadShape;
import dev.mockbell.project.ProjectBench;
import dev.mockbell.project.ProjectStore;
import dev.mockbell.task.StopSignal;
import dev.mockbell.wire.EventLoops;
import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStreamReader;
import java.io.PrintStream;
import java.nio.ByteBuffer;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Base64;
import java.util.List;
import org.HdrHistogram.Histogram;

/**
 * Several engines at once, each a process of its own, that nobody leads: what so many programs on one machine take from each
 * other, beside which the figures of workers are to be seen.
 */
final class Unled implements AutoCloseable {
    private final List<Process> processes = new ArrayList<>();

    /** @param rate arrivals a second of each */
    Unled(Path folder, String url, double rate, int seconds, int count) throws IOException {
        for (int i = 0; i < count; i++) {
            List<String> command = new ArrayList<>(GridBench.java());
            command.addAll(List.of(
                    Unled.class.getName(), folder.toString(), url, String.valueOf(rate), String.valueOf(seconds)));
            processes.add(new ProcessBuilder(command)
                    .redirectError(ProcessBuilder.Redirect.DISCARD)
                    .start());
        }
    }

    /** Has all of them run once. @return the response times of all together */
    Histogram turn() throws IOException {
        for (Process process : processes) {
            process.getOutputStream().write('\n');
            process.getOutputStream().flush();
        }
        Histogram all = new Histogram(3);
        for (Process process : processes) {
            String line = process.inputReader(StandardCharsets.UTF_8).readLine();
            if (line == null) {
                throw new IOException("an engine of its own ended without figures");
            }
            all.add(Histogram.decodeFromByteBuffer(
                    ByteBuffer.wrap(Base64.getDecoder().decode(line)), 0));
        }
        return all;
    }

    @Override
    public void close() {
        processes.forEach(Process::destroy);
    }

    public static void main(String[] args) throws Exception {
        PrintStream out = System.out;
        LoadPlan plan = LoadPlan.of(
                        "p", "P", "s", LoadShape.arrivals(Double.parseDouble(args[2]), Integer.parseInt(args[3])))
                .withEndpoint(args[1]);
        BufferedReader orders = new BufferedReader(new InputStreamReader(System.in, StandardCharsets.UTF_8));
        try (EventLoops loops = new EventLoops("bench", Runtime.getRuntime().availableProcessors())) {
            LoadEngine engine = new LoadEngine(loops, new Expressions());
            ProjectBench bench = ProjectBench.unknown(new ProjectStore().open(Path.of(args[0])));
            while (orders.readLine() != null) {
                LoadRun run =
                        engine.run(plan, bench, host -> true, LoadListener.NONE, new LoadControl(new StopSignal()));
                Histogram times = run.times().get(run.times().size() - 1);
                ByteBuffer encoded = ByteBuffer.allocate(times.getNeededByteBufferCapacity());
                int length = times.encodeIntoByteBuffer(encoded);
                byte[] bytes = new byte[length];
                encoded.flip();
                encoded.get(bytes);
                out.println(Base64.getEncoder().encodeToString(bytes));
                out.flush();
            }
        }
    }
}
