package dev.mockbell.project;

import dev.mockbell.problem.Problem;
import java.nio.file.Path;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Deque;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.Callable;
import java.util.concurrent.CompletableFuture;
import java.util.function.Consumer;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/**
 * The one that writes to a project's folder while it is open: one thread, in the order in which things were given. What is
 * given is immutable. A change takes the place of one with the same key that is not written yet, and keeps its turn. What
 * cannot be written is told, is tried again with everything that comes after, and stays until it is written. Closing writes
 * all that is left. Safe for many threads; giving something never waits for the disk.
 */
public final class Saver implements AutoCloseable {
    private static final Logger LOG = LoggerFactory.getLogger(Saver.class);

    private final ProjectStore store;
    private final Path project;
    private final Consumer<Problem> trouble;
    private final Others others;
    private final SeenParts seen;
    private final Map<String, Clash> clashes = new HashMap<>();
    private final Map<String, Change> unwritten = new HashMap<>();
    private final Map<String, Change> pending = new LinkedHashMap<>();
    private final Map<String, Change> failed = new LinkedHashMap<>();
    private final Map<String, String> told = new HashMap<>();
    private final Deque<Runnable> work = new ArrayDeque<>();
    private final Thread thread;
    private boolean writing;
    private boolean closing;

    /** One that listens to nobody else; it opens the project. */
    Saver(ProjectStore store, Path project, Consumer<Problem> trouble) {
        this(store, store.openWithoutContracts(project), trouble, Others.NONE);
    }

    /**
     * @param opened the project as it was read
     * @param trouble hears of what cannot be written, once for each reason, on the saver's thread; it must not block
     */
    public Saver(ProjectStore store, Project opened, Consumer<Problem> trouble, Others others) {
        this.store = store;
        this.project = opened.folder();
        this.trouble = trouble;
        this.others = others;
        this.seen = new SeenParts(new ProjectFolder(project), opened);
        thread = new Thread(this::run, "saver");
        // a program that ends by itself must not lose what was given a moment before
        thread.setDaemon(false);
        thread.start();
    }

    /** Has changes written, in their order. */
    public void save(List<Change> changes) {
        synchronized (pending) {
            if (!closing) {
                for (Change change : changes) {
                    pending.put(change.key(), change);
                }
                pending.notifyAll();
                return;
            }
        }
        // too late for the thread, never too late for the work
        changes.forEach(this::write);
    }

    /**
     * Does other work on the project's folder, after all that was given before.
     *
     * @return its outcome; it fails with the {@link Problem} that the work ended with
     */
    public <T> CompletableFuture<T> submit(Callable<T> task) {
        CompletableFuture<T> outcome = new CompletableFuture<>();
        Runnable carried = () -> {
            try {
                outcome.complete(task.call());
            } catch (Exception | StackOverflowError e) {
                outcome.completeExceptionally(e);
            }
        };
        synchronized (pending) {
            if (!closing) {
                // what was given before is written before: only then is the order that of the giving
                List<Change> before = new ArrayList<>(pending.values());
                pending.clear();
                if (!before.isEmpty()) {
                    work.add(() -> before.forEach(this::write));
                }
                work.add(carried);
                pending.notifyAll();
                return outcome;
            }
        }
        carried.run();
        return outcome;
    }

    /** Waits until everything given so far is written or has failed. */
    public void settle() throws InterruptedException {
        synchronized (pending) {
            while (writing || !pending.isEmpty() || !work.isEmpty()) {
                pending.wait();
            }
        }
    }

    private void run() {
        while (true) {
            Runnable next;
            synchronized (pending) {
                writing = false;
                pending.notifyAll();
                while (work.isEmpty() && pending.isEmpty() && !closing) {
                    waitQuietly();
                }
                next = next();
                if (next == null) {
                    return;
                }
                writing = true;
            }
            try {
                next.run();
            } catch (RuntimeException | StackOverflowError e) {
                LOG.error("the saver could not do its work", e);
            }
        }
    }

    private void waitQuietly() {
        try {
            pending.wait();
        } catch (InterruptedException e) {
            // nobody interrupts the saver to any good; it ends when it is closed
            LOG.debug("the saver goes on", e);
        }
    }

    /** The next piece of work; null when there is none left and the saver is closed. */
    private Runnable next() {
        if (!work.isEmpty()) {
            return work.poll();
        }
        if (pending.isEmpty()) {
            return null;
        }
        String key = pending.keySet().iterator().next();
        Change change = pending.remove(key);
        return () -> {
            write(change);
            retry();
        };
    }

    private void write(Change change) {
        try {
            synchronized (store) {
                FolderLock lock = FolderLock.of(project);
                try {
                    written(change);
                } finally {
                    lock.close();
                }
            }
            synchronized (pending) {
                failed.remove(change.key());
                told.remove(change.key());
            }
        } catch (Problem problem) {
            failed(change, problem);
        } catch (RuntimeException | StackOverflowError e) {
            LOG.error("a save failed", e);
            failed(
                    change,
                    Problem.of(
                            Problem.Kind.INPUT,
                            "A change could not be saved: " + Problem.reason(e),
                            change.key(),
                            null,
                            e));
        }
    }

