package dev.mockbell.cli;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.JsonNodeFactory;
import com.fasterxml.jackson.databind.node.ObjectNode;
import dev.mockbell.contract.Contract;
import dev.mockbell.contract.Operation;
import dev.mockbell.contract.Port;
import dev.mockbell.contract.Protocol;
import dev.mockbell.expression.Braces;
import dev.mockbell.file.AtomicFile;
import dev.mockbell.message.MessageOutline;
import dev.mockbell.problem.Counted;
import dev.mockbell.problem.Problem;
import dev.mockbell.project.Names;
import dev.mockbell.sample.SampleBuilder;
import dev.mockbell.sample.SampleBuilder.Detail;
import dev.mockbell.sample.SampleEnvelope;
import dev.mockbell.soap.Envelope;
import dev.mockbell.soap.SoapVersion;
import dev.mockbell.task.StopSignal;
import dev.mockbell.validation.BoundaryCases;
import dev.mockbell.validation.BoundaryCases.Boundary;
import dev.mockbell.validation.SampleJudge;
import java.nio.file.Path;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.Callable;
import picocli.CommandLine.ArgGroup;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** Writes sample messages. */
@Command(
        name = "sample",
        mixinStandardHelpOptions = true,
        description = "Writes a sample request and response envelope for each operation of each SOAP port.")
final class ContractSampleCommand implements Callable<Integer> {
    private final Console console;

    @Parameters(paramLabel = "WSDL", description = "Address or file.")
    private String wsdl;

    @Option(names = "--out", paramLabel = "DIR", required = true, description = "Where to write.")
    private Path out;

    @Option(names = "--operation", paramLabel = "NAME", description = "Only this operation.")
    private String operation;

    @Option(names = "--port", paramLabel = "NAME", description = "Only this port.")
    private String port;

    @ArgGroup
    private Amount amount = new Amount();

    /** How much to put in. */
    static final class Amount {
        @Option(names = "--full", description = "With all optional parts.")
        private boolean full;

        @Option(names = "--required", description = "With what is required alone (the default).")
        private boolean required;

        @Option(
                names = "--boundary",
                description = "Requests at and beyond each limit of the contract, with what to expect of each.")
        private boolean boundary;
    }

    private final ArrayNode index = JsonNodeFactory.instance.arrayNode();
    private final Map<String, String> folders = new HashMap<>();

    @Mixin
    private Reading reading = new Reading();

    ContractSampleCommand(Console console) {
        this.console = console;
    }

    @Override
    public Integer call() {
        try (CommandCore core = new CommandCore(reading)) {
            Contract contract = core.contract(wsdl);
            StopSignal stop = core.stop();
            contract.soapPorts().stream()
                    .filter(p -> port == null || p.name().equals(port))
                    .forEach(p -> write(contract, serviceOf(contract, p), p, stop));
        }
        if (index.isEmpty()) {
            throw Problem.input(
                    operation == null ? "There is no operation to sample" : "There is no operation " + operation,
                    wsdl,
                    "See “mockbell contract show” for what there is.");
        }
        try {
            AtomicFile.write(
                    out.resolve("index.json"),
                    new ObjectMapper().writerWithDefaultPrettyPrinter().writeValueAsString(index) + "\n");
        } catch (JsonProcessingException e) {
            throw new IllegalStateException("a plain tree can always be written", e);
        }
        console.line(Counted.of(index.size(), "sample") + " in "
                + out.toAbsolutePath().normalize());
        return 0;
    }

    /** The name of a port's service; null for a binding without a port. */
    private static String serviceOf(Contract contract, Port port) {
        return contract.serviceOf(port).map(s -> s.name().toString()).orElse(null);
    }

    private void write(Contract contract, String service, Port at, StopSignal stop) {
        Detail detail = amount != null && amount.full ? Detail.FULL : Detail.REQUIRED;
        SampleJudge judge = new SampleJudge(contract);
        for (Operation o : at.binding().operations()) {
            if (operation == null || o.key().equals(operation) || o.name().equals(operation)) {
                if (amount != null && amount.boundary) {
                    boundary(contract, service, at, o, stop);
                } else {
                    SampleEnvelope.of(contract, at.binding(), o, detail)
                            .forEach(e -> write(service, at, o, e, judge.breaches(o, e)));
                }
            }
        }
    }

