package dev.mockbell.mock;

import dev.mockbell.content.Header;
import io.netty.buffer.ByteBuf;
import io.netty.buffer.ByteBufUtil;
import io.netty.buffer.Unpooled;
import io.netty.channel.ChannelFuture;
import io.netty.channel.ChannelFutureListener;
import io.netty.channel.ChannelHandlerContext;
import io.netty.channel.ChannelOption;
import io.netty.handler.codec.http.HttpResponseStatus;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.concurrent.TimeUnit;
import java.util.function.Consumer;

/** Writes replies to a connection, with what is made wrong with them. On the connection's own thread. */
final class ReplyWriter {
    private static final byte[] END = {'\r', '\n', '\r', '\n'};
    private static final byte[] NOTHING = {};

    /** So often something is sent of a slow answer. */
    private static final long DRIP_MILLIS = 100;

    /** So long a client has to see what was sent before its connection is reset. */
    private static final long SEEN_MILLIS = 50;

    private final MockHost host;

    ReplyWriter(MockHost host) {
        this.host = host;
    }

    /**
     * How a reply is wanted.
     *
     * @param gzip whether it may be packed
     * @param kept whether the bytes that go out are wanted
     */
    record Wish(boolean keepAlive, boolean gzip, boolean kept) {}

    /**
     * What went out.
     *
     * @param bytes empty when they were not wanted
     * @param ends whether nothing follows on the connection
     */
    record Sent(byte[] bytes, boolean ends) {}

    /**
     * Writes a reply. What is written is flushed by the caller.
     *
     * @param done hears when all of it was handed on, before this returns or later
     */
    void write(ChannelHandlerContext context, Responder.Reply reply, Wish wish, Consumer<Sent> done) {
        Trouble trouble = reply.trouble();
        byte[] body = reply.body();
        if (trouble.isNone()) {
            boolean packed = wish.gzip() && Packing.isWorth(body);
            byte[] content = packed ? Packing.gzip(body) : body;
            ByteBuf out = context.alloc().ioBuffer(content.length + 256);
            head(out, reply, reply.contentType(), packed, content.length, wish.keepAlive());
            out.writeBytes(content);
            finish(context, out, wish, !wish.keepAlive(), done);
            return;
        }
        switch (trouble.kind()) {
            case CLOSED -> {
                context.close();
                done.accept(new Sent(NOTHING, true));
            }
            case RESET -> reset(context, whole(context, reply, body, body.length, wish), trouble.amount(), done);
            case SLOW -> slowly(context, reply, wish, done);
            case CUT -> {
                byte[] cut = Arrays.copyOf(body, (int) ((long) body.length * trouble.amount() / 100));
                finish(context, whole(context, reply, cut, cut.length, wish), wish, !wish.keepAlive(), done);
            }
            case MALFORMED -> {
                byte[] broken = malformed(body);
                finish(context, whole(context, reply, broken, broken.length, wish), wish, !wish.keepAlive(), done);
            }
            case SAYS_MORE ->
                finish(context, whole(context, reply, body, body.length + trouble.amount(), wish), wish, true, done);
            case SAYS_LESS ->
                finish(
                        context,
                        whole(context, reply, body, Math.max(0, body.length - trouble.amount()), wish),
                        wish,
                        true,
                        done);
            default -> {
                ByteBuf out = context.alloc().ioBuffer(body.length + 256);
                head(out, reply, "text/html; charset=utf-8", false, body.length, wish.keepAlive());
                out.writeBytes(body);
                finish(context, out, wish, !wish.keepAlive(), done);
            }
        }
    }

    private ByteBuf whole(ChannelHandlerContext context, Responder.Reply reply, byte[] body, int said, Wish wish) {
        ByteBuf out = context.alloc().ioBuffer(body.length + 256);
        head(out, reply, reply.contentType(), false, said, wish.keepAlive());
        return out.writeBytes(body);
    }

    private static void finish(
            ChannelHandlerContext context, ByteBuf out, Wish wish, boolean ends, Consumer<Sent> done) {
        byte[] sent = wish.kept() ? ByteBufUtil.getBytes(out) : NOTHING;
        ChannelFuture written = context.write(out);
        if (ends) {
            context.flush();
            written.addListener(ChannelFutureListener.CLOSE);
        }
        done.accept(new Sent(sent, ends));
    }

