package dev.mockbell.request;

import dev.mockbell.content.Content;
import dev.mockbell.content.ContentSink;
import dev.mockbell.content.Header;
import dev.mockbell.wire.CallRequest;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.util.zip.DeflaterOutputStream;
import java.util.zip.GZIPOutputStream;

/** Compresses the body of a request (RFC 9110 §8.4.1), piece by piece. */
final class Compressing {
    private Compressing() {}

    static CallRequest of(CallRequest request, Delivery.Compression compression) {
        if (compression == Delivery.Compression.NONE) {
            return request;
        }
        ContentSink sink = new ContentSink();
        try (InputStream in = request.body().open();
                OutputStream out = compression == Delivery.Compression.GZIP
                        ? new GZIPOutputStream(sink)
                        : new DeflaterOutputStream(sink)) {
            in.transferTo(out);
        } catch (IOException e) {
            throw Content.unreadable(e);
        }
        return request.with(new Header("Content-Encoding", compression.code())).with(sink.content());
    }
}
