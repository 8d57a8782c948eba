package dev.mockbell.grid;

import java.io.ByteArrayOutputStream;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;

/** Something large, in pieces that a message can hold. */
final class Pieces {
    private final byte[][] parts;
    private int there;

    /** To be put together. */
    Pieces(int count) {
        this.parts = new byte[count][];
    }

    static List<byte[]> of(byte[] bytes) {
        List<byte[]> all = new ArrayList<>();
        for (int at = 0; at < bytes.length || at == 0; at += Spoken.PIECE) {
            all.add(Arrays.copyOfRange(bytes, at, Math.min(bytes.length, at + Spoken.PIECE)));
        }
        return all;
    }

    /** Adds a piece; gives the whole once all are there. */
    Optional<byte[]> add(int index, byte[] bytes) {
        if (index < 0 || index >= parts.length || parts[index] != null) {
            return Optional.empty();
        }
        parts[index] = bytes;
        there++;
        if (there < parts.length) {
            return Optional.empty();
        }
        ByteArrayOutputStream whole = new ByteArrayOutputStream();
        for (byte[] part : parts) {
            whole.writeBytes(part);
        }
        return Optional.of(whole.toByteArray());
    }
}
