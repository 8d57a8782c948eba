package dev.mockbell.exchange;

import dev.mockbell.exchange.Exchange.Outcome;
import dev.mockbell.exchange.Exchange.Way;
import dev.mockbell.problem.Problem;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.concurrent.ArrayBlockingQueue;
import java.util.concurrent.BlockingQueue;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.atomic.AtomicLong;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/**
 * Keeps every exchange in one SQLite file. One thread writes, in batches, fed by a bounded queue: adding waits only when
 * {@value #QUEUE} exchanges are still to be written. Readers see what is written; {@link #settle()} waits for it. On
 * opening, all but the newest {@value #MOST_KEPT} are let go, so that the file does not grow without end.
 */
public final class Ledger implements AutoCloseable {
    private static final Logger LOG = LoggerFactory.getLogger(Ledger.class);
    private static final int QUEUE = 4_096;
    private static final int BATCH = 256;
    private static final int MOST_KEPT = 100_000;
    private static final String COLUMNS =
            "id, started, way, contract, operation, endpoint, origin, status, nanos, sent, received, outcome, note";

    private final Connection writing;
    private final Connection reading;
    private final BlockingQueue<Object> queue = new ArrayBlockingQueue<>(QUEUE);
    private final List<LedgerListener> listeners = new CopyOnWriteArrayList<>();
    private final AtomicLong lastId = new AtomicLong();
    private final Thread writer;
    private volatile boolean closed;

    private Ledger(String url) throws SQLException {
        writing = DriverManager.getConnection(url);
        try (Statement s = writing.createStatement()) {
            s.execute("PRAGMA journal_mode=WAL");
            s.execute("PRAGMA synchronous=NORMAL");
            s.execute("PRAGMA busy_timeout=5000");
            s.execute("""
                    CREATE TABLE IF NOT EXISTS exchange (
                      id INTEGER PRIMARY KEY, started INTEGER NOT NULL, way TEXT NOT NULL, contract TEXT NOT NULL,
                      operation TEXT NOT NULL, endpoint TEXT NOT NULL, origin TEXT NOT NULL, status INTEGER NOT NULL,
                      nanos INTEGER NOT NULL, sent INTEGER NOT NULL, received INTEGER NOT NULL, outcome TEXT NOT NULL,
                      note TEXT NOT NULL, connect INTEGER, send INTEGER, await INTEGER, receive INTEGER,
                      request_head TEXT NOT NULL, request_body BLOB NOT NULL, request_wire BLOB,
                      response_head TEXT, response_body BLOB, response_wire BLOB)""");
            s.execute("CREATE INDEX IF NOT EXISTS exchange_started ON exchange(started)");
            s.execute("CREATE INDEX IF NOT EXISTS exchange_operation ON exchange(operation)");
            try (ResultSet r = s.executeQuery("SELECT coalesce(max(id), 0) FROM exchange")) {
                lastId.set(r.getLong(1));
            }
            s.execute("DELETE FROM exchange WHERE id <= " + (lastId.get() - MOST_KEPT));
        }
        writing.setAutoCommit(false);
        reading = DriverManager.getConnection(url);
        try (Statement s = reading.createStatement()) {
            s.execute("PRAGMA busy_timeout=5000");
            s.execute("PRAGMA query_only=1");
        }
        writer = new Thread(this::write, "ledger");
        writer.setDaemon(true);
        writer.start();
    }

    /**
     * Opens the ledger in a file, making it when it is not there.
     *
     * @throws Problem when the file is no ledger or cannot be written
     */
    public static Ledger open(Path file) {
        try {
            java.nio.file.Files.createDirectories(file.toAbsolutePath().getParent());
            return new Ledger("jdbc:sqlite:" + file.toAbsolutePath());
        } catch (SQLException | java.io.IOException e) {
            throw Problem.of(
                    Problem.Kind.INPUT,
                    "The ledger cannot be opened: " + Problem.reason(e),
                    file.toString(),
                    "Move the file away to start a new one.",
                    e);
        }
    }

    /** Adds a listener; it hears of what comes from now on. */
    public void listen(LedgerListener listener) {
        listeners.add(listener);
    }

    public void unlisten(LedgerListener listener) {
        listeners.remove(listener);
    }

    /** Adds an exchange and gives it back with its number. Waits while the queue is full. */
    public Exchange add(Exchange exchange) {
        Exchange numbered = announced(exchange);
        put(numbered);
        return numbered;
    }

    /**
     * Adds an exchange if that needs no waiting; for threads that must not block.
     *
     * @return whether it was added; when not, nobody hears of it either
     */
    public boolean offer(Exchange exchange) {
        if (closed || queue.remainingCapacity() < QUEUE / 8) {
            return false;
        }
        return queue.offer(announced(exchange));
    }

    private synchronized Exchange announced(Exchange exchange) {
        Exchange numbered = exchange.withId(lastId.incrementAndGet());
        Listing listing = Listing.of(numbered);
        for (LedgerListener listener : listeners) {
            try {
                listener.added(listing);
            } catch (RuntimeException e) {
                LOG.warn("a listener of the ledger failed", e);
            }
        }
        return numbered;
    }

    private void put(Object item) {
        try {
            if (!closed) {
                queue.put(item);
            }
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
    }

    /** Waits until everything added so far can be read. */
    public void settle() {
        CountDownLatch written = new CountDownLatch(1);
        put(written);
        try {
            while (!closed && !written.await(100, java.util.concurrent.TimeUnit.MILLISECONDS)) {
                // the writer counts down when it comes to the latch
            }
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
    }

    private void write() {
        List<Object> batch = new ArrayList<>();
        while (!closed || !queue.isEmpty()) {
            try {
                Object first = queue.poll(200, java.util.concurrent.TimeUnit.MILLISECONDS);
                if (first == null) {
                    continue;
                }
                batch.clear();
                batch.add(first);
                queue.drainTo(batch, BATCH);
                insert(batch);
            } catch (InterruptedException e) {
                Thread.currentThread().interrupt();
                return;
            } catch (SQLException e) {
                LOG.error("the ledger could not write {} exchanges", batch.size(), e);
            } finally {
                batch.stream().filter(CountDownLatch.class::isInstance).forEach(l -> ((CountDownLatch) l).countDown());
            }
        }
    }

    private void insert(List<Object> batch) throws SQLException {
        try (PreparedStatement s = writing.prepareStatement("INSERT INTO exchange (" + COLUMNS
                + ", connect, send, await, receive, request_head, request_body, request_wire, response_head, response_body,"
                + " response_wire) VALUES (?,?,?,?,?,?,?,?,?,?,?,?,?,?,?,?,?,?,?,?,?,?,?)")) {
            for (Object item : batch) {
                if (item instanceof Exchange e) {
                    bind(s, e);
                    s.addBatch();
                }
            }
            s.executeBatch();
            writing.commit();
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
        try {
            writer.join(5_000);
            writing.close();
            reading.close();
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        } catch (SQLException e) {
            LOG.warn("the ledger did not close cleanly", e);
        }
    }
}
