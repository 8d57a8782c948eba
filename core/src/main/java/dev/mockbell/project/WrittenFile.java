package dev.mockbell.project;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import dev.mockbell.written.WrittenContract;
import dev.mockbell.written.WrittenField;
import dev.mockbell.written.WrittenOperation;
import dev.mockbell.written.WrittenPart;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;

/** The table of a contract that is written by hand as a YAML tree. */
final class WrittenFile {
    static final String FILE = "written.yaml";

    private WrittenFile() {}

    static WrittenContract read(ObjectNode node) {
        List<String> versions = new ArrayList<>();
        node.path("soap").forEach(v -> versions.add(v.asText()));
        boolean said = node.has("soap");
        List<WrittenOperation> operations = new ArrayList<>();
        node.path("operations").forEach(o -> operations.add(operation(o)));
        return new WrittenContract(
                node.path("namespace").asText(""),
                node.path("service").asText(""),
                node.path("address").asText(""),
                !said || versions.contains("1.1"),
                !said || versions.contains("1.2"),
                operations);
    }

    private static WrittenOperation operation(JsonNode node) {
        List<WrittenPart> parts = new ArrayList<>();
        node.path("parts")
                .forEach(p -> parts.add(new WrittenPart(
                        Arrays.stream(WrittenPart.Kind.values())
                                .filter(k -> k.code().equals(p.path("part").asText()))
                                .findFirst()
                                .orElse(WrittenPart.Kind.TAKES),
                        p.path("name").asText(""),
                        fields(p.path("fields")))));
        return new WrittenOperation(
                node.path("name").asText(""),
                node.path("oneWay").asBoolean(false),
                node.path("means").asText(""),
                parts);
    }

    private static List<WrittenField> fields(JsonNode array) {
        List<WrittenField> fields = new ArrayList<>();
        array.forEach(f -> fields.add(new WrittenField(
                f.path("name").asText(""),
                f.path("type").asText(""),
                f.path("often").asText(""),
                f.path("limits").asText(""),
                f.path("means").asText(""),
                fields(f.path("fields")))));
        return fields;
    }

    static void write(WrittenContract contract, ObjectNode node) {
        node.put("namespace", contract.namespace());
        node.put("service", contract.service());
        node.put("address", contract.address());
        ArrayNode soap = node.putArray("soap");
        if (contract.soap11()) {
            soap.add("1.1");
        }
        if (contract.soap12()) {
            soap.add("1.2");
        }
        ArrayNode operations = node.putArray("operations");
        for (WrittenOperation operation : contract.operations()) {
            ObjectNode one = operations.addObject().put("name", operation.name());
            if (operation.oneWay()) {
                one.put("oneWay", true);
            }
            put(one, "means", operation.means());
            ArrayNode parts = one.putArray("parts");
            for (WrittenPart part : operation.parts()) {
                ObjectNode p = parts.addObject().put("part", part.kind().code());
                put(p, "name", part.name());
                fields(part.fields(), p.putArray("fields"));
            }
        }
    }

    private static void fields(List<WrittenField> fields, ArrayNode into) {
        for (WrittenField field : fields) {
            ObjectNode one = into.addObject().put("name", field.name());
            put(one, "type", field.type());
            put(one, "often", field.often());
            put(one, "limits", field.limits());
            put(one, "means", field.means());
            if (!field.inner().isEmpty()) {
                fields(field.inner(), one.putArray("fields"));
            }
        }
    }

    private static void put(ObjectNode node, String name, String value) {
        if (!value.isEmpty()) {
            node.put(name, value);
        }
    }
}
