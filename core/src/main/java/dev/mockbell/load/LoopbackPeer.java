package dev.mockbell.load;

import dev.mockbell.wire.EventLoops;
import io.netty.buffer.ByteBuf;
import io.netty.buffer.Unpooled;
import io.netty.channel.Channel;
import io.netty.channel.ChannelHandlerContext;
import io.netty.channel.ChannelInboundHandlerAdapter;
import java.net.InetSocketAddress;
import java.net.URI;
import java.nio.charset.StandardCharsets;

/**
 * Answers every request of ours on loopback with the same bytes, at once. It understands no more HTTP than our own requests need:
 * a head with a length, and the body.
 */
final class LoopbackPeer implements AutoCloseable {
    private final Channel listening;

    LoopbackPeer(EventLoops loops, String body) {
        byte[] content = body.getBytes(StandardCharsets.UTF_8);
        ByteBuf answer = Unpooled.unreleasableBuffer(Unpooled.directBuffer()
                .writeBytes(("HTTP/1.1 200 OK\r\nContent-Type: text/xml; charset=utf-8\r\nContent-Length: "
                                + content.length + "\r\n\r\n")
                        .getBytes(StandardCharsets.ISO_8859_1))
                .writeBytes(content));
        listening = loops.listen("127.0.0.1", 0, made -> made.pipeline().addLast(new Answering(answer)));
    }

    URI address() {
        return URI.create("http://127.0.0.1:" + ((InetSocketAddress) listening.localAddress()).getPort() + "/");
    }

    @Override
    public void close() {
        listening.close().syncUninterruptibly();
    }

    private static final class Answering extends ChannelInboundHandlerAdapter {
        private static final byte[] LENGTH = "content-length:".getBytes(StandardCharsets.ISO_8859_1);

        private final ByteBuf answer;
        private ByteBuf held = Unpooled.EMPTY_BUFFER;

        Answering(ByteBuf answer) {
            this.answer = answer;
        }

        @Override
        public void channelRead(ChannelHandlerContext context, Object message) {
            ByteBuf in = (ByteBuf) message;
            if (held.isReadable()) {
                in = Unpooled.copiedBuffer(held, in);
                held.release();
                ((ByteBuf) message).release();
            }
            held = Unpooled.EMPTY_BUFFER;
            while (whole(in)) {
                context.writeAndFlush(answer.duplicate(), context.voidPromise());
            }
            if (in.isReadable()) {
                held = in;
            } else {
                in.release();
            }
        }

        /** Passes over a request when it is all there. */
        private static boolean whole(ByteBuf in) {
            int from = in.readerIndex();
            long length = 0;
            for (int at = from; ; ) {
                int end = in.indexOf(at, in.writerIndex(), (byte) '\n');
                if (end < 0) {
                    return false;
                }
                if (end - at <= 1) {
                    if (in.writerIndex() - end - 1 < length) {
                        return false;
                    }
                    in.readerIndex((int) (end + 1 + length));
                    return true;
                }
                if (named(in, at, end)) {
                    length = 0;
                    for (int i = at + LENGTH.length; i < end; i++) {
                        int digit = in.getByte(i) - '0';
                        length = digit >= 0 && digit <= 9 ? length * 10 + digit : length;
                    }
                }
                at = end + 1;
            }
        }

        private static boolean named(ByteBuf in, int at, int end) {
            if (end - at <= LENGTH.length) {
                return false;
            }
            for (int i = 0; i < LENGTH.length; i++) {
                if ((in.getByte(at + i) | 0x20) != (LENGTH[i] | 0x20)) {
                    return false;
                }
            }
            return true;
        }

        @Override
        public void channelInactive(ChannelHandlerContext context) {
            held.release();
            held = Unpooled.EMPTY_BUFFER;
        }

        @Override
        public void exceptionCaught(ChannelHandlerContext context, Throwable cause) {
            context.close();
        }
    }
}
