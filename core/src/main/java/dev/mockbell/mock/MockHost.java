package dev.mockbell.mock;

import dev.mockbell.contract.Contract;
import dev.mockbell.contract.Endpoints;
import dev.mockbell.contract.Port;
import dev.mockbell.contract.SourceDocument;
import dev.mockbell.exchange.Exchange;
import dev.mockbell.expression.Expressions;
import dev.mockbell.problem.Problem;
import dev.mockbell.wire.EventLoops;
import io.netty.bootstrap.ServerBootstrap;
import io.netty.channel.Channel;
import io.netty.channel.ChannelHandlerContext;
import io.netty.channel.ChannelInitializer;
import io.netty.channel.ChannelOption;
import io.netty.channel.group.ChannelGroup;
import io.netty.channel.group.DefaultChannelGroup;
import io.netty.channel.socket.SocketChannel;
import io.netty.handler.codec.DateFormatter;
import io.netty.handler.codec.http.HttpContentDecompressor;
import io.netty.handler.codec.http.HttpMessage;
import io.netty.handler.codec.http.HttpObjectAggregator;
import io.netty.handler.codec.http.HttpResponseStatus;
import io.netty.handler.codec.http.HttpServerCodec;
import io.netty.handler.timeout.IdleStateHandler;
import io.netty.util.concurrent.GlobalEventExecutor;
import java.net.InetSocketAddress;
import java.net.URI;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Date;
import java.util.Deque;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ArrayBlockingQueue;
import java.util.concurrent.Executor;
import java.util.concurrent.ThreadPoolExecutor;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.LongAdder;
import java.util.function.Supplier;
import java.util.regex.Pattern;

/**
 * A mock that listens. It serves each port of the contract at the path of the port's own address, so that a client needs
 * no more than another host and port; and the contract's documents with the mock's addresses. The plan can be replaced
 * while it runs; what was counted stays.
 */
public final class MockHost implements AutoCloseable {
    private static final int MOST_BYTES = 64 << 20;
    private static final int LATEST = 50;
    private static final int MOST_NAMES = 8;

    /** A name or address, and a port: what else a client calls this host is not written into its documents. */
    private static final Pattern AUTHORITY =
            Pattern.compile("([A-Za-z0-9._-]{1,253}|\\[[0-9A-Fa-f:.]{2,45}])(:[0-9]{1,5})?");

    private final Contract contract;
    private final EventLoops loops;
    private final Expressions expressions;
    private final MockRecorder recorder;
    private final MockListener listener;
    private final ThreadPoolExecutor workers;
    private final ChannelGroup channels = new DefaultChannelGroup(GlobalEventExecutor.INSTANCE);
    private final Map<String, String> paths = new LinkedHashMap<>();
    private final LongAdder answered = new LongAdder();
    private final LongAdder unmatched = new LongAdder();
    private final LongAdder unrecorded = new LongAdder();
    private final Deque<MockEvent> latest = new ArrayDeque<>();
    private final MockState state = new MockState();
    private final Intake intake;
    private final Instant since = Instant.now();
    private volatile MockPlan plan;
    private volatile Responder responder;
    private volatile Channel listening;
    private volatile Moment moment = new Moment(0, "");
    /** By the host's base address as clients know it. */
    private final Map<String, Map<String, byte[]>> documents = new LinkedHashMap<>() {
        private static final long serialVersionUID = 1L;

        @Override
        protected boolean removeEldestEntry(Map.Entry<String, Map<String, byte[]>> eldest) {
            return size() > MOST_NAMES;
        }
    };

    private MockHost(
            Contract contract,
            MockPlan plan,
            EventLoops loops,
            Expressions expressions,
            MockRecorder recorder,
            MockListener listener,
            Intake.Bounds bounds) {
        this.intake = new Intake(bounds);
        this.contract = contract;
        this.loops = loops;
        this.expressions = expressions;
        this.recorder = recorder;
        this.listener = listener;
        int threads = Math.max(2, Runtime.getRuntime().availableProcessors());
        this.workers = new ThreadPoolExecutor(
                threads, threads, 30, TimeUnit.SECONDS, new ArrayBlockingQueue<>(4_096), task -> {
                    Thread thread = new Thread(task, "mock-worker");
                    thread.setDaemon(true);
                    return thread;
                });
        this.workers.allowCoreThreadTimeOut(true);
        this.plan = plan;
        for (Port port : contract.httpPorts()) {
            paths.put(port.name(), path(port, plan.contract()));
        }
        this.responder = new Responder(contract, plan, paths, expressions, state);
    }

