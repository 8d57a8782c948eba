package dev.mockbell.exchange;

import dev.mockbell.content.Content;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.concurrent.ArrayBlockingQueue;
import java.util.concurrent.BlockingQueue;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.LongAdder;
import java.util.function.Supplier;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/**
 * The one thread of this program that writes to the ledger: in batches, from a bounded queue. It announces what it has
 * written, and what other programs have.
 */
final class LedgerWriter {
    private static final Logger LOG = LoggerFactory.getLogger(LedgerWriter.class);
    private static final int QUEUE = 4_096;
    private static final int BATCH = 256;
    private static final int LOOK_MILLIS = 250;
    private static final int MOST_TRIES = 40;

    private final Connection writing;
    private final Connection reading;
    private final BlockingQueue<Entry> queue = new ArrayBlockingQueue<>(QUEUE);
    private final List<LedgerListener> listeners = new CopyOnWriteArrayList<>();
    private final Thread thread = new Thread(this::write, "ledger");
    private final LongAdder lost = new LongAdder();
    private long announced;
    private long seenVersion;
    private volatile boolean closed;

    /** Something to write: an exchange, or only a mark to be told of when it comes up. */
    static final class Entry {
        private final Supplier<Exchange> maker;
        private final CompletableFuture<Exchange> written;
        private Exchange exchange;

        private Entry(Supplier<Exchange> maker, CompletableFuture<Exchange> written) {
            this.maker = maker;
            this.written = written;
        }

        static Entry of(Exchange exchange, CompletableFuture<Exchange> written) {
            return made(() -> exchange, written);
        }

        /** @param maker is asked once, on the thread that writes */
        static Entry made(Supplier<Exchange> maker, CompletableFuture<Exchange> written) {
            return new Entry(maker, written);
        }

        static Entry mark(CompletableFuture<Exchange> written) {
            return made(() -> null, written);
        }

        private void make() {
            try {
                exchange = maker.get();
            } catch (RuntimeException e) {
                LOG.error("an exchange could not be made", e);
            }
        }

        Exchange exchange() {
            return exchange;
        }

        CompletableFuture<Exchange> written() {
            return written;
        }
    }

    /** @param announced the newest number that nobody need hear of any more */
    LedgerWriter(Connection writing, Connection reading, long announced) {
        this.writing = writing;
        this.reading = reading;
        this.announced = announced;
        thread.setDaemon(true);
    }

    void start() {
        thread.start();
    }

    List<LedgerListener> listeners() {
        return listeners;
    }

    long lost() {
        return lost.sum();
    }

    boolean isClosed() {
        return closed;
    }

