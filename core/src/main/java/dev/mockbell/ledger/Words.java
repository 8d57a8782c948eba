package dev.mockbell.ledger;

import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.LinkedHashMap;
import java.util.Map;

/** The texts of lines, each kept once under a number. For one thread. */
final class Words {
    private static final int MOST = 20_000;

    private final Statements statements;
    private final Map<String, Long> numbers = bounded();
    private final Map<Long, String> texts = bounded();

    Words(Statements statements) {
        this.statements = statements;
    }

    private static <K, V> Map<K, V> bounded() {
        return new LinkedHashMap<>(64, 0.75f, true) {
            @Override
            protected boolean removeEldestEntry(Map.Entry<K, V> eldest) {
                return size() > MOST;
            }
        };
    }

    /** The number of a text, which is given one when it has none. */
    long number(String text) throws SQLException {
        Long known = numbers.get(text);
        if (known != null) {
            return known;
        }
        PreparedStatement s = statements.of(
                "INSERT INTO word (text) VALUES (?) ON CONFLICT (text) DO UPDATE SET text = text RETURNING id");
        s.setString(1, text);
        try (ResultSet r = s.executeQuery()) {
            if (!r.next()) {
                throw new SQLException("the ledger gives no number to a text");
            }
            long number = r.getLong(1);
            numbers.put(text, number);
            return number;
        }
    }

    /** Forgets what a transaction that came to nothing may have given. */
    void forget() {
        numbers.clear();
    }

    /** The text of a number. */
    String text(long number) throws SQLException {
        String known = texts.get(number);
        if (known != null) {
            return known;
        }
        PreparedStatement s = statements.of("SELECT text FROM word WHERE id = ?");
        s.setLong(1, number);
        try (ResultSet r = s.executeQuery()) {
            String text = r.next() ? r.getString(1) : "";
            texts.put(number, text);
            return text;
        }
    }
}