    /**
     * Starts listening.
     *
     * @param recorder takes each exchange without blocking and says whether it did; null to record nothing
     * @throws dev.mockbell.problem.Problem of kind PORT_TAKEN when another program has the port
     */
    public static MockHost start(
            Contract contract,
            MockPlan plan,
            EventLoops loops,
            Expressions expressions,
            MockRecorder recorder,
            MockListener listener) {
        return start(contract, plan, loops, expressions, recorder, listener, Intake.Bounds.USUAL);
    }

    /** What counts and bounds that which comes in. */
    Intake intake() {
        return intake;
    }

    /** As the other, with other bounds on what is let in. */
    static MockHost start(
            Contract contract,
            MockPlan plan,
            EventLoops loops,
            Expressions expressions,
            MockRecorder recorder,
            MockListener listener,
            Intake.Bounds bounds) {
        if (contract.httpPorts().isEmpty()) {
            throw Problem.input(
                    "A mock answers SOAP over HTTP, and no port of this contract is spoken over it",
                    contract.source(),
                    "See “mockbell contract show” for what its ports are spoken over.");
        }
        MockHost host = new MockHost(contract, plan, loops, expressions, recorder, listener, bounds);
        host.listen();
        return host;
    }

    private void listen() {
        ServerBootstrap bootstrap = new ServerBootstrap()
                .group(loops.group())
                .channel(loops.serverChannel())
                .option(ChannelOption.SO_BACKLOG, 1_024)
                .childOption(ChannelOption.TCP_NODELAY, true)
                .childOption(ChannelOption.ALLOW_HALF_CLOSURE, true)
                .childHandler(new ChannelInitializer<SocketChannel>() {
                    @Override
                    protected void initChannel(SocketChannel channel) {
                        channels.add(channel);
                        ByteTap tap = new ByteTap(recorder != null);
                        Intake.Door door = intake.door();
                        channel.pipeline()
                                .addLast(tap)
                                .addLast(door)
                                .addLast(new PlainLane(
                                        MockHost.this, tap, door, intake.bounds(), context -> widen(channel, tap)));
                    }
                });
        var bound = bootstrap.bind(plan.host(), plan.port()).awaitUninterruptibly();
        if (!bound.isSuccess()) {
            workers.shutdown();
            throw EventLoops.taken(plan.host(), plan.port(), EventLoops.freePort(plan.port() + 1), bound.cause());
        }
        listening = bound.channel();
    }

    /** The library's way, for whatever HTTP has. */
    private void widen(SocketChannel channel, ByteTap tap) {
        channel.pipeline()
                .addLast(new IdleStateHandler(intake.bounds().idle().toMillis(), 0, 0, TimeUnit.MILLISECONDS))
                .addLast(new HttpServerCodec(16 * 1024, 64 * 1024, 64 * 1024))
                // before what counts, so that what a small request swells to is bounded too
                .addLast(new HttpContentDecompressor(MOST_BYTES))
                .addLast(intake.connection())
                .addLast(new Aggregator())
                .addLast(new MockHandler(this, tap, intake));
    }

    /** Puts the pieces of a request together; who sends too much is told so. */
    private static final class Aggregator extends HttpObjectAggregator {
        Aggregator() {
            super(MOST_BYTES);
        }

        @Override
        protected void handleOversizedMessage(ChannelHandlerContext context, HttpMessage oversized) {
            MockHandler.tell(
                    context,
                    HttpResponseStatus.REQUEST_ENTITY_TOO_LARGE,
                    "The request has more than the " + (MOST_BYTES >> 20) + " MB that are taken.");
        }
    }

    private static String path(Port port, String contractName) {
        String path = port.address()
                .map(a -> {
                    try {
                        return new URI(a).getRawPath();
                    } catch (java.net.URISyntaxException e) {
                        return null;
                    }
                })
                .orElse(null);
        return path == null || path.isEmpty() || "/".equals(path) ? "/" + contractName : path;
    }

    /** The contract's documents with this host's addresses, as who asks calls it. */
    private Map<String, byte[]> documents(String base) {
        Map<String, String> names = new LinkedHashMap<>();
        int number = 0;
        for (SourceDocument document : contract.documents()) {
            boolean wsdl = document.kind() == SourceDocument.Kind.WSDL;
            names.put(document.uri(), number == 0 ? "wsdl" : (wsdl ? "wsdl=" : "xsd=") + number);
            number++;
        }
        String first = paths.values().stream().findFirst().orElse("/");
        Map<String, byte[]> all = new LinkedHashMap<>();
        Endpoints.rewritten(
                        contract,
                        port -> standsIn(port) ? Optional.of(base + paths.getOrDefault(port, first)) : Optional.empty(),
                        uri -> base + first + "?" + names.get(uri))
                .forEach((uri, text) -> all.put(names.get(uri), text.getBytes(StandardCharsets.UTF_8)));
        return all;
    }

