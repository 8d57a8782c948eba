package dev.mockbell.contract;

import dev.mockbell.contract.Finding.Severity;
import dev.mockbell.problem.Counted;
import dev.mockbell.problem.Problem;
import dev.mockbell.redact.Redactor;
import dev.mockbell.schema.SchemaFlaw;
import dev.mockbell.schema.Schemas;
import dev.mockbell.task.Progress;
import dev.mockbell.task.StopSignal;
import dev.mockbell.xml.Place;
import dev.mockbell.xml.Xml;
import java.net.URI;
import java.net.URISyntaxException;
import java.nio.file.Files;
import java.nio.file.InvalidPathException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.w3c.dom.Attr;
import org.w3c.dom.Element;

/**
 * Reads a WSDL and all that it imports and includes. Only what is no WSDL at all is refused; every flaw of one that is
 * becomes a {@link Finding} and the rest is used.
 */
public final class ContractReader {
    private static final Pattern HOST_AND_PATH = Pattern.compile(
            "([A-Za-z0-9-]+(?=:\\d+/)|localhost(?=/)|(?:\\d{1,3}\\.){3}\\d{1,3}(?=[:/])|(?:[A-Za-z0-9-]+\\.)+[A-Za-z][A-Za-z0-9-]*(?=[:/]))");

    private final DocumentFetcher fetcher;
    private final ReadLimits limits;

    public ContractReader(DocumentFetcher fetcher) {
        this(fetcher, ReadLimits.USUAL);
    }

    public ContractReader(DocumentFetcher fetcher, ReadLimits limits) {
        this.fetcher = fetcher;
        this.limits = limits;
    }

    /**
     * Reads the contract at an address or file.
     *
     * @throws Problem when there is no WSDL there; the message says what is there instead
     */
    public Contract read(String addressOrFile, Progress progress, StopSignal stop) {
        return read(addressOrFile, address(addressOrFile), progress, stop);
    }

    /** As {@link #read(String, Progress, StopSignal)}, with the address worked out already. */
    public Contract read(String source, URI address, Progress progress, StopSignal stop) {
        Findings findings = new Findings();
        DocumentSet documents = new DocumentSet(fetcher, limits, findings, progress, stop);
        documents.load(address);
        progress.at("compiling " + Counted.of(documents.schemas().size(), "schema"));
        stop.check();
        Schemas schemas = Schemas.compile(documents.schemas(), stop);
        schemas.flaws().forEach(flaw -> findings.add(finding(flaw)));
        stop.check();
        List<Element> roots = documents.definitions();
        boolean v20 = Wsdl.isV20(roots.get(0));
        List<Element> same = roots.stream().filter(r -> Wsdl.isV20(r) == v20).toList();
        Policies policies = new Policies(roots, findings);
        ReadServices read = v20
                ? new Wsdl20Reader(same, schemas, policies, findings).read()
                : new Wsdl11Reader(same, schemas, policies, findings).read();
        List<Extension> extensions = Extensions.in(roots, findings);
        progress.at("judging the contract");
        new Judgement(findings, stop).judge(documents, schemas, read);
        if (read.services().isEmpty() && read.unusedBindings().isEmpty()) {
            findings.add(
                    Severity.WARNING,
                    "nothing-to-call",
                    "The contract has neither a service nor a binding",
                    "Ask for the WSDL that imports this one.",
                    Place.in(address.toString()));
        }
        if (read.services().isEmpty() && !read.unusedBindings().isEmpty()) {
            findings.add(
                    Severity.WARNING,
                    "no-service",
                    "The contract has no service, so no address is in it",
                    "Ask for the WSDL that imports this one, or give the endpoint.",
                    Place.in(address.toString()));
        }
        List<Port> unplaced = unplaced(read, findings);
        return new Contract(
                Redactor.withoutLogin(source),
                v20 ? "2.0" : "1.1",
                documents.documents(),
                read.services(),
                unplaced,
                extensions,
                findings.sorted(),
                schemas,
                prefixes(roots, schemas));
    }

