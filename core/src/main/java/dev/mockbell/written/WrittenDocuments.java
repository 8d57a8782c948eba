package dev.mockbell.written;

import dev.mockbell.contract.Contract;
import dev.mockbell.contract.ContractReader;
import dev.mockbell.contract.DocumentFetcher;
import dev.mockbell.problem.Problem;
import dev.mockbell.task.Progress;
import dev.mockbell.task.StopSignal;
import java.net.URI;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;

/**
 * The documents of a written contract: a WSDL 1.1, document/literal and wrapped, and the schema of its messages.
 *
 * @param name of the files, without what comes behind the dot
 * @param flaws what in the table cannot be so; rows that have one are left out where they would spoil the rest
 * @param linesOfRows from which to which line of the schema, from 1, the rows of the table lead
 */
public record WrittenDocuments(
        String name, String wsdl, String xsd, List<Flaw> flaws, Map<Integer, List<Integer>> linesOfRows) {
    /** Where written contracts say they are from: nobody fetches it. */
    public static final String SCHEME = "written";

    public WrittenDocuments {
        flaws = List.copyOf(flaws);
    }

    /** Makes the documents. */
    public static WrittenDocuments of(WrittenContract contract) {
        return new DocumentWriter(contract).written();
    }

    /** The WSDL's address, which leads to no place but the project. */
    public String source() {
        return SCHEME + ":/" + name + ".wsdl";
    }

    /** The files by name, the WSDL first. */
    public Map<String, byte[]> files() {
        Map<String, byte[]> files = new LinkedHashMap<>();
        files.put(name + ".wsdl", wsdl.getBytes(StandardCharsets.UTF_8));
        files.put(name + ".xsd", xsd.getBytes(StandardCharsets.UTF_8));
        return files;
    }

    /**
     * The contract as any reader takes it from these documents, with its findings.
     *
     * @throws Problem when it cannot be read at all
     */
    public Contract read(StopSignal stop) {
        Map<String, byte[]> files = files();
        DocumentFetcher fetcher = (uri, signal) -> {
            byte[] bytes = files.get(uri.getPath().replaceFirst("^/", ""));
            if (bytes == null) {
                throw Problem.input("There is no such document", uri.toString(), null);
            }
            return new DocumentFetcher.Fetched(uri, bytes, "");
        };
        return new ContractReader(fetcher).read(source(), URI.create(source()), Progress.NONE, stop);
    }

    /** The lines of the schema that a row leads to. */
    public List<Integer> lines(int row) {
        return linesOfRows.getOrDefault(row, List.of());
    }

    /** The types of fields that the table offers, in words. */
    public static List<String> types() {
        return List.copyOf(FieldWords.TYPES.keySet());
    }

    /** Words for how often a field is there that the table offers. */
    public static List<String> often() {
        return List.of("once", "may be left out", "any number", "once or more", "1 to 20", "once, may be nil");
    }

    /** The names of groups that fields may have as their type. */
    static Set<String> groups(List<WrittenField> fields) {
        Set<String> found = new java.util.LinkedHashSet<>();
        List<WrittenField> open = new ArrayList<>(fields);
        while (!open.isEmpty()) {
            WrittenField field = open.remove(open.size() - 1);
            if (!field.inner().isEmpty()) {
                found.add(Names.ofType(field.name()));
                open.addAll(field.inner());
            }
        }
        return found;
    }
}
