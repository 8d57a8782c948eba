package dev.mockbell.project;

import com.fasterxml.jackson.core.JsonLocation;
import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import com.fasterxml.jackson.dataformat.yaml.YAMLFactory;
import com.fasterxml.jackson.dataformat.yaml.YAMLGenerator;
import com.fasterxml.jackson.dataformat.yaml.YAMLMapper;
import dev.mockbell.problem.Problem;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;

/** The project's YAML files as trees, with keys in a stable order and a version number at the top. */
final class Yaml {
    /** The newest version of the format that this program reads and the one it writes. */
    static final int FORMAT = 1;

    private final YAMLMapper mapper = new YAMLMapper(YAMLFactory.builder()
            .disable(YAMLGenerator.Feature.WRITE_DOC_START_MARKER)
            .enable(YAMLGenerator.Feature.MINIMIZE_QUOTES)
            .enable(YAMLGenerator.Feature.ALWAYS_QUOTE_NUMBERS_AS_STRINGS)
            .enable(YAMLGenerator.Feature.LITERAL_BLOCK_STYLE)
            .enable(YAMLGenerator.Feature.INDENT_ARRAYS_WITH_INDICATOR)
            .disable(YAMLGenerator.Feature.SPLIT_LINES)
            .build());

    ObjectNode object() {
        ObjectNode node = mapper.createObjectNode();
        node.put("format", FORMAT);
        return node;
    }

    /**
     * Reads a file.
     *
     * @throws Problem with line and column when it is no YAML mapping, or when a newer program wrote it
     */
    ObjectNode read(Path file) {
        try {
            JsonNode node = mapper.readTree(Files.readString(file, StandardCharsets.UTF_8));
            if (!(node instanceof ObjectNode object)) {
                throw Problem.input(
                        "The file is not a YAML mapping", file.toString(), "Restore it from version control.");
            }
            int format = object.path("format").asInt(FORMAT);
            if (format > FORMAT) {
                throw Problem.input(
                        "The file has format " + format + ", made by a newer Mock Bell; this one reads up to " + FORMAT,
                        file.toString(),
                        "Use the newer program; the file is left as it is.");
            }
            return object;
        } catch (JsonProcessingException e) {
            JsonLocation at = e.getLocation();
            String place = at == null ? file.toString() : file + ":" + at.getLineNr() + ":" + at.getColumnNr();
            throw Problem.of(
                    Problem.Kind.INPUT,
                    "The file is not well-formed YAML: "
                            + e.getOriginalMessage().lines().findFirst().orElse(""),
                    place,
                    "Mend it there; it is left as it is.",
                    e);
        } catch (java.nio.charset.CharacterCodingException e) {
            throw Problem.of(
                    Problem.Kind.INPUT, "The file is not UTF-8 text", file.toString(), "It is left as it is.", e);
        } catch (IOException e) {
            throw Problem.of(
                    Problem.Kind.INPUT, "The file cannot be read: " + Problem.reason(e), file.toString(), null, e);
        }
    }

    /** Writes the tree; keys of the file that the tree does not know stay, behind the others. */
    void write(Path file, ObjectNode node) {
        ObjectNode merged = node;
        if (Files.exists(file)) {
            ObjectNode old = read(file);
            merged = node.deepCopy();
            ObjectNode into = merged;
            old.properties().forEach(e -> {
                if (!into.has(e.getKey())) {
                    into.set(e.getKey(), e.getValue());
                }
            });
        }
        try {
            AtomicFile.write(file, mapper.writeValueAsString(merged));
        } catch (JsonProcessingException e) {
            throw new IllegalStateException("a plain tree can always be written", e);
        }
    }
}
