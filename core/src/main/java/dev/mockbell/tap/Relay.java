package dev.mockbell.tap;

import dev.mockbell.content.Content;
import dev.mockbell.content.Header;
import dev.mockbell.exchange.Message;
import dev.mockbell.problem.Problem;
import dev.mockbell.tap.HttpStream.Body;
import dev.mockbell.tap.HttpStream.Kind;
import dev.mockbell.wire.ServerTls;
import io.netty.buffer.ByteBuf;
import io.netty.buffer.Unpooled;
import io.netty.channel.Channel;
import io.netty.channel.ChannelFutureListener;
import io.netty.channel.ChannelHandlerContext;
import io.netty.channel.ChannelInboundHandlerAdapter;
import io.netty.channel.socket.ChannelInputShutdownEvent;
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
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/**
 * A client's connection and the one to the service that goes with it. Both are served by one thread, so nothing here is
 * shared. Bytes go on as they come; whoever cannot take more makes the other side wait.
 */
final class Relay extends ChannelInboundHandlerAdapter {
    private static final Logger LOG = LoggerFactory.getLogger(Relay.class);
    /** So many requests of a connection may be unanswered. */
    private static final int MOST_AT_ONCE = 256;

    /** A larger message goes on without waiting. */
    private static final long MOST_HELD = 64L << 20;

    private final TapHost host;
    private final TapPlan plan;
    private final HttpStream asked = new HttpStream(new Asked());
    private final HttpStream told = new HttpStream(new Told());
    private final Deque<Trace> traces = new ArrayDeque<>();
    private Channel front;
    private Outlet toFront;
    private Destination destination;
    /** The connection to the service; null while there is none. */
    private Upstream service;

    private Trace current;
    /** Whether everything that passes is opaque. */
    private boolean tunnel;
    /** Whether this is within a tunnel that was opened. */
    private boolean inside;

    private boolean refused;
    /** The request that is put together because it may have to wait; null while none is. */
    private Whole heldRequest;
    /** The answer likewise. */
    private Whole heldAnswer;

    private final List<Held> waits = new ArrayList<>();
    private boolean answerWaits;
    private boolean frontEnded;
    /** The head that went to the service last, and what was made of it: the same one is sent on as it is. */
    private Head sentHead;

    private String sentTitle = "";
    private byte[] sent = {};

