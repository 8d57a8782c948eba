package dev.mockbell.ledger;

import dev.mockbell.content.Content;
import dev.mockbell.content.Header;
import dev.mockbell.exchange.Exchange;
import dev.mockbell.exchange.Exchange.Outcome;
import dev.mockbell.exchange.Exchange.Way;
import dev.mockbell.exchange.HttpMessage;
import dev.mockbell.exchange.JmsMessage;
import dev.mockbell.exchange.Message;
import dev.mockbell.exchange.Secured;
import dev.mockbell.exchange.Ties;
import dev.mockbell.exchange.Timing;
import java.nio.charset.StandardCharsets;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Types;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/** Exchanges as rows of the ledger, and back: a narrow line to list by, and the rest beside it. */
final class LedgerRows {
    /** The columns of a listing. */
    static final String LISTED = "line.id, line.started, line.way, line.outcome, line.status, line.nanos, line.sent,"
            + " line.received, line.contract, line.operation, line.endpoint, line.origin, line.note, line.caller,"
            + " line.tie, line.pinned";

    private static final String DETAILED = ", detail.name, detail.connect, detail.tls, detail.send, detail.await,"
            + " detail.receive, detail.kind, detail.request_head, detail.request_body, detail.request_wire,"
            + " detail.response_head, detail.response_body, detail.response_wire, detail.secured, detail.dropped";

    private static final String SELECT =
            "SELECT " + LISTED + DETAILED + " FROM line JOIN detail ON detail.id = line.id WHERE line.id = ?";

    private static final String LINE =
            "INSERT INTO line (id, started, way, outcome, status, nanos, sent, received, contract, operation, endpoint,"
                    + " origin, note, caller, tie, pinned, partly) VALUES (?,?,?,?,?,?,?,?,?,?,?,?,?,?,?,0,?)";

    private static final String DETAIL =
            "INSERT INTO detail (id, name, connect, tls, send, await, receive, kind, request_head, request_body,"
                    + " request_wire, response_head, response_body, response_wire, secured, dropped)"
                    + " VALUES (?,?,?,?,?,?,?,?,?,?,?,?,?,?,?,?)";

    // as the file has them, whatever order the program gives them
    private static final List<Way> WAYS = List.of(Way.CALLED, Way.ANSWERED, Way.TAPPED);
    private static final List<Outcome> OUTCOMES = List.of(Outcome.FINE, Outcome.FAULT, Outcome.FAILED);

    /** How a message of a kind is made from its head and its bytes. */
    private interface Reader {
        Message read(String head, Content body, Content wire);
    }

    private static final String DROPPED = "its bodies are not kept: more came than could be written";

    private static final String HTTP = "http";

    private static final String JMS = "jms";

    private static final Map<String, Reader> READERS = Map.of(HTTP, LedgerRows::http, JMS, LedgerRows::jms);

    private static final Message.Visitor<String> KIND = new Message.Visitor<>() {
        @Override
        public String http(HttpMessage message) {
            return HTTP;
        }

        @Override
        public String jms(JmsMessage message) {
            return JMS;
        }
    };

    private final Statements statements;
    private final Words words;
    private final Contents contents;

    /** @param lock held for as long as the connection is used */
    LedgerRows(Connection connection, Object lock) {
        this.statements = new Statements(connection);
        this.words = new Words(statements);
        this.contents = new Contents(statements, lock);
    }

    static int code(Way way) {
        return WAYS.indexOf(way);
    }

    static int code(Outcome outcome) {
        return OUTCOMES.indexOf(outcome);
    }

    /** Forgets what a transaction that came to nothing may have written, or what others may have taken away. */
    void forget() {
        statements.forget();
        words.forget();
        contents.forget();
    }

    /**
     * Writes a batch, each with its number.
     *
     * @param bare those whose bodies are left out, because there is no time for them
     */
    void write(List<Exchange> numbered, Set<Exchange> bare) throws SQLException {
        PreparedStatement line = statements.of(LINE);
        PreparedStatement detail = statements.of(DETAIL);
        for (Exchange e : numbered) {
            line(line, e);
            line.executeUpdate();
            detail(detail, e, bare.contains(e));
            detail.executeUpdate();
        }
    }

    private void line(PreparedStatement s, Exchange e) throws SQLException {
        Listing l = Listing.of(e);
        s.setLong(1, l.id());
        s.setLong(2, micros(l.started()));
        s.setInt(3, code(l.way()));
        s.setInt(4, code(l.outcome()));
        s.setInt(5, l.status());
        s.setLong(6, l.nanos());
        s.setLong(7, l.sent());
        s.setLong(8, l.received());
        s.setLong(9, words.number(l.contract()));
        s.setLong(10, words.number(l.operation()));
        s.setLong(11, words.number(l.endpoint()));
        s.setLong(12, words.number(l.origin()));
        s.setLong(13, words.number(l.note()));
        s.setLong(14, words.number(l.ties().caller()));
        s.setLong(15, words.number(l.ties().of()));
        s.setInt(16, ExchangeWords.isWhole(e) ? 0 : 1);
    }

