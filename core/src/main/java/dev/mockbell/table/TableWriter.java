package dev.mockbell.table;

import com.fasterxml.jackson.core.JsonFactory;
import com.fasterxml.jackson.core.JsonGenerator;
import com.fasterxml.jackson.databind.SequenceWriter;
import com.fasterxml.jackson.dataformat.csv.CsvGenerator;
import com.fasterxml.jackson.dataformat.csv.CsvMapper;
import com.fasterxml.jackson.dataformat.csv.CsvSchema;
import dev.mockbell.file.AtomicFile;
import java.io.IOException;
import java.io.OutputStream;
import java.io.OutputStreamWriter;
import java.io.StringWriter;
import java.io.Writer;
import java.math.BigDecimal;
import java.math.BigInteger;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/** Writes tables as text. What is left out or nil is empty in CSV and null in JSON. */
public final class TableWriter {
    private TableWriter() {}

    /** How a table is written. */
    public enum Form {
        /** RFC 4180, in UTF-8, the names in the first line. */
        CSV,
        /** Values with tabs between, as spreadsheets take them. */
        TABS,
        /** An array of objects by the columns' names; numbers and truth values as such where they are. */
        JSON
    }

    /** Writes a table to a stream, which stays open. */
    public static void write(Table table, Form form, OutputStream to) throws IOException {
        Writer text = new OutputStreamWriter(to, StandardCharsets.UTF_8);
        write(table, form, text);
        text.flush();
    }

    /**
     * Writes a table to a file, whole or not at all, in place of one that is there.
     *
     * @throws dev.mockbell.problem.Problem when it cannot be written
     */
    public static void write(Table table, Form form, Path file) {
        AtomicFile.write(file.toAbsolutePath(), out -> write(table, form, out));
    }

    /** A table as text. */
    public static String text(Table table, Form form) {
        StringWriter text = new StringWriter();
        try {
            write(table, form, text);
        } catch (IOException e) {
            throw new IllegalStateException("a text can always be written to", e);
        }
        return text.toString();
    }

    private static void write(Table table, Form form, Writer to) throws IOException {
        if (form == Form.JSON) {
            json(table, to);
            return;
        }
        CsvSchema schema = CsvSchema.emptySchema();
        schema = form == Form.TABS
                ? schema.withColumnSeparator('\t').withLineSeparator("\n")
                : schema.withLineSeparator("\r\n");
        CsvMapper mapper = CsvMapper.builder()
                .enable(CsvGenerator.Feature.STRICT_CHECK_FOR_QUOTING)
                .disable(com.fasterxml.jackson.core.JsonGenerator.Feature.AUTO_CLOSE_TARGET)
                .build();
        try (SequenceWriter lines = mapper.writer(schema).writeValues(to)) {
            List<Column> columns = table.columns();
            lines.write(columns.stream().map(Column::name).toList());
            for (Table.Row row : table.rows()) {
                List<String> line = new ArrayList<>();
                for (Column column : columns) {
                    String value = row.value(column);
                    line.add(Table.isNothing(value) ? "" : value);
                }
                lines.write(line);
            }
        }
    }

    private static void json(Table table, Writer to) throws IOException {
        try (JsonGenerator out = new JsonFactory().createGenerator(to)) {
            out.disable(JsonGenerator.Feature.AUTO_CLOSE_TARGET);
            out.useDefaultPrettyPrinter();
            out.writeStartArray();
            for (Table.Row row : table.rows()) {
                out.writeStartObject();
                for (Column column : table.columns()) {
                    out.writeFieldName(column.name());
                    value(out, column, row.value(column));
                }
                out.writeEndObject();
            }
            out.writeEndArray();
        }
    }

    private static void value(JsonGenerator out, Column column, String text) throws IOException {
        Optional<Object> value =
                Table.isNothing(text) ? Optional.empty() : column.type().value(text);
        if (Table.isNothing(text)) {
            out.writeNull();
        } else if (value.isPresent() && value.get() instanceof BigInteger whole) {
            out.writeNumber(whole);
        } else if (value.isPresent() && value.get() instanceof BigDecimal decimal) {
            out.writeNumber(decimal);
        } else if (value.isPresent() && value.get() instanceof Boolean yes) {
            out.writeBoolean(yes);
        } else {
            out.writeString(text);
        }
    }
}
