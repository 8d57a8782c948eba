package dev.mockbell.listing;

import dev.mockbell.contract.Contract;
import dev.mockbell.contract.Operation;
import dev.mockbell.contract.Port;
import dev.mockbell.problem.Counted;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.TreeSet;

/**
 * A contract that a listing names.
 *
 * @param name what it is called; by the listing where it could not be read
 * @param address of the WSDL, as the listing gives it
 * @param contract what is there; empty when it cannot be read
 * @param trouble why not, a sentence; empty when it was read
 * @param instead an address like it where a contract is; empty when there is none or none is needed
 */
public record FoundContract(
        String name, String address, Optional<Contract> contract, String trouble, Optional<String> instead) {
    static FoundContract of(String address, Contract contract) {
        return new FoundContract(contract.words(), address, Optional.of(contract), "", Optional.empty());
    }

    /** What it offers, in few words: "6 operations · document/literal · 1.1, 1.2"; why it cannot be read otherwise. */
    public String words() {
        if (contract.isEmpty()) {
            return trouble;
        }
        List<Port> ports = contract.get().soapPorts();
        List<String> words = new ArrayList<>();
        words.add(Counted.of(contract.get().operations().size(), "operation"));
        ports.stream()
                .flatMap(p -> p.binding().operations().stream())
                .findFirst()
                .map(FoundContract::style)
                .filter(s -> !s.isEmpty())
                .ifPresent(words::add);
        TreeSet<String> versions = new TreeSet<>();
        ports.forEach(p -> versions.add(p.binding().title().replace("SOAP ", "")));
        if (!versions.isEmpty()) {
            words.add(String.join(", ", versions));
        }
        TreeSet<String> needs = new TreeSet<>();
        ports.forEach(p -> p.binding().operations().forEach(o -> needs.addAll(o.needs())));
        if (!needs.isEmpty()) {
            words.add(String.join(", ", needs));
        }
        return String.join(" · ", words);
    }

    private static String style(Operation operation) {
        return operation
                .style()
                .map(s -> s.name().toLowerCase(Locale.ROOT)
                        + operation
                                .use()
                                .map(u -> "/" + u.name().toLowerCase(Locale.ROOT))
                                .orElse(""))
                .orElse("");
    }
}
