package dev.mockbell.desktop.model;

import dev.mockbell.contract.Operation;
import dev.mockbell.contract.Port;
import dev.mockbell.contract.Protocol;
import dev.mockbell.message.MessageOutline;
import dev.mockbell.mock.Learning;
import dev.mockbell.mock.MockAnswer;
import dev.mockbell.mock.MockEvent;
import dev.mockbell.mock.MockHost;
import dev.mockbell.mock.MockPlan;
import dev.mockbell.mock.MockSurroundings;
import dev.mockbell.mock.QueueMock;
import dev.mockbell.mock.Readiness;
import dev.mockbell.mock.Trial;
import dev.mockbell.problem.Problem;
import dev.mockbell.project.Environment;
import dev.mockbell.project.KeptContract;
import dev.mockbell.project.LocalProject;
import dev.mockbell.sample.SampleBuilder;
import dev.mockbell.soap.Envelope;
import dev.mockbell.soap.SoapVersion;
import dev.mockbell.wire.EventLoops;
import dev.mockbell.wire.PortHolder;
import dev.mockbell.wire.jms.JmsAddress;
import dev.mockbell.wire.jms.JmsServer;
import java.time.Duration;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.atomic.AtomicBoolean;
import java.util.function.Consumer;
import java.util.stream.Collectors;
import javafx.beans.property.IntegerProperty;
import javafx.beans.property.ObjectProperty;
import javafx.beans.property.SimpleIntegerProperty;
import javafx.beans.property.SimpleObjectProperty;
import javafx.beans.property.SimpleStringProperty;
import javafx.beans.property.StringProperty;

/** The mock station: mocks of the project's contracts, up or down, and their answers. */
public final class MocksModel {
    private static final Duration PATIENCE = Duration.ofSeconds(15);

    private final Desk desk;
    /** The newest plan of each running mock that it does not serve yet. */
    private final Map<MockHost, MockPlan> wanted = new ConcurrentHashMap<>();

    private final Map<String, MockHost> up = new LinkedHashMap<>();
    private final Map<String, Consumer<MockHost>> waiting = new HashMap<>();
    private final ObjectProperty<KeptContract> contract = new SimpleObjectProperty<>();
    /** Of which mock it was said that it goes on with another contract. */
    private final Map<String, MockHost> told = new HashMap<>();

    private final StringProperty operation = new SimpleStringProperty();
    private final IntegerProperty answer = new SimpleIntegerProperty(0);
    private final IntegerProperty version = new SimpleIntegerProperty();
    private final AtomicBoolean refreshDue = new AtomicBoolean();
    private final Derived<Sampled, List<MockAnswer>> samples;
    private final Derived<Planned, List<Readiness.Remark>> remarks;
    private final Derived<Missed, Trial> trials;
    private final AnswerEdits edits;
    private final MockLearning learning;

    public MocksModel(Desk desk) {
        this.desk = desk;
        this.samples = new Derived<>(desk.tasks(), 50, Sampled::answers, desk::tell);
        this.remarks = new Derived<>(
                desk.tasks(),
                4,
                p -> Readiness.of(p.contract().contract(), p.plan(), desk.mocks(null, e -> {})),
                desk::tell);
        this.trials = new Derived<>(
                desk.tasks(),
                20,
                m -> Trial.of(m.contract().contract(), m.plan(), desk.mocks(null, e -> {}), m.request()),
                desk::tell);
        remarks.changesProperty().addListener((o, was, now) -> changed());
        trials.changesProperty().addListener((o, was, now) -> changed());
        this.edits = new AnswerEdits(this, desk);
        this.learning = new MockLearning(this, desk);
        samples.changesProperty().addListener((o, was, now) -> changed());
        desk.project().contracts().stream().findFirst().ifPresent(this::open);
        desk.projectProperty().addListener((o, was, now) -> {
            if (contract.get() == null) {
                now.contracts().stream().findFirst().ifPresent(this::open);
            } else {
                now.contract(contract.get().name())
                        .filter(k -> !k.equals(contract.get()))
                        .ifPresent(this::open);
            }
            now.contracts().forEach(this::tellOfOther);
        });
        desk.onTook(all -> all.forEach(taken -> {
            if (taken.part().value() instanceof MockPlan other && !taken.gone()) {
                edits.forget();
                host(other.contract()).ifPresent(h -> serve(h, other));
                changed();
            }
        }));
        desk.onClose(() -> {
            List<MockHost> left = List.copyOf(up.values());
            up.clear();
            desk.onEnd(() -> left.forEach(MockHost::close));
        });
        desk.placeProperty().addListener((o, was, now) -> {
            if (now != null) {
                open(now.contract());
                operation.set(now.key());
                answer.set(0);
            }
        });
    }

