package dev.mockbell.project;

import com.fasterxml.jackson.databind.JsonNode;
import com.networknt.schema.ValidationMessage;
import dev.mockbell.problem.Problem;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Set;
import java.util.stream.Collectors;

/** Holds a file against the schema of its kind and says what is wrong, where, in words. */
final class FileJudge {
    private static final int MOST_TOLD = 3;

    private FileJudge() {}

    /** @throws Problem with the line of the first flaw, and the first few of them in words */
    static void judge(FileKind kind, YamlReader.Read read, String file) {
        Set<ValidationMessage> flaws = kind.validator().validate(read.tree());
        if (flaws.isEmpty()) {
            return;
        }
        List<ValidationMessage> told = new ArrayList<>(flaws);
        for (ValidationMessage flaw : flaws) {
            if ("oneOf".equals(flaw.getType()) || "anyOf".equals(flaw.getType())) {
                String within = flaw.getSchemaLocation() + "/";
                int meant = meant(flaw.getSchemaNode(), read.tree().at(pointer(flaw)));
                if (meant >= 0) {
                    // what is wrong with the one that is meant says more than that none fits
                    told.remove(flaw);
                    told.removeIf(f -> f.getSchemaLocation().toString().startsWith(within)
                            && !f.getSchemaLocation().toString().startsWith(within + meant + "/"));
                } else {
                    // what an alternative lacks says less than that none fits
                    told.removeIf(f -> f.getSchemaLocation().toString().startsWith(within));
                }
            }
        }
        if (told.isEmpty()) {
            told.addAll(flaws);
        }
        told.sort(Comparator.comparingInt(f -> read.line(pointer(f))));
        ValidationMessage first = told.get(0);
        String words = told.stream()
                .map(f -> words(f, read.tree()))
                .distinct()
                .limit(MOST_TOLD)
                .collect(Collectors.joining("; "));
        throw Problem.input(
                "The file holds what it may not: " + words,
                file + ":" + read.line(pointer(first)),
                "Mend it there; it is left as it is.");
    }

    /** The only alternative whose keys are all there, by its place; negative when there is none, or several. */
    private static int meant(JsonNode alternatives, JsonNode value) {
        int found = -1;
        for (int i = 0; i < alternatives.size(); i++) {
            JsonNode required = alternatives.get(i).path("required");
            boolean all = !required.isEmpty();
            for (JsonNode key : required) {
                all &= value.has(key.asText());
            }
            if (all && found >= 0) {
                return -1;
            }
            found = all ? i : found;
        }
        return found;
    }

    private static String pointer(ValidationMessage flaw) {
        return flaw.getInstanceLocation().toString();
    }

    private static String words(ValidationMessage flaw, JsonNode tree) {
        String pointer = pointer(flaw);
        JsonNode value = tree.at(pointer);
        String name = pointer.isEmpty()
                ? "the file"
                : pointer.substring(1).replace("~1", "/").replace("~0", "~");
        JsonNode schema = flaw.getSchemaNode();
        return switch (flaw.getType()) {
            case "type" -> name + " must be " + type(schema.asText()) + ", not " + shown(value);
            case "required" -> name + " lacks “" + flaw.getProperty() + "”";
            case "enum" -> name + " must be one of " + list(schema) + ", not " + shown(value);
            case "const" -> name + " must be " + schema.asText() + ", not " + shown(value);
            case "minimum" -> name + " must be at least " + schema.asText() + ", not " + shown(value);
            case "maximum" -> name + " must be at most " + schema.asText() + ", not " + shown(value);
            case "exclusiveMinimum" -> name + " must be more than " + schema.asText() + ", not " + shown(value);
            case "minLength" -> name + " must not be empty";
            case "minItems" -> name + " must not be empty";
            case "pattern" -> name + " is not written as it must be: " + shown(value);
            case "oneOf", "anyOf" -> name + " must be one of: " + alternatives(schema) + "; it is " + shown(value);
            default -> name + ": " + flaw.getMessage();
        };
    }

    private static String type(String type) {
        return switch (type) {
            case "integer" -> "a whole number";
            case "number" -> "a number";
            case "string" -> "text";
            case "boolean" -> "true or false";
            case "array" -> "a list";
            case "object" -> "a mapping of keys to values";
            default -> type;
        };
    }

    private static String list(JsonNode values) {
        List<String> all = new ArrayList<>();
        values.forEach(v -> all.add(v.asText()));
        return String.join(", ", all);
    }

    private static String alternatives(JsonNode schemas) {
        List<String> all = new ArrayList<>();
        for (JsonNode schema : schemas) {
            List<String> keys = new ArrayList<>();
            schema.path("required").forEach(k -> keys.add(k.asText()));
            all.add(keys.isEmpty() ? type(schema.path("type").asText()) : String.join(" with ", keys));
        }
        return String.join(", ", all);
    }

    private static String shown(JsonNode value) {
        if (value.isObject()) {
            List<String> keys = new ArrayList<>();
            value.properties().forEach(e -> keys.add(e.getKey()));
            return keys.isEmpty() ? "an empty mapping" : "a mapping of " + String.join(", ", keys);
        }
        if (value.isArray()) {
            return "a list";
        }
        if (value.isNull() || value.isMissingNode()) {
            return "nothing";
        }
        String text = value.asText().replaceAll("\\p{Cntrl}", "?");
        return "“" + (text.length() > 60 ? text.substring(0, 60) + "…" : text) + "”";
    }
}
