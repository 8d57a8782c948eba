package dev.mockbell.assembly;

import dev.mockbell.content.Content;
import dev.mockbell.content.Header;
import dev.mockbell.contract.Contract;
import dev.mockbell.contract.ContractReader;
import dev.mockbell.contract.DocumentFetcher;
import dev.mockbell.contract.ReadLimits;
import dev.mockbell.exchange.Exchange;
import dev.mockbell.expression.Expressions;
import dev.mockbell.expression.SecretHosts;
import dev.mockbell.expression.Variable;
import dev.mockbell.file.Inside;
import dev.mockbell.file.UserFolders;
import dev.mockbell.fleet.FleetOrder;
import dev.mockbell.fleet.Invitation;
import dev.mockbell.fleet.Meeting;
import dev.mockbell.fleet.WhenLost;
import dev.mockbell.ledger.Ledger;
import dev.mockbell.listing.ContractFinder;
import dev.mockbell.load.LoadControl;
import dev.mockbell.load.LoadEngine;
import dev.mockbell.load.LoadPlan;
import dev.mockbell.message.OperationFinder;
import dev.mockbell.mock.MockListener;
import dev.mockbell.mock.MockRecorder;
import dev.mockbell.mock.MockSurroundings;
import dev.mockbell.problem.Problem;
import dev.mockbell.project.LocalKeys;
import dev.mockbell.project.LocalProject;
import dev.mockbell.project.LocalProjects;
import dev.mockbell.project.Project;
import dev.mockbell.project.ProjectBench;
import dev.mockbell.project.ProjectStore;
import dev.mockbell.project.Secrets;
import dev.mockbell.redact.Redactor;
import dev.mockbell.suite.CaseCaller;
import dev.mockbell.suite.SuiteRunner;
import dev.mockbell.suite.Workbench;
import dev.mockbell.tap.TapSurroundings;
import dev.mockbell.wire.CallRequest;
import dev.mockbell.wire.CallResult;
import dev.mockbell.wire.Connect;
import dev.mockbell.wire.EventLoops;
import dev.mockbell.wire.HttpCaller;
import dev.mockbell.wire.HttpFetcher;
import dev.mockbell.wire.LoginAsker;
import dev.mockbell.wire.ServerTls;
import dev.mockbell.wire.jms.JmsCaller;
import dev.mockbell.wire.jms.ProviderJars;
import java.net.ProxySelector;
import java.net.URI;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.ConcurrentHashMap;
import java.util.function.Predicate;
import java.util.function.Supplier;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import javax.net.ssl.SSLContext;

/**
 * The parts of the core that a program uses, put together for one user. What costs to make is made when it is first asked
 * for, so that a small command starts fast. Safe for many threads.
 */
public final class Core implements AutoCloseable {
    /** Of the program. */
    public static final String VERSION = "0.1.0";

    /** Certificates that are held; a client of a proxy may ask for any number of names. */
    private static final int MOST_ISSUED = 1_000;

    private final UserFolders user;
    private final Map<String, String> environment;
    private final ProxySelector proxies;
    private final ProviderJars providers;
    private ProjectStore store;
    private HttpCaller http;
    private Expressions expressions;
    private EventLoops loops;
    private JmsCaller jms;
    private Secrets secrets;

    /**
     * @param environment the process's variables, where secrets and their hosts may stand
     * @param proxies how the network is reached
     */
    public Core(UserFolders user, Map<String, String> environment, ProxySelector proxies) {
        this.user = user;
        this.environment = Map.copyOf(environment);
        this.proxies = proxies;
        this.providers = providers(user);
    }

    /** The one that calls. */
    public synchronized HttpCaller http() {
        if (http == null) {
            http = new HttpCaller(Connect.USUAL.through(proxies));
        }
        return http;
    }

    /**
     * Begins to bring calling to speed, on a thread of its own; wait for it before the first call that is measured.
     *
     * @return done when it is
     */
    public CompletableFuture<Void> warmUp() {
        HttpCaller caller = http();
        return begun(() -> {
            caller.warmUp(60);
            // what was thrown away so far would stop the program some 30 ms, most likely in the first call
            System.gc();
            caller.warmUp(10);
        });
    }

    /**
     * The last of bringing calling to speed, right before a call that is measured: what the program did since has cooled the
     * processor's caches. Takes a few milliseconds, over TLS some tenths of a second.
     */
    public void warmUpBefore(URI address) {
        if ("https".equalsIgnoreCase(address.getScheme())) {
            http().warmUpTls(40);
            System.gc();
            http().warmUpTls(8);
        } else {
            http().warmUp(8);
        }
    }

