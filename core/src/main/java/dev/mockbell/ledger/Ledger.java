package dev.mockbell.ledger;

import dev.mockbell.exchange.Exchange;
import dev.mockbell.expression.Expressions;
import dev.mockbell.file.AtomicFile;
import dev.mockbell.problem.Problem;
import dev.mockbell.task.StopSignal;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.TimeoutException;
import java.util.concurrent.atomic.AtomicReference;
import java.util.function.Consumer;
import java.util.function.Supplier;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.sqlite.SQLiteConfig;

/**
 * Keeps every exchange in one SQLite file, which several programs may write to at once. One thread writes for this program,
 * in batches, fed by a bounded queue: adding waits until the exchange has its number, which the file gives. Exchanges that
 * another program adds are announced as well, within a second. Readers see what is written; {@link #settle()} waits for it.
 * Old exchanges are let go by and by, as the {@link Retention} says. The file is readable for its owner alone, because the
 * bytes on it are the bytes that were sent.
 */
public final class Ledger implements AutoCloseable {
    private static final Logger LOG = LoggerFactory.getLogger(Ledger.class);

    private static final long ROOM = 1 << 20;

    private final String url;
    private final Connection writing;
    private final Connection reading;
    private final LedgerRows rows;
    private final LedgerWriter writer;

    private Ledger(String url, Retention retention, Supplier<Set<Long>> referred) throws SQLException {
        this.url = url;
        SQLiteConfig config = new SQLiteConfig();
        config.setBusyTimeout(5_000);
        config.setJournalMode(SQLiteConfig.JournalMode.WAL);
        config.setSynchronous(SQLiteConfig.SynchronousMode.NORMAL);
        writing = config.createConnection(url);
        try (Statement s = writing.createStatement()) {
            // a file from elsewhere may bring functions of its own in triggers and views
            s.execute("PRAGMA trusted_schema=OFF");
            // the leaves of indexes are written all over: held in memory, and written back less often, in KiB and pages
            s.execute("PRAGMA cache_size=-32000");
            s.execute("PRAGMA wal_autocheckpoint=8000");
        }
        LedgerSchema.migrate(writing);
        reading = looking();
        rows = new LedgerRows(reading, reading);
        writer = new LedgerWriter(writing, reading, LedgerSchema.newest(writing), retention, referred);
        writer.start();
    }

    /** A connection that cannot write. */
    private Connection looking() throws SQLException {
        SQLiteConfig look = new SQLiteConfig();
        look.setBusyTimeout(5_000);
        Connection connection = look.createConnection(url);
        try (Statement s = connection.createStatement()) {
            s.execute("PRAGMA trusted_schema=OFF");
            s.execute("PRAGMA query_only=1");
        }
        return connection;
    }

    /** Opens the ledger in a file that nothing refers to, as {@link #open(Path, Retention, Supplier)}. */
    public static Ledger open(Path file) {
        return open(file, Retention.USUAL, Set::of);
    }

    /**
     * Opens the ledger in a file, making it when it is not there.
     *
     * @param referred the numbers of exchanges that something refers to, which stay; asked now and then, on the ledger's
     *     thread
     * @throws Problem when the file is no ledger, cannot be written, or was made by a newer program
     */
    public static Ledger open(Path file, Retention retention, Supplier<Set<Long>> referred) {
        try {
            AtomicFile.privateFile(file);
            return new Ledger("jdbc:sqlite:" + file.toAbsolutePath(), retention, referred);
        } catch (SQLException | IOException e) {
            boolean full = isFull(file);
            throw Problem.of(
                    Problem.Kind.INPUT,
                    "The ledger cannot be opened: " + (full ? "the disk is full" : Problem.reason(e)),
                    file.toString(),
                    full ? "Make room and try again." : "Move the file away to start a new one.",
                    e);
        }
    }

    /** Whether there is less room than a ledger needs to be opened. */
    private static boolean isFull(Path file) {
        try {
            return Files.getFileStore(file.toAbsolutePath().getParent()).getUsableSpace() < ROOM;
        } catch (IOException e) {
            return false;
        }
    }

    /** Whether a problem says that the file is no ledger any more (SQLITE_CORRUPT, SQLITE_NOTADB). */
    public static boolean isDamage(Problem problem) {
        return problem.getCause() instanceof SQLException e && (e.getErrorCode() == 11 || e.getErrorCode() == 26);
    }

    /**
     * Adds a listener; it hears of what comes from now on, on the ledger's own thread and in the order of the numbers. It
     * must not block; what it throws is logged.
     */
    public void listen(LedgerListener listener) {
        writer.listeners().add(listener);
    }

    /** Takes a listener away; it may still hear of what is being announced just now. */
    public void unlisten(LedgerListener listener) {
        writer.listeners().remove(listener);
    }

    /**
     * Adds an exchange and gives it back with its number, when it is written. On a ledger that is closed, or that cannot
     * write, it comes back without one.
     */
    public Exchange add(Exchange exchange) {
        CompletableFuture<Exchange> written = new CompletableFuture<>();
        if (!writer.put(LedgerWriter.Entry.of(exchange, written, true))) {
            return exchange;
        }
        try {
            return written.get();
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            return exchange;
        } catch (ExecutionException e) {
            return exchange;
        }
    }

    /**
     * Adds an exchange if that needs no waiting; for threads that must not block.
     *
     * @return whether it was added; when not, nobody hears of it either
     */
    public boolean offer(Exchange exchange) {
        return offer(exchange, numbered -> {});
    }

