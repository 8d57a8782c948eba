package dev.mockbell.ledger;

import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.SQLException;
import java.util.HashMap;
import java.util.Map;

/**
 * The statements of a connection, each prepared once: preparing costs more than most of them do. One is in use once at a
 * time; whoever has a result of it closes that before the next asks for the same. They end with their connection.
 */
final class Statements {
    private final Connection connection;
    private final Map<String, PreparedStatement> prepared = new HashMap<>();

    Statements(Connection connection) {
        this.connection = connection;
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
