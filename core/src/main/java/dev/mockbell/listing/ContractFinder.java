package dev.mockbell.listing;

import dev.mockbell.contract.Contract;
import dev.mockbell.contract.ContractReader;
import dev.mockbell.contract.DocumentFetcher;
import dev.mockbell.contract.DocumentFetcher.Fetched;
import dev.mockbell.contract.ReadLimits;
import dev.mockbell.problem.Problem;
import dev.mockbell.redact.Redactor;
import dev.mockbell.task.Progress;
import dev.mockbell.task.StopSignal;
import dev.mockbell.xml.Xml;
import java.io.IOException;
import java.net.URI;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.HashSet;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.stream.Stream;
import org.w3c.dom.Element;

/** Finds the contracts that an address lists, and reads each. */
public final class ContractFinder {
    /** Contracts that are read; what is listed beyond is counted. */
    public static final int MOST_CONTRACTS = 300;

    /** Listings that are followed from one to the next. */
    private static final int MOST_LISTINGS = 30;

    private static final int DEEPEST = 2;
    private static final int AT_ONCE = 4;

    private final DocumentFetcher fetcher;
    private final ReadLimits limits;
    private final SoapPost post;

    /** @param post asks registries */
    public ContractFinder(DocumentFetcher fetcher, ReadLimits limits, SoapPost post) {
        this.fetcher = fetcher;
        this.limits = limits;
        this.post = post;
    }

    /** An address that lists something, with how far it is from the one that was asked for. */
    private record Open(URI address, int depth) {}

    /**
     * Looks at an address.
     *
     * @throws Problem when nothing is there, or it lists no contract; the message says what is there instead
     */
    public Listing find(String address, FinderListener listener, StopSignal stop) {
        URI start = ContractReader.address(address);
        Optional<Path> folder = folder(start);
        if (folder.isPresent()) {
            return read(address, Listing.Kind.FOLDER, files(folder.get()), listener, stop);
        }
        Leads all = new Leads();
        Listing.Kind kind = null;
        Problem first = null;
        Deque<Open> open = new ArrayDeque<>(List.of(new Open(start, 0)));
        Set<URI> seen = new HashSet<>();
        while (!open.isEmpty() && seen.size() < MOST_LISTINGS) {
            Open at = open.remove();
            if (!seen.add(at.address())) {
                continue;
            }
            stop.check();
            listener.at("reading " + Redactor.withoutLogin(at.address().toString()));
            try {
                Looked looked = look(at.address(), stop);
                kind = kind == null ? looked.kind() : kind;
                all.addAll(looked.leads());
                if (at.depth() < DEEPEST) {
                    looked.leads().listings().forEach(l -> open.add(new Open(l, at.depth() + 1)));
                }
            } catch (Problem problem) {
                if (problem.kind() == Problem.Kind.STOPPED) {
                    throw problem;
                }
                // a list below that is not there is no matter of the one that was asked for
                first = first == null && at.depth() == 0 ? problem : first;
            }
        }
        if (all.isEmpty() && kind != Listing.Kind.WSDL) {
            boolean told = String.valueOf(start.getPath()).matches("(?i).*(uddi|inquir|registry).*");
            if (told || first != null) {
                return registry(address, start, told ? null : first, listener, stop);
            }
            throw Problem.input(
                    "The page lists no contract",
                    address,
                    "Give the address of a WSDL, which is often the service's with ?wsdl behind it.");
        }
        return read(address, kind, all.contracts(), listener, stop);
    }

    /** @param otherwise what was wrong with the address as a page; null where it was meant as a registry */
    private Listing registry(String address, URI start, Problem otherwise, FinderListener listener, StopSignal stop) {
        try {
            listener.at("asking the registry");
            Leads leads = new Registry(start, post, stop).leads();
            return read(address, Listing.Kind.REGISTRY, leads.contracts(), listener, stop);
        } catch (Problem problem) {
            throw otherwise == null || problem.kind() == Problem.Kind.STOPPED ? problem : otherwise;
        }
    }

    /** What is at an address, and where it leads. */
    private record Looked(Listing.Kind kind, Leads leads) {}

    private Looked look(URI address, StopSignal stop) {
        Fetched fetched = fetcher.fetch(address, stop);
        Optional<Element> root = root(fetched);
        if (root.isPresent()) {
            String namespace = String.valueOf(root.get().getNamespaceURI());
            if (namespace.matches("http://schemas.xmlsoap.org/wsdl/|http://www.w3.org/ns/wsdl")) {
                Leads self = new Leads();
                self.contract("", address, false);
                return new Looked(Listing.Kind.WSDL, self);
            }
            if (InspectionLeads.isInspection(root.get())) {
                return new Looked(Listing.Kind.INSPECTION, InspectionLeads.of(fetched.uri(), root.get()));
            }
        }
        return new Looked(Listing.Kind.PAGE, PageLeads.of(fetched.uri(), fetched.bytes(), fetched.contentType()));
    }

    private Optional<Element> root(Fetched fetched) {
        try {
            return Optional.of(Xml.parse(
                            fetched.bytes(),
                            fetched.contentType(),
                            fetched.uri().toString(),
                            limits.document())
                    .getDocumentElement());
        } catch (Problem noXml) {
            // most pages are none
            return Optional.empty();
        }
    }