    /**
     * As {@link #offer(Exchange)}.
     *
     * @param numbered gets the exchange with its number once it is written, on the ledger's thread; it must not block
     */
    public boolean offer(Exchange exchange, Consumer<Exchange> numbered) {
        CompletableFuture<Exchange> written = new CompletableFuture<>();
        written.thenAccept(numbered);
        return writer.offer(LedgerWriter.Entry.of(exchange, written, false));
    }

    /** As {@link #offer(Exchange)}; what is {@code made} is made on the ledger's thread, and only if it is kept. */
    public boolean offerMade(Supplier<Exchange> made) {
        return writer.offer(LedgerWriter.Entry.made(made));
    }

    /** Waits until everything added so far can be read. */
    public void settle() {
        CompletableFuture<Exchange> written = new CompletableFuture<>();
        if (!writer.put(LedgerWriter.Entry.mark(() -> {}, written))) {
            return;
        }
        while (!writer.isClosed() && !written.isDone()) {
            try {
                written.get(100, TimeUnit.MILLISECONDS);
            } catch (InterruptedException e) {
                Thread.currentThread().interrupt();
                return;
            } catch (TimeoutException | ExecutionException e) {
                // looked again whether the ledger was closed meanwhile
                continue;
            }
        }
    }

    /** Keeps so much from now on; what is over goes by and by. */
    public void retain(Retention retention) {
        writer.retain(retention);
    }

    /** What could not be written, and whether anything stands in the way. */
    public LedgerState state() {
        return writer.state();
    }

    /** The newest exchanges that pass a filter which lines and texts can tell, newest first. */
    public List<Listing> list(LedgerFilter filter, int limit) {
        List<Listing> found = new ArrayList<>();
        search(filter, Order.NEWEST, Long.MAX_VALUE, null, new StopSignal(), line -> {
            found.add(line);
            return found.size() < limit;
        });
        return found;
    }

    /** Hears of lines as they are found; says whether it wants more. */
    @FunctionalInterface
    public interface Found {
        boolean found(Listing line);
    }

    /**
     * Looks for exchanges, on a connection of its own: others are not held up by it.
     *
     * @param before only those with a smaller number, for going on; {@link Long#MAX_VALUE} for all
     * @param looking what evaluates conditions in XPath; may be null when the filter has none
     * @throws Problem of kind STOPPED when it was stopped, of kind EXPRESSION when a condition does not parse
     */
    public void search(
            LedgerFilter filter, Order order, long before, Expressions looking, StopSignal stop, Found found) {
        look(filter, looking, stop, search -> {
            search.run(order, before, found);
            return null;
        });
    }

    /** What all exchanges that pass a filter come to; as {@link #search}. */
    public Figures figures(LedgerFilter filter, Expressions looking, StopSignal stop) {
        return look(filter, looking, stop, LedgerSearch::figures);
    }

    private interface Look<T> {
        T at(LedgerSearch search) throws SQLException;
    }

    private <T> T look(LedgerFilter filter, Expressions looking, StopSignal stop, Look<T> look) {
        try (Connection connection = looking()) {
            return look.at(new LedgerSearch(connection, filter, looking, stop));
        } catch (SQLException e) {
            throw unreadable(e);
        }
    }

    private static Problem unreadable(SQLException e) {
        return Problem.of(Problem.Kind.INPUT, "The ledger cannot be read: " + Problem.reason(e), null, null, e);
    }

    /** The exchange of that number with its bytes. */
    public Optional<Exchange> get(long id) {
        synchronized (reading) {
            try {
                return rows.read(id);
            } catch (SQLException e) {
                throw unreadable(e);
            }
        }
    }

    /** Work on the file by the thread that writes. */
    private interface Work<T> {
        T run() throws SQLException;
    }

    private <T> T inTurn(Work<T> work) {
        AtomicReference<T> result = new AtomicReference<>();
        AtomicReference<SQLException> failure = new AtomicReference<>();
        CompletableFuture<Exchange> done = new CompletableFuture<>();
        Runnable run = () -> {
            try {
                result.set(work.run());
            } catch (SQLException e) {
                failure.set(e);
            }
        };
        if (!writer.put(LedgerWriter.Entry.mark(run, done))) {
            throw Problem.input("The ledger is closed", null, null);
        }
        done.join();
        if (failure.get() != null) {
            throw Problem.of(
                    Problem.Kind.INPUT,
                    "The ledger cannot be written: " + Problem.reason(failure.get()),
                    null,
                    null,
                    failure.get());
        }
        return result.get();
    }

    /** Pins exchanges, so that they stay whatever is let go, or no longer. Waits until that is written. */
    public void pin(Collection<Long> ids, boolean pinned) {
        String sql = "UPDATE line SET pinned = " + (pinned ? "pinned | 1" : "pinned & 2") + " WHERE id = ?";
        inTurn(() -> LedgerSchema.transaction(writing, () -> {
            try (PreparedStatement s = writing.prepareStatement(sql)) {
                for (long id : ids) {
                    s.setLong(1, id);
                    s.executeUpdate();
                }
            }
            return null;
        }));
    }

    /**
     * Lets all exchanges go that need not be kept, and gives their room back. It takes as long as the ledger is large.
     *
     * @return how many went
     */
    public long prune(Retention retention) {
        return inTurn(() -> writer.pruneAll(retention));
    }

    /** Lets full text know everything that is written; else that happens by and by. */
    public void index() {
        boolean more = true;
        while (more) {
            more = inTurn(() -> LedgerSchema.transaction(writing, writer::index));
        }
    }

    /** Writes what is still waiting and closes the file. */
    @Override
    public void close() {
        settle();
        writer.close();
        try {
            writing.close();
            synchronized (reading) {
                reading.close();
            }
        } catch (SQLException e) {
            LOG.warn("the ledger did not close cleanly", e);
        }
    }
}
