package dev.mockbell.exchange;

import dev.mockbell.content.Content;
import dev.mockbell.content.Header;
import dev.mockbell.exchange.Exchange.Outcome;
import dev.mockbell.exchange.Exchange.Way;
import java.nio.charset.StandardCharsets;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/** Exchanges as rows of the ledger, and back. What does not fit in the row of a content follows in {@link Pieces}. */
final class LedgerRows {
    /** The columns of a listing. */
    static final String LISTED =
            "id, started, way, contract, operation, endpoint, origin, status, nanos, sent, received, outcome, note";

    static final String INSERT = "INSERT INTO exchange (" + LISTED
            + ", connect, send, await, receive, kind, request_head, request_body, request_wire, response_head,"
            + " response_body, response_wire) VALUES (?,?,?,?,?,?,?,?,?,?,?,?,?,?,?,?,?,?,?,?,?,?,?,?)";

    static final String SELECT = "SELECT " + LISTED
            + ", connect, send, await, receive, kind, request_head, request_body, request_wire, response_head,"
            + " response_body, response_wire FROM exchange WHERE id = ?";

    /** How a message of a kind is made from its head and its bytes. */
    private interface Reader {
        Message read(String head, Content body, Content wire);
    }

    private static final String HTTP = "http";

    private static final Map<String, Reader> READERS = Map.of(HTTP, LedgerRows::http);

    private static final Message.Visitor<String> KIND = new Message.Visitor<>() {
        @Override
        public String http(HttpMessage message) {
            return HTTP;
        }
    };

    private LedgerRows() {}

    static void bind(PreparedStatement s, Exchange e) throws SQLException {
        Listing l = Listing.of(e);
        s.setLong(1, l.id());
        s.setLong(2, LedgerSql.micros(l.started()));
        s.setString(3, l.way().name());
        s.setString(4, l.contract());
        s.setString(5, l.operation());
        s.setString(6, l.endpoint());
        s.setString(7, l.origin());
        s.setInt(8, l.status());
        s.setLong(9, l.nanos());
        s.setLong(10, l.sent());
        s.setLong(11, l.received());
        s.setString(12, l.outcome().name());
        s.setString(13, l.note());
        s.setLong(14, e.timing().connect());
        s.setLong(15, e.timing().send());
        s.setLong(16, e.timing().await());
        s.setLong(17, e.timing().receive());
        s.setString(18, e.request().accept(KIND));
        Message response = e.response().orElse(null);
        bind(s, 19, e.request());
        bind(s, 22, response);
    }

    private static void bind(PreparedStatement s, int column, Message m) throws SQLException {
        s.setString(column, m == null ? null : m.head());
        s.setBytes(column + 1, m == null ? null : m.body().start(Pieces.SIZE));
        Content wire = m == null ? null : wireIfOther(m).orElse(null);
        s.setBytes(column + 2, wire == null ? null : wire.start(Pieces.SIZE));
    }

    /** The contents of an exchange that its row does not hold whole, by the face they are. */
    static Map<Pieces.Face, Content> larger(Exchange e) {
        Map<Pieces.Face, Content> contents = new java.util.EnumMap<>(Pieces.Face.class);
        larger(contents, e.request(), Pieces.Face.REQUEST_BODY, Pieces.Face.REQUEST_WIRE);
        e.response().ifPresent(r -> larger(contents, r, Pieces.Face.RESPONSE_BODY, Pieces.Face.RESPONSE_WIRE));
        return contents;
    }

    private static void larger(Map<Pieces.Face, Content> contents, Message m, Pieces.Face body, Pieces.Face wire) {
        if (m.body().size() > Pieces.SIZE) {
            contents.put(body, m.body());
        }
        if (m.wire().size() > Pieces.SIZE) {
            wireIfOther(m).ifPresent(w -> contents.put(wire, w));
        }
    }

    /** The wire bytes, unless head and body say the same; that is most of the time and saves half of the file. */
    private static Optional<Content> wireIfOther(Message m) {
        return Content.same(m.wire(), plain(m.head(), m.body())) ? Optional.empty() : Optional.of(m.wire());
    }

    private static Content plain(String head, Content body) {
        return Content.joined(Content.of(head.getBytes(StandardCharsets.ISO_8859_1)), body);
    }

    static Listing listing(ResultSet r) throws SQLException {
        return new Listing(
                r.getLong(1),
                LedgerSql.instant(r.getLong(2)),
                one(Way.class, r.getString(3)),
                r.getString(4),
                r.getString(5),
                r.getString(6),
                r.getString(7),
                r.getInt(8),
                r.getLong(9),
                r.getLong(10),
                r.getLong(11),
                one(Outcome.class, r.getString(12)),
                r.getString(13));
    }

    /** @throws SQLException when a file that others wrote has something else there */
    private static <E extends Enum<E>> E one(Class<E> kind, String name) throws SQLException {
        try {
            return Enum.valueOf(kind, name == null ? "" : name);
        } catch (IllegalArgumentException e) {
            throw new SQLException("“" + name + "” is not known there", e);
        }
    }

    static Exchange exchange(ResultSet r, Pieces pieces) throws SQLException {
        Listing l = listing(r);
        String kind = r.getString(18);
        Reader reader = READERS.get(kind);
        if (reader == null) {
            throw new SQLException("exchange " + l.id() + " is of the kind " + kind + ", which is not known");
        }
        Map<Pieces.Face, Long> rest = pieces.sizes(l.id());
        String answered = r.getString(22);
        return new Exchange(
                l.id(),
                l.started(),
                l.way(),
                l.contract(),
                l.operation(),
                l.endpoint(),
                l.origin(),
                reader.read(
                        r.getString(19),
                        content(r.getBytes(20), pieces, l.id(), Pieces.Face.REQUEST_BODY, rest),
                        content(r.getBytes(21), pieces, l.id(), Pieces.Face.REQUEST_WIRE, rest)),
                answered == null
                        ? Optional.empty()
                        : Optional.of(reader.read(
                                answered,
                                content(r.getBytes(23), pieces, l.id(), Pieces.Face.RESPONSE_BODY, rest),
                                content(r.getBytes(24), pieces, l.id(), Pieces.Face.RESPONSE_WIRE, rest))),
                new Timing(r.getLong(14), r.getLong(15), r.getLong(16), r.getLong(17)),
                l.outcome(),
                l.note());
    }

    /** What the row holds and what follows it; null for what the row does not have. */
    private static Content content(
            byte[] start, Pieces pieces, long exchange, Pieces.Face face, Map<Pieces.Face, Long> rest) {
        if (start == null) {
            return null;
        }
        Long size = rest.get(face);
        return size == null ? Content.of(start) : Content.joined(Content.of(start), pieces.rest(exchange, face, size));
    }

    private static Message http(String head, Content body, Content wire) {
        String[] lines = head.split("\r\n");
        List<Header> headers = new ArrayList<>();
        for (int i = 1; i < lines.length; i++) {
            int colon = lines[i].indexOf(": ");
            if (colon > 0) {
                headers.add(new Header(lines[i].substring(0, colon), lines[i].substring(colon + 2)));
            }
        }
        Content content = body == null ? Content.NONE : body;
        return new HttpMessage(
                lines.length == 0 ? "" : lines[0], headers, content, wire == null ? plain(head, content) : wire);
    }
}
