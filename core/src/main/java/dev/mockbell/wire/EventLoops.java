package dev.mockbell.wire;

import dev.mockbell.problem.Problem;
import io.netty.bootstrap.ServerBootstrap;
import io.netty.channel.Channel;
import io.netty.channel.ChannelFuture;
import io.netty.channel.ChannelInitializer;
import io.netty.channel.ChannelOption;
import io.netty.channel.EventLoopGroup;
import io.netty.channel.IoHandlerFactory;
import io.netty.channel.MultiThreadIoEventLoopGroup;
import io.netty.channel.ServerChannel;
import io.netty.channel.epoll.Epoll;
import io.netty.channel.epoll.EpollIoHandler;
import io.netty.channel.epoll.EpollServerSocketChannel;
import io.netty.channel.epoll.EpollSocketChannel;
import io.netty.channel.nio.NioIoHandler;
import io.netty.channel.socket.SocketChannel;
import io.netty.channel.socket.nio.NioServerSocketChannel;
import io.netty.channel.socket.nio.NioSocketChannel;
import io.netty.handler.ssl.SslHandler;
import io.netty.util.concurrent.DefaultThreadFactory;
import java.io.IOException;
import java.net.InetAddress;
import java.net.InetSocketAddress;
import java.net.ServerSocket;
import java.net.Socket;
import java.util.Optional;
import java.util.concurrent.LinkedBlockingQueue;
import java.util.concurrent.ThreadPoolExecutor;
import java.util.concurrent.TimeUnit;
import java.util.function.Consumer;
import javax.net.ssl.SSLEngine;

/** Event loops for servers and load: epoll where the machine has it, NIO elsewhere. Nothing on them may block. */
public final class EventLoops implements AutoCloseable {
    private static final int FIRST_FREE_OF_RIGHTS = 1024;
    private static final int PROBE_MILLIS = 300;
    private static final int BACKLOG = 1_024;
    private static final int AGREEING_SECONDS = 10;

    private final boolean epoll = Epoll.isAvailable();
    private final EventLoopGroup group;

    /** Agrees upon TLS: that takes milliseconds, in which a loop would serve none of its other connections. */
    private final ThreadPoolExecutor agreeing;

    /** @param threads how many loops; one a core is enough */
    public EventLoops(String name, int threads) {
        int half = Math.max(1, threads / 2);
        agreeing = new ThreadPoolExecutor(
                half,
                half,
                AGREEING_SECONDS,
                TimeUnit.SECONDS,
                new LinkedBlockingQueue<>(),
                new DefaultThreadFactory(name + "-tls", true));
        agreeing.allowCoreThreadTimeOut(true);
        IoHandlerFactory handlers = epoll ? EpollIoHandler.newFactory() : NioIoHandler.newFactory();
        group = new MultiThreadIoEventLoopGroup(threads, new DefaultThreadFactory(name, true), handlers);
    }

    public EventLoopGroup group() {
        return group;
    }

    public Class<? extends ServerChannel> serverChannel() {
        return epoll ? EpollServerSocketChannel.class : NioServerSocketChannel.class;
    }

    public Class<? extends SocketChannel> socketChannel() {
        return epoll ? EpollSocketChannel.class : NioSocketChannel.class;
    }

    /** Speaks TLS on a connection; the work of agreeing upon it is done beside the loops, in turn. */
    public SslHandler tls(SSLEngine engine) {
        return new SslHandler(engine, agreeing);
    }

    /**
     * Listens for clients of HTTP: the front of mocks and relays. Either side of a connection may end before the other.
     *
     * @param port 0 for any free one
     * @param each puts together what serves a connection
     * @throws Problem of kind PORT_TAKEN when another program has the port
     */
    public Channel listen(String host, int port, Consumer<SocketChannel> each) {
        ChannelFuture bound = new ServerBootstrap()
                .group(group)
                .channel(serverChannel())
                .option(ChannelOption.SO_BACKLOG, BACKLOG)
                .childOption(ChannelOption.TCP_NODELAY, true)
                .childOption(ChannelOption.ALLOW_HALF_CLOSURE, true)
                .childHandler(new ChannelInitializer<SocketChannel>() {
                    @Override
                    protected void initChannel(SocketChannel channel) {
                        each.accept(channel);
                    }
                })
                .bind(host, port)
                .awaitUninterruptibly();
        if (!bound.isSuccess()) {
            throw taken(host, port, freePort(port + 1), bound.cause());
        }
        return bound.channel();
    }

    /**
     * What to say when a port cannot be listened on.
     *
     * @param free the next port that is free at the moment
     */
    public static Problem taken(String host, int port, int free, Throwable cause) {
        if (isTaken(host, port)) {
            Optional<PortHolder> holder = PortHolder.of(port);
            return Problem.of(
                    Problem.Kind.PORT_TAKEN,
                    "Port " + port + " is in use by "
                            + holder.map(PortHolder::words).orElse("another program"),
                    host + ":" + port,
                    "Use " + free + ", which is free, or stop "
                            + (holder.filter(PortHolder::isThis).isPresent() ? "that one." : "the other program."),
                    cause);
        }
        return Problem.of(
                Problem.Kind.INPUT,
                "Cannot listen on " + host + ":" + port + ": " + Problem.reason(cause),
                null,
                "Choose another host or port.",
                cause);
    }

    /**
     * Whether a port that could not be listened on is another program's: the host is one to listen on, and the port is not one
     * that wants rights, or somebody answers there. What the system calls it differs by system and language.
     */
    private static boolean isTaken(String host, int port) {
        try (ServerSocket any = new ServerSocket()) {
            any.bind(new InetSocketAddress(host, 0));
        } catch (IOException | IllegalArgumentException noSuchHost) {
            return false;
        }
        if (port >= FIRST_FREE_OF_RIGHTS) {
            return true;
        }
        try (Socket socket = new Socket()) {
            socket.connect(new InetSocketAddress(host, port), PROBE_MILLIS);
            return true;
        } catch (IOException nobody) {
            return false;
        }
    }

    /** The first free port from {@code from} upwards on the loopback address; 0 when none of a hundred is. */
    public static int freePort(int from) {
        for (int port = from; port < from + 100 && port < 65_536; port++) {
            try (ServerSocket socket = new ServerSocket(port, 1, InetAddress.getLoopbackAddress())) {
                return socket.getLocalPort();
            } catch (IOException inUse) {
                continue;
            }
        }
        return 0;
    }

    @Override
    public void close() {
        group.shutdownGracefully(0, 1, TimeUnit.SECONDS)
                // connections that end tell their part of TLS to the last
                .addListener(over -> agreeing.shutdown());
    }
}
