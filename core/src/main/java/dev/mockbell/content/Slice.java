package dev.mockbell.content;

import java.io.FilterInputStream;
import java.io.IOException;
import java.io.InputStream;

/** A stretch of another content. */
record Slice(Content of, long from, long to) implements Content {
    Slice {
        Contents.check(from, to);
        Contents.check(to, of.size());
    }

    @Override
    public long size() {
        return to - from;
    }

    @Override
    public InputStream open(long at) throws IOException {
        Contents.check(at, size());
        return new Bounded(of.open(from + at), size() - at);
    }

    @Override
    public Content slice(long start, long end) {
        Contents.check(end, size());
        Contents.check(start, end);
        return new Slice(of, from + start, from + end);
    }

    /** Ends after so many bytes, whatever there is behind them. */
    private static final class Bounded extends FilterInputStream {
        private long left;

        Bounded(InputStream in, long left) {
            super(in);
            this.left = left;
        }

        @Override
        public int read() throws IOException {
            byte[] one = new byte[1];
            return read(one, 0, 1) < 0 ? -1 : one[0] & 0xFF;
        }

        @Override
        public int read(byte[] to, int at, int length) throws IOException {
            if (left == 0) {
                return length == 0 ? 0 : -1;
            }
            int count = in.read(to, at, (int) Math.min(length, left));
            left -= Math.max(0, count);
            return count;
        }

        @Override
        public long skip(long count) throws IOException {
            long skipped = in.skip(Math.min(count, left));
            left -= skipped;
            return skipped;
        }

        @Override
        public int available() throws IOException {
            return (int) Math.min(in.available(), left);
        }

        @Override
        public boolean markSupported() {
            return false;
        }
    }
}
