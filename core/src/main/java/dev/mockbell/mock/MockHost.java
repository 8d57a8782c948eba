package dev.mockbell.mock;

import dev.mockbell.contract.Contract;
import dev.mockbell.contract.Endpoints;
import dev.mockbell.contract.Port;
import dev.mockbell.contract.SourceDocument;
import dev.mockbell.exchange.Exchange;
import dev.mockbell.problem.Problem;
import dev.mockbell.wire.Handshakes;
import dev.mockbell.wire.ServerTls;
import dev.mockbell.wire.jms.JmsAddress;
import dev.mockbell.wire.jms.JmsServer;
import io.netty.channel.Channel;
import io.netty.channel.ChannelHandlerContext;
import io.netty.channel.group.ChannelGroup;
import io.netty.channel.group.DefaultChannelGroup;
import io.netty.channel.socket.SocketChannel;
import io.netty.handler.codec.DateFormatter;
import io.netty.handler.codec.http.HttpContentDecompressor;
import io.netty.handler.codec.http.HttpMessage;
import io.netty.handler.codec.http.HttpObjectAggregator;
import io.netty.handler.codec.http.HttpRequestDecoder;
import io.netty.handler.codec.http.HttpResponseEncoder;
import io.netty.handler.codec.http.HttpResponseStatus;
import io.netty.handler.timeout.IdleStateHandler;
import io.netty.util.concurrent.GlobalEventExecutor;
import java.net.InetSocketAddress;
import java.net.URI;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Date;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.ArrayBlockingQueue;
import java.util.concurrent.RejectedExecutionException;
import java.util.concurrent.ThreadPoolExecutor;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.concurrent.atomic.AtomicLong;
import java.util.concurrent.atomic.AtomicReferenceArray;
import java.util.concurrent.atomic.LongAdder;
import java.util.function.Consumer;
import java.util.function.Supplier;
import java.util.regex.Pattern;

/**
 * A mock that listens. It serves each port of the contract at the path of the port's own address, so that a client needs
 * no more than another host and port; and the contract's documents with the mock's addresses. The plan can be replaced
 * while it runs; what was counted stays.
 */
public final class MockHost implements AutoCloseable {
    private static final int LATEST = 50;
    private static final int MOST_NAMES = 8;
    private static final int MOST_FORWARDED = 128;

    /** Exchanges a second that are recorded whatever comes, and after a quiet time at once. */
    private static final int RECORDED = 200;

    private static final int RECORDED_AT_ONCE = 2_000;
    private static final long LINGER_MILLIS = 50;

    /** A name or address, and a port: what else a client calls this host is not written into its documents. */
    private static final Pattern AUTHORITY =
            Pattern.compile("([A-Za-z0-9._-]{1,253}|\\[[0-9A-Fa-f:.]{2,45}])(:[0-9]{1,5})?");

    private final Contract contract;
    private final MockSurroundings around;
    private final MockRecorder recorder;
    private volatile Optional<QueueMock> queues = Optional.empty();
    private final ThreadPoolExecutor workers;
    /** For those that wait for a live endpoint: as many as may wait at once. */
    private final ThreadPoolExecutor forwarders;

    private final ChannelGroup channels = new DefaultChannelGroup(GlobalEventExecutor.INSTANCE);
    private final Map<String, String> paths = new LinkedHashMap<>();
    private final LongAdder answered = new LongAdder();
    private final LongAdder unmatched = new LongAdder();
    private final LongAdder unrecorded = new LongAdder();
    private final Admission usual = new Admission(RECORDED, RECORDED_AT_ONCE);
    private final Admission failed = new Admission(RECORDED, RECORDED_AT_ONCE);
    /** The latest events, each in the place of its number, so that those who answer do not wait for each other. */
    private final AtomicReferenceArray<MockEvent> latest = new AtomicReferenceArray<>(LATEST);

