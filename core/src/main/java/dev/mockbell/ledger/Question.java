package dev.mockbell.ledger;

import dev.mockbell.ledger.Condition.Between;
import dev.mockbell.ledger.Condition.ByResult;
import dev.mockbell.ledger.Condition.ByWay;
import dev.mockbell.ledger.Condition.During;
import dev.mockbell.ledger.Condition.Holds;
import dev.mockbell.ledger.Condition.Named;
import dev.mockbell.ledger.Condition.Pinned;
import dev.mockbell.ledger.Condition.Since;
import dev.mockbell.ledger.Condition.Where;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/**
 * What of a filter the lines themselves can tell, as SQL. Which index leads is decided by looking how many lines each would
 * give: the library's own guess would take one that most lines are in as soon as two conditions are asked.
 */
final class Question {
    /** An index that gives no more lines than these leads; beyond them the lines are walked from the newest on. */
    private static final int FEW = 5_000;

    private final List<Clause> clauses = new ArrayList<>();

    /**
     * A condition on lines.
     *
     * @param index its column, where one is kept; empty for none
     * @param sql with that column plain, so that its index can be used
     */
    private record Clause(String index, String sql, List<Object> values) {
        boolean looksUp() {
            return sql.contains("SELECT");
        }

        /** With the column in a form that no index fits. */
        String walking() {
            return index.isEmpty() ? sql : sql.replace("line." + index + " ", "+line." + index + " ");
        }
    }

    Question(LedgerFilter filter, Instant now) {
        Map<String, List<LedgerFilter.Term>> alternatives = new LinkedHashMap<>();
        for (LedgerFilter.Term term : filter.terms()) {
            if (term.not() || term.condition().together()) {
                add(List.of(term), now);
            } else {
                alternatives
                        .computeIfAbsent(term.condition().kind(), k -> new ArrayList<>())
                        .add(term);
            }
        }
        alternatives.values().forEach(terms -> add(terms, now));
        // asked of each line in this order: a number is compared twice as fast as a text is looked up
        clauses.sort(Comparator.comparing(Clause::looksUp));
    }

    private void add(List<LedgerFilter.Term> terms, Instant now) {
        List<String> sql = new ArrayList<>();
        List<Object> values = new ArrayList<>();
        String index = terms.get(0).not() ? "" : index(terms.get(0).condition());
        for (LedgerFilter.Term term : terms) {
            String one = sql(term.condition(), now, values);
            if (one.isEmpty()) {
                return;
            }
            sql.add(term.not() ? "NOT (" + one + ")" : one);
        }
        clauses.add(new Clause(index, "(" + String.join(" OR ", sql) + ")", values));
    }

    private static String index(Condition condition) {
        return switch (condition.kind()) {
            case "operation", "status" -> condition.kind();
            case "result" -> "outcome";
            case "took" -> "nanos";
            case "of" -> "tie";
            case "time", "since" -> "started";
            default -> "";
        };
    }

    /** Empty for what lines cannot tell. */
    private static String sql(Condition condition, Instant now, List<Object> values) {
        if (condition instanceof ByWay way) {
            values.add(LedgerRows.code(way.way()));
            return "line.way = ?";
        }
        if (condition instanceof ByResult result) {
            int code = LedgerRows.code(result.outcome());
            values.add(code);
            // said twice, so that the index of those that are not fine may be used
            return "line.outcome = ?" + (code == 0 ? "" : " AND line.outcome <> 0");
        }
        if (condition instanceof Named named) {
            values.add(like(named));
            String ids = "(SELECT word.id FROM word WHERE word.text LIKE ? ESCAPE '\\')";
            return "line." + named.field().column() + " IN " + ids
                    + ("tie".equals(named.field().column()) ? " AND line.tie <> 1" : "");
        }
        if (condition instanceof Between between) {
            return between(between, values);
        }
        if (condition instanceof During during) {
            List<String> ends = new ArrayList<>();
            during.from().ifPresent(from -> {
                ends.add("line.started >= ?");
                values.add(LedgerRows.micros(from));
            });
            during.until().ifPresent(until -> {
                ends.add("line.started <= ?");
                values.add(LedgerRows.micros(until));
            });
            return String.join(" AND ", ends);
        }
        if (condition instanceof Since since) {
            values.add(LedgerRows.micros(now.minus(since.past())));
            return "line.started >= ?";
        }
        return condition instanceof Pinned ? "line.pinned <> 0 AND line.pinned & 1" : "";
    }

    private static String between(Between between, List<Object> values) {
        String column = "line." + between.figure().column();
        values.add(between.from());
        String other = between.figure() == Figure.STATUS && (between.from() > 200 || between.to() < 200)
                ? " AND line.status <> 200"
                : "";
        if (between.from() == between.to()) {
            return column + " = ?" + other;
        }
        if (between.to() == Long.MAX_VALUE) {
            return column + " >= ?" + other;
        }
        values.add(between.to());
        return column + " >= ? AND " + column + " <= ?" + other;
    }

    /** As a pattern of LIKE: {@code *} is anything, {@code \*} the character. */
    private static String like(Named named) {
        StringBuilder like = new StringBuilder();
        String wanted = named.wanted();
        for (int i = 0; i < wanted.length(); i++) {
            char c = wanted.charAt(i);
            if (c == '\\' && i + 1 < wanted.length() && wanted.charAt(i + 1) == '*') {
                like.append('*');
                i++;
            } else if (c == '*') {
                like.append('%');
            } else {
                if (c == '%' || c == '_' || c == '\\') {
                    like.append('\\');
                }
                like.append(c);
            }
        }
        return named.field().anywhere() ? "%" + like + "%" : like.toString();
    }

    /** The conditions behind WHERE, and their values. */
    record Sql(String text, List<Object> values) {
        int bind(PreparedStatement s, int from) throws SQLException {
            int at = from;
            for (Object value : values) {
                s.setObject(at++, value);
            }
            return at;
        }
    }

    /** With the index that gives the fewest lines leading, if that is few; else for walking the lines by their number. */
    Sql leading(Connection connection) throws SQLException {
        int best = -1;
        long fewest = FEW;
        for (int i = 0; i < clauses.size(); i++) {
            if (!clauses.get(i).index().isEmpty()) {
                long count = count(connection, clauses.get(i), fewest);
                if (count < fewest) {
                    fewest = count;
                    best = i;
                }
            }
        }
        return with(best);
    }

    /** For walking the lines, whatever their order. */
    Sql walking() {
        return with(-1);
    }

    private Sql with(int leading) {
        StringBuilder text = new StringBuilder("1");
        List<Object> values = new ArrayList<>();
        for (int i = 0; i < clauses.size(); i++) {
            Clause clause = clauses.get(i);
            text.append(" AND ").append(i == leading ? clause.sql() : clause.walking());
            values.addAll(clause.values());
        }
        return new Sql(text.toString(), values);
    }

    private static long count(Connection connection, Clause clause, long most) throws SQLException {
        String sql = "SELECT count(*) FROM (SELECT 1 FROM line WHERE " + clause.sql() + " LIMIT " + most + ")";
        try (PreparedStatement s = connection.prepareStatement(sql)) {
            new Sql(sql, clause.values()).bind(s, 1);
            try (ResultSet r = s.executeQuery()) {
                return r.next() ? r.getLong(1) : 0;
            }
        }
    }

    /** The texts and conditions that only the messages themselves can tell. */
    static List<LedgerFilter.Term> beyondLines(LedgerFilter filter) {
        return filter.terms().stream()
                .filter(t -> t.condition() instanceof Holds || t.condition() instanceof Where)
                .toList();
    }
}
