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
    private final boolean kept;
    private boolean copies;
    private long firstIn;

    /** @param kept whether anybody will look at the bytes; otherwise only the moment of the first is noted */
    ByteTap(boolean kept) {
        this.kept = kept;
    }

    /**
     * Copies from here on: until then, who reads the bytes has them.
     *
     * @param rest what came already and was not read
     */
    void begin(ByteBuf rest) {
        copies = kept;
        if (copies) {
            copy(rest, in);
        }
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
     * A request was read by who has its bytes.
     *
     * @param more whether some of the next are here already
     */
    void read(boolean more) {
        firstIn = more ? System.nanoTime() : 0;
    }

    byte[] takeOut() {
        byte[] bytes = out.toByteArray();
        out = new ByteArrayOutputStream(bytes.length + 64);
        return bytes;
    }
}
