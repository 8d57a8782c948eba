package dev.mockbell.exchange;

import dev.mockbell.problem.Problem;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;

/** The tables of the ledger. Their version is the file's {@code user_version}; older files are brought forward in place. */
final class LedgerSchema {
    /** The version that this program writes. */
    static final int VERSION = 4;

    private LedgerSchema() {}

    /**
     * Makes the tables, or brings those of an older version forward.
     *
     * @throws Problem when a newer program made the file
     */
    static void migrate(Connection connection) throws SQLException {
        if (version(connection) == VERSION) {
            return;
        }
        transaction(connection, () -> {
            // read again within the transaction: another program may have been at it
            int from = version(connection);
            if (from > VERSION) {
                throw Problem.of(
                        Problem.Kind.NEWER_FORMAT,
                        "The ledger has version " + from + ", made by a newer Mock Bell; this one reads up to "
                                + VERSION,
                        null,
                        "Use the newer program, or move the file away to start a new one.",
                        null);
            }
            if (from < 1) {
                first(connection);
            }
            if (from < 2) {
                second(connection);
            }
            if (from < 3) {
                third(connection);
            }
            if (from < 4) {
                fourth(connection);
            }
            try (Statement s = connection.createStatement()) {
                s.execute("PRAGMA user_version=" + VERSION);
            }
            return null;
        });
    }

    /** Work within a transaction. */
    interface Work<T> {
        T run() throws SQLException;
    }

    /** Does work that owns the file from its start, since the numbers it takes are read and written; all of it or nothing. */
    static <T> T transaction(Connection connection, Work<T> work) throws SQLException {
        try (Statement s = connection.createStatement()) {
            s.execute("BEGIN IMMEDIATE");
            try {
                T result = work.run();
                s.execute("COMMIT");
                return result;
            } catch (SQLException | RuntimeException e) {
                rollBack(s, e);
                throw e;
            }
        }
    }

    private static void rollBack(Statement s, Exception cause) {
        try {
            s.execute("ROLLBACK");
        } catch (SQLException e) {
            // some failures have taken it back already
            cause.addSuppressed(e);
        }
    }

    private static int version(Connection connection) throws SQLException {
        try (Statement s = connection.createStatement();
                ResultSet r = s.executeQuery("PRAGMA user_version")) {
            return r.getInt(1);
        }
    }

    /** Files of version 0 have the table but no numbers of their own. */
    private static void first(Connection connection) throws SQLException {
        try (Statement s = connection.createStatement()) {
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
            // a number is never given twice, also when the newest exchanges were let go
            s.execute("CREATE TABLE number (last INTEGER NOT NULL)");
            s.execute("INSERT INTO number SELECT coalesce(max(id), 0) FROM exchange");
        }
    }

    /** Other transports than HTTP; contents that are too large for their row. */
    private static void second(Connection connection) throws SQLException {
        try (Statement s = connection.createStatement()) {
            s.execute("ALTER TABLE exchange ADD COLUMN kind TEXT NOT NULL DEFAULT 'http'");
            s.execute("""
                    CREATE TABLE piece (
                      exchange INTEGER NOT NULL, face INTEGER NOT NULL, number INTEGER NOT NULL, seam BLOB NOT NULL,
                      bytes BLOB NOT NULL, PRIMARY KEY (exchange, face, number))""");
        }
    }

    /** What TLS used. */
    private static void third(Connection connection) throws SQLException {
        try (Statement s = connection.createStatement()) {
            s.execute("ALTER TABLE exchange ADD COLUMN secured TEXT");
        }
    }

    /** How long the name and TLS took, which was one with the connection before. */
    private static void fourth(Connection connection) throws SQLException {
        try (Statement s = connection.createStatement()) {
            s.execute("ALTER TABLE exchange ADD COLUMN name INTEGER NOT NULL DEFAULT 0");
            s.execute("ALTER TABLE exchange ADD COLUMN tls INTEGER NOT NULL DEFAULT 0");
        }
    }

    /** Takes so many numbers in a row, within the transaction under way; the first of them. */
    static long numbers(Connection connection, int count) throws SQLException {
        try (PreparedStatement s = connection.prepareStatement("UPDATE number SET last = last + ? RETURNING last")) {
            s.setInt(1, count);
            try (ResultSet r = s.executeQuery()) {
                if (!r.next()) {
                    throw new SQLException("the ledger has lost its numbers");
                }
                return r.getLong(1) - count + 1;
            }
        }
    }

    /** Lets all but the newest go; gives the newest number. */
    static long prune(Connection connection, int most) throws SQLException {
        return transaction(connection, () -> {
            try (Statement s = connection.createStatement()) {
                long last;
                try (ResultSet r = s.executeQuery("SELECT coalesce(max(last), 0) FROM number")) {
                    last = r.getLong(1);
                }
                s.execute("DELETE FROM exchange WHERE id <= " + (last - most));
                s.execute("DELETE FROM piece WHERE exchange <= " + (last - most));
                return last;
            }
        });
    }
}
