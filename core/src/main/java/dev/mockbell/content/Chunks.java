package dev.mockbell.content;

import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.util.List;
import java.util.Locale;

/** A body that came in chunks (RFC 9112 §7.1). */
public final class Chunks {
    private static final int STEP = 64 << 10;
    private static final int LONGEST_LINE = 64 << 10;
    private static final int SHOWN = 40;

    private Chunks() {}

    /** Whether a message with these fields comes in chunks. */
    public static boolean in(List<Header> headers) {
        return headers.stream()
                .filter(h -> h.name().equalsIgnoreCase("Transfer-Encoding"))
                .anyMatch(h -> h.value().toLowerCase(Locale.ROOT).contains("chunked"));
    }

    /**
     * A body without what stands around its chunks.
     *
     * @param body of one that was cut, what came
     * @param end where in what was sent the last chunk and the fields behind it end
     */
    public record Undone(Content body, long end) {}

    /**
     * Takes a body out of its chunks.
     *
     * @throws IOException when it is not in chunks, with words that say what stands where the length of one is due
     */
    public static Undone undone(Content sent) throws IOException {
        ContentSink plain = new ContentSink();
        long end = read(sent, plain);
        return new Undone(plain.content(), end);
    }

    /**
     * Where the last chunk and the fields behind it end; finding out keeps nothing of the body.
     *
     * @throws IOException as in {@link #undone}
     */
    public static long end(Content sent) throws IOException {
        return read(sent, OutputStream.nullOutputStream());
    }

    private static long read(Content sent, OutputStream plain) throws IOException {
        try (Lines in = new Lines(sent.open())) {
            long size = size(in, sent.size());
            while (size > 0) {
                long left = size;
                while (left > 0) {
                    byte[] piece = in.readNBytes((int) Math.min(left, STEP));
                    if (piece.length == 0) {
                        return in.count();
                    }
                    plain.write(piece);
                    left -= piece.length;
                }
                in.line();
                size = size(in, sent.size());
            }
            // fields may follow, up to an empty line
            String field = in.line();
            while (!field.isEmpty()) {
                field = in.line();
            }
            return in.count();
        }
    }

    /** Nothing is due where all that came is over. */
    private static long size(Lines in, long all) throws IOException {
        String line = in.line();
        String digits = line.split("[;\\s]", 2)[0];
        if (line.isEmpty() && in.count() == all) {
            return 0;
        }
        try {
            return digits.startsWith("+") ? wrong(line) : positive(Long.parseLong(digits, 16), line);
        } catch (NumberFormatException e) {
            return wrong(line);
        }
    }

    private static long positive(long size, String line) throws IOException {
        return size < 0 ? wrong(line) : size;
    }

    private static long wrong(String line) throws IOException {
        String shown = line.replaceAll("[^ -~]", "·");
        throw new IOException("“" + (shown.length() > SHOWN ? shown.substring(0, SHOWN) + "…" : shown)
                + "” stands where the length of a chunk is due (RFC 9112 §7.1)");
    }

    /** What is read by lines too. */
    private static final class Lines extends CountedStream {
        Lines(InputStream in) {
            super(in);
        }

        /** The next line without its end, which may be missing at the end of all. */
        String line() throws IOException {
            StringBuilder line = new StringBuilder();
            for (int b = read(); b >= 0 && b != '\n' && line.length() < LONGEST_LINE; b = read()) {
                if (b != '\r') {
                    line.append((char) b);
                }
            }
            return line.toString();
        }
    }
}
