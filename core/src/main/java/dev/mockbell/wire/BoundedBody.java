package dev.mockbell.wire;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.ByteBuffer;
import org.apache.hc.client5.http.async.methods.AbstractBinResponseConsumer;
import org.apache.hc.client5.http.async.methods.SimpleHttpResponse;
import org.apache.hc.core5.http.ContentType;
import org.apache.hc.core5.http.HttpResponse;

/** Takes an answer whose body, decompressed, may have at most so many bytes. */
final class BoundedBody extends AbstractBinResponseConsumer<SimpleHttpResponse> {
    private final long most;
    private final ByteArrayOutputStream body = new ByteArrayOutputStream();
    private SimpleHttpResponse response;
    private ContentType contentType;

    BoundedBody(long most) {
        this.most = most;
    }

    /** More came than is taken. */
    static final class TooLarge extends IOException {
        private static final long serialVersionUID = 1L;

        TooLarge(long most) {
            super("The answer is larger than the limit of " + most + " bytes");
        }
    }

    @Override
    protected void start(HttpResponse head, ContentType type) {
        response = SimpleHttpResponse.copy(head);
        contentType = type;
    }

    @Override
    protected int capacityIncrement() {
        return 64 * 1024;
    }

    @Override
    protected void data(ByteBuffer from, boolean endOfStream) throws IOException {
        if (body.size() + (long) from.remaining() > most) {
            throw new TooLarge(most);
        }
        byte[] bytes = new byte[from.remaining()];
        from.get(bytes);
        body.write(bytes, 0, bytes.length);
    }

    @Override
    protected SimpleHttpResponse buildResult() {
        if (body.size() > 0) {
            response.setBody(body.toByteArray(), contentType);
        }
        return response;
    }

    @Override
    public void releaseResources() {
        // what was taken is given back with the response
    }
}
