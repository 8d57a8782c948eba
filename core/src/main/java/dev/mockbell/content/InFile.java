package dev.mockbell.content;

import java.io.IOException;
import java.io.InputStream;
import java.io.RandomAccessFile;

/**
 * The bytes of a file that has no name any more. The file is closed, and its room free, when nothing refers to it. It is no
 * channel, because a channel is closed for all when one that reads is interrupted.
 */
final class InFile implements Content {
    private final RandomAccessFile file;
    private final long size;

    InFile(RandomAccessFile file, long size) {
        this.file = file;
        this.size = size;
    }

    @Override
    public long size() {
        return size;
    }

    @Override
    public InputStream open(long from) {
        Contents.check(from, size);
        return new Reading(from);
    }

    /** Reads at a place of its own, so that several may read at once. */
    private final class Reading extends InputStream {
        private long at;

        Reading(long from) {
            at = from;
        }

        @Override
        public int read() throws IOException {
            byte[] one = new byte[1];
            return read(one, 0, 1) < 0 ? -1 : one[0] & 0xFF;
        }

        @Override
        public int read(byte[] to, int from, int length) throws IOException {
            if (length == 0) {
                return 0;
            }
            if (at >= size) {
                return -1;
            }
            int count;
            synchronized (file) {
                file.seek(at);
                count = file.read(to, from, (int) Math.min(length, size - at));
            }
            at += Math.max(0, count);
            return count;
        }

        @Override
        public long skip(long count) {
            long skipped = Math.max(0, Math.min(count, size - at));
            at += skipped;
            return skipped;
        }

        @Override
        public int available() {
            return (int) Math.min(Integer.MAX_VALUE, size - at);
        }
    }
}
