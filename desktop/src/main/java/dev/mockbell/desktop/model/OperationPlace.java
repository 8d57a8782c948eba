package dev.mockbell.desktop.model;

import dev.mockbell.contract.Contract.BoundOperation;
import dev.mockbell.contract.Operation;
import dev.mockbell.contract.Port;
import dev.mockbell.project.KeptContract;
import java.util.List;

/**
 * An operation of a contract in the project, with the ports that offer it.
 *
 * @param key the operation's key
 */
public record OperationPlace(KeptContract contract, String key, List<Port> ports) {
    /** The operation as the first port offers it. */
    public Operation operation() {
        return ports.get(0).binding().operation(key).orElseThrow();
    }

    /** The operation at the port of that name, or at the first. */
    public BoundOperation at(String port) {
        Port chosen =
                ports.stream().filter(p -> p.name().equals(port)).findFirst().orElse(ports.get(0));
        return new BoundOperation(chosen, chosen.binding().operation(key).orElseThrow());
    }
}
