package dev.mockbell.project;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.node.ObjectNode;
import com.fasterxml.jackson.dataformat.yaml.YAMLMapper;
import com.networknt.schema.JsonSchema;
import com.networknt.schema.JsonSchemaFactory;
import com.networknt.schema.SpecVersion.VersionFlag;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.Stream;

/**
 * Judges the files of a project by the schemas that people read, with one thing more: a key that a schema does not name is
 * wrong. Whoever edits a file is offered what the program writes, all of it.
 */
public final class StrictSchemas {
    private static final ObjectMapper JSON = new ObjectMapper();

    private StrictSchemas() {}

    /**
     * What is wrong with the files of a project.
     *
     * @param schemas the folder with the schemas
     */
    public static List<String> flaws(Path project, Path schemas) {
        List<String> flaws = new ArrayList<>();
        try (Stream<Path> all = Files.walk(project)) {
            for (Path file : all.filter(f -> f.toString().endsWith(".yaml"))
                    .filter(f -> !project.relativize(f).startsWith(".mockbell"))
                    .toList()) {
                JsonNode node = new YAMLMapper().readTree(file.toFile());
                strict(schemas.resolve(kind(project.relativize(file)) + ".schema.json")).validate(node).stream()
                        .map(m -> project.relativize(file) + ": " + m.getMessage())
                        .forEach(flaws::add);
            }
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
        return flaws;
    }

    private static String kind(Path file) {
        String name = file.getFileName().toString();
        return switch (file.getName(0).toString()) {
            case "contracts" -> name.replace(".yaml", "");
            case "cases" -> "case";
            case "suites" -> "suite";
            case "mocks" -> "mock";
            case "loads" -> "load";
            case "taps" -> "tap";
            default -> "project";
        };
    }

    private static JsonSchema strict(Path schema) throws IOException {
        ObjectNode node = (ObjectNode) JSON.readTree(schema.toFile());
        close(node, true);
        return JsonSchemaFactory.getInstance(VersionFlag.V202012).getSchema(node);
    }

    /** @param whole whether it is all that is said of a value, and not one of several that are said of it together */
    private static void close(JsonNode node, boolean whole) {
        if (node instanceof ObjectNode object) {
            boolean names = object.has("properties")
                    || object.has("oneOf") && object.path("type").asText().equals("object");
            if (whole && names && !object.has("additionalProperties")) {
                object.put("unevaluatedProperties", false);
            }
            object.properties().forEach(e -> {
                boolean part = List.of("oneOf", "anyOf", "allOf", "if", "then", "else", "not")
                        .contains(e.getKey());
                e.getValue().forEach(child -> close(child, !part));
                if (e.getKey().equals("items") || e.getKey().equals("additionalProperties")) {
                    close(e.getValue(), true);
                } else if (e.getValue() instanceof ObjectNode && part) {
                    close(e.getValue(), false);
                }
            });
        }
    }
}
