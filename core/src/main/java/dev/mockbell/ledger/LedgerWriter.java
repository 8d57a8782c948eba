package dev.mockbell.ledger;

import dev.mockbell.exchange.Exchange;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collections;
import java.util.IdentityHashMap;
import java.util.List;
import java.util.Optional;
import java.util.Set;
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
 * written, and what other programs have. While little comes it lets full text know what was written, and old exchanges go.
 */
final class LedgerWriter {
    private static final Logger LOG = LoggerFactory.getLogger(LedgerWriter.class);
    private static final int QUEUE = 4_096;
    private static final int BATCH = 1_024;
    private static final int LOOK_MILLIS = 250;
    private static final int MOST_TRIES = 40;

    /** How long what cannot be written is tried again. */
    private static final long PATIENCE_NANOS = 5_000_000_000L;

    /** So long nothing has come when there is time for anything else: whoever makes traffic needs the processor. */
    private static final long QUIET_NANOS = 2_000_000_000L;

    /** While something keeps coming, a little is done all the same after so long. */
    private static final long OVERDUE_NANOS = 30_000_000_000L;

    private static final long GATHER_NANOS = 40_000_000L;
    private static final long SLICE_NANOS = 40_000_000L;

    /** Between two of those little pieces. */
    private static final long REST_NANOS = 800_000_000L;

    private static final long PRUNE_NANOS = 60_000_000_000L;

    private final Connection writing;
    private final Connection reading;
    private final LedgerRows rows;
    private final LedgerRows others;
    private final LedgerIndexer indexer;
    private final LedgerPruner pruner;
    private volatile Retention retention;
    private final Supplier<Set<Long>> referred;
    private final BlockingQueue<Entry> queue = new ArrayBlockingQueue<>(QUEUE);
    private final List<LedgerListener> listeners = new CopyOnWriteArrayList<>();
    private final Thread thread = new Thread(this::write, "ledger");
    private final LongAdder lost = new LongAdder();
    private final LongAdder bare = new LongAdder();
    private volatile String trouble = "";
    private long announced;
    private long seenVersion;
    private long swept;
    private long came;
    private long caughtUp = System.nanoTime();
    private long rested;
    private long pruned = System.nanoTime();
    private boolean pruning;
    private volatile boolean closed;

    /** Something to write, or other work on the file in turn with it. */
    static final class Entry {
        private final Supplier<Exchange> maker;
        private final CompletableFuture<Exchange> written;
        private final boolean awaited;
        private Exchange exchange;

        private Entry(Supplier<Exchange> maker, CompletableFuture<Exchange> written, boolean awaited) {
            this.maker = maker;
            this.written = written;
            this.awaited = awaited;
        }

        /** @param awaited whether somebody waits for it, who then has it whole */
        static Entry of(Exchange exchange, CompletableFuture<Exchange> written, boolean awaited) {
            return new Entry(() -> exchange, written, awaited);
        }

        /** @param maker is asked once, on the thread that writes */
        static Entry made(Supplier<Exchange> maker) {
            return new Entry(maker, new CompletableFuture<>(), false);
        }

