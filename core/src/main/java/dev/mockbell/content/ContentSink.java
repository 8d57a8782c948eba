package dev.mockbell.content;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.io.RandomAccessFile;
import java.nio.file.Files;
import java.nio.file.Path;

/**
 * Takes the bytes of one content as they come: the first {@value #IN_MEMORY} in memory, all of them in a nameless file once
 * there are more. The file is the owner's alone and goes with the last that looks at it, or with the process. Not safe for
 * several threads.
 */
public final class ContentSink extends OutputStream {
    /** What is held in memory. */
    static final int IN_MEMORY = 4 << 20;

    private ByteArrayOutputStream memory = new ByteArrayOutputStream();
    private RandomAccessFile file;
    private long size;

    @Override
    public void write(int one) throws IOException {
        write(new byte[] {(byte) one}, 0, 1);
    }

    @Override
    public void write(byte[] bytes, int from, int length) throws IOException {
        if (file == null && size + length > IN_MEMORY) {
            spill();
        }
        if (file == null) {
            memory.write(bytes, from, length);
        } else {
            file.write(bytes, from, length);
        }
        size += length;
    }

    private void spill() throws IOException {
        Path path = Files.createTempFile("mockbell", ".part");
        file = new RandomAccessFile(path.toFile(), "rw");
        try {
            Files.delete(path);
        } catch (IOException held) {
            // some systems keep the name of a file that is open
            path.toFile().deleteOnExit();
        }
        file.write(memory.toByteArray());
        memory = null;
    }

    /** How many bytes have come. */
    public long size() {
        return size;
    }

    /** What has come so far; nothing may be written any more. */
    public Content content() {
        return file == null ? Content.of(memory.toByteArray()) : new InFile(file, size);
    }
}
