package dev.mockbell.contract;

import dev.mockbell.xml.Place;
import java.util.List;
import java.util.Optional;
import javax.xml.namespace.QName;

/**
 * How the operations of an interface are put on the wire.
 *
 * @param transport what carries the messages; meant for SOAP alone
 */
public record Binding(
        QName name, QName portType, Protocol protocol, Transport transport, List<Operation> operations, Place place) {
    /** The operation of that key or, failing that, the first of that name. */
    public Optional<Operation> operation(String nameOrKey) {
        return operations.stream()
                .filter(o -> o.key().equals(nameOrKey))
                .findFirst()
                .or(() -> operations.stream()
                        .filter(o -> o.name().equals(nameOrKey))
                        .findFirst());
    }

    /** A binding is itself alone: comparing the content of two would walk all of their operations. */
    @Override
    public boolean equals(Object other) {
        return this == other;
    }

    @Override
    public int hashCode() {
        return System.identityHashCode(this);
    }

    /** For people: {@code SOAP 1.1}, {@code SOAP 1.2 over JMS}. */
    public String title() {
        boolean plain = !protocol.soap() || transport.kind() == Transport.Kind.HTTP;
        return plain ? protocol.title() : protocol.title() + " over " + transport.name();
    }

    /** The same binding over another transport. */
    Binding over(Transport other) {
        return new Binding(name, portType, protocol, other, operations, place);
    }

    /** The same binding with every operation in need of more; this one when there is no more. */
    Binding needing(List<String> more) {
        if (more.isEmpty()) {
            return this;
        }
        List<Operation> needy = operations.stream().map(o -> o.needing(more)).toList();
        return new Binding(name, portType, protocol, transport, needy, place);
    }
}