    public ObjectProperty<KeptContract> contractProperty() {
        return contract;
    }

    public StringProperty operationProperty() {
        return operation;
    }

    /** The index of the answer looked at. */
    public IntegerProperty answerProperty() {
        return answer;
    }

    /** Grows whenever something about a mock changed; at most ten times a second. */
    public IntegerProperty versionProperty() {
        return version;
    }

    private void open(KeptContract kept) {
        contract.set(kept);
        if (operation.get() == null || kept.contract().operations().get(operation.get()) == null) {
            operation.set(
                    kept.contract().operations().keySet().stream().findFirst().orElse(null));
            answer.set(0);
        }
    }

    /** The plan of the contract looked at; the samples when none was made yet. */
    public Optional<MockPlan> plan() {
        return Optional.ofNullable(contract.get()).map(this::plan);
    }

    MockPlan plan(KeptContract kept) {
        return desk.project()
                .mock(kept.name())
                .orElseGet(() -> MockPlan.sampling(kept.name(), MockPlan.USUAL_PORT + up.size()));
    }

    /** The running mock of a contract. */
    public Optional<MockHost> host(String contractName) {
        return Optional.ofNullable(up.get(contractName));
    }

    /** The running mock of the contract looked at. */
    public Optional<MockHost> host() {
        return Optional.ofNullable(contract.get()).flatMap(c -> host(c.name()));
    }

    public int running() {
        return up.size();
    }

    /** Starts the mock of the contract looked at, or stops it. */
    public void startOrStop() {
        KeptContract kept = contract.get();
        if (kept == null) {
            return;
        }
        if (up.containsKey(kept.name())) {
            stop(kept.name());
        } else {
            start(kept, plan(kept));
        }
    }

    /** Says so where a running mock goes on as it was in something that counts only when it starts. */
    public void settled(MockPlan before, MockPlan now) {
        KeptContract kept = contract.get();
        boolean later = !before.host().equals(now.host())
                || before.port() != now.port()
                || !before.conduct().paths().equals(now.conduct().paths())
                || !before.conduct().limits().equals(now.conduct().limits())
                || !before.conduct().tls().equals(now.conduct().tls());
        if (later && host().isPresent()) {
            desk.tell(new Notice(
                    "The mock goes on at its address and with its limits until it is started again.",
                    false,
                    Optional.of(new Notice.Action("Restart it", () -> restart(kept)))));
        }
    }

    /** A mock that runs goes on with the contract that it was started with. */
    private void tellOfOther(KeptContract kept) {
        boolean other = host(kept.name())
                .filter(h -> h.contract() != kept.contract() && told.put(kept.name(), h) != h)
                .isPresent();
        if (other) {
            desk.tell(new Notice(
                    "The mock of " + kept.title() + " goes on with the contract as it was.",
                    false,
                    Optional.of(new Notice.Action("Restart it", () -> restart(kept)))));
        }
    }

    /** Stops a mock and starts it as it is planned now. */
    private void restart(KeptContract kept) {
        MockHost host = up.remove(kept.name());
        changed();
        desk.tasks()
                .run(
                        () -> {
                            if (host != null) {
                                host.finish(PATIENCE);
                            }
                            return null;
                        },
                        nothing -> {
                            // which may be another by the time that somebody wants it
                            KeptContract now =
                                    desk.project().contract(kept.name()).orElse(kept);
                            start(now, plan(now));
                        },
                        desk::tell);
    }

    /** A mock has given all the answers that it was to give. */
    private void over(String name, MockHost host) {
        if (up.remove(name, host)) {
            desk.tell(Notice.plain("The mock of " + name + " has given its "
                    + host.plan().conduct().stopAfter() + " answers and stopped"));
            changed();
        }
    }

    private void stop(String name) {
        MockHost host = up.remove(name);
        changed();
        desk.tasks()
                .run(
                        () -> {
                            host.close();
                            return null;
                        },
                        nothing -> {},
                        desk::tell);
    }

