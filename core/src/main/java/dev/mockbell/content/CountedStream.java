package dev.mockbell.content;

import java.io.BufferedInputStream;
import java.io.FilterInputStream;
import java.io.IOException;
import java.io.InputStream;

/** Knows how much was read of it. */
class CountedStream extends FilterInputStream {
    private static final int STEP = 64 << 10;

    private long count;

    CountedStream(InputStream in) {
        super(new BufferedInputStream(in, STEP));
    }

    /** In bytes. */
    final long count() {
        return count;
    }

    @Override
    public int read() throws IOException {
        int read = super.read();
        count += read < 0 ? 0 : 1;
        return read;
    }

    @Override
    public int read(byte[] into, int from, int length) throws IOException {
        int read = super.read(into, from, length);
        count += Math.max(0, read);
        return read;
    }
}
