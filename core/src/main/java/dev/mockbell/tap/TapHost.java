package dev.mockbell.tap;

import dev.mockbell.exchange.Exchange;
import dev.mockbell.problem.Problem;
import io.netty.channel.Channel;
import io.netty.channel.group.ChannelGroup;
import io.netty.channel.group.DefaultChannelGroup;
import io.netty.util.concurrent.GlobalEventExecutor;
import java.net.InetAddress;
import java.net.InetSocketAddress;
import java.util.Optional;
import java.util.concurrent.ArrayBlockingQueue;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.Executor;
import java.util.concurrent.ThreadPoolExecutor;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.concurrent.atomic.LongAdder;
import java.util.function.Consumer;
import java.util.regex.Pattern;
import javax.net.ssl.SSLContext;

/** A relay that listens: a tap on an endpoint, or a forward proxy. Safe for many threads. */
public final class TapHost implements AutoCloseable {
    private static final Pattern AUTHORITY =
            Pattern.compile("([A-Za-z0-9._-]{1,253}|\\[[0-9A-Fa-f:.]{2,45}])(:[0-9]{1,5})?");

    /** So long those that were let through at the end may take to be answered. */
    private static final int LINGER_MILLIS = 3_000;

    private final TapPlan plan;
    private final TapSurroundings around;
    private final Consumer<String> troubled;
    private final ThreadPoolExecutor workers;
    private final ChannelGroup channels = new DefaultChannelGroup(GlobalEventExecutor.INSTANCE);
    private final Holds holds;
    private final AtomicInteger underWay = new AtomicInteger();
    private final LongAdder passed = new LongAdder();
    private final LongAdder unrecorded = new LongAdder();
    private volatile SSLContext trust;
    private volatile Channel listening;

    private TapHost(TapPlan plan, TapSurroundings around, Consumer<String> troubled) {
        this.plan = plan;
        this.around = around;
        this.troubled = troubled;
        this.holds = new Holds(around.expressions(), around.operations());
        this.workers = new ThreadPoolExecutor(4, 4, 30, TimeUnit.SECONDS, new ArrayBlockingQueue<>(4_096), task -> {
            Thread thread = new Thread(task, "tap-worker");
            thread.setDaemon(true);
            return thread;
        });
        workers.allowCoreThreadTimeOut(true);
    }

    /**
     * Starts listening.
     *
     * @param troubled hears of what goes wrong, a sentence each; on the threads of connections, so it must not block
     * @throws dev.mockbell.problem.Problem of kind PORT_TAKEN when another program has the port
     */
    public static TapHost start(TapPlan plan, TapSurroundings around, Consumer<String> troubled) {
        TapHost host = new TapHost(plan, around, troubled);
        host.listen();
        return host;
    }

    private void listen() {
        Optional<dev.mockbell.wire.ServerTls> tls =
                plan.tls() ? Optional.of(around.keys().apply(plan.host())) : Optional.empty();
        try {
            listening = around.loops().listen(plan.host(), plan.port(), channel -> {
                channels.add(channel);
                tls.ifPresent(t -> channel.pipeline().addLast(around.loops().tls(t.engine())));
                channel.pipeline().addLast(new Relay(this, plan));
            });
        } catch (Problem taken) {
            workers.shutdown();
            throw taken;
        }
    }

    TapSurroundings around() {
        return around;
    }

    Executor workers() {
        return workers;
    }

    SSLContext trust() {
        SSLContext known = trust;
        if (known == null) {
            known = around.trust().get();
            trust = known;
        }
        return known;
    }

    /** Looks a name up, on another thread; what is no name at once. */
    CompletableFuture<InetSocketAddress> resolve(Destination to) {
        InetSocketAddress plain = InetSocketAddress.createUnresolved(to.host(), to.port());
        boolean number = io.netty.util.NetUtil.isValidIpV4Address(to.host())
                || io.netty.util.NetUtil.isValidIpV6Address(to.host());
        if (number) {
            return CompletableFuture.completedFuture(new InetSocketAddress(to.host(), to.port()));
        }
        return CompletableFuture.supplyAsync(
                () -> {
                    try {
                        return new InetSocketAddress(InetAddress.getByName(plain.getHostString()), plain.getPort());
                    } catch (java.net.UnknownHostException e) {
                        throw new java.util.concurrent.CompletionException(e);
                    }
                },
                workers);
    }

    /** What waits for a person. */
    public Holds holds() {
        return holds;
    }

    /** An exchange begins. */
    void began() {
        underWay.incrementAndGet();
    }

    /** Something went wrong that no exchange shows by itself. */
    void trouble(String words) {
        troubled.accept(words);
    }

    /** An exchange is over. */
    void passed(Trace trace, boolean tunnel) {
        underWay.decrementAndGet();
        passed.increment();
        String origin = plan.target().isPresent() ? "tap" : tunnel ? "proxy, a tunnel" : "proxy";
        java.util.function.Supplier<Exchange> made = () -> trace.exchange(origin, around.operations());
        if (!around.recorder().test(made)) {
            unrecorded.increment();
        }
    }

    /** {@code http://127.0.0.1:8490}. */
    public String base() {
        String name = plan.host().contains(":") ? "[" + plan.host() + "]" : plan.host();
        return scheme() + name + ":" + port();
    }

    private String scheme() {
        return plan.tls() ? "https://" : "http://";
    }

    /** The base address by the name that a client called by; by its own where that is none. */
    String baseFor(Optional<String> calledBy) {
        return calledBy.filter(h -> AUTHORITY.matcher(h).matches())
                .map(h -> scheme() + h)
                .orElseGet(this::base);
    }

    /** The address that stands for the target: what a client is to call in its place. Of a proxy, the base. */
    public String address() {
        return base()
                + plan.target()
                        .map(t -> (t.getRawPath() == null ? "" : t.getRawPath())
                                + (t.getRawQuery() == null ? "" : "?" + t.getRawQuery()))
                        .orElse("");
    }

    public TapPlan plan() {
        return plan;
    }

    public int port() {
        return ((InetSocketAddress) listening.localAddress()).getPort();
    }

    /** How many exchanges have passed. */
    public long count() {
        return passed.sum();
    }

    /** How many of them could not be recorded. */
    public long unrecorded() {
        return unrecorded.sum();
    }

    /** Listens no more, lets through what waits, and ends all connections once what is under way is over, or soon. */
    @Override
    public void close() {
        listening.close().awaitUninterruptibly();
        boolean waited = !holds.waiting().isEmpty();
        holds.set(Optional.empty());
        for (int i = 0; waited && underWay.get() > 0 && i < LINGER_MILLIS / 20; i++) {
            try {
                Thread.sleep(20);
            } catch (InterruptedException e) {
                Thread.currentThread().interrupt();
                break;
            }
        }
        channels.close().awaitUninterruptibly(2_000);
        workers.shutdown();
    }
}
