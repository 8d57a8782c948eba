package dev.mockbell.contract;

import dev.mockbell.xml.Place;
import java.util.List;
import java.util.Optional;
import javax.xml.namespace.QName;

/** How the operations of an interface are put on the wire. */
public record Binding(QName name, QName portType, Protocol protocol, List<Operation> operations, Place place) {
    /** The operation of that key or, failing that, the first of that name. */
    public Optional<Operation> operation(String nameOrKey) {
        return operations.stream()
                .filter(o -> o.key().equals(nameOrKey))
                .findFirst()
                .or(() -> operations.stream()
                        .filter(o -> o.name().equals(nameOrKey))
                        .findFirst());
    }
}
