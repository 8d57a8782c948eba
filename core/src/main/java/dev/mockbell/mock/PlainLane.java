package dev.mockbell.mock;

import dev.mockbell.content.Content;
import io.netty.buffer.ByteBuf;
import io.netty.buffer.ByteBufUtil;
import io.netty.buffer.Unpooled;
import io.netty.channel.ChannelFutureListener;
import io.netty.channel.ChannelHandlerContext;
import io.netty.channel.ChannelInboundHandlerAdapter;
import io.netty.channel.socket.ChannelInputShutdownEvent;
import io.netty.handler.codec.http.HttpResponseStatus;
import io.netty.util.concurrent.ScheduledFuture;
import java.util.Arrays;
import java.util.Optional;
import java.util.concurrent.TimeUnit;
import java.util.function.Consumer;

/**
 * Answers the requests of one connection as long as they are plain calls ({@link PlainHead}), without taking more of them apart than
 * is looked at. The first that is not, and all that follow it on the connection, go the wide way, by the library.
 */
final class PlainLane extends ChannelInboundHandlerAdapter {
    /** A longer head or body goes the wide way. */
    private static final int MOST_HEAD = 8 * 1024;

    private static final int MOST_BODY = 32 * 1024;

    /** So much that was sent ahead is held while a request is answered. */
    private static final int MOST_AHEAD = 64 * 1024;

    private static final int LEAST_GROWN = 1_024;

    private static final byte[] END = {'\r', '\n', '\r', '\n'};

    private final MockHost host;
    private final ByteTap tap;
    private final Intake.Door door;
    private final Consumer<ChannelHandlerContext> widen;
    private final MockRecord records;
    private final MockLimits bounds;
    private final ReplyWriter writer;
    private final long idleNanos;
    private ByteBuf held = Unpooled.EMPTY_BUFFER;
    private ByteBuf lastBytes = Unpooled.EMPTY_BUFFER;
    private PlainHead last;
    private ScheduledFuture<?> watch;
    private long heard = System.nanoTime();
    /** When the first byte of what is held came. */
    private long since = heard;

    /** Whether what is held is in a buffer that was made here, to be written to. */
    private boolean own;

    private boolean busy;
    private boolean working;
    private boolean wide;
    private boolean inputEnded;
    private boolean unflushed;

    /** @param widen puts the library's handlers behind this one */
    PlainLane(MockHost host, ByteTap tap, Intake.Door door, MockLimits bounds, Consumer<ChannelHandlerContext> widen) {
        this.host = host;
        this.tap = tap;
        this.door = door;
        this.widen = widen;
        this.records = new MockRecord(host);
        this.bounds = bounds;
        this.writer = new ReplyWriter(host);
        this.idleNanos = bounds.idle().toNanos();
    }

    @Override
    public void channelActive(ChannelHandlerContext context) {
        watch(context, idleNanos);
        context.fireChannelActive();
    }

    private void watch(ChannelHandlerContext context, long nanos) {
        watch = context.executor().schedule(() -> idle(context), nanos, TimeUnit.NANOSECONDS);
    }

    /** Silence is the client's only while it is the client's turn. */
    private void idle(ChannelHandlerContext context) {
        long left = idleNanos - (System.nanoTime() - heard);
        if (wide || !context.channel().isActive()) {
            return;
        }
        if (busy || left > 0) {
            watch(context, busy ? idleNanos : left);
        } else if (held.isReadable()) {
            late(
                    context,
                    "The rest of the request did not come within "
                            + bounds.idle().toSeconds() + " s.");
        } else {
            context.close();
        }
    }

    private void late(ChannelHandlerContext context, String why) {
        // nothing that follows is looked at
        held.release();
        held = Unpooled.EMPTY_BUFFER;
        wide(context);
        host.sentAway(HttpResponseStatus.REQUEST_TIMEOUT.code(), why);
        MockHandler.tell(context, HttpResponseStatus.REQUEST_TIMEOUT, why);
    }

