package dev.mockbell.tap;

import dev.mockbell.content.Content;
import dev.mockbell.content.ContentSink;
import dev.mockbell.content.Header;
import dev.mockbell.exchange.Message;
import dev.mockbell.problem.Problem;
import dev.mockbell.tap.HttpStream.Body;
import dev.mockbell.tap.HttpStream.Kind;
import dev.mockbell.wire.ServerTls;
import io.netty.bootstrap.Bootstrap;
import io.netty.buffer.ByteBuf;
import io.netty.buffer.Unpooled;
import io.netty.channel.Channel;
import io.netty.channel.ChannelFuture;
import io.netty.channel.ChannelFutureListener;
import io.netty.channel.ChannelHandlerContext;
import io.netty.channel.ChannelInboundHandlerAdapter;
import io.netty.channel.ChannelInitializer;
import io.netty.channel.ChannelOption;
import io.netty.channel.socket.ChannelInputShutdownEvent;
import io.netty.channel.socket.DuplexChannel;
import io.netty.channel.socket.SocketChannel;
import io.netty.handler.ssl.SslHandler;
import java.io.IOException;
import java.net.InetSocketAddress;
import java.net.URI;
import java.net.URISyntaxException;
import java.nio.charset.StandardCharsets;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.CompletableFuture;
import javax.net.ssl.SSLEngine;
import javax.net.ssl.SSLException;
import javax.net.ssl.SSLParameters;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/**
 * A client's connection and the one to the service that goes with it. Both are served by one thread, so nothing here is
 * shared. Bytes go on as they come; whoever cannot take more makes the other side wait.
 */
final class Relay extends ChannelInboundHandlerAdapter {
    private static final Logger LOG = LoggerFactory.getLogger(Relay.class);
    private static final int CONNECT_MILLIS = 10_000;

    /** So much waits for a connection to the service at most, before the client is made to wait. */
    private static final int WAITING = 256 << 10;

    /** So many requests of a connection may be unanswered. */
    private static final int MOST_AT_ONCE = 256;

    /** A larger message goes on without waiting. */
    private static final long MOST_HELD = 64L << 20;

    private final TapHost host;
    private final TapPlan plan;
    private final HttpStream asked = new HttpStream(new Asked());
    private final HttpStream told = new HttpStream(new Told());
    private final Deque<Trace> traces = new ArrayDeque<>();
    private final Deque<ByteBuf> waiting = new ArrayDeque<>();
    private int waitingBytes;
    private Channel front;
    private Outlet toFront;
    private Channel back;
    private Outlet toBack;
    private Destination destination;
    private boolean connecting;
    private boolean open;
    private long connectBegan;
    private long connectTook;
    private Trace current;
    /** Whether everything that passes is opaque. */
    private boolean tunnel;
    /** Whether this is within a tunnel that was opened. */
    private boolean inside;

    private boolean refused;
    /** The request that is put together because it may have to wait; null while none is. */
    private ContentSink heldRequest;

    private String heldHead = "";
    /** The answer likewise. */
    private ContentSink heldAnswer;

    private final List<Held> waits = new ArrayList<>();
    private boolean answerWaits;
    private boolean frontEnded;
    private boolean over;
    private ContentSink document;
    private Head documentHead;
    private boolean closeAfterAnswer;

    Relay(TapHost host, TapPlan plan) {
        this.host = host;
        this.plan = plan;
        this.destination = plan.target().map(Destination::of).orElse(null);
    }

    @Override
    public void handlerAdded(ChannelHandlerContext context) {
        front = context.channel();
        toFront = new Outlet(front);
    }

    private String caller() {
        return front.remoteAddress() instanceof InetSocketAddress address
                ? address.getAddress().getHostAddress()
                : "";
    }

    @Override
    public void channelRead(ChannelHandlerContext context, Object message) {
        asked.feed((ByteBuf) message);
    }

    @Override
    public void channelReadComplete(ChannelHandlerContext context) {
        if (open) {
            toBack.flush();
        }
        if (asked.kept() > WAITING) {
            front.config().setAutoRead(false);
        }
    }

