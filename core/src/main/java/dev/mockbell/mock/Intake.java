package dev.mockbell.mock;

import io.netty.buffer.Unpooled;
import io.netty.channel.ChannelHandler;
import io.netty.channel.ChannelHandlerContext;
import io.netty.channel.ChannelInboundHandlerAdapter;
import io.netty.handler.codec.http.DefaultFullHttpResponse;
import io.netty.handler.codec.http.HttpContent;
import io.netty.handler.codec.http.HttpHeaderNames;
import io.netty.handler.codec.http.HttpRequest;
import io.netty.handler.codec.http.HttpResponseStatus;
import io.netty.handler.codec.http.HttpUtil;
import io.netty.handler.codec.http.HttpVersion;
import io.netty.handler.codec.http.LastHttpContent;
import io.netty.util.ReferenceCountUtil;
import java.nio.charset.StandardCharsets;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.concurrent.atomic.AtomicLong;
import java.util.function.BiConsumer;

/**
 * How much a mock lets in at once: connections, and the bytes of requests that are not answered yet. Who comes on top of
 * that is told so with status 503 and sent away; those that are there go on.
 */
final class Intake {
    private static final long LINGER_MILLIS = 1_000;

    private final MockLimits bounds;
    private final BiConsumer<Integer, String> sentAway;
    private final AtomicInteger connections = new AtomicInteger();
    private final AtomicLong bytes = new AtomicLong();

    /** @param sentAway hears of each that is sent away: the status and why */
    Intake(MockLimits bounds, BiConsumer<Integer, String> sentAway) {
        this.bounds = bounds;
        this.sentAway = sentAway;
    }

    MockLimits bounds() {
        return bounds;
    }

    /** How many bytes of requests are held now. */
    long held() {
        return bytes.get();
    }

    /** A request of so many bytes is done with. */
    void gone(long size) {
        bytes.addAndGet(-size);
    }

    /** Counts one connection. */
    Door door() {
        return new Door();
    }

    /** Counts what comes in on a connection. */
    ChannelHandler connection() {
        return new Connection();
    }

    /** Whether a request has begun to come in on a connection and is not whole yet. */
    boolean isArriving(ChannelHandlerContext context) {
        ChannelHandler there = context.pipeline().get(Connection.class);
        return there instanceof Connection connection && connection.arriving;
    }

    /** Lets a connection in, or sends it away when there are too many. */
    final class Door extends ChannelInboundHandlerAdapter {
        private boolean counted;
        private boolean shut;

        /** Whether it was sent away: what else comes on it is nobody's. */
        boolean isShut() {
            return shut;
        }

        @Override
        public void channelActive(ChannelHandlerContext context) {
            counted = true;
            if (connections.incrementAndGet() > bounds.connections()) {
                shut = true;
                sentAway.accept(503, "The mock has " + bounds.connections() + " connections already.");
                String why = "The mock has " + bounds.connections() + " connections already. Try again later.\n";
                String head = "HTTP/1.1 503 Service Unavailable\r\ncontent-type: text/plain; charset=utf-8\r\n"
                        + "retry-after: 1\r\ncontent-length: " + why.length() + "\r\nconnection: close\r\n\r\n";
                // what the client is still sending is read and thrown away for a while: closing on it would reset the
                // connection and take the answer with it
                context.writeAndFlush(Unpooled.copiedBuffer(head + why, StandardCharsets.UTF_8))
                        .addListener(done -> {
                            MockHandler.half(context);
                            context.executor().schedule(() -> context.close(), LINGER_MILLIS, TimeUnit.MILLISECONDS);
                        });
            }
            context.fireChannelActive();
        }

        @Override
        public void channelInactive(ChannelHandlerContext context) {
            if (counted) {
                connections.decrementAndGet();
            }
            context.fireChannelInactive();
        }
    }

    private final class Connection extends ChannelInboundHandlerAdapter {
        private boolean refused;
        private long unfinished;
        private long began;
        private boolean arriving;

        @Override
        public void channelRead(ChannelHandlerContext context, Object message) {
            if (refused) {
                ReferenceCountUtil.release(message);
                return;
            }
            if (message instanceof HttpRequest) {
                began = System.nanoTime();
                arriving = true;
            }
            if (message instanceof HttpContent content) {
                int size = content.content().readableBytes();
                unfinished += size;
                if (System.nanoTime() - began > bounds.whole().toNanos()) {
                    ReferenceCountUtil.release(message);
                    refuse(
                            context,
                            HttpResponseStatus.REQUEST_TIMEOUT,
                            "The request took longer than " + bounds.whole().toSeconds() + " s to arrive.");
                    return;
                }
                if (bytes.addAndGet(size) > bounds.held()) {
                    ReferenceCountUtil.release(message);
                    refuse(
                            context,
                            HttpResponseStatus.SERVICE_UNAVAILABLE,
                            "The mock holds " + (bounds.held() >> 20) + " MB of requests already.");
                    return;
                }
                if (message instanceof LastHttpContent) {
                    // from here on it is the handler's to give back
                    unfinished = 0;
                    arriving = false;
                }
            }
            context.fireChannelRead(message);
        }

        private void refuse(ChannelHandlerContext context, HttpResponseStatus status, String why) {
            refused = true;
            sentAway.accept(status.code(), why);
            byte[] text = (why + " Try again later.\n").getBytes(StandardCharsets.UTF_8);
            var response = new DefaultFullHttpResponse(HttpVersion.HTTP_1_1, status, Unpooled.wrappedBuffer(text));
            response.headers().set(HttpHeaderNames.CONTENT_TYPE, "text/plain; charset=utf-8");
            response.headers().set(HttpHeaderNames.RETRY_AFTER, "1");
            HttpUtil.setContentLength(response, text.length);
            HttpUtil.setKeepAlive(response, false);
            context.channel().config().setAutoRead(true);
            // what the client is still sending is read and thrown away for a while: closing on it would reset the
            // connection
            // and take the answer with it
            context.writeAndFlush(response).addListener(done -> {
                MockHandler.half(context);
                context.executor().schedule(() -> context.close(), LINGER_MILLIS, TimeUnit.MILLISECONDS);
            });
        }

        @Override
        public void channelInactive(ChannelHandlerContext context) {
            bytes.addAndGet(-unfinished);
            unfinished = 0;
            context.fireChannelInactive();
        }
    }
}
