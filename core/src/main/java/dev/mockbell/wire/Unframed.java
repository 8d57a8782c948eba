package dev.mockbell.wire;

import dev.mockbell.content.Chunks;
import dev.mockbell.content.Content;
import dev.mockbell.content.ContentCoding;
import dev.mockbell.content.Header;
import dev.mockbell.exchange.HttpMessage;
import dev.mockbell.exchange.Message;
import java.io.IOException;
import java.util.List;

/** Makes messages of the bytes that were seen on their way between others. */
public final class Unframed {
    private static final long MOST = 512L << 20;

    private Unframed() {}

    /**
     * A message with its body as it was before chunks and compression (RFC 9112 §7.1, RFC 9110 §8.4); a body that breaks them
     * is as it came.
     *
     * @param head its length in bytes
     */
    public static Message message(String title, List<Header> headers, int head, Content wire) {
        Content body = wire.slice(head, wire.size());
        try {
            body = Chunks.in(headers) ? Chunks.undone(body).body() : body;
            body = ContentCoding.undone(body, headers, MOST);
        } catch (IOException asItCame) {
            return new HttpMessage(title, headers, body, wire);
        }
        return new HttpMessage(title, headers, body, wire);
    }
}