    /** Writes it, unless what is in the folder is neither what it was made of nor what it is. */
    private void written(Change change) {
        Path file = change.part().place().in(new ProjectFolder(project));
        Optional<Part> ours = change.gone() ? Optional.empty() : Optional.of(change.part());
        Optional<Part> there = store.part(project, file);
        // who deletes what is changed elsewhere has seen less of it than who changed it
        boolean clashes = there.isPresent() && !seen.is(change.key(), there) && !there.equals(ours);
        // who goes on from what he gave has not seen yet what it was taken together with
        boolean behind = !seen.given(change.key()).equals(seen.of(change.key()));
        Optional<Settings> merged =
                there.isPresent() && (clashes || behind) ? merged(change, there.get()) : Optional.empty();
        if (merged.isPresent()) {
            Change.of(merged.get()).write(store, project);
            settled(change, file);
            others.changed(change.key(), ours, seen.of(change.key()));
            return;
        }
        if (clashes) {
            clash(change, new Clash(change.key(), ours, there.get()));
            return;
        }
        change.write(store, project);
        settled(change, file);
    }

    /** What is in the folder is what both sides have. */
    private void settled(Change change, Path file) {
        seen.written(change.part(), store.part(project, file));
        synchronized (pending) {
            clashes.remove(change.key());
            unwritten.remove(change.key());
        }
    }

    private Optional<Settings> merged(Change change, Part theirs) {
        return change.part().value() instanceof Settings ours
                        && theirs.value() instanceof Settings other
                        && seen.given(change.key()).map(Part::value).orElse(null) instanceof Settings base
                ? SettingsMerge.of(base, ours, other)
                : Optional.empty();
    }

    private void clash(Change change, Clash clash) {
        // whatever becomes of this process, neither version is lost
        if (!change.gone()) {
            change.write(store, ProjectStore.hidden(project).resolve("versions"));
        }
        boolean news;
        synchronized (pending) {
            Clash before = clashes.put(clash.key(), clash);
            unwritten.put(clash.key(), change);
            news = before == null || !before.theirs().equals(clash.theirs());
        }
        if (news) {
            others.clash(clash);
        }
    }

    /** The parts of which one version has to be chosen. */
    public List<Clash> clashes() {
        synchronized (pending) {
            return List.copyOf(clashes.values());
        }
    }

    /** Has ours written over what is in the folder. */
    public void keepOurs(Clash clash) {
        Change change;
        synchronized (pending) {
            clashes.remove(clash.key());
            change = unwritten.remove(clash.key());
        }
        if (change != null) {
            seen.see(clash.key(), Optional.of(clash.theirs()));
            save(List.of(change));
        }
    }

    /** What is in the folder stays; whoever works on the project has to take it over. */
    public void takeTheirs(Clash clash) {
        synchronized (pending) {
            clashes.remove(clash.key());
            unwritten.remove(clash.key());
        }
        seen.see(clash.key(), Optional.of(clash.theirs()));
        // it may have become another since
        look(List.of(clash.theirs().place().in(new ProjectFolder(project))));
    }

    /** Whether a part is as it was seen in the folder last. */
    public boolean isAsSeen(String key, Optional<Part> part) {
        return seen.is(key, part);
    }

    /** What another program wrote is taken over: from now on it is what was seen. */
    public void see(String key, Optional<Part> taken) {
        seen.see(key, taken);
    }

    /** Looks, in turn with what is saved, whether other programs changed the parts that these files belong to. */
    public void look(Collection<Path> files) {
        submit(() -> {
            ProjectFolder folder = new ProjectFolder(project);
            files.stream().flatMap(f -> folder.partsOf(f).stream()).distinct().forEach(this::lookAt);
            files.stream()
                    .flatMap(f -> folder.contractOf(f).stream())
                    .distinct()
                    .forEach(others::contract);
            return null;
        });
    }

    private void lookAt(Path file) {
        try {
            Optional<Part> there = store.part(project, file);
            synchronized (pending) {
                told.remove(file.toString());
            }
            if (there.isPresent()) {
                String key = there.get().key();
                if (!seen.is(key, there)) {
                    others.changed(key, seen.of(key), there);
                }
            } else {
                for (String key : seen.in(file)) {
                    others.changed(key, seen.of(key), Optional.empty());
                }
            }
        } catch (Problem unreadable) {
            boolean news;
            synchronized (pending) {
                news = !unreadable.getMessage().equals(told.put(file.toString(), unreadable.getMessage()));
            }
            if (news) {
                trouble.accept(unreadable);
            }
        }
    }

    private void failed(Change change, Problem problem) {
        boolean news;
        synchronized (pending) {
            failed.put(change.key(), change);
            news = !problem.getMessage().equals(told.put(change.key(), problem.getMessage()));
        }
        if (news) {
            trouble.accept(problem);
        }
    }

    private void retry() {
        List<Change> again;
        synchronized (pending) {
            again = failed.values().stream()
                    .filter(c -> !pending.containsKey(c.key()))
                    .toList();
        }
        again.forEach(this::write);
    }

    /** Writes all that is left and ends. Returns when that is done. */
    @Override
    public void close() {
        synchronized (pending) {
            closing = true;
            pending.notifyAll();
        }
        boolean interrupted = false;
        while (thread.isAlive()) {
            try {
                thread.join();
            } catch (InterruptedException e) {
                // whoever is in a hurry still waits for the work to be safe
                interrupted = true;
            }
        }
        retry();
        if (interrupted) {
            Thread.currentThread().interrupt();
        }
    }
}
