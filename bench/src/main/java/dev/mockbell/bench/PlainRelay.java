package dev.mockbell.bench;

import dev.mockbell.wire.EventLoops;
import io.netty.bootstrap.Bootstrap;
import io.netty.channel.Channel;
import io.netty.channel.ChannelFuture;
import io.netty.channel.ChannelHandlerContext;
import io.netty.channel.ChannelInboundHandlerAdapter;
import io.netty.channel.ChannelOption;
import io.netty.channel.socket.SocketChannel;

/**
 * Passes bytes on both ways and looks into nothing: what any relay costs on these event loops, beside which a tap is to be
 * judged. What the other side does not take yet it holds without a limit. Where client and server fill the processors by themselves, even this one halves their rate.
 */
final class PlainRelay {
    private PlainRelay() {}

    /** Listens on a free port of the loopback address until what it gives is closed. */
    static Channel start(EventLoops loops, int target) {
        return loops.listen("127.0.0.1", 0, client -> {
            client.config().setAutoRead(false);
            ChannelFuture reached = new Bootstrap()
                    .group(client.eventLoop())
                    .channel(loops.socketChannel())
                    .option(ChannelOption.TCP_NODELAY, true)
                    .handler(new PassedOn(client))
                    .connect("127.0.0.1", target);
            client.pipeline().addLast(new PassedOn((SocketChannel) reached.channel()));
            reached.addListener(r -> {
                if (r.isSuccess()) {
                    client.config().setAutoRead(true);
                } else {
                    client.close();
                }
            });
        });
    }

    /** What comes goes to the other side, as soon as all that has come is read. */
    private static final class PassedOn extends ChannelInboundHandlerAdapter {
        private final SocketChannel other;

        private PassedOn(SocketChannel other) {
            this.other = other;
        }

        @Override
        public void channelRead(ChannelHandlerContext context, Object message) {
            other.write(message, other.voidPromise());
        }

        @Override
        public void channelReadComplete(ChannelHandlerContext context) {
            other.flush();
        }

        @Override
        public void channelInactive(ChannelHandlerContext context) {
            other.close();
        }

        @Override
        public void exceptionCaught(ChannelHandlerContext context, Throwable cause) {
            context.close();
            other.close();
        }
    }
}
