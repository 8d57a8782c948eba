package dev.mockbell.exchange;

import dev.mockbell.content.Content;
import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.InputStream;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.Arrays;
import java.util.EnumMap;
import java.util.Map;

/**
 * Contents too large for the row of their exchange: the row has the first {@value #SIZE} bytes, the rest is kept and read in
 * pieces of that size, so that no content need be in memory whole. Each piece has beside it the {@link #SEAM} bytes on both
 * sides of where it begins, in which a text that was cut in two is found.
 */
final class Pieces {
    /** The size of a piece in bytes, and of what stands in the row. */
    static final int SIZE = 1 << 20;

    private static final int SEAM = 512;

    /** Which content of an exchange; its number is the one on the file. */
    enum Face {
        REQUEST_BODY,
        REQUEST_WIRE,
        RESPONSE_BODY,
        RESPONSE_WIRE
    }

    private final Connection reading;

    /** @param reading locked for as long as it is used */
    Pieces(Connection reading) {
        this.reading = reading;
    }

    /** Writes what the row does not hold. */
    static void write(Connection writing, long exchange, Face face, Content content) throws SQLException {
        try (PreparedStatement s = writing.prepareStatement(
                        "INSERT INTO piece (exchange, face, number, seam, bytes) VALUES (?,?,?,?,?)");
                InputStream in = content.open()) {
            byte[] before = in.readNBytes(SIZE);
            byte[] piece = in.readNBytes(SIZE);
            for (int number = 0; piece.length > 0; number++) {
                s.setLong(1, exchange);
                s.setInt(2, face.ordinal());
                s.setInt(3, number);
                s.setBytes(4, seam(before, piece));
                s.setBytes(5, piece);
                s.executeUpdate();
                before = piece;
                piece = in.readNBytes(SIZE);
            }
        } catch (IOException e) {
            throw new SQLException("the bytes of an exchange cannot be read", e);
        }
    }

    private static byte[] seam(byte[] before, byte[] after) {
        ByteArrayOutputStream seam = new ByteArrayOutputStream();
        seam.writeBytes(Arrays.copyOfRange(before, Math.max(0, before.length - SEAM), before.length));
        seam.writeBytes(Arrays.copyOf(after, Math.min(SEAM, after.length)));
        return seam.toByteArray();
    }

    /** How many bytes follow, by the content; those are not there whose row is all. */
    Map<Face, Long> sizes(long exchange) throws SQLException {
        Map<Face, Long> sizes = new EnumMap<>(Face.class);
        synchronized (reading) {
            try (PreparedStatement s = reading.prepareStatement(
                    "SELECT face, sum(length(bytes)) FROM piece WHERE exchange = ? GROUP BY face")) {
                s.setLong(1, exchange);
                try (ResultSet r = s.executeQuery()) {
                    while (r.next()) {
                        int face = r.getInt(1);
                        if (face >= 0 && face < Face.values().length) {
                            sizes.put(Face.values()[face], r.getLong(2));
                        }
                    }
                }
            }
        }
        return sizes;
    }

    /** What follows the row. */
    Content rest(long exchange, Face face, long size) {
        return new Rest(exchange, face, size);
    }

    private byte[] piece(long exchange, Face face, long number) throws IOException {
        synchronized (reading) {
            try (PreparedStatement s = reading.prepareStatement(
                    "SELECT bytes FROM piece WHERE exchange = ? AND face = ? AND number = ?")) {
                s.setLong(1, exchange);
                s.setInt(2, face.ordinal());
                s.setLong(3, number);
                try (ResultSet r = s.executeQuery()) {
                    if (!r.next()) {
                        throw new IOException("exchange " + exchange + " is on the ledger no more");
                    }
                    return r.getBytes(1);
                }
            } catch (SQLException e) {
                throw new IOException("the ledger cannot be read", e);
            }
        }
    }

    private final class Rest implements Content {
        private final long exchange;
        private final Face face;
        private final long size;

        Rest(long exchange, Face face, long size) {
            this.exchange = exchange;
            this.face = face;
            this.size = size;
        }

        @Override
        public long size() {
            return size;
        }

        @Override
        public InputStream open(long from) throws IOException {
            return new InputStream() {
                private long at = from;
                private InputStream piece = InputStream.nullInputStream();

                @Override
                public int read() throws IOException {
                    byte[] one = new byte[1];
                    return read(one, 0, 1) < 0 ? -1 : one[0] & 0xFF;
                }

                @Override
                public int read(byte[] to, int start, int length) throws IOException {
                    if (at >= size || length == 0) {
                        return length == 0 ? 0 : -1;
                    }
                    int count = piece.read(to, start, length);
                    if (count < 0) {
                        piece = new ByteArrayInputStream(piece(exchange, face, at / SIZE));
                        piece.skipNBytes(at % SIZE);
                        count = piece.read(to, start, length);
                    }
                    at += Math.max(0, count);
                    return count;
                }
            };
        }
    }
}
