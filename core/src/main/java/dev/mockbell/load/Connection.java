package dev.mockbell.load;

import dev.mockbell.problem.Problem;
import io.netty.bootstrap.Bootstrap;
import io.netty.buffer.Unpooled;
import io.netty.channel.Channel;
import io.netty.channel.ChannelFuture;
import io.netty.channel.ChannelInitializer;
import io.netty.channel.socket.SocketChannel;
import io.netty.handler.ssl.SslContext;

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

    void open(Bootstrap bootstrap, LoadStep step, SslContext tls, Journey first, byte[] request, long until) {
        journey = first;
        deadline = until;
        ChannelFuture connecting = bootstrap
                .clone()
                .handler(new ChannelInitializer<SocketChannel>() {
                    @Override
                    protected void initChannel(SocketChannel made) {
                        if (step.secure()) {
                            made.pipeline()
                                    .addLast(tls.newHandler(
                                            made.alloc(), step.address().getHost(), step.port()));
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

    private static String connectFailure(Throwable cause) {
        String reason = Problem.reason(cause);
        if (reason.contains("refused")) {
            return "connection refused";
        }
        return reason.contains("timed out")
                ? "no connection in time"
                : "no connection: " + reason.replaceAll(":.*", "");
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