    @Override
    public void channelWritabilityChanged(ChannelHandlerContext context) {
        if (back != null) {
            back.config().setAutoRead(front.isWritable());
        }
    }

    @Override
    public void userEventTriggered(ChannelHandlerContext context, Object event) throws Exception {
        if (event instanceof ChannelInputShutdownEvent) {
            // the client has said all: the service hears that, and may still answer
            frontEnded = true;
            waits.forEach(Held::callerDone);
            if (open && back instanceof DuplexChannel duplex && !destination.tls()) {
                toBack.flush();
                back.writeAndFlush(Unpooled.EMPTY_BUFFER).addListener(f -> duplex.shutdownOutput());
            } else if (traces.isEmpty() && back == null) {
                front.close();
            }
        }
        super.userEventTriggered(context, event);
    }

    @Override
    public void channelInactive(ChannelHandlerContext context) {
        end("the client went away before it was answered");
    }

    @Override
    public void exceptionCaught(ChannelHandlerContext context, Throwable cause) {
        if (!(cause instanceof IOException)) {
            host.trouble("A client could not be served: " + Problem.reason(cause));
        }
        LOG.debug("the client's connection failed", cause);
        context.close();
    }

    /** Both connections end, whatever is under way. */
    void end(String why) {
        if (over) {
            return;
        }
        over = true;
        if (back != null) {
            back.close();
        }
        front.close();
        if (told.closed()) {
            LOG.trace("the answer ended with its connection");
        }
        asked.closed();
        waits.forEach(Held::abandon);
        waits.clear();
        toFront.close();
        if (toBack != null) {
            toBack.close();
        }
        for (Trace trace : traces) {
            trace.trouble(tunnel ? "" : why);
            host.passed(trace, tunnel);
        }
        traces.clear();
        waiting.forEach(ByteBuf::release);
        waiting.clear();
    }

    /** What the client sends. */
    private final class Asked implements HttpStream.Ear {
        @Override
        public Body head(String text) {
            Head head = Head.of(text);
            if (refused) {
                return Body.OPAQUE;
            }
            if (isProxying()) {
                return proxied(head);
            }
            current = begin(head);
            pass(head, head.title());
            return head.requestBody();
        }

        @Override
        public void body(ByteBuf bytes) {
            if (refused) {
                return;
            }
            if (current == null) {
                // it is no HTTP: what passes is one exchange without a head
                if (destination == null) {
                    refuse(400, "This is a forward proxy for HTTP, and what came is none.");
                    return;
                }
                current = new Trace(destination.base(), caller());
                host.began();
                traces.add(current);
                tunnel = true;
                told.opaque();
            }
            current.requestBody(bytes);
            if (heldRequest == null) {
                send(bytes.retainedSlice());
            } else {
                hold(bytes);
            }
        }

        @Override
        public void end() {
            Trace ended = current;
            if (current != null) {
                current.requestEnded();
                current = null;
            }
            if (ended != null && heldRequest != null) {
                consider(ended);
                return;
            }
            // the next may go elsewhere; and nobody may ask without end and never hear
            if (oneByOne() && !traces.isEmpty() || traces.size() >= MOST_AT_ONCE) {
                asked.pause(true);
            }
        }
    }

    /** Sends a head on, or begins to put the request together, when it may have to wait. */
    private void pass(Head head, String title) {
        if (!host.holds().wants(false) || head.length() > MOST_HELD) {
            send(forService(head, title));
            return;
        }
        heldRequest = new ContentSink();
        heldHead = forService(head, title).toString(StandardCharsets.ISO_8859_1);
        if (head.field("Expect").isPresent()) {
            // the body comes only when somebody wants it, and from here on that is the relay (RFC 9110 §10.1.1)
            heldHead = Head.of(heldHead).with(title, List.of(new Header("Expect", null)));
            write(bytes("HTTP/1.1 100 Continue\r\n\r\n"));
            toFront.flush();
        }
    }

