package dev.mockbell.project;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.networknt.schema.JsonSchema;
import com.networknt.schema.JsonSchemaFactory;
import com.networknt.schema.PathType;
import com.networknt.schema.SchemaValidatorsConfig;
import com.networknt.schema.SpecVersion.VersionFlag;
import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.util.Locale;

/** The kinds of YAML files of a project, each with the JSON Schema that says what may stand in it. */
enum FileKind {
    PROJECT,
    SNAPSHOT,
    CASE,
    SUITE,
    MOCK,
    LOAD,
    TAP,
    WRITTEN;

    private final JsonNode schema;
    private final JsonSchema validator;

    FileKind() {
        schema = read(name().toLowerCase(Locale.ROOT) + ".schema.json");
        SchemaValidatorsConfig config = SchemaValidatorsConfig.builder()
                .pathType(PathType.JSON_POINTER)
                .locale(Locale.ROOT)
                .build();
        validator = JsonSchemaFactory.getInstance(VersionFlag.V202012).getSchema(schema, config);
    }

    private static JsonNode read(String name) {
        try (InputStream in = FileKind.class.getResourceAsStream("schemas/" + name)) {
            return new ObjectMapper().readTree(in);
        } catch (IOException e) {
            throw new UncheckedIOException("the program holds its schemas", e);
        }
    }

    /** What the schema says of the whole file. */
    SchemaPlace place() {
        return SchemaPlace.of(schema);
    }

    JsonSchema validator() {
        return validator;
    }
}
