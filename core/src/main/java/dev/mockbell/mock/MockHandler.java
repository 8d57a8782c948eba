package dev.mockbell.mock;

import dev.mockbell.content.Content;
import dev.mockbell.content.MediaType;
import dev.mockbell.exchange.Exchange;
import dev.mockbell.exchange.Exchange.Outcome;
import dev.mockbell.exchange.Exchange.Way;
import dev.mockbell.exchange.HttpMessage;
import dev.mockbell.exchange.Message;
import dev.mockbell.exchange.Timing;
import dev.mockbell.wire.WireHead;
import dev.mockbell.xml.TextEncoding;
import io.netty.buffer.ByteBuf;
import io.netty.buffer.Unpooled;
import io.netty.channel.ChannelFutureListener;
import io.netty.channel.ChannelHandlerContext;
import io.netty.channel.SimpleChannelInboundHandler;
import io.netty.channel.socket.ChannelInputShutdownEvent;
import io.netty.handler.codec.http.DefaultFullHttpResponse;
import io.netty.handler.codec.http.FullHttpRequest;
import io.netty.handler.codec.http.FullHttpResponse;
import io.netty.handler.codec.http.HttpHeaderNames;
import io.netty.handler.codec.http.HttpMethod;
import io.netty.handler.codec.http.HttpResponseStatus;
import io.netty.handler.codec.http.HttpUtil;
import io.netty.handler.codec.http.HttpVersion;
import io.netty.handler.timeout.IdleStateEvent;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.util.ArrayDeque;
import java.util.Deque;
import java.util.Optional;
import java.util.concurrent.RejectedExecutionException;
import java.util.concurrent.TimeUnit;

/** Answers the requests of one connection, one after the other. */
final class MockHandler extends SimpleChannelInboundHandler<FullHttpRequest> {
    private static final int MOST_WAITING = 32;
    private static final int MOST_WAITING_BYTES = 1 << 20;

    private final MockHost host;
    private final ByteTap tap;
    private final Intake intake;
    private final Deque<FullHttpRequest> waiting = new ArrayDeque<>();
    private int waitingBytes;
    private Typed typed = Typed.NONE;
    private boolean busy;
    private boolean inputEnded;

    MockHandler(MockHost host, ByteTap tap, Intake intake) {
        this.host = host;
        this.tap = tap;
        this.intake = intake;
    }

    @Override
    protected void channelRead0(ChannelHandlerContext context, FullHttpRequest request) {
        if (busy) {
            waiting.add(request.retain());
            waitingBytes += request.content().readableBytes();
            if (waiting.size() >= MOST_WAITING || waitingBytes >= MOST_WAITING_BYTES) {
                context.channel().config().setAutoRead(false);
            }
            return;
        }
        busy = true;
        answer(context, request);
    }

    /** The answer to a request is written; the next one on this connection may be looked at. */
    private void answered(ChannelHandlerContext context) {
        FullHttpRequest next = waiting.poll();
        if (next == null) {
            busy = false;
            if (inputEnded) {
                context.writeAndFlush(Unpooled.EMPTY_BUFFER).addListener(ChannelFutureListener.CLOSE);
            }
            return;
        }
        waitingBytes -= next.content().readableBytes();
        if (waiting.size() < MOST_WAITING / 2
                && waitingBytes < MOST_WAITING_BYTES / 2
                && !inputEnded
                && !context.channel().config().isAutoRead()) {
            context.channel().config().setAutoRead(true);
        }
        context.executor().execute(() -> {
            try {
                answer(context, next);
            } finally {
                next.release();
            }
        });
    }

    /** A client may close its half of the connection and still wait for its answers. */
    @Override
    public void userEventTriggered(ChannelHandlerContext context, Object event) {
        if (event instanceof ChannelInputShutdownEvent) {
            inputEnded = true;
            if (!busy) {
                context.close();
            }
        }
        // silence is the client's only while it is the client's turn
        if (event instanceof IdleStateEvent && !busy) {
            context.close();
        }
    }

    @Override
    public void channelInactive(ChannelHandlerContext context) {
        for (FullHttpRequest left : waiting) {
            intake.gone(left.content().readableBytes());
            left.release();
        }
        waiting.clear();
        context.fireChannelInactive();
    }