    private void hold(ByteBuf bytes) {
        try {
            heldRequest.write(HttpStream.bytes(bytes));
            if (heldRequest.size() <= MOST_HELD) {
                return;
            }
        } catch (IOException e) {
            LOG.warn("a request cannot be put together to be held", e);
        }
        // too large to be looked at: it goes on
        send(bytes(heldHead));
        send(Unpooled.wrappedBuffer(heldRequest.content().bytes()));
        heldRequest = null;
    }

    /** Looks, elsewhere, whether a request that is whole is to wait; nothing else is taken from this client meanwhile. */
    private void consider(Trace trace) {
        asked.pause(true);
        Content body = heldRequest.content();
        heldRequest = null;
        String head = heldHead;
        host.workers().execute(() -> {
            Message message = trace.requestMessage();
            Optional<Held> held = host.holds()
                    .consider(
                            message,
                            Optional.empty(),
                            caller(),
                            verdict -> front.eventLoop().execute(() -> decided(trace, head, body, verdict)));
            held.ifPresent(h -> front.eventLoop().execute(() -> waiting(h)));
        });
    }

    /** Somebody waits in it; when the relay is over nobody does any more. */
    private void waiting(Held held) {
        if (over) {
            held.abandon();
        } else {
            waits.removeIf(Held::isOver);
            waits.add(held);
            if (frontEnded) {
                held.callerDone();
            }
        }
    }

    private void decided(Trace trace, String head, Content body, Held.Verdict verdict) {
        if (over) {
            return;
        }
        if (verdict instanceof Held.Verdict.Pass pass) {
            if (pass.instead().isPresent()) {
                Message instead = pass.instead().get();
                trace.askedBy(instead);
                trace.byHand("the request was changed by hand");
                send(Unpooled.wrappedBuffer(instead.wire().bytes()));
            } else {
                send(bytes(head));
                if (!body.isEmpty()) {
                    send(Unpooled.wrappedBuffer(body.bytes()));
                }
            }
            if (open) {
                toBack.flush();
            }
            if (traces.isEmpty()) {
                goOn();
            }
        } else if (verdict instanceof Held.Verdict.Answered answered) {
            traces.remove(trace);
            trace.answeredBy(answered.answer());
            trace.byHand("answered by hand");
            trace.answerEnded();
            write(Unpooled.wrappedBuffer(answered.answer().wire().bytes()));
            toFront.flush();
            host.passed(trace, false);
            goOn();
        } else {
            end("it was dropped by hand");
        }
    }

    /** Whether requests say where they go. */
    private boolean isProxying() {
        return plan.target().isEmpty() && !inside && !tunnel;
    }

    private Trace begin(Head head) {
        Trace trace = new Trace(destination.base(), caller());
        trace.request(head);
        host.began();
        traces.add(trace);
        return trace;
    }

    /** As the service is to have it: by its own name. */
    private ByteBuf forService(Head head, String title) {
        List<Header> changes = !isProxying()
                ? List.of(new Header("Host", destination.authority()))
                : List.of(
                        new Header("Host", destination.authority()),
                        new Header("Proxy-Connection", null),
                        new Header("Proxy-Authorization", null));
        boolean same = title.equals(head.title())
                && head.field("Host").filter(destination.authority()::equals).isPresent();
        return bytes(same ? head.text() : head.with(title, changes));
    }

    private static ByteBuf bytes(String text) {
        return Unpooled.wrappedBuffer(text.getBytes(StandardCharsets.ISO_8859_1));
    }

    /** A request to a forward proxy (RFC 9112 §3.2.2, §3.2.3). */
    private Body proxied(Head head) {
        if ("CONNECT".equals(head.method())) {
            return connect(head);
        }
        Optional<URI> address = absolute(head.target());
        if (address.isEmpty()) {
            refuse(
                    400,
                    "This is a forward proxy. Set it as the HTTP proxy of your client; it serves no pages of its own.");
            return Body.OPAQUE;
        }
        Destination to = Destination.of(address.get());
        if (!to.equals(destination)) {
            leave();
            destination = to;
        }
        current = begin(head);
        String path = address.get().getRawPath();
        String query = address.get().getRawQuery();
        String target = (path == null || path.isEmpty() ? "/" : path) + (query == null ? "" : "?" + query);
        String version = head.title().substring(head.title().lastIndexOf(' ') + 1);
        pass(head, head.method() + " " + target + " " + version);
        return head.requestBody();
    }