    private final AtomicLong events = new AtomicLong();
    private final MockState state = new MockState();
    private final Intake intake;
    private final Optional<ServerTls> tls;
    private final AtomicLong given = new AtomicLong();
    private final AtomicInteger underWay = new AtomicInteger();
    private volatile boolean over;
    private volatile boolean closing;
    private volatile Runnable whenOver = () -> {};
    private final Instant since = Instant.now();
    private volatile MockPlan plan;
    private volatile Responder responder;
    private volatile Channel listening;
    private volatile Moment moment = new Moment(0, "");
    private Pages pages;
    /** By the host's base address as clients know it. */
    private final Map<Named, Map<String, byte[]>> documents = new LinkedHashMap<>() {
        private static final long serialVersionUID = 1L;

        @Override
        protected boolean removeEldestEntry(Map.Entry<Named, Map<String, byte[]>> eldest) {
            return size() > MOST_NAMES;
        }
    };

    private MockHost(Contract contract, MockPlan plan, MockSurroundings around) {
        this.intake = new Intake(plan.conduct().limits(), this::sentAway);
        this.contract = contract;
        this.around = around;
        this.recorder = around.recorder();
        this.tls = plan.conduct().tls().on()
                ? Optional.of(around.keys().tls(plan.conduct().tls(), plan.host()))
                : Optional.empty();
        int threads = Math.max(2, Runtime.getRuntime().availableProcessors());
        this.workers = pool(threads, 4_096, "mock-worker");
        this.forwarders = pool(MOST_FORWARDED, 1_024, "mock-forward");
        this.plan = plan;
        paths.putAll(paths(contract, plan));
        this.responder = new Responder(contract, plan, paths, around, state);
        responder.begin();
    }

    private static ThreadPoolExecutor pool(int threads, int waiting, String name) {
        ThreadPoolExecutor pool = new ThreadPoolExecutor(
                threads, threads, 30, TimeUnit.SECONDS, new ArrayBlockingQueue<>(waiting), task -> {
                    Thread thread = new Thread(task, name);
                    thread.setDaemon(true);
                    return thread;
                });
        pool.allowCoreThreadTimeOut(true);
        return pool;
    }

    /**
     * Starts listening.
     *
     * @throws Problem of kind PORT_TAKEN when another program has the port
     */
    public static MockHost start(Contract contract, MockPlan plan, MockSurroundings around) {
        if (contract.httpPorts().isEmpty() && !QueueMock.isFor(contract)) {
            throw Problem.input(
                    "A mock answers SOAP over HTTP and by way of queues, and no port of this contract is spoken so",
                    contract.source(),
                    "See “mockbell contract show” for what its ports are spoken over.");
        }
        MockHost host = new MockHost(contract, plan, around);
        host.listen();
        return host;
    }

    /** What counts and bounds that which comes in. */
    Intake intake() {
        return intake;
    }

    /**
     * Has a reply made where it holds up nobody.
     *
     * @param then gets it, on another thread
     * @param full gets what is said when there is too much to do already, at once
     */
    void elsewhere(
            Responder by, Responder.Found found, Consumer<Responder.Reply> hears, Consumer<Responder.Reply> full) {
        Consumer<Responder.Reply> then = reply -> hand(reply, hears);
        try {
            (found.isOnward() ? forwarders : workers).execute(() -> {
                Responder.Found read = by.read(found);
                if (read.isOnward() && !found.isOnward()) {
                    // it was not known before that somebody else has to be asked
                    try {
                        forwarders.execute(() -> then.accept(by.reply(read)));
                    } catch (RejectedExecutionException tooMany) {
                        then.accept(Responder.overrun());
                    }
                } else {
                    then.accept(by.reply(read));
                }
            });
        } catch (RejectedExecutionException tooMany) {
            full.accept(Responder.overrun());
        }
    }

