package dev.mockbell.ledger;

import dev.mockbell.content.Content;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.nio.ByteBuffer;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.zip.DataFormatException;
import java.util.zip.Deflater;
import java.util.zip.Inflater;

/**
 * The bytes of messages: each content is kept once, however many exchanges have it, and compressed where that helps. The
 * first {@value #SIZE} bytes stand in its row and the rest in slices of that size, so that none need be in memory whole.
 */
final class Contents {
    /** What stands in the row, and the size of a slice, in bytes. */
    static final int SIZE = 1 << 20;

    /** Below it compressing costs more than it saves. */
    private static final int WORTH = 256;

    /** Smaller ones are the same as another only when that came lately: what looking for them takes is more than they do. */
    private static final int SOUGHT = 2_048;

    /** A content that was used within so many exchanges is not noted as used again. */
    private static final long LATELY = 5_000;

    private static final int REMEMBERED = 8_192;
    private static final int RAW = 0;
    private static final int DEFLATED = 1;

    private final Statements statements;
    private final Object lock;
    private final Deflater deflater = new Deflater(Deflater.BEST_SPEED, true);
    private final Map<ByteBuffer, long[]> lately = new LinkedHashMap<>(64, 0.75f, true) {
        @Override
        protected boolean removeEldestEntry(Map.Entry<ByteBuffer, long[]> eldest) {
            return size() > REMEMBERED;
        }
    };

    /** @param lock held for as long as the connection is used; contents that were read are read on under it */
    Contents(Statements statements, Object lock) {
        this.statements = statements;
        this.lock = lock;
    }

    /** How far behind its last use a content may say it was used last; what is older is nobody's. */
    static long slack() {
        return LATELY;
    }

    /**
     * Keeps a content.
     *
     * @param exchange which needs it
     * @return its number
     */
    long keep(Content content, long exchange) throws SQLException {
        byte[] first = content.start(SIZE);
        ByteBuffer hash = ByteBuffer.wrap(hash(content, first));
        long[] known = lately.get(hash);
        if (known == null && content.size() >= SOUGHT) {
            known = find(hash.array());
        }
        if (known != null && exchange - known[1] < LATELY) {
            lately.put(hash, known);
            return known[0];
        }
        if (known != null && used(known[0], exchange)) {
            lately.put(hash, new long[] {known[0], exchange});
            return known[0];
        }
        long number = insert(content, first, hash.array(), exchange);
        lately.put(hash, new long[] {number, exchange});
        return number;
    }

    /** Forgets what a transaction that came to nothing may have kept. */
    void forget() {
        lately.clear();
    }

    private static byte[] hash(Content content, byte[] first) throws SQLException {
        try {
            MessageDigest digest = MessageDigest.getInstance("SHA-256");
            digest.update(first);
            if (content.size() > first.length) {
                try (InputStream in = content.open(first.length)) {
                    byte[] step = new byte[64 << 10];
                    for (int n = in.read(step); n >= 0; n = in.read(step)) {
                        digest.update(step, 0, n);
                    }
                }
            }
            return Arrays.copyOf(digest.digest(), 16);
        } catch (NoSuchAlgorithmException e) {
            throw new IllegalStateException("every Java has SHA-256", e);
        } catch (IOException e) {
            throw unreadable(e);
        }
    }

    private static SQLException unreadable(IOException e) {
        return new SQLException("the bytes of an exchange cannot be read", e);
    }

    private long[] find(byte[] hash) throws SQLException {
        PreparedStatement s = statements.of("SELECT id, last FROM content WHERE hash = ?");
        s.setBytes(1, hash);
        try (ResultSet r = s.executeQuery()) {
            return r.next() ? new long[] {r.getLong(1), r.getLong(2)} : null;
        }
    }

    /** Notes that it is used; false when it is there no more. */
    private boolean used(long number, long exchange) throws SQLException {
        PreparedStatement s = statements.of("UPDATE content SET last = max(last, ?) WHERE id = ?");
        s.setLong(1, exchange);
        s.setLong(2, number);
        return s.executeUpdate() == 1;
    }