    private static Optional<URI> absolute(String target) {
        try {
            URI address = new URI(target);
            boolean http = "http".equalsIgnoreCase(address.getScheme()) && address.getHost() != null;
            return http && address.getPort() < 65_536 ? Optional.of(address) : Optional.empty();
        } catch (URISyntaxException e) {
            return Optional.empty();
        }
    }

    /** The connection to another service is left; nothing is under way on it. */
    private void leave() {
        if (open) {
            Channel left = back;
            back = null;
            toBack.close();
            toBack = null;
            open = false;
            connecting = false;
            told.restart();
            left.close();
        }
    }

    private Body connect(Head head) {
        String target = head.target();
        int colon = target.lastIndexOf(':');
        int port = colon < 0 ? -1 : number(target.substring(colon + 1));
        if (port < 1 || port > 65_535 || colon == 0) {
            refuse(400, "A tunnel needs a host and a port.");
            return Body.OPAQUE;
        }
        leave();
        String name = target.substring(0, colon).replaceAll("^\\[|]$", "");
        if (plan.opens()) {
            opened(name, port);
            return Body.OPAQUE;
        }
        destination = new Destination(name, port, false);
        tunnel = true;
        current = begin(head);
        current.opaque();
        told.opaque();
        connectTo(() -> front.writeAndFlush(bytes("HTTP/1.1 200 Connection established\r\n\r\n")));
        return Body.OPAQUE;
    }

    private static int number(String text) {
        try {
            return Integer.parseInt(text);
        } catch (NumberFormatException e) {
            return -1;
        }
    }

    /** The client is told that the tunnel stands, and speaks TLS to the project's own certificate for that name. */
    private void opened(String name, int port) {
        front.config().setAutoRead(false);
        CompletableFuture.supplyAsync(() -> host.around().keys().apply(name), host.workers())
                .whenComplete((keys, failure) -> front.eventLoop().execute(() -> {
                    if (failure != null) {
                        refuse(502, "There is no certificate for " + name + ": " + Problem.reason(failure));
                        return;
                    }
                    opened(name, port, keys);
                }));
    }

    private void opened(String name, int port, ServerTls keys) {
        destination = new Destination(name, port, true);
        inside = true;
        front.writeAndFlush(bytes("HTTP/1.1 200 Connection established\r\n\r\n"))
                .addListener(f -> {
                    asked.restart();
                    front.pipeline().addFirst(new SslHandler(keys.engine()));
                    front.config().setAutoRead(true);
                    front.read();
                });
    }

    /** Answers from here, and ends. */
    private void refuse(int status, String words) {
        String body = words + "\n";
        byte[] text = body.getBytes(StandardCharsets.UTF_8);
        String head = "HTTP/1.1 " + status + (status == 400 ? " Bad Request" : " Bad Gateway")
                + "\r\nContent-Type: text/plain; charset=utf-8\r\nContent-Length: " + text.length
                + "\r\nConnection: close\r\n\r\n";
        refused = true;
        front.writeAndFlush(Unpooled.wrappedBuffer(head.getBytes(StandardCharsets.ISO_8859_1), text))
                .addListener(ChannelFutureListener.CLOSE);
    }

    /** Sends on to the service, connecting first where there is no connection. */
    private void send(ByteBuf bytes) {
        if (open) {
            toBack.write(bytes);
            if (!back.isWritable()) {
                front.config().setAutoRead(false);
                toBack.flush();
            }
            return;
        }
        waiting.add(bytes);
        waitingBytes += bytes.readableBytes();
        if (waitingBytes > WAITING) {
            front.config().setAutoRead(false);
        }
        if (!connecting) {
            connectTo(() -> {});
        }
    }

