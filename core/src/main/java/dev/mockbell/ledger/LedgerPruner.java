package dev.mockbell.ledger;

import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Set;

/**
 * Lets old exchanges go, a few at a time, so that nobody waits for it. Of a line, 1 in {@code pinned} says that a person wants
 * it kept, 2 that something refers to it.
 */
final class LedgerPruner {
    /** So many at a time take some milliseconds. */
    static final int STEP = 500;

    private static final String USED = "SELECT %1$s FROM detail JOIN line ON line.id = detail.id"
            + " WHERE line.pinned <> 0 AND detail.%1$s IS NOT NULL";

    private final Connection connection;

    LedgerPruner(Connection connection) {
        this.connection = connection;
    }

    /** Whether there is anything to let go; asked before what is referred to is gathered, which takes a while. */
    boolean isDue(Retention retention, Instant now) throws SQLException {
        String sql = "SELECT EXISTS (SELECT 1 FROM line WHERE pinned = 0 AND id <= ?)"
                + " OR EXISTS (SELECT 1 FROM line WHERE pinned = 0 AND started < ?) OR ?";
        try (PreparedStatement s = connection.prepareStatement(sql)) {
            bind(s, retention, now);
            try (ResultSet r = s.executeQuery()) {
                return r.next() && r.getBoolean(1);
            }
        }
    }

    private void bind(PreparedStatement s, Retention retention, Instant now) throws SQLException {
        s.setLong(1, LedgerSchema.newest(connection) - retention.count());
        s.setLong(2, retention.age().map(a -> LedgerRows.micros(now.minus(a))).orElse(Long.MIN_VALUE));
        s.setBoolean(3, size() > retention.bytes());
    }

    /** Notes what is referred to; to be done before {@link #step} and whenever it may have changed. */
    void refer(Set<Long> referred) throws SQLException {
        Set<Long> before = new HashSet<>();
        try (Statement s = connection.createStatement();
                ResultSet r = s.executeQuery("SELECT id FROM line WHERE pinned <> 0 AND pinned & 2")) {
            while (r.next()) {
                before.add(r.getLong(1));
            }
        }
        update(
                "UPDATE line SET pinned = pinned & 1 WHERE id = ?",
                before.stream().filter(id -> !referred.contains(id)).toList());
        update(
                "UPDATE line SET pinned = pinned | 2 WHERE id = ?",
                referred.stream().filter(id -> !before.contains(id)).toList());
    }

    private void update(String sql, List<Long> ids) throws SQLException {
        try (PreparedStatement s = connection.prepareStatement(sql)) {
            for (long id : ids) {
                s.setLong(1, id);
                s.executeUpdate();
            }
        }
    }

    /** Lets a few go; gives how many. Within a transaction. */
    int step(Retention retention, Instant now) throws SQLException {
        List<Long> go = new ArrayList<>();
        String sql = "SELECT id FROM line WHERE pinned = 0 AND (id <= ? OR started < ? OR ?) ORDER BY id LIMIT " + STEP;
        try (PreparedStatement s = connection.prepareStatement(sql)) {
            bind(s, retention, now);
            try (ResultSet r = s.executeQuery()) {
                while (r.next()) {
                    go.add(r.getLong(1));
                }
            }
        }
        for (String table : List.of("line", "detail")) {
            update("DELETE FROM " + table + " WHERE id = ?", go);
        }
        update("DELETE FROM found WHERE rowid = ?", go);
        return go.size();
    }

    /** The bytes of the file that are in use. */
    private long size() throws SQLException {
        try (Statement s = connection.createStatement();
                ResultSet r = s.executeQuery("SELECT (page_count - freelist_count) * page_size"
                        + " FROM pragma_page_count, pragma_freelist_count, pragma_page_size")) {
            return r.next() ? r.getLong(1) : 0;
        }
    }

    /** Lets contents go that nothing has any more, a few at a time; gives how many. Within a transaction. */
    int sweep() throws SQLException {
        long oldest;
        try (Statement s = connection.createStatement();
                ResultSet r =
                        s.executeQuery("SELECT coalesce((SELECT id FROM line WHERE pinned = 0 ORDER BY id LIMIT 1),"
                                + " (SELECT max(last) FROM number) + 1)")) {
            oldest = r.getLong(1);
        }
        return drop("last < " + (oldest - Contents.slack()) + " AND id NOT IN (" + used() + ")");
    }

    /** As {@link #sweep}, to the last one; for when a person lets exchanges go. It takes as long as the ledger is large. */
    int sweepAll() throws SQLException {
        String all = used().replace(" WHERE line.pinned <> 0 AND", " WHERE");
        // whoever remembers where a content stands must look again
        LedgerSchema.state(connection, "swept", LedgerSchema.state(connection, "swept") + 1);
        return drop("id NOT IN (" + all + ")");
    }

    private static String used() {
        List<String> faces = new ArrayList<>();
        for (String face : List.of("request_body", "request_wire", "response_body", "response_wire")) {
            faces.add(USED.formatted(face));
        }
        return String.join(" UNION ALL ", faces);
    }

    private int drop(String which) throws SQLException {
        List<Long> go = new ArrayList<>();
        try (Statement s = connection.createStatement();
                ResultSet r = s.executeQuery("SELECT id FROM content WHERE " + which + " LIMIT " + STEP * 4)) {
            while (r.next()) {
                go.add(r.getLong(1));
            }
        }
        update("DELETE FROM content WHERE id = ?", go);
        update("DELETE FROM slice WHERE content = ?", go);
        return go.size();
    }
}
