package dev.mockbell.mock;

import io.netty.buffer.ByteBuf;
import io.netty.channel.ChannelDuplexHandler;
import io.netty.channel.ChannelHandlerContext;
import io.netty.channel.ChannelPromise;
import java.io.ByteArrayOutputStream;

/** Sits next to the connection and copies the bytes that pass, up to a bound. One for each connection. */
final class ByteTap extends ChannelDuplexHandler {
    private static final int MOST = 16 << 20;

    private ByteArrayOutputStream in = new ByteArrayOutputStream(1_024);
    private ByteArrayOutputStream out = new ByteArrayOutputStream(1_024);
    private final boolean copies;
    private long firstIn;

    /** @param copies whether anybody will look at the bytes; otherwise only the moment of the first is noted */
    ByteTap(boolean copies) {
        this.copies = copies;
    }

    @Override
    public void channelRead(ChannelHandlerContext context, Object message) {
        if (message instanceof ByteBuf buffer) {
            if (firstIn == 0) {
                firstIn = System.nanoTime();
            }
            if (copies) {
                copy(buffer, in);
            }
        }
        context.fireChannelRead(message);
    }

    @Override
    public void write(ChannelHandlerContext context, Object message, ChannelPromise promise) {
        if (copies && message instanceof ByteBuf buffer) {
            copy(buffer, out);
        }
        context.write(message, promise);
    }

    private static void copy(ByteBuf buffer, ByteArrayOutputStream to) {
        int count = Math.min(buffer.readableBytes(), MOST - to.size());
        if (count > 0) {
            byte[] bytes = new byte[count];
            buffer.getBytes(buffer.readerIndex(), bytes);
            to.writeBytes(bytes);
        }
    }

    long firstIn() {
        return firstIn;
    }

    byte[] takeIn() {
        byte[] bytes = in.toByteArray();
        in = new ByteArrayOutputStream(bytes.length + 64);
        firstIn = 0;
        return bytes;
    }

    /**
     * Forgets so many bytes that came in, since who reads them has them.
     *
     * @param more whether some of the next request are here already
     */
    void drop(int count, boolean more) {
        firstIn = more ? System.nanoTime() : 0;
        if (copies) {
            byte[] bytes = in.toByteArray();
            in = new ByteArrayOutputStream(1_024);
            in.write(bytes, Math.min(count, bytes.length), Math.max(0, bytes.length - count));
        }
    }

    byte[] takeOut() {
        byte[] bytes = out.toByteArray();
        out = new ByteArrayOutputStream(bytes.length + 64);
        return bytes;
    }
}
