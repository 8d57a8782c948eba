package dev.mockbell.report;

import dev.mockbell.file.AtomicFile;
import dev.mockbell.load.LoadRun;
import dev.mockbell.project.LoadRunFile;
import java.nio.file.Path;
import java.time.ZoneId;
import java.util.List;

/** All files that tell of a load run. */
public final class LoadFiles {
    private LoadFiles() {}

    /**
     * Writes them into a folder.
     *
     * @param project its name
     * @throws dev.mockbell.problem.Problem when one cannot be written
     */
    public static void write(Path folder, String project, LoadRun run) {
        AtomicFile.write(folder.resolve("run.json"), LoadRunFile.figures(run));
        AtomicFile.write(folder.resolve("steps.csv"), LoadCsv.steps(run));
        AtomicFile.write(folder.resolve("seconds.csv"), LoadCsv.seconds(run));
        AtomicFile.write(folder.resolve("limits.xml"), JUnitXml.of(run));
        if (!run.workers().isEmpty()) {
            AtomicFile.write(folder.resolve("workers.csv"), LoadCsv.workers(run));
            AtomicFile.write(folder.resolve("worker-seconds.csv"), LoadCsv.workerSeconds(run));
        }
        AtomicFile.write(
                folder.resolve("report.html"), HtmlReport.ofLoads(project, List.of(run), ZoneId.systemDefault()));
    }
}