    private boolean over;
    /** The answer that is put together to be rewritten. */
    private Whole document;

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
        flushService();
        if (asked.kept() > Upstream.WAITING) {
            front.config().setAutoRead(false);
        }
    }

    @Override
    public void channelWritabilityChanged(ChannelHandlerContext context) {
        if (service != null) {
            service.read(front.isWritable() && !answerWaits);
        }
    }

    private void flushService() {
        if (service != null) {
            service.flush();
        }
    }

    @Override
    public void userEventTriggered(ChannelHandlerContext context, Object event) throws Exception {
        if (event instanceof ChannelInputShutdownEvent) {
            // the client has said all: the service hears that, and may still answer
            frontEnded = true;
            waits.forEach(Held::gaveUp);
            if (service != null) {
                service.end();
            } else if (traces.isEmpty()) {
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
        if (service != null) {
            service.close();
        }
        front.close();
        if (told.closed()) {
            LOG.trace("the answer ended with its connection");
        }
        asked.closed();
        waits.forEach(Held::abandon);
        waits.clear();
        toFront.close();
        for (Trace trace : traces) {
            trace.trouble(tunnel ? "" : why);
            host.passed(trace, tunnel);
        }
        traces.clear();
    }

    /** What the client sends. */
    private final class Asked implements HttpStream.Ear {
        private Head before;

        @Override
        public Body head(String text) {
            Head head = Head.of(text, before);
            before = head;
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
        String goes = forService(head, title).toString(StandardCharsets.ISO_8859_1);
        if (head.field("Expect").isPresent()) {
            // the body comes only when somebody wants it, and from here on that is the relay (RFC 9110 §10.1.1)
            goes = Head.of(goes).with(title, List.of(new Header("Expect", null)));
            write(bytes("HTTP/1.1 100 Continue\r\n\r\n"));
            toFront.flush();
        }
        heldRequest = new Whole(goes, MOST_HELD);
    }

    private void hold(ByteBuf bytes) {
        if (!heldRequest.add(bytes)) {
            // too large to be looked at: it goes on
            Whole large = heldRequest;
            heldRequest = null;
            large.goOn(this::send);
        }
    }

    /** Looks, elsewhere, whether a request that is whole is to wait; nothing else is taken from this client meanwhile. */
    private void consider(Trace trace) {
        asked.pause(true);
        Whole whole = heldRequest;
        heldRequest = null;
        host.workers().execute(() -> {
            Message message = trace.requestMessage();
            Optional<Held> held = host.holds()
                    .consider(
                            message,
                            Optional.empty(),
                            caller(),
                            verdict -> front.eventLoop().execute(() -> decided(trace, whole, verdict)));
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

    private void decided(Trace trace, Whole whole, Held.Verdict verdict) {
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
                whole.goOn(this::send);
            }
            flushService();
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
        if (isProxying() || head != sentHead || !title.equals(sentTitle)) {
            sent = namedForService(head, title);
            sentHead = head;
            sentTitle = title;
        }
        return Unpooled.wrappedBuffer(sent);
    }

    private byte[] namedForService(Head head, String title) {
        List<Header> changes = !isProxying()
                ? List.of(new Header("Host", destination.authority()))
                : List.of(
                        new Header("Host", destination.authority()),
                        new Header("Proxy-Connection", null),
                        new Header("Proxy-Authorization", null));
        boolean same = title.equals(head.title())
                && head.field("Host").filter(destination.authority()::equals).isPresent();
        return (same ? head.text() : head.with(title, changes)).getBytes(StandardCharsets.ISO_8859_1);
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
        if (service != null) {
            service.close();
            service = null;
            told.restart();
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
        service().connect();
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
                    front.pipeline().addFirst(host.around().loops().tls(keys.engine()));
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
        service().send(bytes);
        if (!service.takesMore()) {
            front.config().setAutoRead(false);
        }
    }

    private Upstream service() {
        if (service == null) {
            service = new Upstream(host, front.eventLoop(), destination, new Service());
        }
        return service;
    }

    private void write(ByteBuf bytes) {
        toFront.write(bytes);
        if (!front.isWritable() && service != null) {
            service.read(false);
        }
    }

    /** What the service answers. */
    private final class Told implements HttpStream.Ear {
        private Head before;

        @Override
        public Body head(String text) {
            Head head = Head.of(text, before);
            before = head;
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
                document = new Whole(text, AddressRewriting.LARGEST);
                return body;
            }
            if (host.holds().wants(true) && body.kind() != Kind.OPAQUE && head.length() <= MOST_HELD) {
                heldAnswer = new Whole(forClient(head, trace), MOST_HELD);
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
                if (!heldAnswer.add(bytes)) {
                    asItCame();
                }
            } else if (document != null) {
                if (!document.add(bytes)) {
                    asItCame();
                }
            } else {
                write(bytes.retainedSlice());
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

    /** What was put together goes on as far as it is there. */
    private void asItCame() {
        Whole whole = heldAnswer == null ? document : heldAnswer;
        heldAnswer = null;
        document = null;
        if (whole != null) {
            whole.goOn(this::write);
        }
    }

    private void considerAnswer(Trace trace) {
        answerWaits = true;
        service.read(false);
        Whole whole = heldAnswer;
        heldAnswer = null;
        trace.answerEnded();
        host.workers().execute(() -> {
            Optional<Held> held = host.holds()
                    .consider(
                            trace.requestMessage(),
                            Optional.of(trace.answerMessage()),
                            caller(),
                            verdict -> front.eventLoop().execute(() -> answerDecided(trace, whole, verdict)));
            held.ifPresent(h -> front.eventLoop().execute(() -> waiting(h)));
        });
    }

    private void answerDecided(Trace trace, Whole whole, Held.Verdict verdict) {
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
                whole.goOn(this::write);
            }
            toFront.flush();
            traces.remove(trace);
            host.passed(trace, false);
            if (closeAfterAnswer || !service.isActive()) {
                front.writeAndFlush(Unpooled.EMPTY_BUFFER).addListener(f -> end(""));
                return;
            }
            service.read(true);
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
            flushService();
        });
    }

    /** Some is read also while nothing may go on: only who reads hears that the client is gone. */
    private boolean takesMore() {
        return asked.kept() <= Upstream.WAITING && (service == null || service.takesMore());
    }

    /** @param calledBy the name by which the client called */
    private void rewritten(Head head, Optional<String> calledBy) {
        Content wire = document.wire();
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

    /** What comes of the connection to the service. */
    private final class Service implements Upstream.Ear {
        @Override
        public void came(ByteBuf bytes) {
            told.feed(bytes);
        }

        @Override
        public void paused() {
            toFront.flush();
        }

        @Override
        public void writable() {
            front.config().setAutoRead(takesMore());
        }

        @Override
        public void ready(long nanos) {
            traces.forEach(t -> t.connected(nanos));
            if (tunnel && plan.target().isEmpty()) {
                front.writeAndFlush(bytes("HTTP/1.1 200 Connection established\r\n\r\n"));
            }
        }

        /** The client is told so, as a gateway tells it (RFC 9110 §15.6.3). */
        @Override
        public void unreachable(String why) {
            traces.forEach(t -> t.trouble(why));
            host.trouble(why);
            refuse(502, why);
        }

        @Override
        public void ended() {
            if (over) {
                return;
            }
            told.closed();
            if (answerWaits) {
                // it ends once that is decided
                return;
            }
            asItCame();
            // what the client has of it is flushed before its connection ends too
            toFront.flush();
            front.writeAndFlush(Unpooled.EMPTY_BUFFER)
                    .addListener(f -> end("the service closed the connection before the answer was whole"));
        }
    }
}