    private static void reset(ChannelHandlerContext context, ByteBuf whole, int percent, Consumer<Sent> done) {
        int count = (int) ((long) whole.readableBytes() * percent / 100);
        byte[] sent = ByteBufUtil.getBytes(whole, whole.readerIndex(), count);
        whole.release();
        context.writeAndFlush(Unpooled.wrappedBuffer(sent))
                .addListener(written -> context.executor()
                        .schedule(
                                () -> {
                                    // closing without lingering resets
                                    context.channel().config().setOption(ChannelOption.SO_LINGER, 0);
                                    context.close();
                                },
                                SEEN_MILLIS,
                                TimeUnit.MILLISECONDS));
        done.accept(new Sent(sent, true));
    }

    private void slowly(ChannelHandlerContext context, Responder.Reply reply, Wish wish, Consumer<Sent> done) {
        byte[] body = reply.body();
        ByteBuf head = context.alloc().ioBuffer(256);
        head(head, reply, reply.contentType(), false, body.length, wish.keepAlive());
        byte[] all = wish.kept()
                ? ByteBufUtil.getBytes(Unpooled.wrappedBuffer(head.duplicate(), Unpooled.wrappedBuffer(body)))
                : NOTHING;
        context.writeAndFlush(head);
        int each = Math.max(1, (int) (reply.trouble().amount() * DRIP_MILLIS / 1_000));
        // fewer than ten bytes a second take longer between them
        long every = Math.max(DRIP_MILLIS, 1_000L * each / reply.trouble().amount());
        drip(context, body, 0, each, every, () -> {
            if (!wish.keepAlive()) {
                context.writeAndFlush(Unpooled.EMPTY_BUFFER).addListener(ChannelFutureListener.CLOSE);
            }
            done.accept(new Sent(all, !wish.keepAlive()));
        });
    }

    private static void drip(
            ChannelHandlerContext context, byte[] body, int from, int each, long every, Runnable done) {
        if (from >= body.length || !context.channel().isActive()) {
            done.run();
            return;
        }
        context.executor()
                .schedule(
                        () -> {
                            int count = Math.min(each, body.length - from);
                            context.writeAndFlush(Unpooled.wrappedBuffer(body, from, count));
                            drip(context, body, from + count, each, every, done);
                        },
                        every,
                        TimeUnit.MILLISECONDS);
    }

    /** With another name in its last end tag. */
    static byte[] malformed(byte[] body) {
        String text = new String(body, StandardCharsets.ISO_8859_1);
        int last = text.lastIndexOf("</");
        String broken = last < 0 ? text + "<" : text.substring(0, last + 2) + "x" + text.substring(last + 2);
        return broken.getBytes(StandardCharsets.ISO_8859_1);
    }

    private void head(
            ByteBuf out, Responder.Reply reply, String contentType, boolean packed, int length, boolean keepAlive) {
        HttpResponseStatus status = HttpResponseStatus.valueOf(reply.status());
        ByteBufUtil.writeAscii(out, "HTTP/1.1 ");
        ByteBufUtil.writeAscii(out, status.codeAsText());
        ByteBufUtil.writeAscii(out, " ");
        ByteBufUtil.writeAscii(out, status.reasonPhrase());
        boolean typed = false;
        for (Header field : reply.fields()) {
            typed |= field.name().equalsIgnoreCase("content-type");
            latin(out, field.name(), field.value());
        }
        if (!contentType.isEmpty() && !typed) {
            field(out, "content-type", contentType);
        }
        if (packed) {
            field(out, "content-encoding", "gzip");
            field(out, "vary", "Accept-Encoding");
        }
        if (reply.status() == HttpResponseStatus.UNSUPPORTED_MEDIA_TYPE.code()) {
            field(out, "accept-encoding", "gzip, deflate");
        }
        field(out, "date", host.date());
        field(out, "content-length", Integer.toString(length));
        if (!keepAlive) {
            field(out, "connection", "close");
        }
        out.writeBytes(END);
    }

    private static void field(ByteBuf out, String name, String value) {
        ByteBufUtil.writeAscii(out, "\r\n");
        ByteBufUtil.writeAscii(out, name);
        ByteBufUtil.writeAscii(out, ": ");
        ByteBufUtil.writeAscii(out, value);
    }

    private static void latin(ByteBuf out, String name, String value) {
        out.writeBytes(("\r\n" + name + ": " + value).getBytes(StandardCharsets.ISO_8859_1));
    }
}