    private void boundary(Contract contract, String service, Port at, Operation o, StopSignal stop) {
        SoapVersion version = at.binding().protocol() == Protocol.SOAP12 ? SoapVersion.V12 : SoapVersion.V11;
        int number = 0;
        MessageOutline outline = MessageOutline.ofRequest(contract, o);
        // an envelope has all headers of its binding, also where its body is what is tried (WS-I Basic Profile 1.1
        // R2738)
        String usual = SampleBuilder.headers(outline, Detail.STARTING);
        for (Boundary b : BoundaryCases.of(outline, stop)) {
            number++;
            String file = folder(service, at) + "/" + fileName(o.key()) + ".boundary/"
                    + "%03d-%s.xml".formatted(number, Names.of(b.title()));
            // what stands doubled in a case means itself in a message
            String body = Braces.parseXml(b.body()).literal();
            String headers =
                    b.soapHeaders().map(h -> Braces.parseXml(h).literal()).orElse(usual);
            List<String> blocks = headers.isBlank() ? List.of() : List.of(headers);
            AtomicFile.write(out.resolve(file), Envelope.around(version, body, blocks));
            ObjectNode entry = entry(service, at, o, file, "request");
            entry.put("title", b.title());
            entry.put("path", b.path());
            entry.put("expected", b.accepted() ? "accepted" : "refused");
            if (!b.accepted()) {
                entry.put("reason", b.reason());
            }
        }
    }

    private void write(String service, Port at, Operation o, SampleEnvelope sample, List<String> breaches) {
        String direction = sample.direction().name().toLowerCase(java.util.Locale.ROOT);
        String of = sample.fault().map(f -> "." + fileName(f)).orElse("");
        String file = folder(service, at) + "/" + fileName(o.key()) + of + "." + direction + ".xml";
        AtomicFile.write(out.resolve(file), sample.text());
        ObjectNode entry = entry(service, at, o, file, direction);
        sample.fault().ifPresent(f -> entry.put("fault", f));
        entry.put("valid", breaches.isEmpty());
        ArrayNode notes = entry.putArray("notes");
        sample.notes().forEach(notes::add);
        breaches.forEach(notes::add);
        told(file, breaches.isEmpty(), notes);
    }

    /** Says on the side which samples are not what a service can be expected to take, with the first reason. */
    private void told(String file, boolean valid, ArrayNode notes) {
        if (notes.isEmpty()) {
            return;
        }
        String more = notes.size() > 1 ? " (and " + (notes.size() - 1) + " more, see index.json)" : "";
        console.note(file
                + (valid ? " is marked: " : " is not valid: ")
                + notes.get(0).asText()
                + more);
    }

    private ObjectNode entry(String service, Port at, Operation o, String file, String direction) {
        ObjectNode entry = index.addObject();
        entry.put("file", file);
        entry.put("service", service);
        entry.put("port", at.name());
        entry.put("operation", o.name());
        entry.put("soapVersion", at.binding().protocol() == Protocol.SOAP12 ? "1.2" : "1.1");
        entry.put("transport", at.binding().transport().code());
        entry.put(
                "style",
                o.style().map(s -> s.name().toLowerCase(java.util.Locale.ROOT)).orElse(null));
        entry.put(
                "use",
                o.use().map(u -> u.name().toLowerCase(java.util.Locale.ROOT)).orElse(null));
        entry.put("soapAction", o.soapAction().orElse(null));
        entry.put("address", at.address().orElse(null));
        entry.put("direction", direction);
        return entry;
    }

    /** Ports of several services may have one name; each has a folder of its own. */
    private String folder(String service, Port at) {
        String key = service + " " + at.name();
        String known = folders.get(key);
        if (known == null) {
            String wanted = fileName(at.name());
            known = wanted;
            for (int i = 2; folders.containsValue(known); i++) {
                known = wanted + "-" + i;
            }
            folders.put(key, known);
        }
        return known;
    }

    private static String fileName(String name) {
        String safe = name.replaceAll("[^\\p{L}\\p{N}._#-]", "_");
        return safe.startsWith(".") ? "_" + safe : safe;
    }
}
