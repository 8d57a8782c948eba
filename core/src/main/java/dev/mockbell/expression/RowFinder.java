package dev.mockbell.expression;

import dev.mockbell.problem.Problem;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/** Finds rows of the tables that are at hand where an expression stands. Safe for many threads. */
public interface RowFinder {
    /** Knows no table. */
    RowFinder NONE = new RowFinder() {
        @Override
        public Optional<Map<String, String>> row(String table, String column, String value) {
            throw none(table);
        }

        @Override
        public List<Map<String, String>> rows(String table) {
            throw none(table);
        }
    };

    private static Problem none(String table) {
        return Problem.input(
                "There is no table “" + table + "” here", null, "Tables are looked up by the answers of mocks.");
    }

    /**
     * The first row that has a value in a column, by the names of the columns.
     *
     * @return empty when no row has it
     * @throws Problem when there is no such table or column
     */
    Optional<Map<String, String>> row(String table, String column, String value);

    /**
     * All rows of a table, each by the names of the columns.
     *
     * @throws Problem when there is no such table
     */
    List<Map<String, String>> rows(String table);
}
