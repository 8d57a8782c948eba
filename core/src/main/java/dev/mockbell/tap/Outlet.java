package dev.mockbell.tap;

import io.netty.buffer.ByteBuf;
import io.netty.channel.Channel;

/**
 * Puts the pieces that go to one side together, so that a head and a short body go in one write; what is long goes as it is. For the
 * thread of its channel.
 */
final class Outlet {
    /** Pieces are put together up to this, in bytes. */
    private static final int TOGETHER = 16 << 10;

    private final Channel channel;
    private ByteBuf joined;

    Outlet(Channel channel) {
        this.channel = channel;
    }

    /** Takes a piece, which it releases. */
    void write(ByteBuf piece) {
        if (piece.readableBytes() > TOGETHER) {
            push();
            channel.write(piece);
            return;
        }
        if (joined == null) {
            joined = channel.alloc().ioBuffer(2_048);
        }
        joined.writeBytes(piece);
        piece.release();
        if (joined.readableBytes() > TOGETHER) {
            push();
        }
    }

    /** As {@link #write}, of bytes. */
    void write(byte[] bytes) {
        if (joined == null) {
            joined = channel.alloc().ioBuffer(Math.max(2_048, bytes.length));
        }
        joined.writeBytes(bytes);
        if (joined.readableBytes() > TOGETHER) {
            push();
        }
    }

    private void push() {
        if (joined != null) {
            channel.write(joined);
            joined = null;
        }
    }

    /** Sends what is there. */
    void flush() {
        push();
        channel.flush();
    }

    /** Lets go what will not be sent any more. */
    void close() {
        if (joined != null) {
            joined.release();
            joined = null;
        }
    }
}
