package dev.mockbell.tap;

import dev.mockbell.problem.Problem;
import dev.mockbell.wire.Unreachable;
import io.netty.bootstrap.Bootstrap;
import io.netty.buffer.ByteBuf;
import io.netty.buffer.Unpooled;
import io.netty.channel.Channel;
import io.netty.channel.ChannelFuture;
import io.netty.channel.ChannelHandlerContext;
import io.netty.channel.ChannelInboundHandlerAdapter;
import io.netty.channel.ChannelInitializer;
import io.netty.channel.ChannelOption;
import io.netty.channel.EventLoop;
import io.netty.channel.socket.ChannelInputShutdownEvent;
import io.netty.channel.socket.DuplexChannel;
import io.netty.channel.socket.SocketChannel;
import io.netty.handler.ssl.SslHandler;
import java.util.ArrayDeque;
import java.util.Deque;
import javax.net.ssl.SSLEngine;
import javax.net.ssl.SSLParameters;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/**
 * A relay's connection to a service. It is made when something is to go there; what comes before it stands waits. For the thread
 * of the client's connection, which serves this one too.
 */
final class Upstream {
    private static final Logger LOG = LoggerFactory.getLogger(Upstream.class);
    private static final int CONNECT_MILLIS = 10_000;

    /** So much waits for a connection at most, before the client is made to wait. */
    static final int WAITING = 256 << 10;

    private final TapHost host;
    private final EventLoop loop;
    private final Destination to;
    private final Ear ear;
    private final Deque<ByteBuf> waiting = new ArrayDeque<>();
    private int waitingBytes;
    private Channel channel;
    private Outlet outlet;
    private boolean connecting;
    private boolean open;
    private boolean left;
    private boolean ended;
    private long began;

    /** Hears of it, but no more once it was closed. */
    interface Ear {
        /** Bytes have come; the hearer releases them. */
        void came(ByteBuf bytes);

        /** For now no more come. */
        void paused();

        /** It may take more, or no more. */
        void writable();

        /** It stands. */
        void ready(long nanos);

        /** Nobody is there; why, as a sentence. */
        void unreachable(String why);

        /** The service has ended it. */
        void ended();
    }

    Upstream(TapHost host, EventLoop loop, Destination to, Ear ear) {
        this.host = host;
        this.loop = loop;
        this.to = to;
        this.ear = ear;
    }

    Destination to() {
        return to;
    }

    boolean isOpen() {
        return open && !left;
    }

    /** Whether the service still listens. */
    boolean isActive() {
        return channel != null && channel.isActive();
    }

    /** Sends on, connecting first where there is no connection; releases the bytes. */
    void send(ByteBuf bytes) {
        if (open) {
            outlet.write(bytes);
            if (!channel.isWritable()) {
                outlet.flush();
            }
            return;
        }
        waiting.add(bytes);
        waitingBytes += bytes.readableBytes();
        connect();
    }

    void flush() {
        if (open) {
            outlet.flush();
        }
    }

    /** Whether more can be sent without holding it. */
    boolean takesMore() {
        return open ? channel.isWritable() : waitingBytes <= WAITING;
    }

    /** Whether what comes is read. */
    void read(boolean on) {
        if (channel != null) {
            channel.config().setAutoRead(on);
        }
    }

    /** The client says no more; the service hears that, unless TLS would take it for the end. */
    void end() {
        ended = true;
        if (open && !to.tls() && channel instanceof DuplexChannel duplex) {
            outlet.flush();
            channel.writeAndFlush(Unpooled.EMPTY_BUFFER).addListener(f -> duplex.shutdownOutput());
        }
    }

    /** Nobody wants to hear of it any more. */
    void close() {
        left = true;
        if (channel != null) {
            channel.close();
        }
        if (outlet != null) {
            outlet.close();
        }
        waiting.forEach(ByteBuf::release);
        waiting.clear();
    }

    /** Connects, if that is not done yet. */
    void connect() {
        if (connecting || open) {
            return;
        }
        connecting = true;
        began = System.nanoTime();
        Bootstrap bootstrap = new Bootstrap()
                .group(loop)
                .channel(host.around().loops().socketChannel())
                .option(ChannelOption.TCP_NODELAY, true)
                .option(ChannelOption.ALLOW_HALF_CLOSURE, true)
                .option(ChannelOption.CONNECT_TIMEOUT_MILLIS, CONNECT_MILLIS)
                .handler(new ChannelInitializer<SocketChannel>() {
                    @Override
                    protected void initChannel(SocketChannel made) {
                        if (to.tls()) {
                            made.pipeline().addLast(tls());
                        }
                        made.pipeline().addLast(new Service());
                    }
                });
        // a name is looked up elsewhere than on this thread, which others share
        host.resolve(to)
                .whenComplete((address, failure) -> loop.execute(() -> {
                    if (left) {
                        return;
                    }
                    if (failure != null) {
                        unreachable(failure.getCause() == null ? failure : failure.getCause());
                        return;
                    }
                    ChannelFuture future = bootstrap.connect(address);
                    channel = future.channel();
                    future.addListener((ChannelFuture f) -> connected(f));
                }));
    }

    private SslHandler tls() {
        SSLEngine engine = host.trust().createSSLEngine(to.host(), to.port());
        engine.setUseClientMode(true);
        SSLParameters names = engine.getSSLParameters();
        names.setEndpointIdentificationAlgorithm("HTTPS");
        engine.setSSLParameters(names);
        return host.around().loops().tls(engine);
    }

    private void connected(ChannelFuture future) {
        if (!future.isSuccess()) {
            unreachable(future.cause());
        } else if (to.tls()) {
            future.channel().pipeline().get(SslHandler.class).handshakeFuture().addListener(f -> {
                if (f.isSuccess()) {
                    ready();
                } else {
                    unreachable(f.cause());
                }
            });
        } else {
            ready();
        }
    }

    private void ready() {
        if (left) {
            return;
        }
        open = true;
        connecting = false;
        outlet = new Outlet(channel);
        ear.ready(System.nanoTime() - began);
        waiting.forEach(outlet::write);
        waiting.clear();
        waitingBytes = 0;
        outlet.flush();
        ear.writable();
        if (ended) {
            end();
        }
    }

    private void unreachable(Throwable cause) {
        if (left) {
            return;
        }
        String why = Unreachable.of(cause, to.authority())
                .map(Unreachable::words)
                .orElseGet(() -> "No connection to " + to.authority() + ": " + Problem.reason(cause));
        close();
        ear.unreachable(why);
    }

    private final class Service extends ChannelInboundHandlerAdapter {
        @Override
        public void channelRead(ChannelHandlerContext context, Object message) {
            if (left) {
                ((ByteBuf) message).release();
            } else {
                ear.came((ByteBuf) message);
            }
        }

        @Override
        public void channelReadComplete(ChannelHandlerContext context) {
            if (!left) {
                ear.paused();
            }
        }

        @Override
        public void channelWritabilityChanged(ChannelHandlerContext context) {
            if (open && !left) {
                ear.writable();
            }
        }

        @Override
        public void userEventTriggered(ChannelHandlerContext context, Object event) throws Exception {
            if (event instanceof ChannelInputShutdownEvent) {
                context.close();
            }
            super.userEventTriggered(context, event);
        }

        @Override
        public void channelInactive(ChannelHandlerContext context) {
            if (open && !left) {
                ear.ended();
            }
        }

        @Override
        public void exceptionCaught(ChannelHandlerContext context, Throwable cause) {
            LOG.debug("the service's connection failed", cause);
            context.close();
        }
    }
}
