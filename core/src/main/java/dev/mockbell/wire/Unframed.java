package dev.mockbell.wire;

import dev.mockbell.content.Content;
import dev.mockbell.content.ContentSink;
import dev.mockbell.content.Header;
import dev.mockbell.exchange.HttpMessage;
import dev.mockbell.exchange.Message;
import java.io.BufferedInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.util.List;

/** Makes messages of the bytes that were seen on their way between others. */
public final class Unframed {
    private static final long MOST = 512L << 20;
    private static final int LONGEST_LINE = 64 << 10;

    private Unframed() {}

    /**
     * A message with its body as it was before chunks and compression (RFC 9112 §7.1, RFC 9110 §8.4); a body that breaks them
     * is as it came.
     *
     * @param head its length in bytes
     */
    public static Message message(String title, List<Header> headers, int head, Content wire) {
        Content sent = wire.slice(head, wire.size());
        Content body = sent;
        try {
            boolean chunked = headers.stream()
                    .filter(h -> h.name().equalsIgnoreCase("Transfer-Encoding"))
                    .anyMatch(h -> h.value().toLowerCase(java.util.Locale.ROOT).contains("chunked"));
            body = chunked ? unchunked(sent) : sent;
            List<String> codings = headers.stream()
                    .filter(h -> h.name().equalsIgnoreCase("Content-Encoding"))
                    .map(Header::value)
                    .toList();
            body = Decoding.plain(body, codings, MOST);
        } catch (IOException asItCame) {
            return new HttpMessage(title, headers, body, wire);
        }
        return new HttpMessage(title, headers, body, wire);
    }

    private static Content unchunked(Content sent) throws IOException {
        ContentSink plain = new ContentSink();
        try (InputStream in = new BufferedInputStream(sent.open(), 64 << 10)) {
            long size = size(in);
            while (size > 0) {
                for (long left = size; left > 0; ) {
                    byte[] piece = in.readNBytes((int) Math.min(left, 64 << 10));
                    if (piece.length == 0) {
                        // it was cut: what came is what there is
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
