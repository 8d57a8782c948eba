package dev.mockbell.wire;

import dev.mockbell.content.Content;
import dev.mockbell.content.ContentSink;
import java.io.IOException;
import java.nio.ByteBuffer;
import org.apache.hc.client5.http.async.methods.AbstractBinResponseConsumer;
import org.apache.hc.core5.http.ContentType;
import org.apache.hc.core5.http.HttpResponse;

/** Takes an answer whose body, decompressed, may have at most so many bytes. */
final class BoundedBody extends AbstractBinResponseConsumer<BoundedBody.Taken> {
    private final long most;
    private final ContentSink body = new ContentSink();
    private HttpResponse head;

    BoundedBody(long most) {
        this.most = most;
    }

    /** An answer as the library read it. */
    record Taken(HttpResponse head, Content body) {}

    /** More came than is taken. */
    static final class TooLarge extends IOException {
        private static final long serialVersionUID = 1L;

        TooLarge(long most) {
            super("The answer is larger than the limit of " + most + " bytes");
        }
    }

    @Override
    protected void start(HttpResponse response, ContentType type) {
        head = response;
    }

    @Override
    protected int capacityIncrement() {
        return 64 * 1024;
    }

    @Override
    protected void data(ByteBuffer from, boolean endOfStream) throws IOException {
        if (body.size() + from.remaining() > most) {
            throw new TooLarge(most);
        }
        byte[] bytes = new byte[from.remaining()];
        from.get(bytes);
        body.write(bytes);
    }

    @Override
    protected Taken buildResult() {
        return new Taken(head, body.content());
    }

    @Override
    public void releaseResources() {
        // what was taken is given back with the response
    }
}
