package dev.mockbell.project;

import java.io.IOException;
import java.nio.file.FileVisitResult;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.SimpleFileVisitor;
import java.nio.file.attribute.BasicFileAttributes;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.Consumer;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/**
 * Finds out which files of a project's folder became others, by whoever's hand. It asks for their times and sizes every so often, which
 * works on every file system, also where a change is not told; the rarer, the longer that takes.
 */
public final class FolderWatch implements AutoCloseable {
    private static final Logger LOG = LoggerFactory.getLogger(FolderWatch.class);
    private static final long EVERY_MILLIS = 1_000;

    /** A look may take no more than so much of the time. */
    private static final int PART_OF_TIME = 50;

    /** What has more is not watched beyond. */
    private static final int MOST_FILES = 200_000;

    private final Path folder;
    private final Consumer<List<Path>> changed;
    private final Thread thread;
    private Map<Path, Stamp> before = new HashMap<>();
    private Set<Path> unsettled = new HashSet<>();

    /** What shows that a file became another. */
    private record Stamp(long modified, long size, Object key) {}

    /** @param changed is given the files, in the folder, on a thread of its own; a file that is still being written comes once it is not */
    public FolderWatch(Path project, Consumer<List<Path>> changed) {
        this.folder = new ProjectFolder(project).folder();
        this.changed = changed;
        this.thread = new Thread(this::watch, "folder-watch");
        thread.setDaemon(true);
        thread.start();
    }

    private void watch() {
        before = stamps();
        try {
            while (true) {
                long began = System.nanoTime();
                look();
                long took = (System.nanoTime() - began) / 1_000_000;
                Thread.sleep(Math.max(EVERY_MILLIS, took * PART_OF_TIME));
            }
        } catch (InterruptedException closed) {
            Thread.currentThread().interrupt();
        }
    }

    private void look() {
        Map<Path, Stamp> now = stamps();
        Set<Path> other = new HashSet<>();
        now.forEach((file, stamp) -> {
            if (!stamp.equals(before.get(file))) {
                other.add(file);
            }
        });
        before.keySet().stream().filter(f -> !now.containsKey(f)).forEach(other::add);
        List<Path> settled = new ArrayList<>(
                unsettled.stream().filter(f -> !other.contains(f)).toList());
        unsettled = other;
        before = now;
        if (!settled.isEmpty()) {
            changed.accept(settled);
        }
    }

    private Map<Path, Stamp> stamps() {
        Map<Path, Stamp> stamps = new HashMap<>();
        for (String part : ProjectFolder.PARTS) {
            try {
                Files.walkFileTree(folder.resolve(part), new SimpleFileVisitor<>() {
                    @Override
                    public FileVisitResult visitFile(Path file, BasicFileAttributes attributes) {
                        stamps.put(
                                file,
                                new Stamp(
                                        attributes.lastModifiedTime().toMillis(),
                                        attributes.size(),
                                        attributes.fileKey()));
                        return stamps.size() < MOST_FILES ? FileVisitResult.CONTINUE : FileVisitResult.TERMINATE;
                    }

                    @Override
                    public FileVisitResult visitFileFailed(Path file, IOException notThere) {
                        return FileVisitResult.CONTINUE;
                    }
                });
            } catch (IOException e) {
                LOG.debug("{} could not be looked through", part, e);
            }
        }
        return stamps;
    }

    /** No more is looked for. */
    @Override
    public void close() {
        thread.interrupt();
    }
}