    /** Bindings without a port, each under a name that no port has. */
    private static List<Port> unplaced(ReadServices read, Findings findings) {
        Set<String> taken = new HashSet<>();
        read.services().forEach(s -> s.ports().forEach(p -> taken.add(p.name())));
        List<Port> ports = new ArrayList<>();
        for (Binding binding : read.unusedBindings()) {
            String local = binding.name().getLocalPart();
            String name = local;
            for (int i = 2; !taken.add(name); i++) {
                name = local + i;
            }
            ports.add(new Port(name, binding, Optional.empty(), binding.place()));
            findings.add(
                    read.services().isEmpty() ? Severity.WARNING : Severity.NOTE,
                    "binding-without-port",
                    "Binding " + local + " has no port, so it is not known where it is spoken",
                    "Give the endpoint to call it; samples and mocks need none.",
                    binding.place());
        }
        return List.copyOf(ports);
    }

    private static Finding finding(SchemaFlaw flaw) {
        return new Finding(
                switch (flaw.weight()) {
                    case ERROR, EASED -> Severity.ERROR;
                    case WARNING, CUT -> Severity.WARNING;
                    case NOTE -> Severity.NOTE;
                },
                flaw.rule(),
                flaw.text(),
                switch (flaw.weight()) {
                    case ERROR -> "Samples of what depends on it are a guess; the rest works.";
                    case EASED -> "It is taken by what it declares, in that order; the service may want it otherwise.";
                    case WARNING -> "It works here; other programs may refuse it.";
                    case CUT -> "Samples of it are cut short and not valid, and say so.";
                    case NOTE -> "Add a copy of its own to the contract if it means another.";
                },
                flaw.place());
    }

    private static Map<String, String> prefixes(List<Element> roots, Schemas schemas) {
        Map<String, String> found = new LinkedHashMap<>(schemas.prefixes());
        for (Element root : roots) {
            for (Attr a : Xml.attributes(root)) {
                if (a.getNodeName().startsWith("xmlns:")) {
                    found.putIfAbsent(a.getNodeValue(), a.getLocalName());
                }
            }
        }
        return found;
    }

    /**
     * The address that a person meant: a URL, a path, or a host without scheme.
     *
     * @throws Problem when it is neither
     */
    public static URI address(String text) {
        String given = text.strip();
        if (given.isEmpty()) {
            throw Problem.input("No address was given", null, "Paste the address of a WSDL or choose a file.");
        }
        if (given.matches("(?i)(https?|file):.*")) {
            try {
                return new URI(given.replace(" ", "%20"));
            } catch (URISyntaxException e) {
                throw Problem.of(
                        Problem.Kind.INPUT,
                        "This is not a well-formed address: " + e.getReason(),
                        given,
                        "Check it for stray characters.",
                        e);
            }
        }
        if (given.matches("(?i)[a-z][a-z0-9+.-]{2,}://.*")) {
            throw Problem.input(
                    "Addresses of this kind cannot be fetched", given, "Use http, https or a file on this machine.");
        }
        try {
            Path path = Path.of(given);
            if (Files.exists(path) || !isHostAndPath(given)) {
                return path.toAbsolutePath().normalize().toUri();
            }
            return new URI("http://" + given);
        } catch (InvalidPathException | URISyntaxException e) {
            throw Problem.of(
                    Problem.Kind.INPUT,
                    "This is neither an address nor a file name",
                    given,
                    "Paste the address of a WSDL, starting with http:// or https://.",
                    e);
        }
    }

    /**
     * Whether a text without a scheme starts with a host: one that is named with a port, this machine, a number, or a name of
     * several labels; where a folder of that name is there, a file in it was meant.
     */
    private static boolean isHostAndPath(String given) {
        Matcher start = HOST_AND_PATH.matcher(given);
        return start.lookingAt() && !Files.isDirectory(Path.of(start.group(1)));
    }
}
