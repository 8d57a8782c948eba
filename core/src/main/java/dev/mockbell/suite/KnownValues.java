package dev.mockbell.suite;

import dev.mockbell.check.Check;
import dev.mockbell.choice.Choice;
import dev.mockbell.expression.Braces;
import dev.mockbell.message.MessageOutline;
import dev.mockbell.problem.Problem;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * A table of what a case is called with and what must come: each row is a call of its own. Every column also is a variable
 * while its row is called.
 *
 * @param columns what columns of the table are for; one that is not named here is a variable alone
 */
public record KnownValues(DataTable table, List<Column> columns) {
    /** "fault", or "fault HutFull". */
    private static final Pattern FAULT = Pattern.compile("fault(?:\\s+(\\S+))?");

    /** What a column is for. */
    public enum Use implements Choice {
        /** Its values are put into the request. */
        SETS("sets", "sets in the request"),
        /** Its values must come in the answer; an empty cell asks for nothing, "fault NAME" for a fault. */
        IS("is", "must be in the answer");

        private final String code;
        private final String title;

        Use(String code, String title) {
            this.code = code;
            this.title = title;
        }

        @Override
        public String code() {
            return code;
        }

        @Override
        public String title() {
            return title;
        }
    }

    /**
     * A column of the table.
     *
     * @param path in the request or the answer
     */
    public record Column(String name, Use use, String path) {}

    public KnownValues {
        columns = List.copyOf(columns);
    }

    public KnownValues with(DataTable other) {
        return new KnownValues(other, columns);
    }

    /** With what a column is for said anew. */
    public KnownValues binding(Column column) {
        List<Column> others = new ArrayList<>(columns);
        others.removeIf(c -> c.name().equals(column.name()));
        others.add(column);
        return new KnownValues(table, others);
    }

    /** The variables of a row. */
    public Map<String, String> variables(int row) {
        return table.variables(row);
    }

    /**
     * The case as a row has it: with its values in the request, and its expectations among the checks. Where it expects a fault,
     * what the case asks of a good answer is not asked.
     *
     * @throws Problem when a path leads nowhere in the request
     */
    public Case applied(Case kept, int row, MessageOutline outline) {
        List<String> settings = new ArrayList<>();
        List<Check> expected = new ArrayList<>();
        String fault = null;
        for (Column column : columns) {
            String value = table.value(row, column.name());
            if (column.use() == Use.SETS) {
                settings.add(column.path() + "=" + value);
                continue;
            }
            Matcher matcher = FAULT.matcher(value.strip());
            if (matcher.matches()) {
                fault = matcher.group(1) == null ? "" : matcher.group(1);
            } else if (!value.isEmpty()) {
                expected.add(new Check.Value(column.path(), value));
            }
        }
        Case set = CaseValues.set(outline, kept, settings);
        if (fault != null) {
            return set.withChecks(List.of(new Check.FaultIs(fault))).withCaptures(List.of());
        }
        List<Check> all = new ArrayList<>(kept.checks());
        all.addAll(expected);
        return set.withChecks(all);
    }

    /** What is wrong with it before anything is called; empty for nothing. */
    public String trouble() {
        if (!table.trouble().isEmpty()) {
            return table.trouble();
        }
        for (Column column : columns) {
            if (!table.columns().contains(column.name())) {
                return "The table " + table.file() + " has no column “" + column.name() + "”; it has "
                        + String.join(", ", table.columns()) + ".";
            }
            if (column.path().isBlank()) {
                return "The column “" + column.name() + "” is bound to nothing. Point at what it "
                        + (column.use() == Use.SETS ? "sets." : "must be.");
            }
        }
        return table.rows().isEmpty() ? "The table " + table.file() + " has no rows." : "";
    }

    /** A row in few words: its number, and what is put in. */
    public String rowName(int row) {
        List<String> words = new ArrayList<>();
        for (Column column : columns) {
            if (column.use() == Use.SETS && words.size() < 3) {
                String value = table.value(row, column.name());
                words.add(column.name() + " " + (value.length() > 30 ? value.substring(0, 29) + "…" : value));
            }
        }
        return "row " + (row + 1) + (words.isEmpty() ? "" : ": " + String.join(", ", words));
    }

    /** A text as a cell that means itself. */
    public static String cell(String value) {
        return Braces.literally(value);
    }
}