    private void connectTo(Runnable then) {
        connecting = true;
        connectBegan = System.nanoTime();
        Destination to = destination;
        Bootstrap bootstrap = new Bootstrap()
                .group(front.eventLoop())
                .channel(host.around().loops().socketChannel())
                .option(ChannelOption.TCP_NODELAY, true)
                .option(ChannelOption.ALLOW_HALF_CLOSURE, true)
                .option(ChannelOption.CONNECT_TIMEOUT_MILLIS, CONNECT_MILLIS)
                .handler(new ChannelInitializer<SocketChannel>() {
                    @Override
                    protected void initChannel(SocketChannel channel) {
                        if (to.tls()) {
                            channel.pipeline().addLast(tls(to));
                        }
                        channel.pipeline().addLast(new Back());
                    }
                });
        // a name is looked up elsewhere than on this thread, which others share
        host.resolve(to)
                .whenComplete((address, failure) -> front.eventLoop().execute(() -> {
                    if (over) {
                        return;
                    }
                    if (failure != null) {
                        unreachable(to, failure);
                        return;
                    }
                    ChannelFuture future = bootstrap.connect(address);
                    back = future.channel();
                    future.addListener((ChannelFuture f) -> connected(f, to, then));
                }));
    }

    private SslHandler tls(Destination to) {
        SSLEngine engine = host.trust().createSSLEngine(to.host(), to.port());
        engine.setUseClientMode(true);
        SSLParameters names = engine.getSSLParameters();
        names.setEndpointIdentificationAlgorithm("HTTPS");
        engine.setSSLParameters(names);
        return new SslHandler(engine);
    }

    private void connected(ChannelFuture future, Destination to, Runnable then) {
        if (!future.isSuccess()) {
            unreachable(to, future.cause());
            return;
        }
        if (!to.tls()) {
            ready(then);
            return;
        }
        future.channel().pipeline().get(SslHandler.class).handshakeFuture().addListener(f -> {
            if (f.isSuccess()) {
                ready(then);
            } else {
                unreachable(to, f.cause());
            }
        });
    }

    private void ready(Runnable then) {
        if (over) {
            return;
        }
        open = true;
        connecting = false;
        connectTook = System.nanoTime() - connectBegan;
        traces.forEach(t -> t.connected(connectTook));
        then.run();
        toBack = new Outlet(back);
        waiting.forEach(toBack::write);
        waiting.clear();
        waitingBytes = 0;
        toBack.flush();
        front.config().setAutoRead(takesMore());
        if (frontEnded && !destination.tls() && back instanceof DuplexChannel duplex) {
            back.writeAndFlush(Unpooled.EMPTY_BUFFER).addListener(f -> duplex.shutdownOutput());
        }
    }

    /** Nobody is there: the client is told so, as a gateway tells it (RFC 9110 §15.6.3). */
    private void unreachable(Destination to, Throwable cause) {
        String why = cause instanceof SSLException
                ? "TLS with " + to.authority() + " failed: " + Problem.reason(cause)
                : "Nothing answers at " + to.authority() + ": " + Problem.reason(cause);
        traces.forEach(t -> t.trouble(why));
        host.trouble(why);
        waiting.forEach(ByteBuf::release);
        waiting.clear();
        refuse(502, why);
    }

    private void write(ByteBuf bytes) {
        toFront.write(bytes);
        if (!front.isWritable() && back != null) {
            back.config().setAutoRead(false);
        }
    }

