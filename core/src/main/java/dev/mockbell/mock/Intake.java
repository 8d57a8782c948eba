package dev.mockbell.mock;

import io.netty.buffer.Unpooled;
import io.netty.channel.ChannelHandler;
import io.netty.channel.ChannelHandlerContext;
import io.netty.channel.ChannelInboundHandlerAdapter;
import io.netty.channel.socket.SocketChannel;
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
import java.time.Duration;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.concurrent.atomic.AtomicLong;

/**
 * How much a mock lets in at once: connections, and the bytes of requests that are not answered yet. Who comes on top of
 * that is told so with status 503 and sent away; those that are there go on.
 */
final class Intake {
    /**
     * The bounds of one mock.
     *
     * @param idle how long a connection may be silent, between requests or within one
     * @param whole how long a request may take to arrive
     * @param connections at once
     * @param bytes of all requests that are held
     */
    record Bounds(Duration idle, Duration whole, int connections, long bytes) {
        static final Bounds USUAL = new Bounds(Duration.ofSeconds(60), Duration.ofMinutes(5), 4_000, 256L << 20);
    }

    private static final long LINGER_MILLIS = 1_000;

    private final Bounds bounds;
    private final AtomicInteger connections = new AtomicInteger();
    private final AtomicLong bytes = new AtomicLong();

    Intake(Bounds bounds) {
        this.bounds = bounds;
    }

    Bounds bounds() {
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
                String why = "The mock has " + bounds.connections() + " connections already. Try again later.\n";
                String head = "HTTP/1.1 503 Service Unavailable\r\ncontent-type: text/plain; charset=utf-8\r\n"
                        + "retry-after: 1\r\ncontent-length: " + why.length() + "\r\nconnection: close\r\n\r\n";
                // what the client is still sending is read and thrown away for a while: closing on it would reset the
                // connection and take the answer with it
                context.writeAndFlush(Unpooled.copiedBuffer(head + why, StandardCharsets.UTF_8))
                        .addListener(done -> {
                            ((SocketChannel) context.channel()).shutdownOutput();
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

        @Override
        public void channelRead(ChannelHandlerContext context, Object message) {
            if (refused) {
                ReferenceCountUtil.release(message);
                return;
            }
            if (message instanceof HttpRequest) {
                began = System.nanoTime();
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
                if (bytes.addAndGet(size) > bounds.bytes()) {
                    ReferenceCountUtil.release(message);
                    refuse(
                            context,
                            HttpResponseStatus.SERVICE_UNAVAILABLE,
                            "The mock holds " + (bounds.bytes() >> 20) + " MB of requests already.");
                    return;
                }
                if (message instanceof LastHttpContent) {
                    // from here on it is the handler's to give back
                    unfinished = 0;
                }
            }
            context.fireChannelRead(message);
        }

        private void refuse(ChannelHandlerContext context, HttpResponseStatus status, String why) {
            refused = true;
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
                ((SocketChannel) context.channel()).shutdownOutput();
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
