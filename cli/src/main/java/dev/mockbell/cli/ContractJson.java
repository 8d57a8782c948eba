package dev.mockbell.cli;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.JsonNodeFactory;
import com.fasterxml.jackson.databind.node.ObjectNode;
import dev.mockbell.contract.Binding;
import dev.mockbell.contract.Contract;
import dev.mockbell.contract.Finding;
import dev.mockbell.contract.MessageDef;
import dev.mockbell.contract.Operation;
import dev.mockbell.contract.Port;
import dev.mockbell.contract.Service;
import java.util.Locale;
import java.util.Optional;

/** A contract in the documented JSON shape. */
final class ContractJson {
    private ContractJson() {}

    static ObjectNode of(Contract contract) {
        ObjectNode root = JsonNodeFactory.instance.objectNode();
        root.put("format", 1);
        root.put("source", contract.source());
        root.put("wsdl", contract.wsdl());
        ArrayNode documents = root.putArray("documents");
        contract.documents()
                .forEach(d -> documents
                        .addObject()
                        .put("uri", d.uri())
                        .put("kind", d.kind().name().toLowerCase(Locale.ROOT))
                        .put("bytes", d.bytes().length)
                        .put("sha256", d.sha256()));
        ArrayNode services = root.putArray("services");
        for (Service service : contract.services()) {
            ObjectNode s = services.addObject().put("name", service.name().toString());
            ArrayNode ports = s.putArray("ports");
            service.ports().forEach(p -> port(p, ports.addObject()));
        }
        ArrayNode unused = root.putArray("unusedBindings");
        for (Binding binding : contract.unusedBindings()) {
            ObjectNode b = unused.addObject()
                    .put("name", binding.name().toString())
                    .put("protocol", binding.protocol().code())
                    .put("transport", transport(binding));
            operations(binding, b);
        }
        ArrayNode findings = root.putArray("findings");
        contract.findings().forEach(f -> finding(f, findings.addObject()));
        return root;
    }

    private static void port(Port port, ObjectNode node) {
        node.put("name", port.name());
        node.put("binding", port.binding().name().toString());
        node.put("protocol", port.binding().protocol().code());
        node.put("transport", transport(port.binding()));
        node.put("address", port.address().orElse(null));
        operations(port.binding(), node);
    }

    /** What carries SOAP; null for a binding of another kind. */
    private static String transport(Binding binding) {
        return binding.protocol().soap() ? binding.transport().code() : null;
    }

    private static void operations(Binding binding, ObjectNode node) {
        ArrayNode operations = node.putArray("operations");
        for (Operation operation : binding.operations()) {
            ObjectNode o = operations.addObject();
            o.put("name", operation.name());
            o.put("style", operation.style().map(s -> lower(s)).orElse(null));
            o.put("use", operation.use().map(u -> lower(u)).orElse(null));
            o.put("soapAction", operation.soapAction().orElse(null));
            o.put("pattern", operation.pattern().code());
            ArrayNode needs = o.putArray("needs");
            operation.needs().forEach(needs::add);
            message(o, "input", operation.input());
            message(o, "output", operation.output());
            ArrayNode faults = o.putArray("faults");
            operation.faults().forEach(f -> faults.add(f.name()));
        }
    }

    private static String lower(Enum<?> value) {
        return value.name().toLowerCase(Locale.ROOT);
    }

    private static void message(ObjectNode node, String name, Optional<MessageDef> message) {
        if (message.isEmpty()) {
            node.putNull(name);
        } else {
            node.putObject(name)
                    .put("name", message.get().name())
                    .put("headers", message.get().headers().size());
        }
    }

    static void finding(Finding finding, ObjectNode node) {
        node.put("severity", lower(finding.severity()));
        node.put("rule", finding.rule());
        node.put("text", finding.text());
        node.put("advice", finding.advice());
        node.put("document", finding.place().document());
        node.put("line", finding.place().line());
        node.put("column", finding.place().column());
    }
}
