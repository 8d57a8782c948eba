package dev.mockbell.inside;

import com.fasterxml.jackson.databind.MappingIterator;
import com.fasterxml.jackson.dataformat.csv.CsvMapper;
import com.fasterxml.jackson.dataformat.csv.CsvParser;
import com.fasterxml.jackson.dataformat.csv.CsvSchema;
import java.io.IOException;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;

/**
 * Rows of values with a separator between them (RFC 4180, with comma, semicolon, tab or bar).
 *
 * @param rows all of them, the header's too; each has as many values as the first
 * @param header whether the first row names the columns
 */
public record Separated(char separator, boolean header, List<List<String>> rows) {
    /** Prose has as many commas in a line by chance; a table keeps to it. */
    private static final int FEWEST_ROWS = 2;

    private static final char[] SEPARATORS = {',', ';', '\t', '|'};

    /** What a text is by itself; empty when its lines are no rows of a table. */
    public static Optional<Separated> of(String text) {
        String first = text.stripLeading().lines().findFirst().orElse("");
        for (char separator : SEPARATORS) {
            if (first.indexOf(separator) >= 0) {
                Optional<Separated> read = of(text, separator);
                if (read.isPresent()) {
                    return read;
                }
            }
        }
        return Optional.empty();
    }

    private static Optional<Separated> of(String text, char separator) {
        List<List<String>> rows = new ArrayList<>();
        CsvSchema schema = CsvSchema.emptySchema().withColumnSeparator(separator);
        try (MappingIterator<List<String>> read = new CsvMapper()
                .readerForListOf(String.class)
                .with(CsvParser.Feature.WRAP_AS_ARRAY)
                .with(CsvParser.Feature.SKIP_EMPTY_LINES)
                .with(schema)
                .readValues(text)) {
            while (read.hasNext()) {
                List<String> row = read.next();
                boolean fits = row.size() > 1
                        && (rows.isEmpty() || row.size() == rows.get(0).size());
                if (!fits) {
                    return Optional.empty();
                }
                rows.add(row);
            }
        } catch (IOException | RuntimeException notRows) {
            return Optional.empty();
        }
        if (rows.size() < FEWEST_ROWS) {
            return Optional.empty();
        }
        boolean header = isHeader(rows);
        return rows.size() == FEWEST_ROWS && !header
                ? Optional.empty()
                : Optional.of(new Separated(separator, header, rows));
    }

    /** Names are words of their own, and something below them is none. */
    private static boolean isHeader(List<List<String>> rows) {
        List<String> first = rows.get(0);
        boolean names = new HashSet<>(first).size() == first.size()
                && first.stream().allMatch(v -> !v.isBlank() && !isNumber(v) && v.length() < 60);
        boolean values = rows.stream().skip(1).anyMatch(r -> r.stream().anyMatch(v -> isNumber(v) || v.isBlank()));
        return names && (values || rows.size() > FEWEST_ROWS);
    }

    private static boolean isNumber(String text) {
        return text.strip().matches("[-+]?\\d.*");
    }

    /** How many rows of values. */
    public int count() {
        return rows.size() - (header ? 1 : 0);
    }

    String words() {
        return "CSV, " + count() + (count() == 1 ? " row" : " rows");
    }
}
