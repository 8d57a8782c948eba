package dev.mockbell.exchange;

import dev.mockbell.file.AtomicFile;
import dev.mockbell.problem.Problem;
import java.io.IOException;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.TimeoutException;
import java.util.function.Consumer;
import java.util.function.Supplier;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.sqlite.SQLiteConfig;

/**
 * Keeps every exchange in one SQLite file, which several programs may write to at once. One thread writes for this program,
 * in batches, fed by a bounded queue: adding waits until the exchange has its number, which the file gives. Exchanges that
 * another program adds are announced as well, within a second. Readers see what is written; {@link #settle()} waits for it.
 * On opening, all but the newest {@value #MOST_KEPT} are let go, so that the file does not grow without end. The file is
 * readable for its owner alone, because the bytes on it are the bytes that were sent.
 */
public final class Ledger implements AutoCloseable {
    private static final Logger LOG = LoggerFactory.getLogger(Ledger.class);
    private static final int MOST_KEPT = 100_000;

    private final Connection writing;
    private final Connection reading;
    private final Pieces pieces;
    private final LedgerWriter writer;

    private Ledger(String url) throws SQLException {
        SQLiteConfig config = new SQLiteConfig();
        config.setBusyTimeout(5_000);
        config.setJournalMode(SQLiteConfig.JournalMode.WAL);
        config.setSynchronous(SQLiteConfig.SynchronousMode.NORMAL);
        writing = config.createConnection(url);
        try (Statement s = writing.createStatement()) {
            // a file from elsewhere may bring functions of its own in triggers and views
            s.execute("PRAGMA trusted_schema=OFF");
        }
        LedgerSchema.migrate(writing);
        long newest = LedgerSchema.prune(writing, MOST_KEPT);
        SQLiteConfig look = new SQLiteConfig();
        look.setBusyTimeout(5_000);
        reading = look.createConnection(url);
        try (Statement s = reading.createStatement()) {
            s.execute("PRAGMA trusted_schema=OFF");
            s.execute("PRAGMA query_only=1");
        }
        pieces = new Pieces(reading);
        writer = new LedgerWriter(writing, reading, newest);
        writer.start();
    }

    /**
     * Opens the ledger in a file, making it when it is not there.
     *
     * @throws Problem when the file is no ledger, cannot be written, or was made by a newer program
     */
    public static Ledger open(Path file) {
        try {
            AtomicFile.privateFile(file);
            return new Ledger("jdbc:sqlite:" + file.toAbsolutePath());
        } catch (SQLException | IOException e) {
            throw Problem.of(
                    Problem.Kind.INPUT,
                    "The ledger cannot be opened: " + Problem.reason(e),
                    file.toString(),
                    "Move the file away to start a new one.",
                    e);
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
        if (!writer.put(LedgerWriter.Entry.of(exchange, written))) {
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
        return writer.offer(LedgerWriter.Entry.of(exchange, written));
    }

    /** As {@link #offer(Exchange)}; what is {@code made} is made on the ledger's thread, and only if it is kept. */
    public boolean offerMade(Supplier<Exchange> made) {
        return writer.offer(LedgerWriter.Entry.made(made, new CompletableFuture<>()));
    }

    /** Waits until everything added so far can be read. */
    public void settle() {
        CompletableFuture<Exchange> written = new CompletableFuture<>();
        if (!writer.put(LedgerWriter.Entry.mark(written))) {
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

    /** How many exchanges could not be written, because the file could not be for long. */
    public long lost() {
        return writer.lost();
    }

    /** The newest exchanges that pass the filter, newest first. */
    public List<Listing> list(LedgerFilter filter, int limit) {
        LedgerSql sql = new LedgerSql(filter, limit);
        synchronized (reading) {
            try (PreparedStatement s = reading.prepareStatement(sql.text())) {
                sql.bind(s);
                List<Listing> found = new ArrayList<>();
                try (ResultSet r = s.executeQuery()) {
                    while (r.next()) {
                        found.add(LedgerRows.listing(r));
                    }
                }
                return found;
            } catch (SQLException e) {
                throw Problem.of(Problem.Kind.INPUT, "The ledger cannot be read: " + Problem.reason(e), null, null, e);
            }
        }
    }

    /** The exchange of that number with its bytes. */
    public Optional<Exchange> get(long id) {
        synchronized (reading) {
            try (PreparedStatement s = reading.prepareStatement(LedgerRows.SELECT)) {
                s.setLong(1, id);
                try (ResultSet r = s.executeQuery()) {
                    return r.next() ? Optional.of(LedgerRows.exchange(r, pieces)) : Optional.empty();
                }
            } catch (SQLException e) {
                throw Problem.of(Problem.Kind.INPUT, "The ledger cannot be read: " + Problem.reason(e), null, null, e);
            }
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
