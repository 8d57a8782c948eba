package dev.mockbell.contract;

import dev.mockbell.schema.Schemas;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.function.Predicate;

/**
 * All that a WSDL says, with the documents that say it.
 *
 * @param source the address or file that was asked for
 * @param wsdl the WSDL version, {@code 1.1} or {@code 2.0}
 * @param unplaced bindings that no port gives an address, each as a port of the binding's name: they say what messages look
 *     like, and can be called at an address that is given
 * @param extensions what of other namespaces stands in the WSDL and is kept with the documents
 * @param prefixes a prefix for each namespace as the documents declare them
 */
public record Contract(
        String source,
        String wsdl,
        List<SourceDocument> documents,
        List<Service> services,
        List<Port> unplaced,
        List<Extension> extensions,
        List<Finding> findings,
        Schemas schemas,
        Map<String, String> prefixes) {
    private static final Comparator<Port> HTTP_FIRST =
            Comparator.comparing(p -> !p.binding().transport().byHttp());

    /** A contract is itself alone: comparing the content of two would walk all of it. */
    @Override
    public boolean equals(Object other) {
        return this == other;
    }

    @Override
    public int hashCode() {
        return System.identityHashCode(this);
    }

    /** A short name for people: that of the first service, or of the source. */
    public String title() {
        if (!services.isEmpty()) {
            return services.get(0).name().getLocalPart();
        }
        String path = source.replaceAll("[?#].*", "");
        return path.substring(path.lastIndexOf('/') + 1).replaceAll("\\.(wsdl|xml)$", "");
    }

    /** The short name as words: {@code Hut booking} for {@code HutBooking}. */
    public String words() {
        String spaced = title().replaceAll("([a-z0-9])([A-Z])", "$1 $2");
        return spaced.isEmpty()
                ? "Contract"
                : Character.toUpperCase(spaced.charAt(0)) + spaced.substring(1).toLowerCase(Locale.ROOT);
    }

    /** Every port of every service, then the bindings without one. */
    public List<Port> ports() {
        List<Port> all = new ArrayList<>();
        services.forEach(s -> all.addAll(s.ports()));
        all.addAll(unplaced);
        return all;
    }

    /** The bindings that no port uses. */
    public List<Binding> unusedBindings() {
        return unplaced.stream().map(Port::binding).toList();
    }

    /** The ports whose messages are SOAP envelopes, whatever carries them. */
    public List<Port> soapPorts() {
        return ports().stream().filter(p -> p.binding().protocol().soap()).toList();
    }

    /**
     * The same contract with those of its ports alone that are spoken over queues, as if HTTP carried them: what answers a message
     * need not know how it came.
     */
    public Contract queuesAsHttp() {
        return asHttp(p -> p.binding().transport().byQueue());
    }

    /** The same contract with all its ports that can be sent to, as if HTTP carried them all. */
    public Contract sentAsHttp() {
        boolean queued = ports().stream().anyMatch(p -> p.binding().transport().byQueue());
        return queued ? asHttp(p -> p.binding().transport().canBeSent()) : this;
    }

    private Contract asHttp(Predicate<Port> which) {
        List<Service> carried = services.stream()
                .map(s -> new Service(
                        s.name(),
                        s.ports().stream()
                                .filter(which)
                                .map(p -> new Port(p.name(), p.binding().over(Transport.HTTP), p.address(), p.place()))
                                .toList(),
                        s.documentation(),
                        s.place()))
                .toList();
        return new Contract(source, wsdl, documents, carried, List.of(), extensions, findings, schemas, prefixes);
    }

    /** Those of them that HTTP may carry, which can be called and stood in for. */
    public List<Port> httpPorts() {
        return soapPorts().stream()
                .filter(p -> p.binding().transport().byHttp())
                .toList();
    }

    /** The port of that name. */
    public Optional<Port> port(String name) {
        return ports().stream().filter(p -> p.name().equals(name)).findFirst();
    }

    /** Each SOAP operation that a client starts once, by key, with the ports that offer it, those over HTTP first. */
    public Map<String, List<Port>> operations() {
        Map<String, List<Port>> found = startedAt(soapPorts());
        found.values().forEach(ports -> ports.sort(HTTP_FIRST));
        return found;
    }

    /** As {@link #operations()}, with the ports that HTTP may carry alone. */
    public Map<String, List<Port>> httpOperations() {
        return startedAt(httpPorts());
    }

    /** As {@link #operations()}, with the ports alone that can be sent to, which a mock stands in for. */
    public Map<String, List<Port>> sentOperations() {
        Map<String, List<Port>> found = startedAt(soapPorts().stream()
                .filter(p -> p.binding().transport().canBeSent())
                .toList());
        found.values().forEach(ports -> ports.sort(HTTP_FIRST));
        return found;
    }

    private static Map<String, List<Port>> startedAt(List<Port> ports) {
        Map<String, List<Port>> found = new LinkedHashMap<>();
        for (Port port : ports) {
            for (Operation operation : port.binding().operations()) {
                if (operation.callable()) {
                    found.computeIfAbsent(operation.key(), k -> new ArrayList<>())
                            .add(port);
                }
            }
        }
        return found;
    }

    /** Every other operation, by its binding or its pattern, by key and protocol, with the ports that offer it. */
    public Map<String, List<Port>> listedOnly() {
        Map<String, List<Port>> found = new LinkedHashMap<>();
        for (Port port : ports()) {
            for (Operation operation : port.binding().operations()) {
                if (!port.binding().protocol().soap() || !operation.callable()) {
                    found.computeIfAbsent(operation.key() + " " + port.binding().protocol(), k -> new ArrayList<>())
                            .add(port);
                }
            }
        }
        return found;
    }

    /** The service that a port belongs to; empty for a binding without a port. */
    public Optional<Service> serviceOf(Port port) {
        // by identity: ports hold their bindings whole, so comparing them compares all operations
        return services.stream()
                .filter(s -> s.ports().stream().anyMatch(p -> p == port))
                .findFirst();
    }

    /** The operation of that key on the port that offers it; when {@code port} is null, the first such, one over HTTP before others. */
    public Optional<BoundOperation> operation(String nameOrKey, String port) {
        return soapPorts().stream()
                .sorted(HTTP_FIRST)
                .filter(p -> port == null || p.name().equals(port))
                .flatMap(p -> p.binding().operation(nameOrKey).stream().map(o -> new BoundOperation(p, o)))
                .findFirst();
    }

    /** An operation at a port. */
    public record BoundOperation(Port port, Operation operation) {}
}
