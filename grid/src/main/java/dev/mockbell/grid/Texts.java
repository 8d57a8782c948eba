package dev.mockbell.grid;

import java.io.DataInputStream;
import java.io.DataOutputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;

/** Texts and bytes of any length in a stream; {@link DataOutputStream#writeUTF} takes 64 KB at most. */
final class Texts {
    private static final int MOST = 16 << 20;

    private Texts() {}

    static void write(DataOutputStream out, String text) throws IOException {
        write(out, text.getBytes(StandardCharsets.UTF_8));
    }

    static String read(DataInputStream in) throws IOException {
        return new String(readBytes(in), StandardCharsets.UTF_8);
    }

    static void write(DataOutputStream out, byte[] bytes) throws IOException {
        out.writeInt(bytes.length);
        out.write(bytes);
    }

    static byte[] readBytes(DataInputStream in) throws IOException {
        int length = in.readInt();
        if (length < 0 || length > MOST) {
            throw new IOException("a length of " + length);
        }
        byte[] bytes = in.readNBytes(length);
        if (bytes.length < length) {
            throw new IOException("it ends too early");
        }
        return bytes;
    }
}
