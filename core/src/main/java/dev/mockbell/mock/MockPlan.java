package dev.mockbell.mock;

import dev.mockbell.contract.Contract;
import dev.mockbell.contract.FaultDef;
import dev.mockbell.contract.Operation;
import dev.mockbell.contract.Port;
import dev.mockbell.message.MessageOutline;
import dev.mockbell.sample.SampleBuilder;
import dev.mockbell.sample.SampleBuilder.Detail;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;

/**
 * How a mock of a contract answers.
 *
 * @param contract the contract's name in the project
 * @param host the address to listen on; loopback unless asked
 * @param port 0 for any free one
 * @param answers by operation key, in the order in which they are tried; an operation that is not here gives its sample
 * @param conduct how it behaves beside them
 */
public record MockPlan(String contract, String host, int port, Map<String, List<MockAnswer>> answers, Conduct conduct) {
    public static final String LOOPBACK = "127.0.0.1";
    public static final int USUAL_PORT = 8480;

    public MockPlan {
        answers = new LinkedHashMap<>(answers);
    }

    /** One that behaves as they usually do. */
    public MockPlan(String contract, String host, int port, Map<String, List<MockAnswer>> answers) {
        this(contract, host, port, answers, Conduct.USUAL);
    }

    /**
     * A mock that answers every operation with its sample, each made when it is first needed, so that a contract of a thousand
     * operations costs nothing before.
     */
    public static MockPlan sampling(String name, int port) {
        return new MockPlan(name, LOOPBACK, port, Map.of());
    }

    /** The answers that an operation has when none were given: the sample of its output. Work, for a large message. */
    public static List<MockAnswer> samples(Contract contract, String operation) {
        List<Port> ports = contract.sentOperations().getOrDefault(operation, List.of());
        return ports.isEmpty() ? List.of() : List.of(sample(contract, operation, ports));
    }

    /** As {@link #sampling}, with all samples made at once. */
    public static MockPlan of(String name, Contract contract, int port) {
        Map<String, List<MockAnswer>> answers = new LinkedHashMap<>();
        contract.sentOperations().forEach((key, ports) -> answers.put(key, List.of(sample(contract, key, ports))));
        return new MockPlan(name, LOOPBACK, port, answers);
    }

    private static MockAnswer sample(Contract contract, String key, List<Port> ports) {
        Operation operation = ports.get(0).binding().operation(key).orElseThrow();
        String body = operation
                .output()
                .map(o -> SampleBuilder.text(MessageOutline.of(contract, o), Detail.FULL))
                .orElse("");
        return MockAnswer.otherwise("sample", body);
    }

    /** A fault answer with the sample of the fault's detail. */
    public static MockAnswer fault(Contract contract, FaultDef fault, String when) {
        String detail = SampleBuilder.text(MessageOutline.of(contract, fault), Detail.FULL);
        String name = fault.element().map(e -> e.getLocalPart()).orElse(fault.name());
        String reason = name.replaceAll("([a-z0-9])([A-Z])", "$1 $2");
        return MockAnswer.fault(when, name, reason, detail);
    }

    public MockPlan withPort(int number) {
        return new MockPlan(contract, host, number, answers, conduct);
    }

    public MockPlan withHost(String name) {
        return new MockPlan(contract, name, port, answers, conduct);
    }

    public MockPlan with(Conduct other) {
        return new MockPlan(contract, host, port, answers, other);
    }

    /** The names of all that it remembers: what is there from the start, and what its answers name, in a stable order. */
    public Set<String> remembered() {
        Set<String> names = new LinkedHashSet<>(conduct.remembered().keySet());
        answers.values().forEach(list -> list.forEach(a -> a.after().forEach(step -> names.add(step.name()))));
        return names;
    }

    /** With the answers of one operation replaced; those with a condition are kept before the one without. */
    public MockPlan withAnswers(String operation, List<MockAnswer> list) {
        Map<String, List<MockAnswer>> all = new LinkedHashMap<>(answers);
        List<MockAnswer> ordered =
                new ArrayList<>(list.stream().filter(MockAnswer::conditional).toList());
        list.stream().filter(a -> !a.conditional()).forEach(ordered::add);
        all.put(operation, List.copyOf(ordered));
        return new MockPlan(contract, host, port, all, conduct);
    }

    /** Whether answers were given for an operation; otherwise its sample is the answer. */
    public boolean decides(String operation) {
        return answers.containsKey(operation);
    }

    /** The answers given for an operation. */
    public List<MockAnswer> of(String operation) {
        return answers.getOrDefault(operation, List.of());
    }

    /** Operation keys in alphabetical order. */
    public List<String> operations() {
        return List.copyOf(new TreeMap<>(answers).keySet());
    }
}