    private static CompletableFuture<Void> begun(Runnable work) {
        CompletableFuture<Void> done = new CompletableFuture<>();
        Thread thread = new Thread(
                () -> {
                    try {
                        work.run();
                    } finally {
                        done.complete(null);
                    }
                },
                "warm-up");
        thread.setDaemon(true);
        thread.start();
        return done;
    }

    /** Evaluates expressions; keeps what it has compiled. */
    public synchronized Expressions expressions() {
        if (expressions == null) {
            expressions = new Expressions();
        }
        return expressions;
    }

    /** Clients of brokers that a user has put beside the program. */
    public static ProviderJars providers(UserFolders user) {
        return new ProviderJars(user.config().resolve("jms"));
    }

    /** Those of this one's user. */
    public ProviderJars providers() {
        return providers;
    }

    /** Sends to queues; its connections are kept. */
    public synchronized JmsCaller jms() {
        if (jms == null) {
            jms = new JmsCaller(providers);
        }
        return jms;
    }

    /** The threads of mocks and load, one a processor. */
    public synchronized EventLoops loops() {
        if (loops == null) {
            loops = new EventLoops("net", Math.max(1, Runtime.getRuntime().availableProcessors()));
        }
        return loops;
    }

    /** Makes requests of cases and sends them. */
    public CaseCaller caller() {
        return new CaseCaller(http(), this::jms, expressions());
    }

    /** Reads and writes project folders. */
    public synchronized ProjectStore store() {
        if (store == null) {
            store = new ProjectStore();
        }
        return store;
    }

    /** The secrets of the user. */
    public synchronized Secrets secrets() {
        if (secrets == null) {
            secrets = Secrets.ofUser(user, environment);
        }
        return secrets;
    }

    /** What this machine knows of projects. */
    public LocalProjects locals() {
        return LocalProjects.ofUser(user);
    }

    /** Where a project's secrets may go: to the hosts that the user has allowed it, and those of the environment. */
    public SecretHosts hosts(LocalProject local) {
        return new SecretHosts(local.hosts()).andOf(environment);
    }

    /** A project as runs see it, with the secrets that this machine has for it. */
    public ProjectBench bench(Project project, LocalProject local, SecretHosts hosts) {
        return new ProjectBench(project, local, secrets(), hosts);
    }

    /** Masks the secrets of a project, as far as this machine has them, and all that is a credential by its nature. */
    public Redactor redactor(Project project) {
        return Redactor.of(secretValues(project));
    }

    /** The values of a project's secrets by their names, as far as this machine has them. */
    public Map<String, String> secretValues(Project project) {
        LocalProject local = locals().of(project.folder());
        Map<String, String> values = new LinkedHashMap<>();
        Stream.of(
                        project.settings().variables().stream(),
                        project.environments().stream().flatMap(e -> e.variables().stream()),
                        project.cases().stream().flatMap(c -> c.variables().stream()))
                .flatMap(v -> v)
                .filter(Variable::secret)
                .map(Variable::name)
                .distinct()
                .forEach(name -> secrets().value(local, name).ifPresent(value -> values.put(name, value)));
        return values;
    }

    /**
     * What lets a program take part in the project's load from many machines.
     *
     * @param role {@link Invitation#WORKER} or {@link Invitation#COORDINATOR}
     */
    public Invitation invitation(Project project, Meeting meeting, URI role, Duration life) {
        return Invitation.of(
                keys(project).authority(), role, meeting.host(), meeting.port(), project.name(), Instant.now(), life);
    }

    /**
     * What workers are to do together.
     *
     * @param engine tells what the plan carries out
     * @param hosts which may have the project's secrets
     * @throws dev.mockbell.problem.Problem when the plan cannot be carried out, as {@link LoadEngine#run}
     */
    public FleetOrder order(
            Project project,
            LoadPlan plan,
            LoadEngine engine,
            LocalProject local,
            SecretHosts hosts,
            WhenLost whenLost,
            LoadControl control) {
        LoadEngine.Named named = engine.named(plan, bench(project, local, hosts), local::mayLoad, control);
        return new FleetOrder(
                plan,
                project.folder(),
                project.environment(),
                named,
                secretValues(project),
                hosts.hosts(),
                named.hosts().stream().filter(local::mayLoad).collect(Collectors.toSet()),
                whenLost);
    }

