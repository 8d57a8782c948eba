package dev.mockbell.project;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.node.ObjectNode;
import com.fasterxml.jackson.dataformat.yaml.YAMLFactory;
import com.fasterxml.jackson.dataformat.yaml.YAMLGenerator;
import com.fasterxml.jackson.dataformat.yaml.YAMLMapper;
import dev.mockbell.file.AtomicFile;
import dev.mockbell.problem.Problem;
import java.io.IOException;
import java.nio.charset.CharacterCodingException;
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
     * Reads a file and judges it by the schema of its kind.
     *
     * @throws Problem with the line when it is no YAML mapping, when it holds what its kind may not, or when a newer
     *     program wrote it
     */
    ObjectNode read(Path file, FileKind kind) {
        YamlReader.Read read = parsed(file, kind.place());
        FileJudge.judge(kind, read, file.toString());
        return (ObjectNode) read.tree();
    }

    private YamlReader.Read parsed(Path file, SchemaPlace place) {
        YamlReader.Read read = YamlReader.read(text(file), file.toString(), place);
        if (!(read.tree() instanceof ObjectNode object)) {
            throw Problem.input("The file is not a YAML mapping", file.toString(), "Restore it from version control.");
        }
        int format = object.path("format").asInt(FORMAT);
        if (format > FORMAT) {
            throw Problem.of(
                    Problem.Kind.NEWER_FORMAT,
                    "The file has format " + format + ", made by a newer Mock Bell; this one reads up to " + FORMAT,
                    file.toString(),
                    "Use the newer program; the file is left as it is.",
                    null);
        }
        return read;
    }

    private static String text(Path file) {
        try {
            return Files.readString(file, StandardCharsets.UTF_8);
        } catch (CharacterCodingException e) {
            throw Problem.of(
                    Problem.Kind.INPUT, "The file is not UTF-8 text", file.toString(), "It is left as it is.", e);
        } catch (IOException | OutOfMemoryError e) {
            throw Problem.of(
                    Problem.Kind.INPUT, "The file cannot be read: " + Problem.reason(e), file.toString(), null, e);
        }
    }

    /**
     * Writes the tree over what the file holds; what its schema does not know stays.
     *
     * @throws Problem when the file that is there cannot be read; it is left alone then
     */
    void write(Path file, ObjectNode node, FileKind kind) {
        ObjectNode made = Files.exists(file) ? Patch.of(read(file, kind), node, kind.place()) : node;
        AtomicFile.write(file, text(made));
    }

    /** The tree as it is written. */
    String text(ObjectNode node) {
        try {
            return mapper.writeValueAsString(node);
        } catch (JsonProcessingException e) {
            throw new IllegalStateException("a plain tree can always be written", e);
        }
    }

    /** A file of the user's own, with no schema; empty when it is not there. */
    ObjectNode readOwn(Path file) {
        if (!Files.isRegularFile(file)) {
            return object();
        }
        return (ObjectNode)
                parsed(file, SchemaPlace.of(mapper.createObjectNode())).tree();
    }

    /** Writes a file that nobody but the user may read. */
    void writeOwn(Path file, ObjectNode node) {
        AtomicFile.writePrivate(file, text(node));
    }
}
