package dev.mockbell.content;

import dev.mockbell.problem.Problem;
import java.io.IOException;
import java.io.InputStream;
import java.io.RandomAccessFile;
import java.nio.charset.Charset;
import java.nio.file.Path;
import java.util.Arrays;

/**
 * Bytes that do not change: how many there are, and a stream of them as often as one wants. Where they lie, in memory, in a
 * file or on the ledger, is for the kind of content to know. Safe for many threads.
 */
public interface Content {
    /** No bytes. */
    Content NONE = new InMemory(new byte[0], 0, 0);

    /** All of an array, which is not copied and must not be changed any more. */
    static Content of(byte[] bytes) {
        return bytes.length == 0 ? NONE : new InMemory(bytes, 0, bytes.length);
    }

    /**
     * A file that is there, as it is when it is read; for what is looked at now and not kept.
     *
     * @throws IOException when it cannot be opened
     */
    static Content of(Path file) throws IOException {
        RandomAccessFile opened = new RandomAccessFile(file.toFile(), "r");
        return new InFile(opened, opened.length());
    }

    /** One content behind the other; nothing is copied. */
    static Content joined(Content first, Content second) {
        if (first.isEmpty()) {
            return second;
        }
        return second.isEmpty() ? first : new Joined(first, second);
    }

    /** How many bytes. */
    long size();

    /**
     * A stream of the bytes from a place on; for the reader to close.
     *
     * @param from between 0 and the size
     */
    InputStream open(long from) throws IOException;

    default InputStream open() throws IOException {
        return open(0);
    }

    default boolean isEmpty() {
        return size() == 0;
    }

    /** The bytes between two places; nothing is copied. */
    default Content slice(long from, long to) {
        return from == 0 && to == size() ? this : new Slice(this, from, to);
    }

    /** The first bytes, at most so many. */
    default byte[] start(int most) {
        try (InputStream in = open()) {
            return in.readNBytes((int) Math.min(most, size()));
        } catch (IOException e) {
            throw unreadable(e);
        }
    }

    /**
     * All bytes at once, for what cannot read a stream.
     *
     * @throws Problem when they cannot be read, or are more than an array holds
     */
    default byte[] bytes() {
        if (size() > Integer.MAX_VALUE - 8) {
            throw Problem.input("The content has " + size() + " bytes, too many to hold at once", null, null);
        }
        return start((int) size());
    }

    /** All of it as text. */
    default String text(Charset charset) {
        return new String(bytes(), charset);
    }

    /** Whether both hold the same bytes; reads no further than to where they differ. */
    static boolean same(Content one, Content other) {
        if (one == other || one.size() != other.size()) {
            return one == other;
        }
        if (one.size() <= Contents.STEP) {
            return Arrays.equals(one.bytes(), other.bytes());
        }
        try (InputStream a = one.open();
                InputStream b = other.open()) {
            byte[] left = a.readNBytes(Contents.STEP);
            while (left.length > 0) {
                if (!Arrays.equals(left, b.readNBytes(Contents.STEP))) {
                    return false;
                }
                left = a.readNBytes(Contents.STEP);
            }
            return true;
        } catch (IOException e) {
            throw unreadable(e);
        }
    }

    /** What to tell when a stream of a content breaks off. */
    static Problem unreadable(IOException e) {
        return Problem.of(
                Problem.Kind.INPUT, "The bytes of the message cannot be read: " + Problem.reason(e), null, null, e);
    }
}