    private long insert(Content content, byte[] first, byte[] hash, long exchange) throws SQLException {
        PreparedStatement s =
                statements.of("INSERT INTO content (hash, size, last, coding, bytes) VALUES (?,?,?,?,?) RETURNING id");
        s.setBytes(1, content.size() >= SOUGHT ? hash : null);
        s.setLong(2, content.size());
        s.setLong(3, exchange);
        packed(s, 4, first);
        long number;
        try (ResultSet r = s.executeQuery()) {
            if (!r.next()) {
                throw new SQLException("the ledger gives no number to a content");
            }
            number = r.getLong(1);
        }
        if (content.size() > first.length) {
            slices(content, first.length, number);
        }
        return number;
    }

    private void slices(Content content, long from, long number) throws SQLException {
        PreparedStatement s = statements.of("INSERT INTO slice (content, number, coding, bytes) VALUES (?,?,?,?)");
        try (InputStream in = content.open(from)) {
            byte[] slice = in.readNBytes(SIZE);
            for (int at = 0; slice.length > 0; at++) {
                s.setLong(1, number);
                s.setInt(2, at);
                packed(s, 3, slice);
                s.executeUpdate();
                slice = in.readNBytes(SIZE);
            }
        } catch (IOException e) {
            throw unreadable(e);
        }
    }

    /** Fills in coding and bytes. */
    private void packed(PreparedStatement s, int column, byte[] bytes) throws SQLException {
        byte[] shorter = bytes.length < WORTH ? null : deflated(bytes);
        s.setInt(column, shorter == null ? RAW : DEFLATED);
        s.setBytes(column + 1, shorter == null ? bytes : shorter);
    }

    /** Null when it saves less than an eighth. */
    private byte[] deflated(byte[] bytes) {
        byte[] out = new byte[bytes.length - bytes.length / 8];
        deflater.reset();
        deflater.setInput(bytes);
        deflater.finish();
        int length = deflater.deflate(out);
        return deflater.finished() ? Arrays.copyOf(out, length) : null;
    }

    private static byte[] unpacked(int coding, byte[] bytes, long size) throws SQLException {
        if (coding == RAW) {
            return bytes;
        }
        Inflater inflater = new Inflater(true);
        try {
            byte[] out = new byte[(int) Math.min(SIZE, size)];
            inflater.setInput(bytes);
            int length = 0;
            while (length < out.length && !inflater.finished()) {
                int n = inflater.inflate(out, length, out.length - length);
                if (n == 0) {
                    break;
                }
                length += n;
            }
            if (coding != DEFLATED || length < out.length) {
                throw new SQLException("the bytes of an exchange are damaged");
            }
            return out;
        } catch (DataFormatException e) {
            throw new SQLException("the bytes of an exchange are damaged", e);
        } finally {
            inflater.end();
        }
    }

    /** The content of a number; what does not stand in its row is read when it is needed. */
    Content content(long number) throws SQLException {
        PreparedStatement s = statements.of("SELECT size, coding, bytes FROM content WHERE id = ?");
        s.setLong(1, number);
        try (ResultSet r = s.executeQuery()) {
            if (!r.next()) {
                throw new SQLException("the bytes of an exchange are not there");
            }
            long size = r.getLong(1);
            Content first = Content.of(unpacked(r.getInt(2), r.getBytes(3), size));
            return size <= SIZE ? first : Content.joined(first, new Rest(number, size - SIZE));
        }
    }

    private byte[] sliceOf(long content, long number, long left) throws IOException {
        synchronized (lock) {
            try {
                PreparedStatement s = statements.of("SELECT coding, bytes FROM slice WHERE content = ? AND number = ?");
                s.setLong(1, content);
                s.setLong(2, number);
                try (ResultSet r = s.executeQuery()) {
                    if (!r.next()) {
                        throw new IOException("it is on the ledger no more");
                    }
                    return unpacked(r.getInt(1), r.getBytes(2), left);
                }
            } catch (SQLException e) {
                throw new IOException("the ledger cannot be read", e);
            }
        }
    }

    private final class Rest implements Content {
        private final long content;
        private final long size;

        Rest(long content, long size) {
            this.content = content;
            this.size = size;
        }

        @Override
        public long size() {
            return size;
        }

        @Override
        public InputStream open(long from) {
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
                        long number = at / SIZE;
                        piece = new ByteArrayInputStream(sliceOf(content, number, size - number * SIZE));
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