    private static Optional<Path> folder(URI address) {
        try {
            return "file".equals(address.getScheme())
                    ? Optional.of(Path.of(address)).filter(Files::isDirectory)
                    : Optional.empty();
        } catch (IllegalArgumentException e) {
            return Optional.empty();
        }
    }

    private static List<Lead> files(Path folder) {
        try (Stream<Path> all = Files.walk(folder, 3)) {
            return all.filter(p ->
                            p.getFileName().toString().toLowerCase(Locale.ROOT).endsWith(".wsdl"))
                    .filter(Files::isRegularFile)
                    .sorted()
                    .limit(MOST_CONTRACTS * 2L)
                    .map(p -> new Lead(folder.relativize(p).toString(), p.toUri(), false))
                    .toList();
        } catch (IOException | java.io.UncheckedIOException e) {
            throw Problem.of(
                    Problem.Kind.INPUT, "The folder cannot be read", folder.toString(), "Check its rights.", e);
        }
    }

    private Listing read(
            String address, Listing.Kind kind, List<Lead> leads, FinderListener listener, StopSignal stop) {
        List<Lead> looked = leads.subList(0, Math.min(MOST_CONTRACTS, leads.size()));
        ExecutorService readers = Executors.newFixedThreadPool(AT_ONCE, work -> {
            Thread thread = new Thread(work, "listing");
            thread.setDaemon(true);
            return thread;
        });
        try {
            List<Future<Optional<FoundContract>>> waiting = new ArrayList<>();
            for (Lead lead : looked) {
                waiting.add(readers.submit(() -> {
                    Optional<FoundContract> found = read(lead, listener, stop);
                    synchronized (listener) {
                        found.ifPresent(listener::found);
                    }
                    return found;
                }));
            }
            List<FoundContract> found = new ArrayList<>();
            for (Future<Optional<FoundContract>> one : waiting) {
                one.get().ifPresent(found::add);
            }
            if (found.isEmpty()) {
                throw Problem.input(
                        "No contract is listed there",
                        address,
                        "Give the address of a WSDL or of a page that lists some.");
            }
            return new Listing(Redactor.withoutLogin(address), kind, distinct(found), leads.size() - looked.size());
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw Problem.stopped();
        } catch (ExecutionException e) {
            if (e.getCause() instanceof Problem problem) {
                throw problem;
            }
            throw new IllegalStateException("a contract could not be read", e.getCause());
        } finally {
            readers.shutdownNow();
        }
    }

    /** The same contract under two addresses is listed once. */
    private static List<FoundContract> distinct(List<FoundContract> found) {
        Set<String> known = new LinkedHashSet<>();
        return found.stream()
                .filter(f -> f.contract().isEmpty()
                        || known.add(f.contract().get().documents().get(0).uri()))
                .toList();
    }

    /** Empty where nothing is at a guessed address. */
    private Optional<FoundContract> read(Lead lead, FinderListener listener, StopSignal stop) {
        String address = lead.address().toString();
        synchronized (listener) {
            listener.at("reading " + Redactor.withoutLogin(address));
        }
        try {
            return Optional.of(FoundContract.of(address, contract(lead.address(), stop)));
        } catch (Problem problem) {
            if (problem.kind() == Problem.Kind.STOPPED) {
                throw problem;
            }
            Optional<String> instead = instead(lead.address(), problem, stop);
            if (lead.guessed() && instead.isEmpty()) {
                return Optional.empty();
            }
            String trouble = instead.isPresent()
                    ? "404: the link has other capitals than the server; "
                            + instead.get().replaceFirst("^https?://[^/]+", "") + " answers"
                    : problem.getMessage();
            String name = lead.name().isEmpty() ? last(lead.address()) : lead.name();
            return Optional.of(new FoundContract(name, address, Optional.empty(), trouble, instead));
        }
    }

    private Contract contract(URI address, StopSignal stop) {
        return new ContractReader(fetcher, limits).read(address.toString(), address, Progress.NONE, stop);
    }

    /** Where it is with other capitals, when nothing is at the address itself. */
    private Optional<String> instead(URI address, Problem problem, StopSignal stop) {
        if (!problem.getMessage().contains("404") || address.getScheme() == null) {
            return Optional.empty();
        }
        String text = address.toString();
        int path = text.indexOf('/', text.indexOf("://") + 3);
        String server = path < 0 ? text : text.substring(0, path);
        String rest = path < 0 ? "" : text.substring(path);
        int query = rest.indexOf('?');
        String upper = query < 0
                ? rest
                : rest.substring(0, query) + rest.substring(query).toUpperCase(Locale.ROOT);
        String lower = rest.toLowerCase(Locale.ROOT);
        for (String other : List.of(lower, upper)) {
            if (!other.equals(rest)) {
                try {
                    contract(URI.create(server + other), stop);
                    return Optional.of(server + other);
                } catch (Problem notThereEither) {
                    stop.check();
                }
            }
        }
        return Optional.empty();
    }

    private static String last(URI address) {
        String path = address.getPath() == null ? "" : address.getPath();
        String name = path.substring(path.lastIndexOf('/') + 1);
        return name.isEmpty() ? address.toString() : name;
    }
}
