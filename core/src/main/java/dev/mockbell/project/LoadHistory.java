package dev.mockbell.project;

import com.fasterxml.jackson.core.JsonProcessingException;
import dev.mockbell.file.AtomicFile;
import dev.mockbell.file.FileName;
import dev.mockbell.load.LoadRun;
import dev.mockbell.problem.Problem;
import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.stream.Stream;
import java.util.zip.DataFormatException;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/** The runs of each load plan, a JSON file each, outside version control. The oldest go when there are over {@value #MOST}. */
public final class LoadHistory {
    private static final Logger LOG = LoggerFactory.getLogger(LoadHistory.class);
    private static final int MOST = 60;

    private final Path project;
    private final Path folder;

    public LoadHistory(Path project) {
        this.project = project;
        this.folder = new ProjectFolder(project).hiddenPlace().resolve("loads");
    }

    /**
     * Keeps a run; waits for the disk.
     *
     * @throws dev.mockbell.problem.Problem when it cannot be written
     */
    public void save(LoadRun run) {
        ProjectStore.hidden(project);
        Path file = folder(run.plan().id()).resolve(run.started().toEpochMilli() + ".json");
        AtomicFile.writePrivate(file, LoadRunFile.text(run));
        for (Path old : files(run.plan().id()).stream().skip(MOST).toList()) {
            try {
                Files.deleteIfExists(old);
            } catch (IOException e) {
                LOG.debug("an old run stays", e);
            }
        }
    }

    /** The latest runs of a plan, the newest first; one that cannot be read is left out, and left alone. */
    public List<LoadRun> latest(String plan, int most) {
        List<LoadRun> found = new ArrayList<>();
        for (Path file : files(plan)) {
            if (found.size() == most) {
                break;
            }
            try {
                found.add(LoadRunFile.read(Files.readString(file)));
            } catch (JsonProcessingException | DataFormatException | RuntimeException e) {
                LOG.info("a run of a load plan cannot be read: {}", file, e);
            } catch (IOException e) {
                LOG.info("a run of a load plan is gone: {}", file, e);
            }
        }
        return found;
    }

    /**
     * A run that is kept, as far as a list of runs says it: with its seconds and histograms one takes megabytes.
     *
     * @param done how many requests were answered
     * @param p95 in milliseconds
     */
    public record Kept(String plan, Instant started, long done, double p95, boolean passed) {
        public static Kept of(LoadRun run) {
            return new Kept(
                    run.plan().id(),
                    run.started(),
                    run.total().done(),
                    run.total().p95(),
                    run.passed());
        }
    }

    /** The latest runs of a plan, the newest first, without what they measured; one that cannot be read is left out. */
    public List<Kept> list(String plan, int most) {
        List<Kept> found = new ArrayList<>();
        for (Path file : files(plan)) {
            if (found.size() == most) {
                break;
            }
            try (InputStream in = Files.newInputStream(file)) {
                found.add(Kept.of(LoadRunFile.outline(in)));
            } catch (DataFormatException | IOException | RuntimeException e) {
                LOG.info("a run of a load plan cannot be read: {}", file, e);
            }
        }
        return found;
    }

    /**
     * All of a run.
     *
     * @throws Problem when it is gone, or cannot be read
     */
    public LoadRun run(Kept kept) {
        Path file = folder(kept.plan()).resolve(kept.started().toEpochMilli() + ".json");
        try {
            return LoadRunFile.read(Files.readString(file));
        } catch (DataFormatException | IOException | RuntimeException e) {
            throw Problem.of(
                    Problem.Kind.INPUT,
                    "The run cannot be read: " + Problem.reason(e),
                    file.toString(),
                    "It may have been deleted; the last " + MOST + " of a plan are kept.",
                    e);
        }
    }

    private Path folder(String plan) {
        return folder.resolve(FileName.of(plan));
    }

    private List<Path> files(String plan) {
        Path of = folder(plan);
        if (!Files.isDirectory(of)) {
            return List.of();
        }
        try (Stream<Path> list = Files.list(of)) {
            return list.filter(f -> f.getFileName().toString().matches("\\d+\\.json"))
                    .sorted(Comparator.comparingLong(LoadHistory::time).reversed())
                    .toList();
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    private static long time(Path file) {
        return Long.parseLong(file.getFileName().toString().replace(".json", ""));
    }
}
