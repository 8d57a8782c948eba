package dev.mockbell.contract;

import dev.mockbell.contract.Finding.Severity;
import dev.mockbell.problem.Problem;
import dev.mockbell.schema.SchemaFlaw;
import dev.mockbell.schema.Schemas;
import dev.mockbell.task.Progress;
import dev.mockbell.task.StopSignal;
import java.net.URI;
import java.net.URISyntaxException;
import java.nio.file.Files;
import java.nio.file.InvalidPathException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;

/**
 * Reads a WSDL and all that it imports and includes. Only what is no WSDL at all is refused; every flaw of one that is
 * becomes a {@link Finding} and the rest is used.
 */
public final class ContractReader {
    private final DocumentFetcher fetcher;

    public ContractReader(DocumentFetcher fetcher) {
        this.fetcher = fetcher;
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
        List<Finding> findings = new ArrayList<>();
        DocumentSet documents = new DocumentSet(fetcher, findings, progress, stop);
        documents.load(address);
        progress.at("compiling " + documents.schemas().size() + " schemas");
        stop.check();
        Schemas schemas = Schemas.compile(documents.schemas());
        for (SchemaFlaw flaw : schemas.flaws()) {
            findings.add(new Finding(
                    Severity.ERROR,
                    flaw.rule(),
                    flaw.text(),
                    "What depends on it cannot be sampled or validated; the rest works.",
                    flaw.place()));
        }
        stop.check();
        Wsdl11Reader reader = new Wsdl11Reader(documents.definitions(), schemas, findings);
        reader.read();
        if (reader.services().isEmpty() && reader.unusedBindings().isEmpty()) {
            findings.add(new Finding(
                    Severity.WARNING,
                    "nothing-to-call",
                    "The contract has neither a service nor a binding",
                    "Ask for the WSDL that imports this one.",
                    dev.mockbell.xml.Place.in(address.toString())));
        }
        return new Contract(
                source,
                "1.1",
                documents.documents(),
                reader.services(),
                reader.unusedBindings(),
                List.copyOf(findings),
                schemas);
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
            if (Files.exists(path) || !given.matches("[A-Za-z0-9.-]+(:\\d+)?/.*")) {
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
}
