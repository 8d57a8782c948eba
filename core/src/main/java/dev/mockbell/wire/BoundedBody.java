package dev.mockbell.wire;

import dev.mockbell.content.Content;
import dev.mockbell.content.ContentSink;
import dev.mockbell.content.TooLarge;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.util.List;
import org.apache.hc.core5.concurrent.FutureCallback;
import org.apache.hc.core5.http.EntityDetails;
import org.apache.hc.core5.http.Header;
import org.apache.hc.core5.http.HttpResponse;
import org.apache.hc.core5.http.nio.AsyncResponseConsumer;
import org.apache.hc.core5.http.nio.CapacityChannel;
import org.apache.hc.core5.http.protocol.HttpContext;

/**
 * Takes an answer whose body may have at most so many bytes. What its head says of the body is not looked at, so that an
 * answer with an unknown charset, or a Content-Type that is none, is an answer.
 */
final class BoundedBody implements AsyncResponseConsumer<BoundedBody.Taken> {
    /** What is kept of an answer that is larger than may be taken. */
    static final long KEPT = 16L << 20;

    private final long most;
    private final ContentSink body = new ContentSink();
    private HttpResponse head;
    private FutureCallback<Taken> hearing;

    BoundedBody(long most) {
        this.most = most;
    }

    /** An answer as the library read it. */
    record Taken(HttpResponse head, Content body) {}

    @Override
    public void consumeResponse(
            HttpResponse response, EntityDetails entity, HttpContext context, FutureCallback<Taken> callback) {
        head = response;
        hearing = callback;
        if (entity == null) {
            callback.completed(new Taken(head, body.content()));
        }
    }

    @Override
    public void informationResponse(HttpResponse response, HttpContext context) {
        // an interim answer says nothing that a call is about
    }

    @Override
    public void updateCapacity(CapacityChannel channel) throws IOException {
        channel.update(Integer.MAX_VALUE);
    }

    @Override
    public void consume(ByteBuffer from) throws IOException {
        if (body.size() + from.remaining() > most) {
            throw new TooLarge(most);
        }
        byte[] bytes = new byte[from.remaining()];
        from.get(bytes);
        body.write(bytes);
    }

    @Override
    public void streamEnd(List<? extends Header> trailers) {
        hearing.completed(new Taken(head, body.content()));
    }

    @Override
    public void failed(Exception cause) {
        if (hearing != null) {
            hearing.failed(cause);
        }
    }

    @Override
    public void releaseResources() {
        // what was taken is given back with the response
    }
}
