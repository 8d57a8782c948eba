package dev.mockbell.suite;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.ObjectWriter;
import com.fasterxml.jackson.dataformat.csv.CsvMapper;
import com.fasterxml.jackson.dataformat.csv.CsvSchema;
import dev.mockbell.problem.Problem;
import dev.mockbell.sheet.TableText;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.IntStream;

/**
 * Rows of texts under named columns.
 *
 * @param file the name of the file that it is kept in, beside its suite
 * @param trouble why the file cannot be used; it is left alone then, and nothing is run by it. Empty when it can
 */
public record DataTable(String file, List<String> columns, List<List<String>> rows, String trouble) {
    private static final char[] SEPARATORS = {'\t', ';', ','};

    public DataTable {
        columns = List.copyOf(columns);
        rows = rows.stream().map(List::copyOf).toList();
    }

    /** One that can be used. */
    public DataTable(String file, List<String> columns, List<List<String>> rows) {
        this(file, columns, rows, "");
    }

    /** The same in another file. */
    public DataTable in(String other) {
        return new DataTable(other, columns, rows, trouble);
    }

    /** One whose file cannot be read. */
    public static DataTable unreadable(String file, String why) {
        return new DataTable(file, List.of(), List.of(), why);
    }

    /**
     * Reads CSV (RFC 4180) whose first row names the columns, with commas, semicolons or tabs, with or without a byte order
     * mark, or cells as a spreadsheet copies them.
     *
     * @throws Problem when a name is missing or there twice, a row has another number of values, or a quote is not closed
     */
    public static DataTable parse(String file, String text) {
        String plain = text.startsWith("\uFEFF") ? text.substring(1) : text;
        List<List<String>> all = TableText.cells(plain, separator(plain), file);
        if (all.isEmpty()) {
            throw Problem.input("The table is empty", file, "Its first row names the columns.");
        }
        List<String> names = all.get(0).stream().map(String::strip).toList();
        if (names.stream().anyMatch(String::isEmpty) || new HashSet<>(names).size() < names.size()) {
            throw Problem.input(
                    "A column of the table has no name of its own: " + String.join(", ", names),
                    file,
                    "Its first row names the columns, each another way.");
        }
        List<List<String>> rows = new ArrayList<>(all.subList(1, all.size()));
        for (int i = 0; i < rows.size(); i++) {
            if (rows.get(i).size() != names.size()) {
                throw Problem.input(
                        "Row " + (i + 1) + " of the table has " + rows.get(i).size() + " values, and there are "
                                + names.size() + " columns",
                        file,
                        "Give every row as many, empty ones too.");
            }
        }
        return new DataTable(file, names, rows);
    }

    /** The one that the first line, which holds names, has most of. */
    private static char separator(String text) {
        String first = text.stripLeading().lines().findFirst().orElse("");
        char best = ',';
        long most = 0;
        for (char separator : SEPARATORS) {
            long count = first.chars().filter(c -> c == separator).count();
            if (count > most) {
                most = count;
                best = separator;
            }
        }
        return best;
    }

    /** As CSV with commas; what {@link #parse} reads. */
    public String csv() {
        ObjectWriter writer = new CsvMapper().writer(CsvSchema.emptySchema());
        StringBuilder out = new StringBuilder();
        try {
            out.append(writer.writeValueAsString(columns));
            for (List<String> row : rows) {
                // a row of one empty value would read as none
                out.append(row.size() == 1 && row.get(0).isEmpty() ? "\"\"\n" : writer.writeValueAsString(row));
            }
        } catch (JsonProcessingException e) {
            throw new IllegalStateException("texts can always be written", e);
        }
        return out.toString();
    }

    /** With other rows under the same columns. */
    public DataTable with(List<List<String>> other) {
        return new DataTable(file, columns, other, trouble);
    }

    /** With a cell changed. */
    public DataTable with(int row, int column, String value) {
        List<List<String>> changed = new ArrayList<>(rows);
        List<String> cells = new ArrayList<>(changed.get(row));
        cells.set(column, value);
        changed.set(row, cells);
        return with(changed);
    }

    /** A value by its row and its column's name; empty when there is no such column. */
    public String value(int row, String column) {
        int index = columns.indexOf(column);
        return index < 0 ? "" : rows.get(row).get(index);
    }

    /** A row as variables: the values of those columns whose names can be names of variables. */
    public Map<String, String> variables(int row) {
        Map<String, String> values = new LinkedHashMap<>();
        for (String column : columns) {
            if (column.matches("[\\p{L}_][\\p{L}\\p{N}_.-]*")) {
                values.put(column, value(row, column));
            }
        }
        return values;
    }

    /** All rows as variables. */
    public List<Map<String, String>> variables() {
        return IntStream.range(0, rows.size()).mapToObj(this::variables).toList();
    }
}