    /** Starts a mock; a taken port is explained with the next free one. */
    public void start(KeptContract kept, MockPlan plan) {
        LocalProject local = desk.local();
        desk.tasks()
                .run(
                        () -> {
                            local.checkListening(plan.host());
                            return MockHost.start(
                                    kept.contract(), plan, desk.mocks(desk.ledger()::offerMade, e -> soon()));
                        },
                        host -> {
                            up.put(kept.name(), host);
                            host.onOver(() -> desk.tasks().later(() -> over(kept.name(), host)));
                            if (desk.project().mock(kept.name()).isEmpty()) {
                                save(plan.withPort(host.port()));
                            }
                            changed();
                            queues(kept, plan, host);
                            Optional.ofNullable(waiting.remove(kept.name())).ifPresent(w -> w.accept(host));
                        },
                        problem -> {
                            if (problem.kind() == Problem.Kind.PORT_TAKEN) {
                                taken(kept, plan, problem);
                            } else {
                                desk.tell(problem, () -> start(kept, plan));
                            }
                        });
    }

    /** Has the queues of a contract answered too; over HTTP it answers whatever becomes of that. */
    private void queues(KeptContract kept, MockPlan plan, MockHost host) {
        if (!QueueMock.isFor(kept.contract())) {
            return;
        }
        LocalProject local = desk.local();
        Environment environment = desk.project().current();
        desk.tasks()
                .run(
                        () -> {
                            Map<String, JmsAddress> addresses = QueueMock.addresses(
                                    kept.contract(), plan, port -> environment.endpoint(kept.name(), port));
                            addresses.values().forEach(a -> local.checkListening(a.host()));
                            return host.answerQueues(
                                    addresses,
                                    new JmsServer.Reach(
                                            desk.core().http().connect(),
                                            desk.core().providers(),
                                            said -> desk.tasks().later(() -> desk.tell(Notice.plain(said)))));
                        },
                        queue -> changed(),
                        problem -> desk.tell(Notice.bad(
                                "Its queues are not answered: " + problem.getMessage(),
                                "Try again",
                                () -> queues(kept, plan, host))));
    }

    /** Another program has the port: an earlier mock of ours can be taken over, else the next free one helps. */
    private void taken(KeptContract kept, MockPlan plan, Problem problem) {
        desk.tasks()
                .run(
                        () -> PortHolder.of(plan.port()).filter(PortHolder::isOurMock),
                        ours -> {
                            int free = EventLoops.freePort(plan.port() + 1);
                            if (ours.isPresent()) {
                                desk.tell(Notice.bad(
                                        problem.what() + ".",
                                        "Take it over",
                                        () -> desk.tasks()
                                                .run(
                                                        () -> {
                                                            ours.get().takeOver(PATIENCE);
                                                            return null;
                                                        },
                                                        gone -> start(kept, plan),
                                                        desk::tell)));
                            } else {
                                desk.tell(Notice.bad(
                                        problem.what() + ".", "Use " + free, () -> start(kept, plan.withPort(free))));
                            }
                        },
                        desk::tell);
    }

    /** Hears of the contract's mock once it runs; it is started where it does not. */
    void running(KeptContract kept, Consumer<MockHost> then) {
        MockHost there = up.get(kept.name());
        if (there != null) {
            then.accept(there);
            return;
        }
        waiting.put(kept.name(), then);
        start(kept, plan(kept));
    }

    private void soon() {
        if (refreshDue.compareAndSet(false, true)) {
            desk.tasks().later(() -> {
                javafx.animation.PauseTransition pause =
                        new javafx.animation.PauseTransition(javafx.util.Duration.millis(100));
                pause.setOnFinished(e -> {
                    refreshDue.set(false);
                    changed();
                });
                pause.play();
            });
        }
    }

    private void changed() {
        version.set(version.get() + 1);
    }

    /** The answers of the operation looked at; none yet while its sample is being made. */
    public List<MockAnswer> answers() {
        KeptContract kept = contract.get();
        if (kept == null || operation.get() == null) {
            return List.of();
        }
        MockPlan plan = plan(kept);
        return plan.decides(operation.get())
                ? plan.of(operation.get())
                : samples.of(new Sampled(kept, operation.get())).orElse(List.of());
    }

    private record Sampled(KeptContract contract, String operation) {
        List<MockAnswer> answers() {
            return MockPlan.samples(contract.contract(), operation);
        }
    }

