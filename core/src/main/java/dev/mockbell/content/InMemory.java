package dev.mockbell.content;

import java.io.ByteArrayInputStream;
import java.io.InputStream;
import java.util.Arrays;
import java.util.Objects;

/** A stretch of an array. */
final class InMemory implements Content {
    private final byte[] array;
    private final int from;
    private final int to;

    InMemory(byte[] array, int from, int to) {
        Objects.checkFromToIndex(from, to, array.length);
        this.array = array;
        this.from = from;
        this.to = to;
    }

    @Override
    public long size() {
        return to - from;
    }

    @Override
    public InputStream open(long at) {
        Contents.check(at, size());
        int start = from + (int) at;
        return new ByteArrayInputStream(array, start, to - start);
    }

    @Override
    public Content slice(long start, long end) {
        Contents.check(end, size());
        Contents.check(start, end);
        return new InMemory(array, from + (int) start, from + (int) end);
    }

    /** The array itself where it is all of it: what is asked for once a request should not be copied. */
    @Override
    public byte[] bytes() {
        return from == 0 && to == array.length ? array : Arrays.copyOfRange(array, from, to);
    }
}
