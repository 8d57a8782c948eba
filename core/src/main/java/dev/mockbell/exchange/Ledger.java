package dev.mockbell.exchange;

import dev.mockbell.exchange.Exchange.Outcome;
import dev.mockbell.exchange.Exchange.Way;
import dev.mockbell.file.AtomicFile;
import dev.mockbell.problem.Problem;
import java.io.IOException;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Objects;
import java.util.Optional;
import java.util.concurrent.ArrayBlockingQueue;
import java.util.concurrent.BlockingQueue;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.TimeoutException;
import java.util.concurrent.atomic.LongAdder;
import java.util.function.Consumer;
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
    private static final int QUEUE = 4_096;
    private static final int BATCH = 256;
    private static final int MOST_KEPT = 100_000;
    private static final int LOOK_MILLIS = 250;
    private static final int MOST_TRIES = 40;
    private static final String COLUMNS =
            "id, started, way, contract, operation, endpoint, origin, status, nanos, sent, received, outcome, note";

    private final Connection writing;
    private final Connection reading;
    private final BlockingQueue<Entry> queue = new ArrayBlockingQueue<>(QUEUE);
    private final List<LedgerListener> listeners = new CopyOnWriteArrayList<>();
    private final Thread writer;
    private final LongAdder lost = new LongAdder();
    private long announced;
    private long seenVersion;
    private volatile boolean closed;

    /** Something for the writer: an exchange, or only a mark to be told of when it comes up. */
    private record Entry(Exchange exchange, CompletableFuture<Exchange> written) {}

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
        announced = LedgerSchema.prune(writing, MOST_KEPT);
        SQLiteConfig look = new SQLiteConfig();
        look.setBusyTimeout(5_000);
        reading = look.createConnection(url);
        try (Statement s = reading.createStatement()) {
            s.execute("PRAGMA trusted_schema=OFF");
            s.execute("PRAGMA query_only=1");
        }
        writer = new Thread(this::write, "ledger");
        writer.setDaemon(true);
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
        listeners.add(listener);
    }

    public void unlisten(LedgerListener listener) {
        listeners.remove(listener);
    }

    /**
     * Adds an exchange and gives it back with its number, when it is written. On a ledger that is closed, or that cannot
     * write, it comes back without one.
     */
    public Exchange add(Exchange exchange) {
        CompletableFuture<Exchange> written = new CompletableFuture<>();
        if (!put(new Entry(exchange, written))) {
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
        if (closed || queue.remainingCapacity() < QUEUE / 8) {
            return false;
        }
        CompletableFuture<Exchange> written = new CompletableFuture<>();
        written.thenAccept(numbered);
        return queue.offer(new Entry(exchange, written));
    }

    private boolean put(Entry entry) {
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

    /** Waits until everything added so far can be read. */
    public void settle() {
        CompletableFuture<Exchange> written = new CompletableFuture<>();
        if (!put(new Entry(null, written))) {
            return;
        }
        while (!closed && !written.isDone()) {
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
        return lost.sum();
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
            } catch (SQLException e) {
                if (tried == MOST_TRIES || !isBusy(e)) {
                    lost.add(exchanges.size());
                    throw e;
                }
            }
        }
    }

    private static boolean isBusy(SQLException e) {
        // the lower byte is the primary code: SQLITE_BUSY, SQLITE_LOCKED
        int code = e.getErrorCode() & 0xFF;
        return code == 5 || code == 6;
    }

    private List<Exchange> inserted(List<Exchange> exchanges) throws SQLException {
        long number = LedgerSchema.numbers(writing, exchanges.size());
        List<Exchange> numbered = new ArrayList<>();
        try (PreparedStatement s = writing.prepareStatement("INSERT INTO exchange (" + COLUMNS
                + ", connect, send, await, receive, request_head, request_body, request_wire, response_head, response_body,"
                + " response_wire) VALUES (?,?,?,?,?,?,?,?,?,?,?,?,?,?,?,?,?,?,?,?,?,?,?)")) {
            for (Exchange exchange : exchanges) {
                Exchange e = exchange.withId(number++);
                numbered.add(e);
                bind(s, e);
                s.executeUpdate();
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
                    "SELECT " + COLUMNS + " FROM exchange WHERE id > ? AND id < ? ORDER BY id LIMIT 20000")) {
                s.setLong(1, announced);
                s.setLong(2, before);
                try (ResultSet r = s.executeQuery()) {
                    while (r.next()) {
                        others.add(listing(r));
                    }
                }
            }
        }
        others.forEach(this::announce);
        if (!others.isEmpty()) {
            announced = others.get(others.size() - 1).id();
        }
    }

    private static void bind(PreparedStatement s, Exchange e) throws SQLException {
        Listing l = Listing.of(e);
        s.setLong(1, l.id());
        s.setLong(2, micros(l.started()));
        s.setString(3, l.way().name());
        s.setString(4, l.contract());
        s.setString(5, l.operation());
        s.setString(6, l.endpoint());
        s.setString(7, l.origin());
        s.setInt(8, l.status());
        s.setLong(9, l.nanos());
        s.setLong(10, l.sent());
        s.setLong(11, l.received());
        s.setString(12, l.outcome().name());
        s.setString(13, l.note());
        s.setLong(14, e.timing().connect());
        s.setLong(15, e.timing().send());
        s.setLong(16, e.timing().await());
        s.setLong(17, e.timing().receive());
        s.setString(18, e.request().head());
        s.setBytes(19, e.request().body());
        s.setBytes(20, wireIfOther(e.request()));
        HttpMessage response = e.response().orElse(null);
        s.setString(21, response == null ? null : response.head());
        s.setBytes(22, response == null ? null : response.body());
        s.setBytes(23, response == null ? null : wireIfOther(response));
    }

    /** The wire bytes, unless head and body say the same; that is most of the time and saves half of the file. */
    private static byte[] wireIfOther(HttpMessage m) {
        byte[] head = m.head().getBytes(java.nio.charset.StandardCharsets.ISO_8859_1);
        byte[] wire = m.wire();
        boolean same = wire.length == head.length + m.body().length
                && java.util.Arrays.equals(wire, 0, head.length, head, 0, head.length)
                && java.util.Arrays.equals(wire, head.length, wire.length, m.body(), 0, m.body().length);
        return same ? null : wire;
    }

    private static long micros(Instant instant) {
        return instant.getEpochSecond() * 1_000_000 + instant.getNano() / 1_000;
    }

    private static Instant instant(long micros) {
        return Instant.ofEpochSecond(Math.floorDiv(micros, 1_000_000L), Math.floorMod(micros, 1_000_000L) * 1_000);
    }

    /** The newest exchanges that pass the filter, newest first. */
    public List<Listing> list(LedgerFilter filter, int limit) {
        StringBuilder sql = new StringBuilder("SELECT " + COLUMNS + " FROM exchange WHERE 1=1");
        List<Object> values = new ArrayList<>();
        filter.way().ifPresent(w -> add(sql, values, " AND way = ?", w.name()));
        filter.operation().ifPresent(o -> add(sql, values, " AND operation = ?", o));
        filter.outcome().ifPresent(o -> add(sql, values, " AND outcome = ?", o.name()));
        filter.from().ifPresent(f -> add(sql, values, " AND started >= ?", micros(f)));
        filter.until().ifPresent(u -> add(sql, values, " AND started <= ?", micros(u)));
        if (filter.slowerThan() > 0) {
            add(sql, values, " AND nanos > ?", filter.slowerThan());
        }
        if (!filter.text().isBlank()) {
            String wanted = filter.text().strip().toLowerCase(Locale.ROOT);
            sql.append(
                    " AND (instr(lower(operation || ' ' || endpoint || ' ' || origin || ' ' || note || ' ' || status), ?) > 0"
                            + " OR instr(lower(CAST(request_body AS TEXT)), ?) > 0"
                            + " OR instr(lower(CAST(coalesce(response_body, '') AS TEXT)), ?) > 0)");
            values.add(wanted);
            values.add(wanted);
            values.add(wanted);
        }
        sql.append(" ORDER BY id DESC LIMIT ").append(limit);
        synchronized (reading) {
            try (PreparedStatement s = reading.prepareStatement(sql.toString())) {
                for (int i = 0; i < values.size(); i++) {
                    s.setObject(i + 1, values.get(i));
                }
                List<Listing> found = new ArrayList<>();
                try (ResultSet r = s.executeQuery()) {
                    while (r.next()) {
                        found.add(listing(r));
                    }
                }
                return found;
            } catch (SQLException e) {
                throw Problem.of(Problem.Kind.INPUT, "The ledger cannot be read: " + Problem.reason(e), null, null, e);
            }
        }
    }

    private static void add(StringBuilder sql, List<Object> values, String clause, Object value) {
        sql.append(clause);
        values.add(value);
    }

    private static Listing listing(ResultSet r) throws SQLException {
        return new Listing(
                r.getLong(1),
                instant(r.getLong(2)),
                Way.valueOf(r.getString(3)),
                r.getString(4),
                r.getString(5),
                r.getString(6),
                r.getString(7),
                r.getInt(8),
                r.getLong(9),
                r.getLong(10),
                r.getLong(11),
                Outcome.valueOf(r.getString(12)),
                r.getString(13));
    }

    /** The exchange of that number with its bytes. */
    public Optional<Exchange> get(long id) {
        synchronized (reading) {
            try (PreparedStatement s = reading.prepareStatement("SELECT " + COLUMNS
                    + ", connect, send, await, receive, request_head, request_body, request_wire, response_head,"
                    + " response_body, response_wire FROM exchange WHERE id = ?")) {
                s.setLong(1, id);
                try (ResultSet r = s.executeQuery()) {
                    return r.next() ? Optional.of(exchange(r)) : Optional.empty();
                }
            } catch (SQLException e) {
                throw Problem.of(Problem.Kind.INPUT, "The ledger cannot be read: " + Problem.reason(e), null, null, e);
            }
        }
    }

    private static Exchange exchange(ResultSet r) throws SQLException {
        Listing l = listing(r);
        HttpMessage request = message(r.getString(18), r.getBytes(19), r.getBytes(20));
        String head = r.getString(21);
        return new Exchange(
                l.id(),
                l.started(),
                l.way(),
                l.contract(),
                l.operation(),
                l.endpoint(),
                l.origin(),
                request,
                head == null ? Optional.empty() : Optional.of(message(head, r.getBytes(22), r.getBytes(23))),
                new Timing(r.getLong(14), r.getLong(15), r.getLong(16), r.getLong(17)),
                l.outcome(),
                l.note());
    }

    private static HttpMessage message(String head, byte[] body, byte[] wire) {
        String[] lines = head.split("\r\n");
        List<HttpMessage.Header> headers = new ArrayList<>();
        for (int i = 1; i < lines.length; i++) {
            int colon = lines[i].indexOf(": ");
            if (colon > 0) {
                headers.add(new HttpMessage.Header(lines[i].substring(0, colon), lines[i].substring(colon + 2)));
            }
        }
        byte[] content = body == null ? new byte[0] : body;
        byte[] all = wire;
        if (all == null) {
            byte[] start = head.getBytes(java.nio.charset.StandardCharsets.ISO_8859_1);
            all = java.util.Arrays.copyOf(start, start.length + content.length);
            System.arraycopy(content, 0, all, start.length, content.length);
        }
        return new HttpMessage(lines.length == 0 ? "" : lines[0], headers, content, all);
    }

    /** Writes what is still waiting and closes the file. */
    @Override
    public void close() {
        settle();
        closed = true;
        // wakes the writer, which would look for more only in a while
        queue.offer(new Entry(null, new CompletableFuture<>()));
        boolean interrupted = false;
        while (writer.isAlive()) {
            try {
                writer.join();
            } catch (InterruptedException e) {
                interrupted = true;
            }
        }
        try {
            writing.close();
            synchronized (reading) {
                reading.close();
            }
        } catch (SQLException e) {
            LOG.warn("the ledger did not close cleanly", e);
        }
        if (interrupted) {
            Thread.currentThread().interrupt();
        }
    }
}