    private void listen() {
        try {
            listening = around.loops().listen(plan.host(), plan.port(), channel -> {
                channels.add(channel);
                tls.ifPresent(t -> channel.pipeline().addLast(around.loops().tls(t.engine())));
                ByteTap tap = new ByteTap(recorder != null);
                Intake.Door door = intake.door();
                channel.pipeline()
                        .addLast(tap)
                        .addLast(door)
                        .addLast(new PlainLane(this, tap, door, intake.bounds(), context -> widen(channel, tap)));
            });
        } catch (Problem taken) {
            workers.shutdown();
            forwarders.shutdown();
            throw taken;
        }
    }

    private int most() {
        return (int) Math.min(Integer.MAX_VALUE - 8, intake.bounds().body());
    }

    /** The library's way, for whatever HTTP has. */
    private void widen(SocketChannel channel, ByteTap tap) {
        channel.pipeline()
                .addLast(new IdleStateHandler(intake.bounds().idle().toMillis(), 0, 0, TimeUnit.MILLISECONDS))
                .addLast(new HttpRequestDecoder(16 * 1024, 64 * 1024, 64 * 1024))
                .addLast(new HttpResponseEncoder())
                // before what counts, so that what a small request swells to is bounded too
                .addLast(new HttpContentDecompressor(most()))
                .addLast(intake.connection())
                .addLast(new Aggregator(most()))
                .addLast(new MockHandler(this, tap, intake));
    }

    /** A request was sent away before it was looked at: that is a line too. */
    void sentAway(int status, String why) {
        count(new MockEvent(Instant.now(), "", -1, String.valueOf(status), why));
    }

    /** Puts the pieces of a request together; who sends too much is told so. */
    private final class Aggregator extends HttpObjectAggregator {
        private final int most;

        Aggregator(int most) {
            super(most);
            this.most = most;
        }

        @Override
        protected void handleOversizedMessage(ChannelHandlerContext context, HttpMessage oversized) {
            String why = "The request has more than the " + (most >= 1 << 20 ? (most >> 20) + " MB" : most + " bytes")
                    + " that are taken.";
            sentAway(HttpResponseStatus.REQUEST_ENTITY_TOO_LARGE.code(), why);
            MockHandler.tell(context, HttpResponseStatus.REQUEST_ENTITY_TOO_LARGE, why);
        }
    }

    /** Where each port is, by its name. */
    public static Map<String, String> paths(Contract contract, MockPlan plan) {
        Map<String, String> paths = new LinkedHashMap<>();
        for (Port port : contract.httpPorts()) {
            paths.put(port.name(), path(port, plan));
        }
        return paths;
    }

    private static String path(Port port, MockPlan plan) {
        String chosen = plan.conduct().paths().get(port.name());
        if (chosen != null && chosen.startsWith("/")) {
            return chosen;
        }
        if (port.address().filter(a -> a.startsWith(JmsAddress.SCHEME + ":")).isPresent()) {
            return QueueMock.path(port.name());
        }
        String path = port.address()
                .map(a -> {
                    try {
                        return new URI(a).getRawPath();
                    } catch (java.net.URISyntaxException e) {
                        return null;
                    }
                })
                .orElse(null);
        return path == null || path.isEmpty() || "/".equals(path) ? "/" + plan.contract() : path;
    }