    /** What the service answers. */
    private final class Told implements HttpStream.Ear {
        @Override
        public Body head(String text) {
            Head head = Head.of(text);
            Trace trace = traces.peek();
            if (trace == null || trace.request().isEmpty()) {
                // nobody asked: it goes as it comes
                write(bytes(text));
                return Body.UNTIL_CLOSE;
            }
            Body body = head.answerBody(trace.request().get().method());
            if (head.status() / 100 == 1 && head.status() != 101) {
                write(bytes(text));
                toFront.flush();
                return body;
            }
            trace.answer(head);
            documentHead = head;
            closeAfterAnswer = body.kind() == Kind.UNTIL_CLOSE;
            if (body.kind() == Kind.OPAQUE) {
                tunnel = true;
                asked.opaque();
                current = trace;
            } else if (plan.target().isPresent()
                    && AddressRewriting.concerns(trace.request().get())
                    && AddressRewriting.concernsAnswer(head)
                    && body.kind() != Kind.NONE) {
                document = new ContentSink();
                keep(bytes(text));
                return body;
            }
            if (host.holds().wants(true) && body.kind() != Kind.OPAQUE && head.length() <= MOST_HELD) {
                heldAnswer = new ContentSink();
                heldHead = forClient(head, trace);
                return body;
            }
            write(bytes(forClient(head, trace)));
            return body;
        }

        @Override
        public void body(ByteBuf bytes) {
            Trace trace = traces.peek();
            if (trace != null) {
                trace.answerBody(bytes);
            }
            if (heldAnswer != null) {
                holdAnswer(bytes);
            } else if (document == null) {
                write(bytes.retainedSlice());
            } else {
                keep(bytes.retainedSlice());
                if (document.size() > AddressRewriting.LARGEST) {
                    asItCame();
                }
            }
        }

        @Override
        public void end() {
            if (documentHead == null) {
                // it was one of those before the answer (RFC 9110 §15.2)
                return;
            }
            Head head = documentHead;
            documentHead = null;
            if (heldAnswer != null) {
                considerAnswer(traces.peek());
                return;
            }
            Trace trace = traces.poll();
            if (document != null) {
                rewritten(
                        head, trace == null ? Optional.empty() : trace.request().flatMap(r -> r.field("Host")));
            }
            if (trace != null) {
                trace.answerEnded();
                host.passed(trace, false);
            }
            answered();
        }
    }

    private void holdAnswer(ByteBuf bytes) {
        try {
            heldAnswer.write(HttpStream.bytes(bytes));
            if (heldAnswer.size() <= MOST_HELD) {
                return;
            }
        } catch (IOException e) {
            LOG.warn("an answer cannot be put together to be held", e);
        }
        answerAsItCame();
    }

    /** It goes on as far as it is there. */
    private void answerAsItCame() {
        write(bytes(heldHead));
        Content body = heldAnswer.content();
        heldAnswer = null;
        if (!body.isEmpty()) {
            write(Unpooled.wrappedBuffer(body.bytes()));
        }
    }

    private void considerAnswer(Trace trace) {
        answerWaits = true;
        back.config().setAutoRead(false);
        Content body = heldAnswer.content();
        heldAnswer = null;
        String head = heldHead;
        trace.answerEnded();
        host.workers().execute(() -> {
            Optional<Held> held = host.holds()
                    .consider(
                            trace.requestMessage(),
                            Optional.of(trace.answerMessage()),
                            caller(),
                            verdict -> front.eventLoop().execute(() -> answerDecided(trace, head, body, verdict)));
            held.ifPresent(h -> front.eventLoop().execute(() -> waiting(h)));
        });
    }

    private void answerDecided(Trace trace, String head, Content body, Held.Verdict verdict) {
        answerWaits = false;
        if (over) {
            return;
        }
        if (verdict instanceof Held.Verdict.Pass pass) {
            if (pass.instead().isPresent()) {
                Message instead = pass.instead().get();
                trace.answeredBy(instead);
                trace.byHand("the answer was changed by hand");
                write(Unpooled.wrappedBuffer(instead.wire().bytes()));
            } else {
                write(bytes(head));
                if (!body.isEmpty()) {
                    write(Unpooled.wrappedBuffer(body.bytes()));
                }
            }
            toFront.flush();
            traces.remove(trace);
            host.passed(trace, false);
            if (closeAfterAnswer || !back.isActive()) {
                front.writeAndFlush(Unpooled.EMPTY_BUFFER).addListener(f -> end(""));
                return;
            }
            back.config().setAutoRead(true);
            answered();
        } else {
            end("its answer was dropped by hand");
        }
    }

