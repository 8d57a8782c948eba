package dev.mockbell.ledger;

import dev.mockbell.problem.Problem;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.List;

/** The tables of the ledger. Their version is the file's {@code user_version}; older files are brought forward in place. */
final class LedgerSchema {
    /** The version that this program writes. */
    static final int VERSION = 5;

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
            if (from < 5) {
                fifth(connection);
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

    /** Contents kept once and compressed; narrow lines; the texts of lines kept once; what full text finds. */
    private static void fifth(Connection connection) throws SQLException {
        try (Statement s = connection.createStatement()) {
            s.execute("CREATE TABLE word (id INTEGER PRIMARY KEY, text TEXT NOT NULL UNIQUE)");
            s.execute("""
                    CREATE TABLE line (
                      id INTEGER PRIMARY KEY, started INTEGER NOT NULL, way INTEGER NOT NULL, outcome INTEGER NOT NULL,
                      status INTEGER NOT NULL, nanos INTEGER NOT NULL, sent INTEGER NOT NULL, received INTEGER NOT NULL,
                      contract INTEGER NOT NULL, operation INTEGER NOT NULL, endpoint INTEGER NOT NULL,
                      origin INTEGER NOT NULL, note INTEGER NOT NULL, caller INTEGER NOT NULL, tie INTEGER NOT NULL,
                      pinned INTEGER NOT NULL DEFAULT 0, partly INTEGER NOT NULL DEFAULT 0)""");
            s.execute("CREATE INDEX line_started ON line(started)");
            s.execute("CREATE INDEX line_operation ON line(operation)");
            s.execute("CREATE INDEX line_nanos ON line(nanos)");
            // most are fine and have status 200: those are found by walking, and cost no entry
            s.execute("CREATE INDEX line_outcome ON line(outcome) WHERE outcome <> 0");
            s.execute("CREATE INDEX line_status ON line(status) WHERE status <> 200");
            s.execute("CREATE INDEX line_pinned ON line(id) WHERE pinned <> 0");
            s.execute("CREATE INDEX line_partly ON line(id) WHERE partly <> 0");
            s.execute("CREATE INDEX line_tie ON line(tie) WHERE tie <> 1");
            s.execute("""
                    CREATE TABLE detail (
                      id INTEGER PRIMARY KEY, name INTEGER NOT NULL, connect INTEGER NOT NULL, tls INTEGER NOT NULL,
                      send INTEGER NOT NULL, await INTEGER NOT NULL, receive INTEGER NOT NULL, kind TEXT NOT NULL,
                      request_head TEXT NOT NULL, request_body INTEGER, request_wire INTEGER, response_head TEXT,
                      response_body INTEGER, response_wire INTEGER, secured TEXT, dropped INTEGER NOT NULL DEFAULT 0)""");
            s.execute("""
                    CREATE TABLE content (
                      id INTEGER PRIMARY KEY, hash BLOB, size INTEGER NOT NULL, last INTEGER NOT NULL,
                      coding INTEGER NOT NULL, bytes BLOB NOT NULL)""");
            s.execute("CREATE INDEX content_hash ON content(hash) WHERE hash IS NOT NULL");
            s.execute("CREATE INDEX content_last ON content(last)");
            s.execute("""
                    CREATE TABLE slice (
                      content INTEGER NOT NULL, number INTEGER NOT NULL, coding INTEGER NOT NULL, bytes BLOB NOT NULL,
                      PRIMARY KEY (content, number))""");
            s.execute("CREATE VIRTUAL TABLE found USING fts5("
                    + "text, content='', contentless_delete=1, detail='none', tokenize='trigram')");
            s.execute("CREATE TABLE state (key TEXT PRIMARY KEY, value INTEGER NOT NULL)");
            s.execute("INSERT INTO state VALUES ('indexed', 0)");
            // the empty text is number 1, which the index of ties leaves out
            s.execute("INSERT INTO word VALUES (1, '')");
            carryOver(s);
            s.execute("DROP TABLE exchange");
            s.execute("DROP TABLE piece");
        }
    }

    private static void carryOver(Statement s) throws SQLException {
        for (String column : List.of("contract", "operation", "endpoint", "origin", "note")) {
            s.execute("INSERT OR IGNORE INTO word (text) SELECT DISTINCT " + column + " FROM exchange");
        }
        s.execute("INSERT INTO line SELECT id, started,"
                + " CASE way WHEN 'CALLED' THEN 0 WHEN 'ANSWERED' THEN 1 ELSE 2 END,"
                + " CASE outcome WHEN 'FINE' THEN 0 WHEN 'FAULT' THEN 1 ELSE 2 END, status, nanos, sent, received,"
                + word("contract") + word("operation") + word("endpoint") + word("origin") + word("note")
                + " 1, 1, 0, 0 FROM exchange");
        String[] faces = {"request_body", "request_wire", "response_body", "response_wire"};
        for (int face = 0; face < faces.length; face++) {
            s.execute("INSERT INTO content SELECT id * 4 + " + face + ", NULL, length(" + faces[face] + ")"
                    + " + coalesce((SELECT sum(length(bytes)) FROM piece WHERE exchange = id AND face = " + face
                    + "), 0),"
                    + " id, 0, " + faces[face] + " FROM exchange WHERE " + faces[face] + " IS NOT NULL");
        }
        s.execute("INSERT INTO slice SELECT exchange * 4 + face, number, 0, bytes FROM piece");
        s.execute("INSERT INTO detail SELECT id, name, connect, tls, send, await, receive, kind, request_head,"
                + content("request_body", 0) + content("request_wire", 1) + " response_head,"
                + content("response_body", 2) + content("response_wire", 3) + " secured, 0 FROM exchange");
        s.execute("UPDATE line SET partly = 1 WHERE id IN (SELECT exchange FROM piece)");
    }

    private static String word(String column) {
        return " (SELECT word.id FROM word WHERE word.text = exchange." + column + "),";
    }

    private static String content(String column, int face) {
        return " CASE WHEN " + column + " IS NULL THEN NULL ELSE id * 4 + " + face + " END,";
    }

    /** A number that the file keeps under a name. */
    static long state(Connection connection, String key) throws SQLException {
        try (PreparedStatement s = connection.prepareStatement("SELECT value FROM state WHERE key = ?")) {
            s.setString(1, key);
            try (ResultSet r = s.executeQuery()) {
                return r.next() ? r.getLong(1) : 0;
            }
        }
    }

    static void state(Connection connection, String key, long value) throws SQLException {
        try (PreparedStatement s = connection.prepareStatement("INSERT OR REPLACE INTO state VALUES (?, ?)")) {
            s.setString(1, key);
            s.setLong(2, value);
            s.executeUpdate();
        }
    }

    /** The newest number that was given. */
    static long newest(Connection connection) throws SQLException {
        try (Statement s = connection.createStatement();
                ResultSet r = s.executeQuery("SELECT coalesce(max(last), 0) FROM number")) {
            return r.getLong(1);
        }
    }
}
