package dev.mockbell.tap;

import dev.mockbell.content.Content;
import dev.mockbell.content.ContentSink;
import io.netty.buffer.ByteBuf;
import io.netty.buffer.Unpooled;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.function.Consumer;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/** A message that is put together before it goes on, because somebody is to look at it, or it is to be changed. */
final class Whole {
    private static final Logger LOG = LoggerFactory.getLogger(Whole.class);

    private final String head;
    private final long most;
    private final ContentSink sink = new ContentSink();
    private Content body;

    /**
     * @param head as it goes on
     * @param most bytes of a body; a larger one is not put together
     */
    Whole(String head, long most) {
        this.head = head;
        this.most = most;
    }

    String head() {
        return head;
    }

    /** Takes bytes of the body, which stay the caller's; false when it is not to be put together any more. */
    boolean add(ByteBuf bytes) {
        try {
            sink.write(HttpStream.bytes(bytes));
            return sink.size() <= most;
        } catch (IOException e) {
            LOG.warn("a message cannot be put together", e);
            return false;
        }
    }

    /** The body as it came on the connection; nothing comes after this. */
    Content body() {
        body = body == null ? sink.content() : body;
        return body;
    }

    /** All of it as it came on the connection. */
    Content wire() {
        return Content.joined(Content.of(head.getBytes(StandardCharsets.ISO_8859_1)), body());
    }

    /** Sends it on, as far as it is there. */
    void goOn(Consumer<ByteBuf> out) {
        out.accept(Unpooled.wrappedBuffer(head.getBytes(StandardCharsets.ISO_8859_1)));
        if (!body().isEmpty()) {
            out.accept(Unpooled.wrappedBuffer(body().bytes()));
        }
    }
}
