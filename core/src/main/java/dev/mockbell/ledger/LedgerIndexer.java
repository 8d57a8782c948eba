package dev.mockbell.ledger;

import dev.mockbell.problem.Problem;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/** Lets full text know what was written, behind the writing and only while there is time. */
final class LedgerIndexer {
    private static final Logger LOG = LoggerFactory.getLogger(LedgerIndexer.class);
    private static final int STEP = 400;

    private final Connection connection;
    private final LedgerRows rows;

    LedgerIndexer(Connection connection, LedgerRows rows) {
        this.connection = connection;
        this.rows = rows;
    }

    /** Whether there is anything that full text does not know. */
    boolean isBehind() throws SQLException {
        return LedgerSchema.state(connection, "indexed") < LedgerSchema.newest(connection);
    }

    /**
     * Takes some in. Within a transaction.
     *
     * @param until by {@link System#nanoTime}
     * @return whether there are more
     */
    boolean step(long until) throws SQLException {
        long indexed = LedgerSchema.state(connection, "indexed");
        List<Long> next = new ArrayList<>();
        try (PreparedStatement s =
                connection.prepareStatement("SELECT id FROM line WHERE id > ? ORDER BY id LIMIT " + STEP)) {
            s.setLong(1, indexed);
            try (ResultSet r = s.executeQuery()) {
                while (r.next()) {
                    next.add(r.getLong(1));
                }
            }
        }
        if (next.isEmpty()) {
            // what was numbered after it was let go already
            LedgerSchema.state(connection, "indexed", LedgerSchema.newest(connection));
            return false;
        }
        long last = indexed;
        try (PreparedStatement s = connection.prepareStatement("INSERT INTO found (rowid, text) VALUES (?, ?)")) {
            for (long id : next) {
                Optional<String> text = text(id);
                if (text.isPresent()) {
                    s.setLong(1, id);
                    s.setString(2, text.get());
                    s.executeUpdate();
                }
                last = id;
                if (System.nanoTime() > until) {
                    break;
                }
            }
        }
        LedgerSchema.state(connection, "indexed", last);
        return last < next.get(next.size() - 1) || next.size() == STEP;
    }

    private Optional<String> text(long id) throws SQLException {
        try {
            return rows.read(id).map(ExchangeWords::text);
        } catch (Problem e) {
            // it is passed over: it cannot be looked at either
            LOG.warn("exchange {} cannot be read for full text", id, e);
            return Optional.empty();
        }
    }
}
