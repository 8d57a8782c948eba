package dev.mockbell.written;

import dev.mockbell.sheet.TableText;
import dev.mockbell.written.WrittenRow.Column;
import dev.mockbell.written.WrittenRow.Kind;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.EnumMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.regex.Pattern;

/**
 * Cells of a spreadsheet as rows of a written contract, and back. A first row that names the columns may be in any words for
 * them; without one they stand in the table's own order. How deep a field is, is said by the blanks or dots before its name, or
 * by slashes in it; a row of an operation or a part says so in its type.
 */
public final class PastedTable {
    private static final Map<Column, String> HEADINGS = headings();

    private PastedTable() {}

    private static Map<Column, String> headings() {
        Map<Column, String> words = new EnumMap<>(Column.class);
        words.put(Column.NAME, "name|field|element|parameter|attribute|tag");
        words.put(Column.TYPE, "type|data ?type|format");
        words.put(
                Column.OFTEN,
                "how often|occurs|occurrence|occurrences|cardinality|multiplicity|required|mandatory|m/o|min\\.\\.max");
        words.put(Column.LIMITS, "limits?|values?|allowed values|restrictions?|facets?|pattern|length|range");
        words.put(Column.MEANS, "what it means|meaning|description|documentation|comment|remarks?|notes?");
        return words;
    }

    /**
     * Reads cells with tabs, commas or semicolons between them.
     *
     * @throws dev.mockbell.problem.Problem when a quote is not closed
     */
    public static List<WrittenRow> read(String text) {
        char separator = separator(text);
        // the reader of cells passes over blanks before a value, and here they say how deep it is
        String kept = Pattern.compile("(?m)(?<=^|" + separator + ") +(?=\\S)")
                .matcher(text)
                .replaceAll(blanks -> "\u00a0".repeat(blanks.group().length()));
        List<List<String>> cells = TableText.cells(kept, separator, "what was pasted");
        if (cells.isEmpty()) {
            return List.of();
        }
        Map<Column, Integer> columns = columns(cells.get(0));
        boolean headed = !columns.isEmpty();
        if (!headed) {
            for (Column column : Column.values()) {
                columns.put(column, column.ordinal());
            }
        }
        List<WrittenRow> rows = new ArrayList<>();
        Deque<Integer> indents = new ArrayDeque<>();
        for (List<String> row : cells.subList(headed ? 1 : 0, cells.size())) {
            row(row, columns, indents, rows);
        }
        return rows;
    }

    private static char separator(String text) {
        String first = text.lines().filter(l -> !l.isBlank()).findFirst().orElse("");
        return first.indexOf('\t') >= 0
                ? '\t'
                : first.chars().filter(c -> c == ';').count()
                                > first.chars().filter(c -> c == ',').count()
                        ? ';'
                        : ',';
    }

    /** Empty where the row names no columns. */
    private static Map<Column, Integer> columns(List<String> head) {
        Map<Column, Integer> found = new EnumMap<>(Column.class);
        for (int i = 0; i < head.size(); i++) {
            String word = head.get(i).strip().toLowerCase(Locale.ROOT).replaceAll("[?:]$", "");
            for (Map.Entry<Column, String> heading : HEADINGS.entrySet()) {
                if (word.matches(heading.getValue())) {
                    found.putIfAbsent(heading.getKey(), i);
                }
            }
        }
        // one word may be anything
        return found.size() > 1 && found.containsKey(Column.NAME) ? found : new EnumMap<>(Column.class);
    }

    private static void row(
            List<String> cells, Map<Column, Integer> columns, Deque<Integer> indents, List<WrittenRow> rows) {
        String raw = cell(cells, columns, Column.NAME);
        String name = raw.strip().replaceFirst("^[.\\-–>·└├│─ \u00a0]+", "");
        String type = cell(cells, columns, Column.TYPE).strip();
        String means = cell(cells, columns, Column.MEANS).strip();
        String word = type.toLowerCase(Locale.ROOT);
        if (name.isEmpty() && type.isEmpty() && means.isEmpty()) {
            return;
        }
        if (word.matches("operation|request and answer|one-way|one way")) {
            rows.add(WrittenRow.operation(name, word.startsWith("one"), means));
            indents.clear();
            return;
        }
        WrittenPart.Kind part = part(name, word);
        if (part != null) {
            String fault = part == WrittenPart.Kind.FAILS ? name.replaceFirst("(?i)^(fails with|fault)\\s*", "") : "";
            rows.add(WrittenRow.part(part, fault));
            indents.clear();
            return;
        }
        int depth = depth(raw, name, indents);
        rows.add(WrittenRow.field(
                depth,
                name.contains("/") ? name.substring(name.lastIndexOf('/') + 1) : name,
                type,
                cell(cells, columns, Column.OFTEN).strip(),
                cell(cells, columns, Column.LIMITS).strip(),
                means));
    }

    private static WrittenPart.Kind part(String name, String type) {
        for (WrittenPart.Kind kind : WrittenPart.Kind.values()) {
            if (type.equals(kind.code().toLowerCase(Locale.ROOT)) || type.equals(kind.title())) {
                return kind;
            }
        }
        if (!type.isEmpty()) {
            return type.equals("fault") ? WrittenPart.Kind.FAILS : null;
        }
        return switch (name.toLowerCase(Locale.ROOT)) {
            case "takes", "request", "input" -> WrittenPart.Kind.TAKES;
            case "gives", "answer", "response", "output" -> WrittenPart.Kind.GIVES;
            default -> name.toLowerCase(Locale.ROOT).startsWith("fails with ") ? WrittenPart.Kind.FAILS : null;
        };
    }

    private static int depth(String raw, String name, Deque<Integer> indents) {
        if (name.contains("/")) {
            String above = name.substring(0, name.lastIndexOf('/'));
            return (int) above.chars().filter(c -> c == '/').count() + 1;
        }
        int indent = raw.replace("\t", "    ").length()
                - raw.replace("\t", "    ").stripLeading().length();
        int marks = raw.strip().length() - name.length();
        int column = indent + marks;
        while (!indents.isEmpty() && indents.peek() >= column) {
            indents.pop();
        }
        indents.push(column);
        return indents.size() - 1;
    }

    private static String cell(List<String> cells, Map<Column, Integer> columns, Column column) {
        Integer at = columns.get(column);
        return at == null || at >= cells.size()
                ? ""
                : column == Column.NAME ? cells.get(at) : cells.get(at).replace('\u00a0', ' ');
    }

    /** Rows as a spreadsheet takes them, with a first row that names the columns; {@link #read} gives them back. */
    public static String write(List<WrittenRow> rows) {
        StringBuilder out = new StringBuilder();
        for (Column column : Column.values()) {
            out.append(out.isEmpty() ? "" : "\t").append(column.title());
        }
        out.append('\n');
        for (WrittenRow row : rows) {
            String name = row.isField() ? "  ".repeat(row.depth()) + row.name() : row.name();
            String type = row.kind() == Kind.OPERATION
                    ? row.type().isEmpty() ? "operation" : row.type()
                    : row.kind() == Kind.PART ? row.part().title() : row.type();
            out.append(String.join(
                    "\t", quoted(name), quoted(type), quoted(row.often()), quoted(row.limits()), quoted(row.means())));
            out.append('\n');
        }
        return out.toString();
    }

    private static String quoted(String cell) {
        return cell.matches("(?s).*[\t\n\r\"].*") ? "\"" + cell.replace("\"", "\"\"") + "\"" : cell;
    }
}
