package dev.mockbell.ledger;

import dev.mockbell.exchange.Exchange;
import dev.mockbell.expression.Expressions;
import dev.mockbell.expression.Scope;
import dev.mockbell.ledger.Condition.Holds;
import dev.mockbell.ledger.Condition.Where;
import dev.mockbell.problem.Problem;
import dev.mockbell.task.StopSignal;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Instant;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import java.util.function.Predicate;
import java.util.stream.Collectors;
import net.sf.saxon.s9api.XdmEmptySequence;
import net.sf.saxon.s9api.XdmValue;

/**
 * One search through the ledger, on a connection of its own. What lines tell is asked of the file; texts are looked for by
 * full text, which leads to those that may hold them, and then read; XPath conditions are tried on one after the other.
 */
final class LedgerSearch {
    /** So few characters make no token of full text. */
    private static final int TOKEN = 3;

    /** So many tokens tell a long text well enough from others. */
    private static final int MOST_TOKENS = 48;

    private final Connection connection;
    private final LedgerRows rows;
    private final StopSignal stop;
    private final Question question;
    private final List<Predicate<Exchange>> tests = new ArrayList<>();
    private final Set<String> tokens = new LinkedHashSet<>();

    /** @param looking what evaluates XPath conditions */
    LedgerSearch(Connection connection, LedgerFilter filter, Expressions looking, StopSignal stop) {
        this.connection = connection;
        this.rows = new LedgerRows(connection, new Object());
        this.stop = stop;
        this.question = new Question(filter, Instant.now());
        for (LedgerFilter.Term term : Question.beyondLines(filter)) {
            Predicate<Exchange> test = test(term.condition(), looking);
            tests.add(term.not() ? test.negate() : test);
            if (!term.not() && term.condition() instanceof Holds holds) {
                tokens.addAll(tokens(holds.text().toLowerCase(Locale.ROOT)));
            }
        }
    }

    private Predicate<Exchange> test(Condition condition, Expressions looking) {
        if (condition instanceof Holds holds) {
            String wanted = holds.text().toLowerCase(Locale.ROOT);
            return e -> ExchangeWords.holds(e, wanted, holds.whole());
        }
        Expressions.Compiled where =
                looking.compiled(((Where) condition).xpath(), List.of("request", "response"), Scope.EMPTY.until(stop));
        return e -> holds(where, e, looking);
    }

    private static boolean holds(Expressions.Compiled where, Exchange e, Expressions looking) {
        XdmValue[] values = {
            read(Optional.of(e.request()), looking, where.uses(0)), read(e.response(), looking, where.uses(1))
        };
        try {
            return where.holds(values, null, Expressions.Effort.USUAL);
        } catch (Problem p) {
            if (p.kind() == Problem.Kind.STOPPED) {
                throw p;
            }
            // it cannot be decided for this one
            return false;
        }
    }

    /** Nothing where there is no message, or one that is no XML. */
    private static XdmValue read(Optional<dev.mockbell.exchange.Message> message, Expressions looking, boolean used) {
        if (!used || message.isEmpty() || message.get().body().isEmpty()) {
            return XdmEmptySequence.getInstance();
        }
        try {
            return looking.read(message.get().text());
        } catch (Problem notXml) {
            return XdmEmptySequence.getInstance();
        }
    }

    private static Set<String> tokens(String text) {
        int[] points = text.codePoints().toArray();
        Set<String> tokens = new LinkedHashSet<>();
        int windows = points.length - TOKEN + 1;
        // of a long text those that are spread over it
        int step = Math.max(1, windows / MOST_TOKENS);
        for (int i = 0; i < windows; i += step) {
            String token = new String(points, i, TOKEN);
            if (token.indexOf(0) < 0) {
                tokens.add(token);
            }
        }
        return tokens;
    }

    /**
     * Gives what is found, in order.
     *
     * @param before only those with a smaller number; for going on where another search ended
     */
    void run(Order order, long before, Ledger.Found sink) throws SQLException {
        if (tests.isEmpty()) {
            lines(order, before, sink);
        } else if (tokens.isEmpty()) {
            walk(order, 0, before, sink);
        } else if (order.equals(Order.NEWEST)) {
            long indexed = LedgerSchema.state(connection, "indexed");
            boolean more = walk(order, indexed, before, sink);
            if (more) {
                byText(order, Math.min(before, indexed + 1), sink);
            }
        } else {
            byText(order, before, sink);
        }
    }

    private void lines(Order order, long before, Ledger.Found sink) throws SQLException {
        Question.Sql where = question.leading(connection);
        String sql = "SELECT " + LedgerRows.LISTED + " FROM line WHERE line.id < ? AND " + where.text() + " ORDER BY "
                + order.sql();
        try (PreparedStatement s = connection.prepareStatement(sql)) {
            s.setLong(1, before);
            where.bind(s, 2);
            each(s, false, sink);
        }
    }