    /** A runner whose calls go on a ledger. */
    public SuiteRunner runner(Workbench bench, Ledger ledger, Clock clock) {
        return new SuiteRunner(bench, caller(), expressions(), SuiteRunner.on(ledger), clock);
    }

    /**
     * What mocks without a project need around them.
     *
     * @param recorder null to record nothing
     */
    public MockSurroundings mocks(MockRecorder recorder, MockListener listener) {
        return MockSurroundings.alone(loops(), expressions(), recorder, listener)
                .with((request, stop) -> http().call(request, stop))
                .with(keys());
    }

    /** Keys of this machine for mocks without a project. */
    public LocalKeys keys() {
        return new LocalKeys(user, locals(), Optional.empty(), "Mock Bell", secrets(), Clock.systemUTC());
    }

    /** What the mocks of a project need around them. */
    public MockSurroundings mocks(Project project, MockRecorder recorder, MockListener listener) {
        return mocks(recorder, listener).with(new Inside(project.folder())).with(keys(project));
    }

    /** Keys and secrets of this machine for the mocks of a project. */
    public LocalKeys keys(Project project) {
        return new LocalKeys(
                user, locals(), Optional.of(project.folder()), project.name(), secrets(), Clock.systemUTC());
    }

    /**
     * What relays need around them.
     *
     * @param project whose contracts tell operations, and whose authority issues; empty for neither
     * @param recorder takes what makes an exchange, without blocking
     * @param trust what certificates of services are judged by
     */
    public TapSurroundings taps(
            Optional<Project> project, Predicate<Supplier<Exchange>> recorder, Supplier<SSLContext> trust) {
        Map<String, Contract> contracts = new LinkedHashMap<>();
        project.ifPresent(p -> p.contracts().forEach(k -> contracts.put(k.name(), k.contract())));
        LocalKeys keys = project.map(this::keys).orElseGet(this::keys);
        Map<String, ServerTls> issued = new ConcurrentHashMap<>();
        return new TapSurroundings(
                loops(),
                recorder,
                host -> {
                    if (issued.size() > MOST_ISSUED) {
                        issued.clear();
                    }
                    return issued.computeIfAbsent(host, keys::issued);
                },
                trust,
                expressions(),
                new OperationFinder(contracts));
    }

    /** Reads contracts from addresses and files. */
    public ContractReader reader(ReadLimits limits, LoginAsker asker) {
        return reader(this::http, limits, asker);
    }

    /** As {@link #reader(ReadLimits, LoginAsker)}, reaching servers in another way. */
    public static ContractReader reader(Supplier<HttpCaller> caller, ReadLimits limits, LoginAsker asker) {
        HttpFetcher fetcher = new HttpFetcher(caller, limits, asker);
        return new ContractReader(fetcher.andFiles(limits.document().bytes()), limits);
    }

    /** Finds the contracts that pages, registries and folders list. */
    public ContractFinder finder(ReadLimits limits, LoginAsker asker) {
        return finder(this::http, limits, asker);
    }

    /** As {@link #finder(ReadLimits, LoginAsker)}, reaching servers in another way. */
    public static ContractFinder finder(Supplier<HttpCaller> caller, ReadLimits limits, LoginAsker asker) {
        DocumentFetcher fetcher = new HttpFetcher(caller, limits, asker)
                .andFiles(limits.document().bytes());
        return new ContractFinder(fetcher, limits, (address, action, envelope, stop) -> {
            CallRequest request = new CallRequest(
                    "POST",
                    address,
                    List.of(
                            new Header("Content-Type", "text/xml; charset=utf-8"),
                            new Header("SOAPAction", "\"" + action + "\"")),
                    Content.of(envelope),
                    limits.timeout().multipliedBy(4));
            Connect usual = caller.get().connect();
            Connect by = usual.with(new Connect.Limits(
                    limits.document().bytes(),
                    usual.limits().line(),
                    usual.limits().headers()));
            CallResult result = caller.get().call(request, by, stop);
            if (stop.isStopped()) {
                throw Problem.stopped();
            }
            return result.response()
                    .map(r -> r.body().bytes())
                    .orElseThrow(() -> Problem.of(
                            Problem.Kind.NO_ANSWER,
                            result.failure().orElse("There is no answer"),
                            address.toString(),
                            result.next(),
                            null));
        });
    }

    @Override
    public synchronized void close() {
        if (http != null) {
            http.close();
        }
        if (jms != null) {
            jms.close();
        }
        if (loops != null) {
            loops.close();
        }
    }
}
