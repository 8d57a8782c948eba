package dev.mockbell.wire;

import dev.mockbell.content.Content;
import java.io.IOException;
import java.io.InputStream;
import java.nio.ByteBuffer;
import java.util.Set;
import org.apache.hc.core5.http.nio.AsyncEntityProducer;
import org.apache.hc.core5.http.nio.DataStreamChannel;

/** Sends a content piece by piece, as the connection takes it. */
final class BodyProducer implements AsyncEntityProducer {
    private static final int STEP = 64 * 1024;

    private final Content content;
    private final String contentType;
    private final boolean chunked;
    private final ByteBuffer piece = ByteBuffer.allocate(STEP).flip();
    private InputStream in;
    private long read;

    /** @param contentType null for none */
    BodyProducer(Content content, String contentType, boolean chunked) {
        this.content = content;
        this.contentType = contentType;
        this.chunked = chunked;
    }

    @Override
    public int available() {
        // the end is something to write too, also that of a body without bytes
        return (int) Math.min(Integer.MAX_VALUE, Math.max(1, piece.remaining() + content.size() - read));
    }

    @Override
    public void produce(DataStreamChannel channel) throws IOException {
        if (!piece.hasRemaining() && read < content.size()) {
            in = in == null ? content.open() : in;
            int count = in.read(piece.array(), 0, STEP);
            if (count < 0) {
                throw new IOException("the body ended before its length");
            }
            read += count;
            piece.position(0).limit(count);
        }
        channel.write(piece);
        if (!piece.hasRemaining() && read == content.size()) {
            channel.endStream();
        }
    }

    @Override
    public boolean isRepeatable() {
        return true;
    }

    @Override
    public void failed(Exception cause) {
        releaseResources();
    }

    @Override
    public void releaseResources() {
        try {
            if (in != null) {
                in.close();
            }
        } catch (IOException e) {
            // it was only read
            in = null;
        }
        in = null;
        read = 0;
        piece.position(0).limit(0);
    }

    @Override
    public long getContentLength() {
        return chunked ? -1 : content.size();
    }

    @Override
    public String getContentType() {
        return contentType;
    }

    @Override
    public String getContentEncoding() {
        return null;
    }

    @Override
    public boolean isChunked() {
        return chunked;
    }

    @Override
    public Set<String> getTrailerNames() {
        return Set.of();
    }
}