    /** Reads one after the other; false when no more is wanted. */
    private boolean walk(Order order, long after, long before, Ledger.Found sink) throws SQLException {
        Question.Sql where = question.leading(connection);
        String sql = "SELECT " + LedgerRows.LISTED + " FROM line WHERE line.id > ? AND line.id < ? AND " + where.text()
                + " ORDER BY " + order.sql();
        try (PreparedStatement s = connection.prepareStatement(sql)) {
            s.setLong(1, after);
            s.setLong(2, before);
            where.bind(s, 3);
            return each(s, true, sink);
        }
    }

    /** By full text; what it does not know whole, or not yet, is looked through as well. */
    private boolean byText(Order order, long before, Ledger.Found sink) throws SQLException {
        String match =
                tokens.stream().map(t -> '"' + t.replace("\"", "\"\"") + '"').collect(Collectors.joining(" AND "));
        Question.Sql where = question.walking();
        if (order.equals(Order.NEWEST)) {
            return newest(match, before, where, sink);
        }
        String all = "SELECT " + LedgerRows.LISTED + " FROM line WHERE (line.id IN (SELECT rowid FROM found WHERE found"
                + " MATCH ?) OR line.partly <> 0 OR line.id > (SELECT value FROM state WHERE key = 'indexed'))"
                + " AND line.id < ? AND " + where.text() + " ORDER BY " + order.sql();
        try (PreparedStatement s = connection.prepareStatement(all)) {
            s.setString(1, match);
            s.setLong(2, before);
            where.bind(s, 3);
            return each(s, true, sink);
        }
    }

    /** Two lists that are each in order by themselves, put together: so the first are there before the last are looked for. */
    private boolean newest(String match, long before, Question.Sql where, Ledger.Found sink) throws SQLException {
        try (PreparedStatement found = connection.prepareStatement(
                        "SELECT rowid FROM found WHERE found MATCH ? AND rowid < ? ORDER BY rowid DESC");
                PreparedStatement partly = connection.prepareStatement(
                        "SELECT line.id FROM line WHERE line.partly <> 0 AND line.id < ? ORDER BY line.id DESC");
                PreparedStatement line = connection.prepareStatement(
                        "SELECT " + LedgerRows.LISTED + " FROM line WHERE line.id = ? AND " + where.text())) {
            found.setString(1, match);
            found.setLong(2, before);
            partly.setLong(1, before);
            try (ResultSet f = found.executeQuery();
                    ResultSet p = partly.executeQuery()) {
                long next = next(f);
                long other = next(p);
                while (next > 0 || other > 0) {
                    long id = Math.max(next, other);
                    line.setLong(1, id);
                    where.bind(line, 2);
                    if (!each(line, true, sink)) {
                        return false;
                    }
                    next = next == id ? next(f) : next;
                    other = other == id ? next(p) : other;
                }
            }
        }
        return true;
    }

    private static long next(ResultSet r) throws SQLException {
        return r.next() ? r.getLong(1) : 0;
    }

    private boolean each(PreparedStatement s, boolean test, Ledger.Found sink) throws SQLException {
        try (ResultSet r = s.executeQuery()) {
            while (r.next()) {
                stop.check();
                Listing line = rows.listing(r);
                if ((!test || passes(line.id())) && !sink.found(line)) {
                    return false;
                }
            }
        }
        return true;
    }

    private boolean passes(long id) throws SQLException {
        Optional<Exchange> exchange = rows.read(id);
        return exchange.isPresent() && tests.stream().allMatch(t -> t.test(exchange.get()));
    }

    /** How many lines pass, what went wrong in them, and their times; for a filter that lines can tell. */
    Figures figures() throws SQLException {
        FiguresMaker maker = new FiguresMaker();
        if (tests.isEmpty()) {
            Question.Sql where = question.leading(connection);
            String sql = "SELECT outcome, nanos, sent, received FROM line WHERE " + where.text();
            try (PreparedStatement s = connection.prepareStatement(sql)) {
                where.bind(s, 1);
                try (ResultSet r = s.executeQuery()) {
                    while (r.next()) {
                        stop.check();
                        maker.add(r.getInt(1) == 0, r.getLong(2), r.getLong(3) + r.getLong(4));
                    }
                }
            }
        } else {
            run(Order.NEWEST, Long.MAX_VALUE, line -> {
                maker.add(line.outcome() == Exchange.Outcome.FINE, line.nanos(), line.sent() + line.received());
                return true;
            });
        }
        return maker.figures();
    }
}