    /** Where an answer leads elsewhere on the same service, it leads there by way of the tap. */
    private String forClient(Head head, Trace trace) {
        Optional<String> leads = plan.target().isEmpty()
                ? Optional.empty()
                : head.field("Location").filter(l -> AddressRewriting.isAt(l, destination));
        if (leads.isEmpty()) {
            return head.text();
        }
        String here = host.baseFor(trace.request().flatMap(r -> r.field("Host")));
        return head.with(
                head.title(), List.of(new Header("Location", AddressRewriting.moved(leads.get(), destination, here))));
    }

    /** Whether a request is taken only when the one before it is answered. */
    private boolean oneByOne() {
        return isProxying() || host.holds().rule().isPresent();
    }

    /** An answer is through: the next request may be taken. */
    private void answered() {
        if (asked.isPaused() && traces.size() < (oneByOne() ? 1 : MOST_AT_ONCE)) {
            goOn();
        }
    }

    /** Takes what came meanwhile. */
    private void goOn() {
        front.eventLoop().execute(() -> {
            asked.pause(false);
            front.config().setAutoRead(takesMore());
            if (open) {
                toBack.flush();
            }
        });
    }

    /** Some is read also while nothing may go on: only who reads hears that the client is gone. */
    private boolean takesMore() {
        return asked.kept() <= WAITING && (open ? back.isWritable() : waitingBytes <= WAITING);
    }

    private void keep(ByteBuf bytes) {
        try {
            document.write(HttpStream.bytes(bytes));
        } catch (IOException e) {
            LOG.warn("a document cannot be kept to be rewritten", e);
            asItCame();
        } finally {
            bytes.release();
        }
    }

    /** The document goes on as it is. */
    private void asItCame() {
        Content all = document.content();
        document = null;
        write(Unpooled.wrappedBuffer(all.bytes()));
    }

    /** @param calledBy the name by which the client called */
    private void rewritten(Head head, Optional<String> calledBy) {
        Content wire = document.content();
        document = null;
        byte[] out;
        try {
            String here = host.baseFor(calledBy);
            out = AddressRewriting.rewritten(head, wire, destination, here).orElseGet(wire::bytes);
        } catch (RuntimeException e) {
            LOG.info("a document cannot be rewritten", e);
            out = wire.bytes();
        }
        write(Unpooled.wrappedBuffer(out));
        toFront.flush();
        if (closeAfterAnswer) {
            front.writeAndFlush(Unpooled.EMPTY_BUFFER).addListener(ChannelFutureListener.CLOSE);
        }
    }

    /** The connection to the service. */
    private final class Back extends ChannelInboundHandlerAdapter {
        @Override
        public void channelRead(ChannelHandlerContext context, Object message) {
            if (context.channel() == back) {
                told.feed((ByteBuf) message);
            } else {
                ((ByteBuf) message).release();
            }
        }

        @Override
        public void channelReadComplete(ChannelHandlerContext context) {
            toFront.flush();
        }

        @Override
        public void channelWritabilityChanged(ChannelHandlerContext context) {
            if (context.channel() == back && open) {
                front.config().setAutoRead(takesMore());
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
            if (context.channel() != back || over || !open) {
                return;
            }
            told.closed();
            if (answerWaits) {
                // it ends once that is decided
                return;
            }
            if (heldAnswer != null) {
                answerAsItCame();
            }
            if (document != null) {
                asItCame();
            }
            // what the client has of it is flushed before its connection ends too
            toFront.flush();
            front.writeAndFlush(Unpooled.EMPTY_BUFFER)
                    .addListener(f -> Relay.this.end("the service closed the connection before the answer was whole"));
        }

        @Override
        public void exceptionCaught(ChannelHandlerContext context, Throwable cause) {
            LOG.debug("the service's connection failed", cause);
            context.close();
        }
    }
}
