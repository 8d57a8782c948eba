package dev.mockbell.load;

import dev.mockbell.expression.SecretHosts;
import dev.mockbell.load.Spent.Stage;
import dev.mockbell.problem.Problem;
import dev.mockbell.wire.Unreachable;
import io.netty.bootstrap.Bootstrap;
import io.netty.buffer.ByteBuf;
import io.netty.channel.Channel;
import io.netty.channel.ChannelFuture;
import io.netty.channel.ChannelInitializer;
import io.netty.channel.socket.SocketChannel;
import io.netty.handler.ssl.SslHandler;
import javax.net.ssl.SSLContext;
import javax.net.ssl.SSLEngine;
import javax.net.ssl.SSLParameters;

/** One connection of a lane; it carries one request at a time. Used on its event loop alone. */
final class Connection implements ResponseReader.Sink {
    private final Lane lane;
    private final LoadStep opener;
    private final Way.Http way;
    private final Lane.Target target;
    private Channel channel;
    private Journey journey;
    private long deadline;
    private boolean open;
    private boolean over;
    private long began;
    private long connected;
    private long sent;
    private long first;

    Connection(Lane lane, Lane.Target target, LoadStep opener, Way.Http way) {
        this.lane = lane;
        this.opener = opener;
        this.way = way;
        this.target = target;
    }

    Lane.Target target() {
        return target;
    }

    /**
     * Connects.
     *
     * @param until when that is too late
     */
    void open(Bootstrap bootstrap, long until) {
        deadline = until;
        began = System.nanoTime();
        ChannelFuture connecting = bootstrap
                .clone()
                .handler(new ChannelInitializer<SocketChannel>() {
                    @Override
                    protected void initChannel(SocketChannel made) {
                        if (isSecure()) {
                            made.pipeline().addLast(tls(way.tls(), opener, until));
                        }
                        made.pipeline().addLast(new ResponseReader(Connection.this));
                    }
                })
                .connect(opener.address().getHost(), Way.Http.port(opener.address()));
        channel = connecting.channel();
        connecting.addListener(done -> {
            if (!done.isSuccess()) {
                broken(connectFailure(done.cause()));
                return;
            }
            connected = System.nanoTime();
            if (!isSecure()) {
                ready();
                return;
            }
            channel.pipeline().get(SslHandler.class).handshakeFuture().addListener(shaken -> {
                if (shaken.isSuccess()) {
                    ready();
                } else {
                    broken(connectFailure(shaken.cause()));
                    channel.close();
                }
            });
        });
    }

    private void ready() {
        if (over) {
            channel.close();
            return;
        }
        open = true;
        lane.opened(this, began, connected);
    }

    boolean isSecure() {
        return way.isSecure();
    }

    boolean isOpen() {
        return open;
    }

    /** The certificate must be of the host that is called, as for a single call (RFC 9110 §4.3.4). */
    private SslHandler tls(SSLContext context, LoadStep step, long until) {
        String host = SecretHosts.plain(step.address().getHost());
        // sessions are kept by host and port: a port that was never used has none to take up
        SSLEngine engine =
                context.createSSLEngine(host, lane.resumesTls() ? Way.Http.port(step.address()) : lane.freshNumber());
        engine.setUseClientMode(true);
        SSLParameters parameters = engine.getSSLParameters();
        parameters.setEndpointIdentificationAlgorithm("HTTPS");
        engine.setSSLParameters(parameters);
        SslHandler handler = lane.tls(engine);
        handler.setHandshakeTimeoutMillis(Math.max(1, (until - System.nanoTime()) / 1_000_000));
        return handler;
    }

    private String connectFailure(Throwable cause) {
        String where = opener.address().getHost() + ":" + Way.Http.port(opener.address());
        return Unreachable.of(cause, where)
                .map(Unreachable::words)
                .orElseGet(() -> "no connection: " + Problem.reason(cause).replaceAll(":.*", ""));
    }

    void send(Journey next, ByteBuf request, long until, long now) {
        journey = next;
        deadline = until;
        first = 0;
        sent = now;
        channel.writeAndFlush(request, channel.voidPromise());
    }

    boolean alive() {
        return open && channel.isActive();
    }

    boolean overdue(long now) {
        return (journey != null || !open) && now > deadline;
    }

    void timeOut(String reason) {
        broken(reason);
        channel.close();
    }

    void close() {
        journey = null;
        over = true;
        if (channel != null) {
            channel.close();
        }
    }

    @Override
    public void came() {
        if (first == 0) {
            first = System.nanoTime();
        }
    }

    @Override
    public boolean wants(int status) {
        return journey != null && journey.wants(status / 100 == 2);
    }

    @Override
    public void response(int status, String head, byte[] body, boolean reusable) {
        Journey served = journey;
        journey = null;
        if (served == null) {
            // nobody asked
            over = true;
            lane.gone(this);
            channel.close();
            return;
        }
        long now = System.nanoTime();
        if (served.counts()) {
            lane.tally().spent(Stage.SERVER, first - sent);
            lane.tally().spent(Stage.RECEIVE, now - first);
        }
        if (reusable && lane.keeps()) {
            lane.idle(this);
        } else {
            over = true;
            lane.gone(this);
            channel.close();
        }
        served.answered(new Reply.Http(status, head, body), now);
    }

    @Override
    public void broken(String reason) {
        if (over) {
            return;
        }
        over = true;
        if (!open) {
            lane.notOpened(this, reason, began, connected);
            return;
        }
        lane.gone(this);
        Journey served = journey;
        journey = null;
        if (served != null) {
            served.failed(reason, System.nanoTime());
        }
    }
}
