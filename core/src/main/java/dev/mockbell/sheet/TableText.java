package dev.mockbell.sheet;

import com.fasterxml.jackson.databind.MappingIterator;
import com.fasterxml.jackson.dataformat.csv.CsvMapper;
import com.fasterxml.jackson.dataformat.csv.CsvParser;
import com.fasterxml.jackson.dataformat.csv.CsvSchema;
import dev.mockbell.problem.Problem;
import java.io.IOException;
import java.util.List;

/** A table as text. */
public final class TableText {
    private TableText() {}

    /**
     * The cells of CSV (RFC 4180), or of lines with tabs as a spreadsheet copies them.
     *
     * @throws Problem when a quote is not closed
     */
    public static List<List<String>> cells(String text) {
        String first = text.lines().findFirst().orElse("");
        return cells(text.strip(), first.indexOf('\t') >= 0 ? '\t' : ',', null);
    }

    /**
     * The cells of rows with this separator between values.
     *
     * @param where the text comes from; null when that is not to be told
     * @throws Problem when a quote is not closed
     */
    public static List<List<String>> cells(String text, char separator, String where) {
        CsvSchema schema = CsvSchema.emptySchema().withColumnSeparator(separator);
        try (MappingIterator<List<String>> rows = new CsvMapper()
                .readerForListOf(String.class)
                .with(CsvParser.Feature.WRAP_AS_ARRAY)
                .with(CsvParser.Feature.SKIP_EMPTY_LINES)
                .with(schema)
                .readValues(text)) {
            return rows.readAll();
        } catch (IOException | RuntimeException e) {
            throw Problem.of(
                    Problem.Kind.INPUT,
                    "The table cannot be read: "
                            + Problem.reason(e).lines().findFirst().orElse(""),
                    where,
                    "Close every quote, and double quotes within one.",
                    e);
        }
    }
}