    private void detail(PreparedStatement s, Exchange e, boolean bare) throws SQLException {
        s.setLong(1, e.id());
        s.setLong(2, e.timing().name());
        s.setLong(3, e.timing().connect());
        s.setLong(4, e.timing().tls());
        s.setLong(5, e.timing().send());
        s.setLong(6, e.timing().await());
        s.setLong(7, e.timing().receive());
        s.setString(8, e.request().accept(KIND));
        message(s, 9, e.request(), e.id(), bare);
        message(s, 12, e.response().orElse(null), e.id(), bare);
        s.setString(15, e.secured().map(Secured::text).orElse(null));
        s.setInt(16, bare ? 1 : 0);
    }

    private void message(PreparedStatement s, int column, Message m, long exchange, boolean bare) throws SQLException {
        s.setString(column, m == null ? null : m.head());
        content(s, column + 1, m == null || bare ? null : m.body(), exchange);
        content(s, column + 2, m == null || bare ? null : wireIfOther(m), exchange);
    }

    private void content(PreparedStatement s, int column, Content content, long exchange) throws SQLException {
        if (content == null) {
            s.setNull(column, Types.INTEGER);
        } else {
            s.setLong(column, contents.keep(content, exchange));
        }
    }

    /** The wire bytes, unless head and body say the same; that is most of the time and saves half of the file. */
    private static Content wireIfOther(Message m) {
        return Content.same(m.wire(), plain(m.head(), m.body())) ? null : m.wire();
    }

    /** A moment as the file has it. */
    static long micros(Instant instant) {
        return instant.getEpochSecond() * 1_000_000 + instant.getNano() / 1_000;
    }

    private static Content plain(String head, Content body) {
        return Content.joined(Content.of(head.getBytes(StandardCharsets.ISO_8859_1)), body);
    }

    private static Instant instant(long micros) {
        return Instant.ofEpochSecond(Math.floorDiv(micros, 1_000_000L), Math.floorMod(micros, 1_000_000L) * 1_000);
    }

    /** The line that a result stands at. */
    Listing listing(ResultSet r) throws SQLException {
        return new Listing(
                r.getLong(1),
                instant(r.getLong(2)),
                one(WAYS, r.getInt(3)),
                words.text(r.getLong(9)),
                words.text(r.getLong(10)),
                words.text(r.getLong(11)),
                words.text(r.getLong(12)),
                r.getInt(5),
                r.getLong(6),
                r.getLong(7),
                r.getLong(8),
                one(OUTCOMES, r.getInt(4)),
                words.text(r.getLong(13)),
                new Ties(words.text(r.getLong(14)), words.text(r.getLong(15))),
                (r.getInt(16) & 1) != 0);
    }

    /** @throws SQLException when a file that others wrote has something else there */
    private static <E> E one(List<E> all, int code) throws SQLException {
        if (code < 0 || code >= all.size()) {
            throw new SQLException("“" + code + "” is not known there");
        }
        return all.get(code);
    }

    /** The exchange of a number with its bytes. */
    Optional<Exchange> read(long id) throws SQLException {
        PreparedStatement s = statements.of(SELECT);
        s.setLong(1, id);
        try (ResultSet r = s.executeQuery()) {
            return r.next() ? Optional.of(exchange(r)) : Optional.empty();
        }
    }

    private Exchange exchange(ResultSet r) throws SQLException {
        Listing l = listing(r);
        String kind = r.getString(23);
        Reader reader = READERS.get(kind);
        if (reader == null) {
            throw new SQLException("exchange " + l.id() + " is of the kind " + kind + ", which is not known");
        }
        String answered = r.getString(27);
        return new Exchange(
                l.id(),
                l.started(),
                l.way(),
                l.contract(),
                l.operation(),
                l.endpoint(),
                l.origin(),
                reader.read(r.getString(24), content(r, 25), content(r, 26)),
                answered == null
                        ? Optional.empty()
                        : Optional.of(reader.read(answered, content(r, 28), content(r, 29))),
                new Timing(r.getLong(17), r.getLong(18), r.getLong(19), r.getLong(20), r.getLong(21), r.getLong(22)),
                Secured.of(r.getString(30)),
                l.outcome(),
                r.getInt(31) == 0 ? l.note() : l.note().isEmpty() ? DROPPED : l.note() + " · " + DROPPED,
                l.ties());
    }

    /** Null for what is not there. */
    private Content content(ResultSet r, int column) throws SQLException {
        long number = r.getLong(column);
        return r.wasNull() ? null : contents.content(number);
    }

    private static Message http(String head, Content body, Content wire) {
        Content content = body == null ? Content.NONE : body;
        return new HttpMessage(title(head), headers(head), content, wire == null ? plain(head, content) : wire);
    }

    private static Message jms(String head, Content body, Content wire) {
        Content content = body == null ? Content.NONE : body;
        return new JmsMessage(title(head), headers(head), content, wire == null ? plain(head, content) : wire);
    }

    private static String title(String head) {
        return head.lines().findFirst().orElse("");
    }

    private static List<Header> headers(String head) {
        String[] lines = head.split("\r\n");
        List<Header> headers = new ArrayList<>();
        for (int i = 1; i < lines.length; i++) {
            int colon = lines[i].indexOf(": ");
            if (colon > 0) {
                headers.add(new Header(lines[i].substring(0, colon), lines[i].substring(colon + 2)));
            }
        }
        return headers;
    }
}