    /** Keeps another plan of the mock; it takes effect at once. */
    void keep(MockPlan plan) {
        save(plan);
    }

    /** Makes answers from exchanges. */
    public MockLearning learning() {
        return learning;
    }

    /** Looks at the mock of a contract. */
    public void look(KeptContract kept) {
        look(kept, kept.contract().operations().keySet().stream().findFirst().orElse(null));
    }

    /** Looks at an operation of a contract. */
    void look(KeptContract kept, String key) {
        contract.set(kept);
        operation.set(key);
        answer.set(0);
    }

    /** What can be done to the mock. */
    public AnswerEdits edits() {
        return edits;
    }

    /** What of the mock would not work as it is meant, as far as that is worked out. */
    public List<Readiness.Remark> remarks() {
        KeptContract kept = contract.get();
        return kept == null
                ? List.of()
                : remarks.of(new Planned(kept, plan(kept))).orElse(List.of());
    }

    private record Planned(KeptContract contract, MockPlan plan) {}

    /** A message, or what is said of one, as it is shown: masked, unless the user wants to see all of it. */
    public String shown(String message) {
        return desk.shownMessage(message);
    }

    /** Hears what would be answered to a request, by the mock as it is now, whether it is up or not. */
    public void tried(MockEvent.Kept request, Consumer<Trial> then) {
        KeptContract kept = contract.get();
        Optional<MockHost> host = host();
        MockPlan plan = plan(kept);
        MockSurroundings around = desk.mocks(null, e -> {});
        desk.tasks()
                .run(
                        () -> host.isPresent()
                                ? host.get().tried(request)
                                : Trial.of(kept.contract(), plan, around, request),
                        then,
                        desk::tell);
    }

    /** Makes an answer for requests like one that got none, and looks at it. */
    public void answerFor(MockEvent event) {
        KeptContract kept = contract.get();
        operation.set(event.operation());
        Optional<String> nearest = trial(event)
                .flatMap(Trial::nearest)
                .map(v -> plan(kept).of(event.operation()))
                .map(list -> list.stream().map(MockAnswer::when).collect(Collectors.joining(" ")));
        desk.tasks()
                .run(
                        () -> MockPlan.samples(kept.contract(), event.operation()).stream()
                                .findFirst()
                                .orElse(MockAnswer.otherwise("message", ""))
                                .withTitle("message")
                                .withWhen(Learning.condition(event.request(), nearest)),
                        made -> {
                            if (kept == contract.get()) {
                                edits.insert(made);
                            }
                        },
                        desk::tell);
    }

    /** Hears the sample of a request of the operation looked at. */
    public void sampleRequest(Consumer<String> then) {
        KeptContract kept = contract.get();
        String key = operation.get();
        desk.tasks()
                .run(
                        () -> {
                            Port port = kept.contract().operations().get(key).get(0);
                            Operation found = port.binding().operation(key).orElseThrow();
                            boolean second = port.binding().protocol() == Protocol.SOAP12;
                            String payload = found.input()
                                    .map(i -> SampleBuilder.text(
                                            MessageOutline.of(kept.contract(), i), SampleBuilder.Detail.FULL))
                                    .orElse("");
                            return Envelope.around(second ? SoapVersion.V12 : SoapVersion.V11, payload, List.of());
                        },
                        then,
                        desk::tell);
    }

    /** Why a request was not answered, with the answer that came nearest; none until it is worked out. */
    public Optional<Trial> trial(MockEvent event) {
        KeptContract kept = contract.get();
        return event.request().isThere() && kept != null
                ? trials.of(new Missed(kept, plan(kept), event.request()))
                : Optional.empty();
    }

    private record Missed(KeptContract contract, MockPlan plan, MockEvent.Kept request) {}

    /** Has a running mock serve by a plan; what cannot be taken leaves it as it was. */
    private void serve(MockHost host, MockPlan plan) {
        wanted.put(host, plan);
        desk.tasks()
                .run(
                        () -> {
                            // whichever of several edits comes first here, it is the newest that is served
                            synchronized (host) {
                                MockPlan newest = wanted.remove(host);
                                if (newest != null) {
                                    host.replace(newest);
                                }
                            }
                            return null;
                        },
                        nothing -> changed(),
                        desk::tell);
    }

    private void save(MockPlan plan) {
        desk.change(p -> p.withMock(plan));
        host(plan.contract()).ifPresent(h -> serve(h, plan));
        changed();
    }
}
