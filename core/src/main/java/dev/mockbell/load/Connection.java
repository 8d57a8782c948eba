package dev.mockbell.load;

import dev.mockbell.expression.SecretHosts;
import dev.mockbell.problem.Problem;
import io.netty.bootstrap.Bootstrap;
import io.netty.buffer.Unpooled;
import io.netty.channel.Channel;
import io.netty.channel.ChannelFuture;
import io.netty.channel.ChannelInitializer;
import io.netty.channel.ConnectTimeoutException;
import io.netty.channel.socket.SocketChannel;
import io.netty.handler.ssl.SslHandler;
import java.net.ConnectException;
import java.net.NoRouteToHostException;
import javax.net.ssl.SSLContext;
import javax.net.ssl.SSLEngine;
import javax.net.ssl.SSLParameters;

/** One connection of a lane; it carries one request at a time. Used on its event loop alone. */
final class Connection implements ResponseReader.Sink {
    private final Lane lane;
    private final String target;
    private Channel channel;
    private Journey journey;
    private long deadline;

    Connection(Lane lane, String target) {
        this.lane = lane;
        this.target = target;
    }

    String target() {
        return target;
    }

    void open(Bootstrap bootstrap, LoadStep step, Journey first, byte[] request, long until) {
        journey = first;
        deadline = until;
        ChannelFuture connecting = bootstrap
                .clone()
                .handler(new ChannelInitializer<SocketChannel>() {
                    @Override
                    protected void initChannel(SocketChannel made) {
                        if (step.secure()) {
                            made.pipeline().addLast(tls(step.way().tls(), step, until));
                        }
                        made.pipeline().addLast(new ResponseReader(Connection.this));
                    }
                })
                .connect(step.address().getHost(), step.port());
        channel = connecting.channel();
        connecting.addListener(done -> {
            if (done.isSuccess()) {
                write(request);
            } else {
                broken(connectFailure(done.cause()));
            }
        });
    }

    /** The certificate must be of the host that is called, as for a single call (RFC 9110 §4.3.4). */
    private static SslHandler tls(SSLContext context, LoadStep step, long until) {
        SSLEngine engine =
                context.createSSLEngine(SecretHosts.plain(step.address().getHost()), step.port());
        engine.setUseClientMode(true);
        SSLParameters parameters = engine.getSSLParameters();
        parameters.setEndpointIdentificationAlgorithm("HTTPS");
        engine.setSSLParameters(parameters);
        SslHandler handler = new SslHandler(engine);
        handler.setHandshakeTimeoutMillis(Math.max(1, (until - System.nanoTime()) / 1_000_000));
        return handler;
    }

    private static String connectFailure(Throwable cause) {
        // the first is a kind of the second
        if (cause instanceof ConnectTimeoutException) {
            return "no connection in time";
        }
        return cause instanceof ConnectException && !(cause instanceof NoRouteToHostException)
                ? "connection refused"
                : "no connection: " + Problem.reason(cause).replaceAll(":.*", "");
    }

    void send(Journey next, byte[] request, long until) {
        journey = next;
        deadline = until;
        write(request);
    }

    private void write(byte[] request) {
        channel.writeAndFlush(Unpooled.wrappedBuffer(request), channel.voidPromise());
    }

    boolean alive() {
        return channel.isActive();
    }

    boolean overdue(long now) {
        return journey != null && now > deadline;
    }

    void timeOut(String reason) {
        broken(reason);
        channel.close();
    }

    void close() {
        journey = null;
        if (channel != null) {
            channel.close();
        }
    }

    @Override
    public boolean wants(int status) {
        return journey != null && journey.wants(status);
    }

    @Override
    public void response(int status, String head, byte[] body, boolean reusable) {
        Journey served = journey;
        journey = null;
        if (served == null) {
            channel.close();
            return;
        }
        if (reusable) {
            lane.idle(this);
        } else {
            lane.gone(this);
            channel.close();
        }
        served.answered(status, head, body, System.nanoTime());
    }

    @Override
    public void broken(String reason) {
        lane.gone(this);
        Journey served = journey;
        journey = null;
        if (served != null) {
            served.failed(reason, System.nanoTime());
        }
    }
}