        /** Nothing, only to be told of when it comes up; or work, done then. */
        static Entry mark(Runnable work, CompletableFuture<Exchange> written) {
            return new Entry(
                    () -> {
                        work.run();
                        return null;
                    },
                    written,
                    true);
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

    /**
     * @param announced the newest number that nobody need hear of any more
     * @param referred the numbers that must stay; asked on the thread that writes
     */
    LedgerWriter(
            Connection writing, Connection reading, long announced, Retention retention, Supplier<Set<Long>> referred) {
        this.writing = writing;
        this.reading = reading;
        this.announced = announced;
        this.retention = retention;
        this.referred = referred;
        this.rows = new LedgerRows(writing, new Object());
        this.others = new LedgerRows(reading, reading);
        this.indexer = new LedgerIndexer(writing, rows);
        this.pruner = new LedgerPruner(writing);
        thread.setDaemon(true);
    }

    void start() {
        thread.start();
    }

    List<LedgerListener> listeners() {
        return listeners;
    }

    /** From now on keeps so much. */
    void retain(Retention other) {
        retention = other;
    }

    LedgerState state() {
        return new LedgerState(lost.sum(), bare.sum(), Optional.of(trouble).filter(t -> !t.isEmpty()));
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

    /** Puts it in if there is room beyond what those that wait may need; what there is no room for is counted. */
    boolean offer(Entry entry) {
        if (!closed && queue.remainingCapacity() >= QUEUE / 8 && queue.offer(entry)) {
            return true;
        }
        lost.increment();
        return false;
    }

    /** Ends the thread when all is written, and waits for that. */
    void close() {
        closed = true;
        // wakes the writer, which would look for more only in a while
        queue.offer(Entry.mark(() -> {}, new CompletableFuture<>()));
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
        boolean more = false;
        while (!closed || !queue.isEmpty()) {
            batch.clear();
            try {
                Entry first = queue.poll(more ? 1 : LOOK_MILLIS, TimeUnit.MILLISECONDS);
                if (first == null) {
                    announceOthers();
                    more = meanwhile();
                    continue;
                }
                batch.add(first);
                gather(batch);
                batch.forEach(Entry::make);
                insert(batch);
                came = System.nanoTime();
                more = queue.isEmpty() && meanwhile();
            } catch (InterruptedException e) {
                // nobody interrupts the writer to any good; it ends when the ledger is closed
                LOG.debug("the ledger's writer goes on", e);
            } catch (SQLException e) {
                LOG.error("the ledger could not write or read", e);
                more = false;
            } catch (RuntimeException e) {
                LOG.error("the ledger's writer met a defect", e);
                more = false;
            } finally {
                // those that were not written come back as they went in
                batch.forEach(e -> e.written().complete(e.exchange()));
            }
        }
        if (lost.sum() > 0) {
            tellState();
        }
    }

    /** What nobody waits for is written with what comes in the next moment: a write for each costs more than all of them. */
    private void gather(List<Entry> batch) throws InterruptedException {
        long until = System.nanoTime() + GATHER_NANOS;
        queue.drainTo(batch, BATCH);
        while (batch.size() < BATCH && !closed && batch.stream().noneMatch(e -> e.awaited)) {
            Entry next = queue.poll(Math.max(0, until - System.nanoTime()), TimeUnit.NANOSECONDS);
            if (next == null) {
                return;
            }
            batch.add(next);
            queue.drainTo(batch, BATCH - batch.size());
        }
    }

    /** What is done while little comes; whether there is more of it. */
    private boolean meanwhile() throws SQLException {
        long now = System.nanoTime();
        boolean quiet = now - came > QUIET_NANOS;
        boolean overdue = now - caughtUp > OVERDUE_NANOS && now - rested > REST_NANOS;
        if (closed || !quiet && !overdue || !trouble.isEmpty()) {
            return false;
        }
        try {
            if (pruning || System.nanoTime() - pruned > PRUNE_NANOS) {
                pruning = prune(retention) > 0;
                pruned = System.nanoTime();
                return true;
            }
            // looked at first: whoever has nothing to write must not take the file from others
            boolean more = indexer.isBehind()
                    && LedgerSchema.transaction(writing, () -> indexer.step(System.nanoTime() + SLICE_NANOS));
            rested = System.nanoTime();
            caughtUp = more ? caughtUp : rested;
            return more && quiet;
        } catch (SQLException e) {
            rows.forget();
            if (!isBusy(e) && !isOutOfOrder(e)) {
                throw e;
            }
            LOG.debug("another program has the ledger, or the disk is full: later", e);
            return false;
        }
    }

    /** Lets some go that need not be kept; gives how many rows went. */
    private int prune(Retention by) throws SQLException {
        if (!pruning && !pruner.isDue(by, Instant.now())) {
            return 0;
        }
        if (!pruning) {
            Set<Long> stay = referred.get();
            LedgerSchema.transaction(writing, () -> {
                pruner.refer(stay);
                return null;
            });
        }
        int gone = LedgerSchema.transaction(writing, () -> pruner.step(by, Instant.now()));
        return gone > 0 ? gone : LedgerSchema.transaction(writing, pruner::sweep);
    }

    /** Lets all go that need not be kept, to the last byte; gives how many exchanges. On this thread. */
    long pruneAll(Retention by) throws SQLException {
        long gone = 0;
        pruning = false;
        Set<Long> stay = referred.get();
        LedgerSchema.transaction(writing, () -> {
            pruner.refer(stay);
            return null;
        });
        for (int step = 1; step > 0; gone += step) {
            step = LedgerSchema.transaction(writing, () -> pruner.step(by, Instant.now()));
        }
        int contents = 1;
        while (contents > 0) {
            contents = LedgerSchema.transaction(writing, pruner::sweepAll);
        }
        rows.forget();
        try (Statement s = writing.createStatement()) {
            s.execute("VACUUM");
        } catch (SQLException e) {
            // others use the file: what is free in it is used again
            LOG.info("the ledger keeps its size for now", e);
        }
        return gone;
    }

    /** Lets full text know some; whether there are more. On this thread, within a transaction. */
    boolean index() throws SQLException {
        return indexer.step(System.nanoTime() + 10 * SLICE_NANOS);
    }

    /** Writes a batch; while another program holds the file, or the disk is full, it is tried again. */
    private void insert(List<Entry> batch) throws SQLException {
        List<Entry> entries = batch.stream().filter(e -> e.exchange() != null).toList();
        if (entries.isEmpty()) {
            return;
        }
        Set<Exchange> hurried = hurried(entries);
        long began = System.nanoTime();
        for (int tried = 1; ; tried++) {
            try {
                written(entries, LedgerSchema.transaction(writing, () -> inserted(entries, hurried)));
                bare.add(hurried.size());
                fares("");
                return;
            } catch (SQLException | RuntimeException e) {
                rows.forget();
                if (tried < MOST_TRIES && isBusy(e)) {
                    continue;
                }
                if (isOutOfOrder(e)) {
                    fares(why(e));
                    if (System.nanoTime() - began < PATIENCE_NANOS && !closed) {
                        pause();
                        continue;
                    }
                    lost.add(entries.size());
                    throw e;
                }
                if (entries.size() > 1) {
                    eachAlone(entries);
                    return;
                }
                lost.increment();
                throw e;
            }
        }
    }

    /** Tells when it is news. */
    private void fares(String now) {
        if (!now.equals(trouble)) {
            trouble = now;
            tellState();
        }
    }

    private void tellState() {
        LedgerState now = state();
        for (LedgerListener listener : listeners) {
            try {
                listener.fares(now);
            } catch (RuntimeException e) {
                LOG.warn("a listener of the ledger failed", e);
            }
        }
    }

    private static void pause() {
        try {
            Thread.sleep(200);
        } catch (InterruptedException e) {
            LOG.debug("the ledger's writer goes on", e);
        }
    }

    /** Those whose bodies are left out, when more comes than can be written. */
    private Set<Exchange> hurried(List<Entry> batch) {
        Set<Exchange> hurried = Collections.newSetFromMap(new IdentityHashMap<>());
        if (queue.size() > QUEUE / 2) {
            batch.stream().filter(e -> !e.awaited).map(Entry::exchange).forEach(hurried::add);
        }
        return hurried;
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

    /** The lower byte is the primary code. */
    private static int code(Exception e) {
        return e instanceof SQLException sql ? sql.getErrorCode() & 0xFF : 0;
    }

    private static boolean isBusy(Exception e) {
        // SQLITE_BUSY, SQLITE_LOCKED
        return code(e) == 5 || code(e) == 6;
    }

    /** Whether it is the disk's fault, which may pass: SQLITE_READONLY, SQLITE_IOERR, SQLITE_FULL, SQLITE_CANTOPEN. */
    private static boolean isOutOfOrder(Exception e) {
        return Set.of(8, 10, 13, 14).contains(code(e));
    }

    private static String why(Exception e) {
        return code(e) == 13
                ? "The disk is full: nothing is recorded until there is room on it again."
                : "The ledger cannot be written: nothing is recorded until it can. (" + e.getMessage() + ")";
    }

    private List<Exchange> inserted(List<Entry> entries, Set<Exchange> hurried) throws SQLException {
        long sweeps = LedgerSchema.state(writing, "swept");
        if (sweeps != swept) {
            swept = sweeps;
            rows.forget();
        }
        long number = LedgerSchema.numbers(writing, entries.size());
        List<Exchange> numbered = new ArrayList<>(entries.size());
        Set<Exchange> without = Collections.newSetFromMap(new IdentityHashMap<>());
        for (Entry entry : entries) {
            Exchange e = entry.exchange().withId(number++);
            numbered.add(e);
            if (hurried.contains(entry.exchange())) {
                without.add(e);
            }
        }
        rows.write(numbered, without);
        return numbered;
    }

    private void written(List<Entry> entries, List<Exchange> numbered) throws SQLException {
        if (numbered.get(0).id() > announced + 1) {
            announceOthers(numbered.get(0).id());
        }
        for (int i = 0; i < entries.size(); i++) {
            announce(Listing.of(numbered.get(i)));
            entries.get(i).written().complete(numbered.get(i));
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
        List<Listing> news = new ArrayList<>();
        synchronized (reading) {
            try (PreparedStatement s = reading.prepareStatement("SELECT " + LedgerRows.LISTED
                    + " FROM line WHERE line.id > ? AND line.id < ? ORDER BY line.id LIMIT 20000")) {
                s.setLong(1, announced);
                s.setLong(2, before);
                try (ResultSet r = s.executeQuery()) {
                    while (r.next()) {
                        news.add(others.listing(r));
                    }
                }
            }
        }
        news.forEach(this::announce);
        if (!news.isEmpty()) {
            announced = news.get(news.size() - 1).id();
        }
    }
}
