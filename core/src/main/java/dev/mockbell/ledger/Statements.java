package dev.mockbell.ledger;

import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.SQLException;
import java.util.HashMap;
import java.util.Map;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/**
 * The statements of a connection, each prepared once: preparing costs more than most of them do. One is in use once at a
 * time; whoever has a result of it closes that before the next asks for the same. They end with their connection.
 */
final class Statements {
    private static final Logger LOG = LoggerFactory.getLogger(Statements.class);

    private final Connection connection;
    private final Map<String, PreparedStatement> prepared = new HashMap<>();

    Statements(Connection connection) {
        this.connection = connection;
    }

    /** Ends them all: one that failed, because the disk is full, is not fit for use any more. */
    void forget() {
        for (PreparedStatement statement : prepared.values()) {
            try {
                statement.close();
            } catch (SQLException e) {
                // it is not used again either way
                LOG.debug("a statement could not be closed", e);
            }
        }
        prepared.clear();
    }

    PreparedStatement of(String sql) throws SQLException {
        PreparedStatement known = prepared.get(sql);
        if (known == null) {
            known = connection.prepareStatement(sql);
            prepared.put(sql, known);
        }
        return known;
    }
}
