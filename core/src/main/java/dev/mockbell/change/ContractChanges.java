package dev.mockbell.change;

import dev.mockbell.change.ContractChange.Kind;
import dev.mockbell.contract.Contract;
import dev.mockbell.contract.Operation;
import dev.mockbell.contract.Port;
import dev.mockbell.contract.SourceDocument;
import dev.mockbell.problem.Problem;
import dev.mockbell.task.StopSignal;
import dev.mockbell.validation.Likeness;
import dev.mockbell.xml.Place;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/**
 * All in which a contract became another.
 *
 * @param changes by operation in the order of the old contract, then new operations, then ports
 * @param documents the documents that are others, line by line
 */
public record ContractChanges(Contract was, Contract is, List<ContractChange> changes, List<DocumentChange> documents) {
    private static final double LIKE = 0.55;

    public ContractChanges {
        changes = List.copyOf(changes);
        documents = List.copyOf(documents);
    }

    /**
     * Holds two contracts against each other.
     *
     * @throws Problem when stopped
     */
    public static ContractChanges between(Contract was, Contract is, StopSignal stop) {
        List<DocumentChange> documents = Documents.between(was, is);
        stop.check();
        Set<ContractChange> found = new LinkedHashSet<>();
        if (!sameDocuments(was, is)) {
            operations(was, is, stop, found);
            endpoints(was, is, found);
        }
        return new ContractChanges(was, is, List.copyOf(found), documents);
    }

    /** Whether both came of the same documents, so that nothing need be compared. */
    private static boolean sameDocuments(Contract was, Contract is) {
        List<String> before =
                was.documents().stream().map(SourceDocument::sha256).toList();
        List<String> after = is.documents().stream().map(SourceDocument::sha256).toList();
        return before.equals(after);
    }

    /** Whether nothing changed for anybody, though a document may have. */
    public boolean isEmpty() {
        return changes.isEmpty();
    }

    /** How many have that effect on a side. */
    public long count(Side side, Effect effect) {
        return changes.stream().filter(c -> c.on(side) == effect).count();
    }

    /** Whether some change breaks a side for sure. */
    public boolean breaks(Side side) {
        return count(side, Effect.BREAKS) > 0;
    }

    /** The changes by the operation that they are of, ports under the empty key. */
    public Map<String, List<ContractChange>> byOperation() {
        Map<String, List<ContractChange>> groups = new LinkedHashMap<>();
        changes.forEach(c ->
                groups.computeIfAbsent(c.operation(), k -> new ArrayList<>()).add(c));
        return groups;
    }

    private static void operations(Contract was, Contract is, StopSignal stop, Set<ContractChange> found) {
        Map<String, List<Port>> before = all(was);
        Map<String, List<Port>> after = all(is);
        OperationChanges changes = new OperationChanges(was, is, new TypeChanges(stop));
        before.forEach((key, ports) -> {
            stop.check();
            List<Port> now = after.get(key);
            if (now == null) {
                found.add(gone(key, ports.get(0), after.keySet(), before.keySet()));
                return;
            }
            for (Port port : ports) {
                Optional<Port> other = same(port, now);
                other.ifPresent(p -> found.addAll(changes.between(
                        port,
                        port.binding().operation(key).orElseThrow(),
                        p,
                        p.binding().operation(key).orElseThrow())));
            }
        });
        after.forEach((key, ports) -> {
            if (!before.containsKey(key)) {
                Operation operation = ports.get(0).binding().operation(key).orElseThrow();
                found.add(new ContractChange(
                        key,
                        Half.OPERATION,
                        "",
                        Kind.ADDED,
                        ContractChange.NOT_THERE,
                        words(operation),
                        Effect.HOLDS,
                        operation.callable() ? Effect.BREAKS : Effect.MAY_BREAK,
                        Optional.empty(),
                        Optional.of(operation.place())));
            }
        });
    }

    /** The SOAP operations, whoever starts them, with the ports that offer them. */
    private static Map<String, List<Port>> all(Contract contract) {
        Map<String, List<Port>> found = new LinkedHashMap<>();
        for (Port port : contract.soapPorts()) {
            for (Operation operation : port.binding().operations()) {
                found.computeIfAbsent(operation.key(), k -> new ArrayList<>()).add(port);
            }
        }
        return found;
    }

    private static ContractChange gone(String key, Port port, Set<String> now, Set<String> before) {
        Operation operation = port.binding().operation(key).orElseThrow();
        Optional<String> like = now.stream()
                .filter(n -> !before.contains(n) && Likeness.of(n, key) >= LIKE)
                .max(Comparator.comparingDouble(n -> Likeness.of(n, key)));
        return new ContractChange(
                key,
                Half.OPERATION,
                "",
                like.isPresent() ? Kind.RENAMED : Kind.GONE,
                words(operation),
                like.map(n -> "renamed " + n + "?").orElse("gone"),
                Effect.BREAKS,
                Effect.HOLDS,
                Optional.of(operation.place()),
                Optional.empty());
    }

    private static String words(Operation operation) {
        return operation.pattern() == Operation.Pattern.REQUEST_RESPONSE
                ? "request and answer"
                : operation.pattern().code();
    }

    /** The port that a port became: of its name, or else one of its protocol and transport, or any. */
    private static Optional<Port> same(Port port, List<Port> now) {
        return now.stream()
                .filter(p -> p.name().equals(port.name())
                        && p.binding().protocol() == port.binding().protocol())
                .findFirst()
                .or(() -> now.stream()
                        .filter(p -> p.binding().protocol() == port.binding().protocol())
                        .findFirst())
                .or(() -> now.stream().findFirst());
    }

    private static void endpoints(Contract was, Contract is, Set<ContractChange> found) {
        Map<String, Port> before = ports(was);
        Map<String, Port> after = ports(is);
        before.forEach((name, port) -> {
            Port now = after.get(name);
            if (now == null) {
                found.add(endpoint(
                        name, Kind.GONE, words(port), "gone", Effect.BREAKS, Effect.HOLDS, port.place(), null));
                return;
            }
            String title = port.binding().title();
            String titleNow = now.binding().title();
            if (!title.equals(titleNow)) {
                found.add(endpoint(
                        name, Kind.CHANGED, title, titleNow, Effect.BREAKS, Effect.BREAKS, port.place(), now.place()));
            }
            if (!port.address().equals(now.address())) {
                found.add(endpoint(
                        name,
                        Kind.CHANGED,
                        port.address().orElse("no address"),
                        now.address().orElse("no address"),
                        Effect.TO_KNOW,
                        Effect.TO_KNOW,
                        port.place(),
                        now.place()));
            }
        });
        after.forEach((name, port) -> {
            if (!before.containsKey(name)) {
                found.add(endpoint(
                        name,
                        Kind.ADDED,
                        ContractChange.NOT_THERE,
                        words(port),
                        Effect.HOLDS,
                        Effect.MAY_BREAK,
                        null,
                        port.place()));
            }
        });
    }

    private static String words(Port port) {
        return port.binding().title() + port.address().map(a -> " at " + a).orElse("");
    }

    private static Map<String, Port> ports(Contract contract) {
        Map<String, Port> found = new LinkedHashMap<>();
        contract.ports().forEach(p -> found.putIfAbsent(p.name(), p));
        return found;
    }

    private static ContractChange endpoint(
            String name, Kind kind, String before, String after, Effect callers, Effect service, Place was, Place is) {
        return new ContractChange(
                "",
                Half.ENDPOINT,
                name,
                kind,
                before,
                after,
                callers,
                service,
                Optional.ofNullable(was),
                Optional.ofNullable(is));
    }
}