    @Override
    public void channelRead(ChannelHandlerContext context, Object message) {
        if (wide || !(message instanceof ByteBuf bytes)) {
            context.fireChannelRead(message);
            return;
        }
        if (door.isShut()) {
            bytes.release();
            return;
        }
        heard = System.nanoTime();
        if (held.isReadable()) {
            add(context, bytes);
        } else {
            held.release();
            held = bytes;
            own = false;
            since = heard;
        }
        work(context);
        if (!wide
                && !busy
                && held.isReadable()
                && heard - since > bounds.whole().toNanos()) {
            late(context, "The request took longer than " + bounds.whole().toSeconds() + " s to arrive.");
        }
    }

    /** Puts what came behind what is held, with room for more: a slow sender's bytes are not copied again for each piece. */
    private void add(ChannelHandlerContext context, ByteBuf bytes) {
        boolean room = own && held.writableBytes() >= bytes.readableBytes();
        if (!room) {
            int now = held.readableBytes() + bytes.readableBytes();
            ByteBuf both = context.alloc().buffer(Math.max(LEAST_GROWN, 2 * now));
            both.writeBytes(held);
            held.release();
            held = both;
            own = true;
        }
        held.writeBytes(bytes);
        bytes.release();
    }

    @Override
    public void channelReadComplete(ChannelHandlerContext context) {
        if (unflushed) {
            unflushed = false;
            context.flush();
        }
        context.fireChannelReadComplete();
    }

    /** Answers what is there, one after the other. */
    private void work(ChannelHandlerContext context) {
        if (working) {
            return;
        }
        working = true;
        while (!busy && !wide && held.isReadable() && step(context)) {
            // each step is a request
        }
        working = false;
        if (!wide) {
            boolean full = busy && held.readableBytes() > MOST_AHEAD;
            if (full == context.channel().config().isAutoRead()) {
                context.channel().config().setAutoRead(!full);
            }
            if (inputEnded && !busy) {
                // what came of a request and will not be whole any more is none
                context.writeAndFlush(Unpooled.EMPTY_BUFFER).addListener(ChannelFutureListener.CLOSE);
            }
        }
    }

    /** Takes the next request; false when it has not come in whole, or goes the wide way. */
    private boolean step(ChannelHandlerContext context) {
        PlainHead head;
        int size = lastBytes.readableBytes();
        // a client writes the same head again and again
        if (last != null
                && held.readableBytes() >= size
                && ByteBufUtil.equals(held, held.readerIndex(), lastBytes, 0, size)) {
            head = last;
        } else {
            int end = ByteBufUtil.indexOf(Unpooled.wrappedBuffer(END), held);
            if (end < 0) {
                if (held.readableBytes() > MOST_HEAD || !startsPlain()) {
                    wide(context);
                }
                return false;
            }
            size = end - held.readerIndex() + END.length;
            Optional<PlainHead> read = size > MOST_HEAD ? Optional.empty() : PlainHead.read(bytes(size), MOST_BODY);
            if (read.filter(h -> host.serves(h.path())).isEmpty()) {
                wide(context);
                return false;
            }
            head = read.get();
            last = head;
            lastBytes = Unpooled.wrappedBuffer(head.bytes());
        }
        if (held.readableBytes() < size + head.length()) {
            return false;
        }
        byte[] wire = records.takesNext() ? bytes(size + head.length()) : null;
        since = heard;
        held.skipBytes(size);
        byte[] body = new byte[head.length()];
        held.readBytes(body);
        answer(context, head, body, wire);
        return true;
    }

    private byte[] bytes(int count) {
        byte[] bytes = new byte[count];
        held.getBytes(held.readerIndex(), bytes);
        return bytes;
    }

    private boolean startsPlain() {
        byte[] start = {'P', 'O', 'S', 'T', ' ', '/'};
        int count = Math.min(start.length, held.readableBytes());
        return Arrays.equals(bytes(count), Arrays.copyOf(start, count));
    }

