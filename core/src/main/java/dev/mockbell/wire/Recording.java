package dev.mockbell.wire;

import dev.mockbell.content.Content;
import dev.mockbell.content.ContentSink;
import java.io.IOException;
import java.nio.ByteBuffer;

/** The plain bytes of one connection in both directions, with the moments of the first and last of each. */
final class Recording {
    private final ContentSink sent = new ContentSink();
    private final ContentSink received = new ContentSink();
    private long asked;
    private long named;
    private long securing;
    private long firstSent;
    private long lastSent;
    private long firstReceived;
    private long lastReceived;

    /** The connection is asked for, which is when a call begins. */
    synchronized void asked() {
        asked = asked == 0 ? System.nanoTime() : asked;
    }

    /** The address of the server's name is known. */
    synchronized void named() {
        named = named == 0 ? System.nanoTime() : named;
    }

    /** The connection stands, and TLS begins. */
    synchronized void securing() {
        securing = securing == 0 ? System.nanoTime() : securing;
    }

    synchronized void sent(ByteBuffer buffer, int from, int count) throws IOException {
        if (count > 0) {
            long now = System.nanoTime();
            firstSent = firstSent == 0 ? now : firstSent;
            lastSent = now;
            copy(buffer, from, count, sent);
        }
    }

    synchronized void received(ByteBuffer buffer, int from, int count) throws IOException {
        if (count > 0) {
            long now = System.nanoTime();
            firstReceived = firstReceived == 0 ? now : firstReceived;
            lastReceived = now;
            copy(buffer, from, count, received);
        }
    }

    private static void copy(ByteBuffer buffer, int from, int count, ContentSink to) throws IOException {
        byte[] bytes = new byte[count];
        ByteBuffer view = buffer.duplicate();
        view.limit(from + count).position(from);
        view.get(bytes);
        to.write(bytes);
    }

    /** What was recorded; the moments are of {@link System#nanoTime()}, 0 for what did not happen. */
    record Taken(
            Content sent,
            Content received,
            long asked,
            long named,
            long securing,
            long firstSent,
            long lastSent,
            long firstReceived,
            long lastReceived) {}

    synchronized Taken take() {
        return new Taken(
                sent.content(),
                received.content(),
                asked,
                named,
                securing,
                firstSent,
                lastSent,
                firstReceived,
                lastReceived);
    }
}