    private void answer(ChannelHandlerContext context, FullHttpRequest request) {
        intake.gone(request.content().readableBytes());
        long began = tap.firstIn() == 0 ? System.nanoTime() : tap.firstIn();
        byte[] wire = tap.takeIn();
        boolean keepAlive = HttpUtil.isKeepAlive(request);
        if (!request.decoderResult().isSuccess()) {
            plain(context, HttpResponseStatus.BAD_REQUEST, "This is not an HTTP request that can be read.\n", false);
        } else if (request.method().equals(HttpMethod.GET) || request.method().equals(HttpMethod.HEAD)) {
            document(context, request, keepAlive);
        } else if (!request.method().equals(HttpMethod.POST)) {
            plain(context, HttpResponseStatus.METHOD_NOT_ALLOWED, "Use POST to call, GET for ?wsdl.\n", keepAlive);
        } else if (!host.serves(path(request))) {
            String known = String.join(", ", host.paths());
            String why = "There is no service at " + path(request) + "; it is at " + known + ".";
            host.count(new MockEvent(Instant.now(), "", -1, "404", why));
            plain(context, HttpResponseStatus.NOT_FOUND, why + "\n", keepAlive);
            record(began, wire, new byte[0], "", Outcome.FAILED, why, Bodies.NONE);
        } else {
            soap(context, request, wire, began, keepAlive);
        }
    }

    private static String path(FullHttpRequest request) {
        String uri = request.uri();
        int query = uri.indexOf('?');
        return query < 0 ? uri : uri.substring(0, query);
    }

    private void soap(
            ChannelHandlerContext context, FullHttpRequest request, byte[] wire, long began, boolean keepAlive) {
        byte[] body = new byte[request.content().readableBytes()];
        request.content().getBytes(request.content().readerIndex(), body);
        typed = typed.of(request.headers().get(HttpHeaderNames.CONTENT_TYPE, ""));
        String action = unquoted(request.headers().get("SOAPAction", typed.action()));
        Responder responder = host.responder();
        byte[] read = typed.inUtf8(body);
        Responder.Found found = responder.find(read, action);
        if (found.quick()) {
            send(context, responder.reply(found, read), body, wire, began, keepAlive);
            return;
        }
        try {
            host.workers().execute(() -> {
                Responder.Reply reply = responder.reply(found, read);
                context.executor().execute(() -> send(context, reply, body, wire, began, keepAlive));
            });
        } catch (RejectedExecutionException full) {
            plain(
                    context,
                    HttpResponseStatus.SERVICE_UNAVAILABLE,
                    "More requests than the mock can take.\n",
                    keepAlive);
        }
    }

    /** What a Content-Type says; kept, since a client writes the same again and again. */
    private record Typed(String text, boolean isUtf8, String action) {
        static final Typed NONE = new Typed("", true, "");

        Typed of(String other) {
            if (text.equals(other)) {
                return this;
            }
            MediaType type = new MediaType(other);
            boolean utf8 = type.parameter("charset")
                    .map(c -> c.equalsIgnoreCase("UTF-8"))
                    .orElse(true);
            return new Typed(other, utf8, type.parameter("action").orElse(""));
        }

        /** Nearly every request begins with a letter's element in UTF-8, which is seen without looking for more. */
        byte[] inUtf8(byte[] body) {
            boolean plain = isUtf8 && body.length > 1 && body[0] == '<' && body[1] > '?';
            return plain ? body : TextEncoding.inUtf8(body, text);
        }
    }

    private static String unquoted(String text) {
        String bare = text.strip();
        return bare.length() > 1 && bare.startsWith("\"") && bare.endsWith("\"")
                ? bare.substring(1, bare.length() - 1)
                : bare;
    }

    private void send(
            ChannelHandlerContext context,
            Responder.Reply reply,
            byte[] requestBody,
            byte[] wire,
            long began,
            boolean keepAlive) {
        if (reply.delayMillis() > 0) {
            context.executor()
                    .schedule(
                            () -> now(context, reply, requestBody, wire, began, keepAlive),
                            reply.delayMillis(),
                            TimeUnit.MILLISECONDS);
        } else {
            now(context, reply, requestBody, wire, began, keepAlive);
        }
    }

