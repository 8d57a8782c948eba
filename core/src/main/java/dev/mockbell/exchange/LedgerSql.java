package dev.mockbell.exchange;

import java.sql.PreparedStatement;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;

/** A filter as a question to the ledger. */
final class LedgerSql {
    private final StringBuilder sql = new StringBuilder("SELECT " + LedgerRows.LISTED + " FROM exchange WHERE 1=1");
    private final List<Object> values = new ArrayList<>();

    LedgerSql(LedgerFilter filter, int limit) {
        filter.way().ifPresent(w -> add(" AND way = ?", w.name()));
        filter.operation().ifPresent(o -> add(" AND operation = ?", o));
        filter.outcome().ifPresent(o -> add(" AND outcome = ?", o.name()));
        filter.from().ifPresent(f -> add(" AND started >= ?", LedgerRows.micros(f)));
        filter.until().ifPresent(u -> add(" AND started <= ?", LedgerRows.micros(u)));
        if (filter.slowerThan() > 0) {
            add(" AND nanos > ?", filter.slowerThan());
        }
        if (!filter.text().isBlank()) {
            text(filter.text().strip().toLowerCase(Locale.ROOT));
        }
        sql.append(" ORDER BY id DESC LIMIT ").append(limit);
    }

    /** In what is listed, in the bodies, and in the pieces of large ones and the seams between them. */
    private void text(String wanted) {
        sql.append(" AND (");
        add(
                "instr(lower(operation || ' ' || endpoint || ' ' || origin || ' ' || note || ' ' || status), ?) > 0",
                wanted);
        add(" OR instr(lower(CAST(request_body AS TEXT)), ?) > 0", wanted);
        add(" OR instr(lower(CAST(coalesce(response_body, '') AS TEXT)), ?) > 0", wanted);
        add(
                " OR EXISTS (SELECT 1 FROM piece WHERE piece.exchange = exchange.id AND face IN (0, 2)"
                        + " AND (instr(lower(CAST(bytes AS TEXT)), ?) > 0",
                wanted);
        add(" OR instr(lower(CAST(seam AS TEXT)), ?) > 0)))", wanted);
    }

    private void add(String clause, Object value) {
        sql.append(clause);
        values.add(value);
    }

    String text() {
        return sql.toString();
    }

    void bind(PreparedStatement s) throws SQLException {
        for (int i = 0; i < values.size(); i++) {
            s.setObject(i + 1, values.get(i));
        }
    }
}
