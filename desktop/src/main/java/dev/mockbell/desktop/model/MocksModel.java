package dev.mockbell.desktop.model;

import dev.mockbell.contract.FaultDef;
import dev.mockbell.mock.MockAnswer;
import dev.mockbell.mock.MockHost;
import dev.mockbell.mock.MockPlan;
import dev.mockbell.problem.Problem;
import dev.mockbell.project.KeptContract;
import dev.mockbell.project.LocalProject;
import dev.mockbell.wire.EventLoops;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.atomic.AtomicBoolean;
import java.util.function.Consumer;
import javafx.beans.property.IntegerProperty;
import javafx.beans.property.ObjectProperty;
import javafx.beans.property.SimpleIntegerProperty;
import javafx.beans.property.SimpleObjectProperty;
import javafx.beans.property.SimpleStringProperty;
import javafx.beans.property.StringProperty;

/** The mock station: mocks of the project's contracts, up or down, and their answers. */
public final class MocksModel {
    private final Desk desk;
    private final Map<String, MockHost> up = new LinkedHashMap<>();
    private final Map<String, Consumer<MockHost>> waiting = new HashMap<>();
    private final ObjectProperty<KeptContract> contract = new SimpleObjectProperty<>();
    private final StringProperty operation = new SimpleStringProperty();
    private final IntegerProperty answer = new SimpleIntegerProperty(0);
    private final IntegerProperty version = new SimpleIntegerProperty();
    private final AtomicBoolean refreshDue = new AtomicBoolean();
    private final Derived<Sampled, List<MockAnswer>> samples;

    public MocksModel(Desk desk) {
        this.desk = desk;
        this.samples = new Derived<>(desk.tasks(), 50, Sampled::answers, desk::tell);
        samples.changesProperty().addListener((o, was, now) -> changed());
        desk.project().contracts().stream().findFirst().ifPresent(this::open);
        desk.projectProperty().addListener((o, was, now) -> {
            if (contract.get() == null) {
                now.contracts().stream().findFirst().ifPresent(this::open);
            }
        });
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

    private MockPlan plan(KeptContract kept) {
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
                                    kept.contract(),
                                    plan,
                                    desk.loops(),
                                    desk.expressions(),
                                    desk.ledger()::offerMade,
                                    e -> soon());
                        },
                        host -> {
                            up.put(kept.name(), host);
                            if (desk.project().mock(kept.name()).isEmpty()) {
                                save(plan.withPort(host.port()));
                            }
                            changed();
                            Optional.ofNullable(waiting.remove(kept.name())).ifPresent(w -> w.accept(host));
                        },
                        problem -> {
                            if (problem.kind() == Problem.Kind.PORT_TAKEN) {
                                int free = EventLoops.freePort(plan.port() + 1);
                                desk.tell(Notice.bad(
                                        problem.what() + ".", "Use " + free, () -> start(kept, plan.withPort(free))));
                            } else {
                                desk.tell(problem, () -> start(kept, plan));
                            }
                        });
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

    /** Adds a fault answer, for a condition to be typed. */
    public void addFault(FaultDef fault) {
        KeptContract kept = contract.get();
        desk.tasks()
                .run(
                        () -> MockPlan.fault(kept.contract(), fault, "false()"),
                        made -> {
                            if (kept == contract.get()) {
                                insert(made);
                            }
                        },
                        desk::tell);
    }

    /** Adds a message answer, for a condition to be typed. */
    public void addMessage() {
        List<MockAnswer> list = answers();
        String body = list.isEmpty() ? "" : list.get(list.size() - 1).body();
        insert(MockAnswer.message("false()", "message", body));
    }

    private void insert(MockAnswer made) {
        List<MockAnswer> list = new ArrayList<>(answers());
        int at = (int) list.stream().filter(MockAnswer::conditional).count();
        list.add(at, made);
        save(list);
        answer.set(at);
        changed();
    }

    /** Changes an answer. A condition that does not parse is refused with the reason and the old one kept. */
    public void change(int index, MockAnswer changed) {
        if (changed.conditional()) {
            try {
                desk.expressions().check(changed.when(), Set.of("request", "hits"));
            } catch (Problem problem) {
                desk.tell(problem);
                return;
            }
        }
        List<MockAnswer> list = new ArrayList<>(answers());
        list.set(index, changed);
        save(list);
    }

    public void remove(int index) {
        List<MockAnswer> list = new ArrayList<>(answers());
        MockPlan before = plan().orElseThrow();
        list.remove(index);
        save(list);
        answer.set(Math.max(0, index - 1));
        desk.tell(new Notice(
                "Deleted the answer.", false, Optional.of(new Notice.Action("Bring it back", () -> save(before)))));
    }

    private void save(List<MockAnswer> list) {
        save(plan().orElseThrow().withAnswers(operation.get(), list));
    }

    private void save(MockPlan plan) {
        desk.change(p -> p.withMock(plan));
        host(plan.contract()).ifPresent(h -> h.replace(plan));
        changed();
    }
}