    private void now(
            ChannelHandlerContext context,
            Responder.Reply reply,
            byte[] requestBody,
            byte[] wire,
            long began,
            boolean keepAlive) {
        ByteBuf content = Unpooled.wrappedBuffer(reply.body());
        FullHttpResponse response =
                new DefaultFullHttpResponse(HttpVersion.HTTP_1_1, HttpResponseStatus.valueOf(reply.status()), content);
        if (reply.body().length > 0) {
            response.headers().set(HttpHeaderNames.CONTENT_TYPE, reply.version().contentType(""));
        }
        // counted first, so that a client which has its answer finds itself counted
        host.count(reply.event());
        write(context, response, keepAlive);
        Outcome outcome =
                !reply.event().matched() ? Outcome.FAILED : reply.fault().isPresent() ? Outcome.FAULT : Outcome.FINE;
        String note = reply.fault().orElse("");
        record(
                began,
                wire,
                tap.takeOut(),
                reply.event().operation(),
                outcome,
                note,
                new Bodies(
                        Content.of(requestBody),
                        Content.of(reply.body()),
                        "mock answer " + reply.event().title()));
    }

    private void document(ChannelHandlerContext context, FullHttpRequest request, boolean keepAlive) {
        tap.takeOut();
        String query = request.uri().contains("?")
                ? request.uri().substring(request.uri().indexOf('?') + 1)
                : "";
        Optional<byte[]> found = host.document(path(request), query);
        if (found.isPresent()) {
            FullHttpResponse response = new DefaultFullHttpResponse(
                    HttpVersion.HTTP_1_1, HttpResponseStatus.OK, Unpooled.wrappedBuffer(found.get()));
            response.headers().set(HttpHeaderNames.CONTENT_TYPE, "text/xml; charset=utf-8");
            write(context, response, keepAlive);
            tap.takeOut();
        } else {
            StringBuilder text = new StringBuilder("Mock Bell answers here.\n");
            host.paths().forEach(p -> text.append(host.base()).append(p).append("?wsdl\n"));
            boolean known = host.serves(path(request)) || "/".equals(path(request));
            plain(context, known ? HttpResponseStatus.OK : HttpResponseStatus.NOT_FOUND, text.toString(), keepAlive);
        }
    }

    private void plain(ChannelHandlerContext context, HttpResponseStatus status, String text, boolean keepAlive) {
        FullHttpResponse response = new DefaultFullHttpResponse(
                HttpVersion.HTTP_1_1, status, Unpooled.copiedBuffer(text, StandardCharsets.UTF_8));
        response.headers().set(HttpHeaderNames.CONTENT_TYPE, "text/plain; charset=utf-8");
        write(context, response, keepAlive);
        tap.takeOut();
    }

    private void write(ChannelHandlerContext context, FullHttpResponse response, boolean keepAlive) {
        HttpUtil.setContentLength(response, response.content().readableBytes());
        HttpUtil.setKeepAlive(response, keepAlive);
        var done = context.writeAndFlush(response);
        if (!keepAlive) {
            done.addListener(ChannelFutureListener.CLOSE);
        } else {
            // with more to answer only after this event, when the bytes of this answer have been taken
            if (waiting.isEmpty() && !inputEnded) {
                busy = false;
            } else {
                context.executor().execute(() -> answered(context));
            }
        }
    }

    private record Bodies(Content request, Content response, String origin) {
        private static final Bodies NONE = new Bodies(Content.NONE, Content.NONE, "mock");
    }

    private void record(
            long began, byte[] in, byte[] out, String operation, Outcome outcome, String note, Bodies bodies) {
        if (!host.records()) {
            return;
        }
        long nanos = System.nanoTime() - began;
        Content received = Content.of(in);
        Message request = WireHead.read(received, bodies.request())
                .orElseGet(() -> new HttpMessage("", java.util.List.of(), bodies.request(), received));
        Optional<Message> response = WireHead.read(Content.of(out), bodies.response());
        host.record(new Exchange(
                0,
                Instant.now().minusNanos(nanos),
                Way.ANSWERED,
                host.plan().contract(),
                operation,
                host.base() + request.title().replaceAll("^\\S+ (\\S+).*", "$1"),
                bodies.origin(),
                request,
                response,
                new Timing(0, 0, nanos, 0),
                outcome,
                note));
    }

    @Override
    public void exceptionCaught(ChannelHandlerContext context, Throwable cause) {
        context.close();
    }
}
