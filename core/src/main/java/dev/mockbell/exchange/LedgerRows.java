package dev.mockbell.exchange;

import dev.mockbell.content.Content;
import dev.mockbell.content.Header;
import dev.mockbell.exchange.Exchange.Outcome;
import dev.mockbell.exchange.Exchange.Way;
import java.nio.charset.StandardCharsets;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Instant;
import java.util.ArrayList;
import java.util.EnumMap;
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
            + " response_body, response_wire, secured, name, tls) VALUES (?,?,?,?,?,?,?,?,?,?,?,?,?,?,?,?,?,?,?,?,?,?,?,?,?,?,?)";

    static final String SELECT = "SELECT " + LISTED
            + ", connect, send, await, receive, kind, request_head, request_body, request_wire, response_head,"
            + " response_body, response_wire, secured, name, tls FROM exchange WHERE id = ?";

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

    /** Fills the row of an exchange; gives the contents that it does not hold whole, by the face they are. */
    static Map<Pieces.Face, Content> bind(PreparedStatement s, Exchange e) throws SQLException {
        Listing l = Listing.of(e);
        s.setLong(1, l.id());
        s.setLong(2, micros(l.started()));
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
        Map<Pieces.Face, Content> larger = new EnumMap<>(Pieces.Face.class);
        bind(s, 19, e.request(), Pieces.Face.REQUEST_BODY, Pieces.Face.REQUEST_WIRE, larger);
        bind(s, 22, e.response().orElse(null), Pieces.Face.RESPONSE_BODY, Pieces.Face.RESPONSE_WIRE, larger);
        s.setString(25, e.secured().map(Secured::text).orElse(null));
        s.setLong(26, e.timing().name());
        s.setLong(27, e.timing().tls());
        return larger;
    }

    private static void bind(
            PreparedStatement s,
            int column,
            Message m,
            Pieces.Face body,
            Pieces.Face wire,
            Map<Pieces.Face, Content> larger)
            throws SQLException {
        s.setString(column, m == null ? null : m.head());
        content(s, column + 1, m == null ? null : m.body(), body, larger);
        content(s, column + 2, m == null ? null : wireIfOther(m), wire, larger);
    }

    /** Puts the start of a content into its row, and notes it when that is not all. */
    private static void content(
            PreparedStatement s, int column, Content content, Pieces.Face face, Map<Pieces.Face, Content> larger)
            throws SQLException {
        s.setBytes(column, content == null ? null : content.start(Pieces.SIZE));
        if (content != null && content.size() > Pieces.SIZE) {
            larger.put(face, content);
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

    static Listing listing(ResultSet r) throws SQLException {
        return new Listing(
                r.getLong(1),
                instant(r.getLong(2)),
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
                new Timing(r.getLong(26), r.getLong(14), r.getLong(27), r.getLong(15), r.getLong(16), r.getLong(17)),
                Secured.of(r.getString(25)),
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