    /** Waits for room in the queue; false when the ledger is closed. */
    boolean put(Entry entry) {
        try {
            while (!closed) {
                if (queue.offer(entry, 100, TimeUnit.MILLISECONDS)) {
                    return true;
                }
            }
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
        return false;
    }

    /** Puts it in if there is room beyond what those that wait may need. */
    boolean offer(Entry entry) {
        return !closed && queue.remainingCapacity() >= QUEUE / 8 && queue.offer(entry);
    }

    /** Ends the thread when all is written, and waits for that. */
    void close() {
        closed = true;
        // wakes the writer, which would look for more only in a while
        queue.offer(Entry.mark(new CompletableFuture<>()));
        boolean interrupted = false;
        while (thread.isAlive()) {
            try {
                thread.join();
            } catch (InterruptedException e) {
                interrupted = true;
            }
        }
        if (interrupted) {
            Thread.currentThread().interrupt();
        }
    }

    private void write() {
        List<Entry> batch = new ArrayList<>();
        while (!closed || !queue.isEmpty()) {
            batch.clear();
            try {
                Entry first = queue.poll(LOOK_MILLIS, TimeUnit.MILLISECONDS);
                if (first == null) {
                    announceOthers();
                    continue;
                }
                batch.add(first);
                queue.drainTo(batch, BATCH);
                batch.forEach(Entry::make);
                insert(batch);
            } catch (InterruptedException e) {
                // nobody interrupts the writer to any good; it ends when the ledger is closed
                LOG.debug("the ledger's writer goes on", e);
            } catch (SQLException e) {
                LOG.error("the ledger could not write or read", e);
            } catch (RuntimeException e) {
                LOG.error("the ledger's writer met a defect", e);
            } finally {
                // those that were not written come back as they went in
                batch.forEach(e -> e.written().complete(e.exchange()));
            }
        }
    }

    /** Writes a batch; while another program holds the file it is tried again, since nothing may be lost. */
    private void insert(List<Entry> batch) throws SQLException {
        List<Exchange> exchanges =
                batch.stream().map(Entry::exchange).filter(Objects::nonNull).toList();
        if (exchanges.isEmpty()) {
            return;
        }
        for (int tried = 1; ; tried++) {
            try {
                written(batch, LedgerSchema.transaction(writing, () -> inserted(exchanges)));
                return;
            } catch (SQLException | RuntimeException e) {
                if (tried < MOST_TRIES && isBusy(e)) {
                    continue;
                }
                if (exchanges.size() > 1) {
                    eachAlone(batch);
                    return;
                }
                lost.increment();
                throw e;
            }
        }
    }

    /** One that cannot be written, because its bytes cannot be read, must not take the others along. */
    private void eachAlone(List<Entry> batch) {
        for (Entry entry : batch) {
            try {
                insert(List.of(entry));
            } catch (SQLException | RuntimeException e) {
                LOG.error("the ledger could not write an exchange", e);
            }
        }
    }

    private static boolean isBusy(Exception e) {
        // the lower byte is the primary code: SQLITE_BUSY, SQLITE_LOCKED
        int code = e instanceof SQLException sql ? sql.getErrorCode() & 0xFF : 0;
        return code == 5 || code == 6;
    }

    private List<Exchange> inserted(List<Exchange> exchanges) throws SQLException {
        long number = LedgerSchema.numbers(writing, exchanges.size());
        List<Exchange> numbered = new ArrayList<>();
        try (PreparedStatement s = writing.prepareStatement(LedgerRows.INSERT)) {
            for (Exchange exchange : exchanges) {
                Exchange e = exchange.withId(number++);
                numbered.add(e);
                Map<Pieces.Face, Content> larger = LedgerRows.bind(s, e);
                s.executeUpdate();
                for (Map.Entry<Pieces.Face, Content> content : larger.entrySet()) {
                    Pieces.write(writing, e.id(), content.getKey(), content.getValue());
                }
            }
        }
        return numbered;
    }

    private void written(List<Entry> batch, List<Exchange> numbered) throws SQLException {
        if (numbered.get(0).id() > announced + 1) {
            announceOthers(numbered.get(0).id());
        }
        int next = 0;
        for (Entry entry : batch) {
            if (entry.exchange() != null) {
                Exchange e = numbered.get(next++);
                announce(Listing.of(e));
                entry.written().complete(e);
            }
        }
        announced = numbered.get(numbered.size() - 1).id();
    }

    private void announce(Listing listing) {
        for (LedgerListener listener : listeners) {
            try {
                listener.added(listing);
            } catch (RuntimeException e) {
                LOG.warn("a listener of the ledger failed", e);
            }
        }
    }

    /** Announces what other programs wrote, when the file has changed by others' hands. */
    private void announceOthers() throws SQLException {
        synchronized (reading) {
            try (Statement s = reading.createStatement();
                    ResultSet r = s.executeQuery("PRAGMA data_version")) {
                long version = r.getLong(1);
                if (version == seenVersion) {
                    return;
                }
                seenVersion = version;
            }
        }
        announceOthers(Long.MAX_VALUE);
    }

    private void announceOthers(long before) throws SQLException {
        List<Listing> others = new ArrayList<>();
        synchronized (reading) {
            try (PreparedStatement s = reading.prepareStatement(
                    "SELECT " + LedgerRows.LISTED + " FROM exchange WHERE id > ? AND id < ? ORDER BY id LIMIT 20000")) {
                s.setLong(1, announced);
                s.setLong(2, before);
                try (ResultSet r = s.executeQuery()) {
                    while (r.next()) {
                        others.add(LedgerRows.listing(r));
                    }
                }
            }
        }
        others.forEach(this::announce);
        if (!others.isEmpty()) {
            announced = others.get(others.size() - 1).id();
        }
    }
}