    /** Whether a port's address becomes this host's: what another transport carries is spoken elsewhere. */
    private boolean standsIn(String port) {
        return contract.port(port).map(p -> p.binding().transport().byHttp()).orElse(true);
    }

    /** {@code http://127.0.0.1:8480}. */
    public String base() {
        String host = plan.host().contains(":") ? "[" + plan.host() + "]" : plan.host();
        return "http://" + host + ":" + port();
    }

    /** The port it listens on. */
    public int port() {
        Channel channel = listening;
        return channel == null ? plan.port() : ((InetSocketAddress) channel.localAddress()).getPort();
    }

    /** The address of each port of the contract, by the port's name. */
    public Map<String, String> addresses() {
        Map<String, String> found = new LinkedHashMap<>();
        paths.forEach((name, path) -> found.put(name, base() + path));
        return found;
    }

    /** The address of the mock's own WSDL. */
    public String wsdl() {
        return base() + paths.values().stream().findFirst().orElse("/") + "?wsdl";
    }

    public MockPlan plan() {
        return plan;
    }

    public Contract contract() {
        return contract;
    }

    public Instant since() {
        return since;
    }

    /** Serves by another plan from the next request on; host and port stay. */
    public void replace(MockPlan other) {
        MockPlan moved = other.withHost(plan.host()).withPort(plan.port());
        responder = new Responder(contract, moved, paths, expressions, state);
        plan = moved;
    }

    public long answered() {
        return answered.sum();
    }

    public long unmatched() {
        return unmatched.sum();
    }

    /** How many exchanges were not put on the ledger because it could not keep up. */
    public long unrecorded() {
        return unrecorded.sum();
    }

    /** How often an operation was called. */
    public long hits(String operation) {
        return responder.hits(operation);
    }

    /** How often each answer of an operation was given, in the plan's order. */
    public List<Long> answerHits(String operation) {
        return responder.answerHits(operation);
    }

    /** The latest requests, newest first. */
    public List<MockEvent> latest() {
        synchronized (latest) {
            return new ArrayList<>(latest);
        }
    }

    boolean serves(String path) {
        return paths.containsValue(path);
    }

    List<String> paths() {
        return paths.values().stream().distinct().toList();
    }

    /**
     * A document of the contract.
     *
     * @param asked the host and port by which the client knows this one; empty when it does not say
     */
    Optional<byte[]> document(String path, String query, String asked) {
        if (!serves(path)) {
            return Optional.empty();
        }
        String base = AUTHORITY.matcher(asked).matches() ? "http://" + asked : base();
        Map<String, byte[]> made;
        synchronized (documents) {
            made = documents.computeIfAbsent(base, this::documents);
        }
        return Optional.ofNullable(made.get(query.toLowerCase(java.util.Locale.ROOT)));
    }

    /** The moment as a field of HTTP (RFC 9110 §6.6.1), made once a second. */
    String date() {
        long second = System.currentTimeMillis() / 1_000;
        Moment last = moment;
        if (last.second() != second) {
            last = new Moment(second, DateFormatter.format(new Date(second * 1_000)));
            moment = last;
        }
        return last.text();
    }

    private record Moment(long second, String text) {}

    Responder responder() {
        return responder;
    }

    Executor workers() {
        return workers;
    }

    boolean records() {
        return recorder != null;
    }

    void record(Supplier<Exchange> made) {
        if (!recorder.offer(made)) {
            unrecorded.increment();
        }
    }

    void count(MockEvent event) {
        answered.increment();
        if (!event.matched()) {
            unmatched.increment();
        }
        synchronized (latest) {
            latest.addFirst(event);
            if (latest.size() > LATEST) {
                latest.removeLast();
            }
        }
        try {
            listener.answered(event);
        } catch (RuntimeException dropped) {
            // a listener's trouble is not the client's
            return;
        }
    }

    /** Stops listening and closes every connection. */
    @Override
    public void close() {
        listening.close().awaitUninterruptibly(2_000);
        channels.close().awaitUninterruptibly(2_000);
        workers.shutdown();
    }
}
