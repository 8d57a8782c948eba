package dev.mockbell.change;

import dev.mockbell.change.ContractChange.Kind;
import dev.mockbell.contract.Contract;
import dev.mockbell.contract.FaultDef;
import dev.mockbell.contract.Operation;
import dev.mockbell.contract.Port;
import dev.mockbell.message.MessageOutline;
import dev.mockbell.xml.Place;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/** In what an operation at a port became another. */
final class OperationChanges {
    private final Contract was;
    private final Contract is;
    private final TypeChanges types;

    OperationChanges(Contract was, Contract is, TypeChanges types) {
        this.was = was;
        this.is = is;
        this.types = types;
    }

    List<ContractChange> between(Port port, Operation old, Port portNow, Operation now) {
        String key = old.key();
        List<ContractChange> found = new ArrayList<>();
        if (old.pattern() != now.pattern()) {
            found.add(broken(key, old.pattern().code(), now.pattern().code(), old, now));
        }
        String style = style(old);
        String styleNow = style(now);
        if (!style.equals(styleNow)) {
            found.add(broken(key, style, styleNow, old, now));
        }
        if (!old.soapAction().equals(now.soapAction())) {
            // SOAP 1.1 §6.1.1 lets a service go by it; one that goes by the body alone does not notice
            found.add(of(
                    key,
                    Kind.CHANGED,
                    action(port, old),
                    action(portNow, now),
                    Effect.MAY_BREAK,
                    Effect.MAY_BREAK,
                    old,
                    now));
        }
        needs(old, now, found);
        takes(old, now, found);
        gives(old, now, found);
        faults(old, now, found);
        return found;
    }

    private static ContractChange broken(String key, String before, String after, Operation old, Operation now) {
        return of(key, Kind.CHANGED, before, after, Effect.BREAKS, Effect.BREAKS, old, now);
    }

    private static ContractChange of(
            String key,
            Kind kind,
            String before,
            String after,
            Effect callers,
            Effect service,
            Operation old,
            Operation now) {
        return new ContractChange(
                key,
                Half.OPERATION,
                "",
                kind,
                before,
                after,
                callers,
                service,
                Optional.of(old.place()),
                Optional.of(now.place()));
    }

    private static String style(Operation operation) {
        return operation
                        .style()
                        .map(s -> s.name().toLowerCase(java.util.Locale.ROOT))
                        .orElse("")
                + operation
                        .use()
                        .map(u -> "/" + u.name().toLowerCase(java.util.Locale.ROOT))
                        .orElse("");
    }

    private static String action(Port port, Operation operation) {
        return operation.soapAction().map(a -> "action “" + a + "”").orElse("no action") + " at "
                + port.binding().protocol().title();
    }

    private static void needs(Operation old, Operation now, List<ContractChange> found) {
        Set<String> gone = new LinkedHashSet<>(old.needs());
        now.needs().forEach(gone::remove);
        Set<String> fresh = new LinkedHashSet<>(now.needs());
        old.needs().forEach(fresh::remove);
        if (!fresh.isEmpty() || !gone.isEmpty()) {
            found.add(of(
                    old.key(),
                    Kind.CHANGED,
                    old.needs().isEmpty() ? "no security asked for" : String.join(", ", old.needs()),
                    now.needs().isEmpty() ? "no security asked for" : String.join(", ", now.needs()),
                    fresh.isEmpty() ? Effect.MAY_BREAK : Effect.BREAKS,
                    Effect.MAY_BREAK,
                    old,
                    now));
        }
    }

    private void takes(Operation old, Operation now, List<ContractChange> found) {
        if (old.input().isPresent() && now.input().isPresent()) {
            MessageChanges changes = new MessageChanges(types, old.key(), Half.TAKES);
            changes.message(
                    old.input().get(),
                    now.input().get(),
                    MessageOutline.ofRequest(was, old),
                    MessageOutline.ofRequest(is, now));
            found.addAll(changes.found());
        }
    }

    private void gives(Operation old, Operation now, List<ContractChange> found) {
        if (old.output().isPresent() && now.output().isPresent()) {
            MessageChanges changes = new MessageChanges(types, old.key(), Half.GIVES);
            changes.message(
                    old.output().get(),
                    now.output().get(),
                    MessageOutline.of(was, old.output().get()),
                    MessageOutline.of(is, now.output().get()));
            found.addAll(changes.found());
        }
    }

    private void faults(Operation old, Operation now, List<ContractChange> found) {
        Map<String, FaultDef> before = named(old);
        Map<String, FaultDef> after = named(now);
        before.forEach((name, fault) -> {
            FaultDef fresh = after.get(name);
            if (fresh == null) {
                found.add(fault(
                        old, name, Kind.GONE, words(fault), ContractChange.NOT_THERE, fault.place(), now.place()));
                return;
            }
            MessageChanges changes = new MessageChanges(types, old.key(), Half.FAILS);
            changes.root(
                    MessageOutline.of(was, fault).root(),
                    MessageOutline.of(is, fresh).root(),
                    Optional.of(fault.place()),
                    Optional.of(fresh.place()),
                    name);
            found.addAll(changes.found());
        });
        after.forEach((name, fault) -> {
            if (!before.containsKey(name)) {
                found.add(fault(
                        old, name, Kind.ADDED, ContractChange.NOT_THERE, words(fault), old.place(), fault.place()));
            }
        });
    }

    /** A client must be ready for faults that no contract declares (WS-I Basic Profile 1.1 R2742), so none breaks anybody. */
    private static ContractChange fault(
            Operation operation, String name, Kind kind, String before, String after, Place was, Place is) {
        Effect service = kind == Kind.GONE ? Effect.MAY_BREAK : Effect.HOLDS;
        return new ContractChange(
                operation.key(),
                Half.FAILS,
                name,
                kind,
                before,
                after,
                Effect.HOLDS,
                service,
                Optional.of(was),
                Optional.of(is));
    }

    private static String words(FaultDef fault) {
        return fault.element().map(e -> "a fault with " + e.getLocalPart()).orElse("a fault");
    }

    private static Map<String, FaultDef> named(Operation operation) {
        Map<String, FaultDef> found = new LinkedHashMap<>();
        operation.faults().forEach(f -> found.put(f.name(), f));
        return found;
    }
}
