package dev.mockbell.content;

import java.io.BufferedInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.util.List;
import java.util.Locale;

/** A body that came in chunks (RFC 9112 §7.1). */
public final class Chunks {
    private static final int STEP = 64 << 10;
    private static final int LONGEST_LINE = 64 << 10;

    private Chunks() {}

    /** Whether a message with these fields comes in chunks. */
    public static boolean in(List<Header> headers) {
        return headers.stream()
                .filter(h -> h.name().equalsIgnoreCase("Transfer-Encoding"))
                .anyMatch(h -> h.value().toLowerCase(Locale.ROOT).contains("chunked"));
    }

    /**
     * The body without what stands around its chunks; of one that was cut, what came.
     *
     * @throws IOException when it is not in chunks
     */
    public static Content undone(Content sent) throws IOException {
        ContentSink plain = new ContentSink();
        try (InputStream in = new BufferedInputStream(sent.open(), STEP)) {
            long size = size(in);
            while (size > 0) {
                for (long left = size; left > 0; ) {
                    byte[] piece = in.readNBytes((int) Math.min(left, STEP));
                    if (piece.length == 0) {
                        return plain.content();
                    }
                    plain.write(piece);
                    left -= piece.length;
                }
                line(in);
                size = size(in);
            }
        }
        return plain.content();
    }

    private static long size(InputStream in) throws IOException {
        String digits = line(in).split("[;\\s]", 2)[0];
        try {
            return digits.isEmpty() ? 0 : Long.parseLong(digits, 16);
        } catch (NumberFormatException e) {
            throw new IOException("the chunks are not framed as they say", e);
        }
    }

    private static String line(InputStream in) throws IOException {
        StringBuilder line = new StringBuilder();
        for (int b = in.read(); b >= 0 && b != '\n' && line.length() < LONGEST_LINE; b = in.read()) {
            if (b != '\r') {
                line.append((char) b);
            }
        }
        return line.toString();
    }
}
