package dev.mockbell.project;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import dev.mockbell.contract.Contract;
import dev.mockbell.contract.ContractReader;
import dev.mockbell.contract.DocumentFetcher;
import dev.mockbell.contract.DocumentNames;
import dev.mockbell.contract.ReadLimits;
import dev.mockbell.contract.SourceDocument;
import dev.mockbell.file.AtomicFile;
import dev.mockbell.file.FileName;
import dev.mockbell.file.Inside;
import dev.mockbell.problem.Problem;
import dev.mockbell.redact.Redactor;
import dev.mockbell.task.Progress;
import dev.mockbell.task.StopSignal;
import dev.mockbell.xml.XmlLimits;
import java.io.IOException;
import java.net.URI;
import java.net.URISyntaxException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.time.format.DateTimeParseException;
import java.util.ArrayList;
import java.util.Collections;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;

/** A contract's documents in the project, byte for byte, and the contract read from them again with no network. */
final class Snapshots {
    static final String FILE = "snapshot.yaml";

    /** What came in once, perhaps with raised limits, must open again. */
    private static final ReadLimits KEPT = new ReadLimits(
            new XmlLimits(20_000, XmlLimits.CONTRACT.entityExpansions(), 1L << 30, XmlLimits.CONTRACT.doctype()),
            100_000,
            ReadLimits.USUAL.timeout());

    private final Yaml yaml;

    Snapshots(Yaml yaml) {
        this.yaml = yaml;
    }

    void write(Path folder, String title, Contract contract, Instant fetched) {
        ObjectNode node = yaml.object();
        node.put("title", title);
        node.put("source", Redactor.withoutLogin(contract.source()));
        node.put("fetched", fetched.toString());
        ArrayNode documents = node.putArray("documents");
        Map<String, String> names = DocumentNames.of(contract.documents(), Set.of(FILE, WrittenFile.FILE));
        for (SourceDocument document : contract.documents()) {
            String name = names.get(document.uri());
            AtomicFile.write(folder.resolve(name), document.bytes());
            ObjectNode kept = documents
                    .addObject()
                    .put("file", name)
                    .put("uri", Redactor.withoutLogin(document.uri()))
                    .put("requested", Redactor.withoutLogin(document.requested()));
            if (!document.contentType().isEmpty()) {
                kept.put("contentType", document.contentType());
            }
            kept.put("sha256", document.sha256());
        }
        yaml.write(folder.resolve(FILE), node, FileKind.SNAPSHOT);
    }

    /** The names of the documents of a snapshot; none where there is no snapshot. */
    Set<String> files(Path folder) {
        Set<String> names = new HashSet<>();
        if (Files.exists(folder.resolve(FILE))) {
            yaml.read(folder.resolve(FILE), FileKind.SNAPSHOT)
                    .path("documents")
                    .forEach(d -> names.add(d.path("file").asText()));
        }
        return names;
    }

    /** Whether a snapshot holds what is known of it: title, source and documents. */
    boolean isStill(Path folder, KeptContract known) {
        ObjectNode node = yaml.read(folder.resolve(FILE), FileKind.SNAPSHOT);
        List<String> there = new ArrayList<>();
        node.path("documents").forEach(d -> there.add(document(folder, d).sha256()));
        List<String> here = new ArrayList<>(known.contract().documents().stream()
                .map(SourceDocument::sha256)
                .toList());
        Collections.sort(there);
        Collections.sort(here);
        return there.equals(here)
                && node.path("title").asText(known.name()).equals(known.title())
                && node.path("source")
                        .asText(known.contract().source())
                        .equals(known.contract().source());
    }

    KeptContract read(Path folder, List<String> troubles) {
        Path file = folder.resolve(FILE);
        ObjectNode node = yaml.read(file, FileKind.SNAPSHOT);
        Map<String, SourceDocument> documents = new HashMap<>();
        String root = null;
        for (JsonNode d : node.path("documents")) {
            SourceDocument document = document(folder, d);
            if (!document.sha256().equals(d.path("sha256").asText())) {
                troubles.add("The document " + folder.resolve(d.path("file").asText())
                        + " is not the one that was fetched: its SHA-256 differs. It is used as it is.");
            }
            documents.put(document.uri(), document);
            documents.put(document.requested(), document);
            root = root == null ? document.requested() : root;
        }
        if (root == null) {
            throw Problem.input("The snapshot names no documents", file.toString(), "Import the contract again.");
        }
        DocumentFetcher fetcher = (uri, stop) -> {
            SourceDocument document = documents.get(uri.toString());
            if (document == null) {
                throw Problem.input("The snapshot does not hold it", uri.toString(), "Import the contract again.");
            }
            return new DocumentFetcher.Fetched(address(document.uri(), file), document.bytes(), document.contentType());
        };
        Contract contract = new ContractReader(fetcher, KEPT)
                .read(node.path("source").asText(root), address(root, file), Progress.NONE, new StopSignal());
        String name = FileName.name(folder.getFileName().toString());
        return new KeptContract(name, node.path("title").asText(name), instant(node), contract);
    }

    private static URI address(String written, Path file) {
        try {
            return new URI(written);
        } catch (URISyntaxException e) {
            throw Problem.of(
                    Problem.Kind.INPUT,
                    "The snapshot names “" + written.replaceAll("\\p{Cntrl}", "?") + "”, which is not an address",
                    file.toString(),
                    "Import the contract again.",
                    e);
        }
    }

    private static Instant instant(ObjectNode node) {
        try {
            return Instant.parse(node.path("fetched").asText());
        } catch (DateTimeParseException e) {
            return Instant.EPOCH;
        }
    }

    private static SourceDocument document(Path folder, JsonNode d) {
        Path file = new Inside(folder).resolve(folder, d.path("file").asText());
        try {
            byte[] bytes = Files.readAllBytes(file);
            boolean wsdl = file.toString().endsWith(".wsdl");
            return new SourceDocument(
                    d.path("uri").asText(),
                    d.path("requested").asText(d.path("uri").asText()),
                    wsdl ? SourceDocument.Kind.WSDL : SourceDocument.Kind.XSD,
                    bytes,
                    d.path("contentType").asText(""));
        } catch (IOException e) {
            throw Problem.of(
                    Problem.Kind.INPUT,
                    "A document of the snapshot cannot be read",
                    file.toString(),
                    "Import the contract again.",
                    e);
        }
    }
}