    /** The contract's documents with this host's addresses, without what is concealed. */
    private Map<String, byte[]> made(String base, Set<String> concealed) {
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
                        uri -> base + first + "?" + names.get(uri),
                        concealed)
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
        return scheme() + host + ":" + port();
    }

    private String scheme() {
        return tls.isPresent() ? "https://" : "http://";
    }

    /** The address of the page that says what there is. */
    public String index() {
        return base() + "/";
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
        Responder next = new Responder(contract, moved, paths, around, state);
        next.begin();
        responder = next;
        plan = moved;
        queues.ifPresent(q -> q.replace(moved));
    }

    public long answered() {
        return answered.sum();
    }

    public long unmatched() {
        return unmatched.sum();
    }

    /**
     * How many exchanges were not put on the ledger: in a flood only so many a second are, beside those that nothing matched, and
     * none that the ledger cannot keep up with.
     */
    public long unrecorded() {
        return unrecorded.sum();
    }

    /** How often an operation was called. */
    public long hits(String operation) {
        // both count in one state, and either may not know the operation
        return Math.max(
                responder.hits(operation), queues.map(q -> q.hits(operation)).orElse(0L));
    }

    /** How often each answer of an operation was given, in the plan's order. */
    public List<Long> answerHits(String operation) {
        List<Long> found = responder.answerHits(operation);
        return found.isEmpty() ? queues.map(q -> q.answerHits(operation)).orElse(found) : found;
    }

    /** Whether an answer that cannot be given as it is written now is served by what could be given of it before. */
    public boolean servesEarlier(String operation, int answer) {
        return responder.servesEarlier(operation, answer);
    }

    /** The latest requests, newest first. */
    public List<MockEvent> latest() {
        long count = events.get();
        List<MockEvent> found = new ArrayList<>();
        for (long i = count - 1; i >= Math.max(0, count - LATEST); i--) {
            MockEvent event = latest.get((int) (i % LATEST));
            if (event != null) {
                found.add(event);
            }
        }
        return found;
    }

    boolean serves(String path) {
        return paths.containsValue(path);
    }

    List<String> paths() {
        return paths.values().stream().distinct().toList();
    }

    /**
     * This host as a client knows it.
     *
     * @param asked the host and port that it asks; empty when it does not say
     * @param forwarded those that it asked before somebody in between passed it on
     * @param scheme by which it asked that; empty when nobody says
     */
    String base(String asked, String forwarded, String scheme) {
        String first = forwarded.split(",")[0].strip();
        if (plan.conduct().byForwarded() && AUTHORITY.matcher(first).matches()) {
            return ("https".equalsIgnoreCase(scheme.strip()) ? "https://" : "http://") + first;
        }
        return AUTHORITY.matcher(asked).matches() ? scheme() + asked : base();
    }

    /**
     * Makes a document or a page where that holds up nobody.
     *
     * @param then gets it, on another thread
     */
    void page(PageRequest request, Consumer<PageRequest.Served> then) {
        try {
            // who tries an operation may have to wait for a live endpoint
            (request.form().isEmpty() ? workers : forwarders).execute(() -> {
                PageRequest.Served served;
                try {
                    served = served(request);
                } catch (Problem problem) {
                    served = PageRequest.Served.text(500, problem.getMessage() + "\n");
                } catch (RuntimeException | StackOverflowError e) {
                    served = PageRequest.Served.text(500, "The page could not be made: " + Problem.reason(e) + ".\n");
                }
                hand(served, then);
            });
        } catch (RejectedExecutionException tooMany) {
            then.accept(PageRequest.Served.text(503, "More requests than the mock can take.\n"));
        }
    }

    private static <T> void hand(T made, Consumer<T> then) {
        try {
            then.accept(made);
        } catch (RejectedExecutionException over) {
            // whoever waited for it is gone with the threads of its connection
            return;
        }
    }

    private PageRequest.Served served(PageRequest request) {
        boolean here = serves(request.path());
        if (here && !request.isPlain()) {
            String name = request.query().toLowerCase(java.util.Locale.ROOT);
            byte[] document = documents(request.base()).get(name);
            if (document != null) {
                return new PageRequest.Served(200, "text/xml; charset=utf-8", document);
            }
            Optional<TryForm> form = TryForm.of(contract, paths, request.path(), request.tried())
                    .filter(f -> !plan.conduct().concealed().contains(request.tried()));
            if (form.isPresent()) {
                return tried(form.get(), request);
            }
        }
        if (request.isPlain() && (here || "/".equals(request.path()))) {
            return PageRequest.Served.page(
                    pages().index(request.base(), plan.conduct().concealed()));
        }
        // a document that is asked for by its name and is not there is none
        StringBuilder text = new StringBuilder("There is nothing here. The contract is at\n");
        paths().forEach(p -> text.append(request.base()).append(p).append("?wsdl\n"));
        return PageRequest.Served.text(404, text.toString());
    }

    private PageRequest.Served tried(TryForm form, PageRequest request) {
        if (!request.form().isEmpty() && form.posted(request.form())) {
            MockRequest asked = form.request(request.remote(), request.login());
            Responder by = responder;
            Responder.Reply reply = by.reply(by.find(asked));
            count(reply.event());
            if (reply.status() == 401 && plan.conduct().rules().login().isByHttp()) {
                // a browser asks its user for the login, and posts the form again
                return PageRequest.Served.text(401, reply.event().why());
            }
            form.answered(asked, reply);
        }
        return PageRequest.Served.page(pages().attempt(form, request.base() + request.path()));
    }

    private Pages pages() {
        synchronized (documents) {
            if (pages == null) {
                pages = new Pages(contract, paths);
            }
            return pages;
        }
    }

    /** The contract's documents for who knows this host by that name; a few names are kept. */
    private Map<String, byte[]> documents(String base) {
        Set<String> concealed = plan.conduct().concealed();
        synchronized (documents) {
            return documents.computeIfAbsent(new Named(base, Set.copyOf(concealed)), named -> made(base, concealed));
        }
    }

    private record Named(String base, Set<String> concealed) {}

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

    boolean records() {
        return recorder != null;
    }

    void record(Supplier<Exchange> made) {
        if (!recorder.offer(made)) {
            unrecorded.increment();
        }
    }

    boolean takesNext() {
        return usual.takes(System.nanoTime());
    }

    boolean takesFailed() {
        return failed.takes(System.nanoTime());
    }

    void passOver() {
        unrecorded.increment();
    }

    void count(MockEvent event) {
        answered.increment();
        if (!event.matched()) {
            unmatched.increment();
        }
        latest.set((int) (events.getAndIncrement() % LATEST), event);
        try {
            around.listener().answered(event);
        } catch (RuntimeException dropped) {
            // a listener's trouble is not the client's
            return;
        }
    }

    /**
     * Brings to speed what it answers with, on a thread of its own, so that the first clients get answers as fast as later ones.
     * Nothing is counted or remembered by that.
     *
     * @param longest how long that may take, and as long again for TLS where it is spoken; it ends sooner when clients come
     */
    public void warmUp(Duration longest) {
        Thread thread = new Thread(
                () -> {
                    if (tls.isPresent()) {
                        long end = System.nanoTime() + longest.toNanos();
                        Handshakes.practise(() -> answered() > 0 || System.nanoTime() > end);
                    }
                    // what is made when it is first asked for, and what no request by the network comes to
                    Trial.repeat(contract, plan, around, longest.dividedBy(5), () -> answered() > 0);
                    Rehearsal.hold(
                            contract, plan, around, longest.multipliedBy(4).dividedBy(5), () -> answered() > 0);
                },
                "mock-warm-up");
        thread.setDaemon(true);
        thread.start();
    }

    /** Requests for it to answer, of not more than so many operations. */
    List<MockRequest> samples(int most) {
        return responder.samples(most);
    }

    /** What it would answer to a request, with what it remembers now. Work. */
    public Trial tried(MockEvent.Kept request) {
        MockState now = new MockState();
        synchronized (state) {
            now.memory().takeOver(state.memory());
        }
        return Trial.of(contract, plan, around, request, now);
    }

    /** What it remembers, at most so many values. */
    public List<RememberedValue> remembered(int most) {
        synchronized (state) {
            return state.memory().shown(most);
        }
    }

    /**
     * Has it remember something else under a name.
     *
     * @param caller whose it is; empty for all
     * @param key empty for the single value of a name
     * @param expression for the value
     * @throws Problem when that gives no value
     */
    public void remember(String name, String caller, String key, String expression) {
        Ground ground = responder.ground();
        MockMemory.Kept kept =
                MockMemory.kept(around.expressions().evaluate(expression, ground.scope()), around.expressions());
        synchronized (state) {
            state.memory().remember(name, caller, key, kept);
        }
    }

    /** Has it forget what is under a name, and a key where one is given. */
    public void forget(RememberedValue value) {
        synchronized (state) {
            state.memory().forget(value.name(), value.caller(), value.key());
        }
    }

    /** Has it remember what it did at its start. */
    public void forgetAll() {
        synchronized (state) {
            state.memory().clear();
        }
        responder.begin();
    }

    /** Runs something once, on a thread of its own, when so many answers were given that the mock has stopped. */
    public void onOver(Runnable action) {
        whenOver = action;
    }

    /** A request is going to be answered; whether it may be, since the mock may have given all its answers. */
    boolean begin() {
        Conduct conduct = plan.conduct();
        long most = conduct.stopAfter();
        if (underWay.get() >= conduct.limits().requests()) {
            sentAway(HttpResponseStatus.SERVICE_UNAVAILABLE.code(), busy());
            return false;
        }
        if (over || most > 0 && given.incrementAndGet() > most) {
            return false;
        }
        underWay.incrementAndGet();
        return true;
    }

    /** Why a request is not begun. */
    String noMore() {
        return over
                        || closing
                        || plan.conduct().stopAfter() > 0
                                && given.get() > plan.conduct().stopAfter()
                ? "The mock has given all the answers that it was to give."
                : busy();
    }

    private String busy() {
        return "The mock answers " + plan.conduct().limits().requests() + " requests already. Try again later.";
    }

    /** The answer to a request is out. */
    void end() {
        int left = underWay.decrementAndGet();
        long most = plan.conduct().stopAfter();
        if (most > 0 && given.get() >= most && left == 0 && !over) {
            over = true;
            Thread stopping = new Thread(
                    () -> {
                        finish(Duration.ZERO);
                        whenOver.run();
                    },
                    "mock-over");
            stopping.setDaemon(true);
            stopping.start();
        }
    }

    /** Whether connections are not kept any longer than for the answer that is under way. */
    boolean isClosing() {
        return closing;
    }

    /** As {@link #close}, once the requests under way are answered, or the time is up. No other is let in. */
    public void finish(Duration patience) {
        closing = true;
        listening.close().awaitUninterruptibly(2_000);
        long end = System.nanoTime() + patience.toNanos();
        try {
            while (underWay.get() > 0 && System.nanoTime() < end) {
                Thread.sleep(10);
            }
            // what was handed on reaches the network
            Thread.sleep(LINGER_MILLIS);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
        close();
    }

    /**
     * Answers on the contract's queues too, by the same plan, with the same counts and memory, until it is closed.
     *
     * @param listened where each port is, as {@link QueueMock#addresses} gives it
     * @throws Problem when the broker is not there, or does not let messages be taken
     */
    public QueueMock answerQueues(Map<String, JmsAddress> listened, JmsServer.Reach reach) {
        MockPlan begun = plan;
        QueueMock other = QueueMock.start(
                contract, begun, around.with(this::count), listened, reach, state, new QueueMock.Gate() {
                    @Override
                    public boolean begin() {
                        return MockHost.this.begin();
                    }

                    @Override
                    public String noMore() {
                        return MockHost.this.noMore();
                    }

                    @Override
                    public void end() {
                        MockHost.this.end();
                    }
                });
        queues = Optional.of(other);
        if (plan != begun) {
            // edited meanwhile
            other.replace(plan);
        }
        if (closing) {
            other.close();
        }
        return other;
    }

    /** The mock of the contract's queues; empty where there is none. */
    public Optional<QueueMock> queues() {
        return queues;
    }

    /** Stops listening and closes every connection. */
    @Override
    public void close() {
        closing = true;
        queues.ifPresent(QueueMock::close);
        listening.close().awaitUninterruptibly(2_000);
        channels.close().awaitUninterruptibly(2_000);
        workers.shutdown();
        forwarders.shutdown();
    }
}