    private void wide(ChannelHandlerContext context) {
        wide = true;
        cancelWatch();
        tap.begin(held);
        widen.accept(context);
        ByteBuf rest = held;
        held = Unpooled.EMPTY_BUFFER;
        context.fireChannelRead(rest);
        context.fireChannelReadComplete();
        if (inputEnded) {
            context.fireUserEventTriggered(ChannelInputShutdownEvent.INSTANCE);
        }
    }

    private void answer(ChannelHandlerContext context, PlainHead head, byte[] body, byte[] wire) {
        long began = tap.firstIn() == 0 ? System.nanoTime() : tap.firstIn();
        tap.read(held.isReadable());
        if (!host.begin()) {
            busy = true;
            wide = true;
            cancelWatch();
            tap.begin(held);
            widen.accept(context);
            MockHandler.tell(context, HttpResponseStatus.SERVICE_UNAVAILABLE, host.noMore());
            return;
        }
        Responder responder = host.responder();
        Responder.Found found = responder.find(new MockRequest(
                head.path(),
                head.type(),
                head.action(),
                head.type().inUtf8(body),
                body,
                head::fields,
                () -> MockHandler.remote(context)));
        busy = true;
        Optional<Responder.Reply> atOnce = responder.replyAtOnce(found);
        if (atOnce.isPresent()) {
            send(context, atOnce.get(), head, body, wire, began);
            return;
        }
        host.elsewhere(
                responder,
                found,
                reply -> context.executor().execute(() -> {
                    send(context, reply, head, body, wire, began);
                    work(context);
                    channelReadComplete(context);
                }),
                full -> send(context, full, head, body, wire, began));
    }

    private void send(
            ChannelHandlerContext context,
            Responder.Reply reply,
            PlainHead head,
            byte[] body,
            byte[] wire,
            long began) {
        if (reply.delayMillis() > 0) {
            context.executor()
                    .schedule(
                            () -> {
                                now(context, reply, head, body, wire, began);
                                work(context);
                                channelReadComplete(context);
                            },
                            reply.delayMillis(),
                            TimeUnit.MILLISECONDS);
        } else {
            now(context, reply, head, body, wire, began);
        }
    }

    private void now(
            ChannelHandlerContext context,
            Responder.Reply reply,
            PlainHead head,
            byte[] body,
            byte[] taken,
            long began) {
        byte[] wire = taken == null && records.takesFailed(reply)
                ? ByteBufUtil.getBytes(Unpooled.wrappedBuffer(head.bytes(), body))
                : taken;
        heard = System.nanoTime();
        // counted first, so that a client which has its answer finds itself counted
        host.count(reply.event());
        boolean[] within = {true};
        ReplyWriter.Wish wish =
                new ReplyWriter.Wish(head.keepAlive() && !host.isClosing(), head.takesGzip(), wire != null);
        writer.write(context, reply, wish, sent -> {
            host.end();
            heard = System.nanoTime();
            busy = sent.ends();
            if (wire != null) {
                records.keep(
                        began,
                        wire,
                        sent.bytes(),
                        reply,
                        Content.of(body),
                        Content.of(reply.body()),
                        () -> MockHandler.remote(context));
            } else {
                records.passOver();
            }
            if (!within[0]) {
                work(context);
                channelReadComplete(context);
            }
        });
        within[0] = false;
        unflushed = true;
    }

    /** A client may close its half of the connection and still wait for its answers. */
    @Override
    public void userEventTriggered(ChannelHandlerContext context, Object event) {
        if (!wide && event instanceof ChannelInputShutdownEvent) {
            inputEnded = true;
            if (!busy) {
                work(context);
            }
            return;
        }
        context.fireUserEventTriggered(event);
    }

    @Override
    public void channelInactive(ChannelHandlerContext context) {
        cancelWatch();
        held.release();
        held = Unpooled.EMPTY_BUFFER;
        context.fireChannelInactive();
    }

    private void cancelWatch() {
        if (watch != null) {
            watch.cancel(false);
        }
    }

    @Override
    public void exceptionCaught(ChannelHandlerContext context, Throwable cause) {
        if (wide) {
            context.fireExceptionCaught(cause);
        } else {
            context.close();
        }
    }
}
