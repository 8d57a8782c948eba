package dev.mockbell.contract;

import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;

/** File names for the documents of a contract: short, legal everywhere, each its own. */
public final class DocumentNames {
    private DocumentNames() {}

    /**
     * A name for each document by its URI, in their order.
     *
     * @param reserved names that are not to be used
     */
    public static Map<String, String> of(List<SourceDocument> documents, Set<String> reserved) {
        Set<String> taken = new HashSet<>();
        reserved.forEach(r -> taken.add(r.toLowerCase(Locale.ROOT)));
        Map<String, String> names = new LinkedHashMap<>();
        documents.forEach(d -> names.put(d.uri(), name(d, taken)));
        return names;
    }

    private static String name(SourceDocument document, Set<String> taken) {
        String path = document.uri().replaceAll("[?#].*", "");
        String last = path.substring(path.lastIndexOf('/') + 1).replaceAll("[^\\p{L}\\p{N}._-]+", "-");
        String ending = document.kind() == SourceDocument.Kind.WSDL ? ".wsdl" : ".xsd";
        String base =
                last.isEmpty() || last.startsWith(".") ? "document" : last.replaceAll("(?i)\\.(wsdl|xsd|xml)$", "");
        String name = base + ending;
        // file systems that fold case would take two names for one
        for (int i = 2; !taken.add(name.toLowerCase(Locale.ROOT)); i++) {
            name = base + "-" + i + ending;
        }
        return name;
    }
}
