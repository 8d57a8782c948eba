package dev.mockbell.mock;

import dev.mockbell.expression.RowFinder;
import dev.mockbell.file.Inside;
import dev.mockbell.problem.Problem;
import dev.mockbell.suite.DataTable;
import dev.mockbell.xml.TextFile;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ConcurrentHashMap;
import java.util.stream.IntStream;

/**
 * The files that a mock's answers name, within the project's folder. Tables are read when one is first looked up, and each column that
 * is looked in is put in order once. Safe for many threads.
 */
final class MockFiles implements RowFinder {
    private static final int MOST_MEGABYTES = 64;

    private final Optional<Inside> folder;
    private final String contract;
    private final Map<String, DataTable> tables = new ConcurrentHashMap<>();
    private final Map<List<String>, Map<String, Integer>> columns = new ConcurrentHashMap<>();

    /** @param contract the name of the mock's contract */
    MockFiles(Optional<Inside> folder, String contract) {
        this.folder = folder;
        this.contract = contract;
    }

    /**
     * A file of the project.
     *
     * @throws Problem when it is not inside, not there, or too large
     */
    Path file(String written) {
        Inside inside = folder.orElseThrow(() -> Problem.input(
                "The file " + written + " belongs to a project, and there is none here",
                null,
                "Start the mock with its project."));
        return there(inside.resolve(inside.folder(), written), written);
    }

    private static Path there(Path path, String written) {
        if (!Files.isRegularFile(path)) {
            throw Problem.input(
                    "There is no file " + written, path.toString(), "Names count from the project's folder.");
        }
        if (path.toFile().length() > (long) MOST_MEGABYTES << 20) {
            throw Problem.input(
                    written + " has more than " + MOST_MEGABYTES + " MB", path.toString(), "Give a smaller file.");
        }
        return path;
    }

    @Override
    public Optional<Map<String, String>> row(String table, String column, String value) {
        DataTable read = tables.computeIfAbsent(table, this::read);
        int index = read.columns().indexOf(column);
        if (index < 0) {
            throw Problem.input(
                    "The table " + table + " has no column “" + column + "”",
                    null,
                    "It has " + String.join(", ", read.columns()) + ".");
        }
        Integer row = columns.computeIfAbsent(List.of(table, column), c -> ordered(read, index))
                .get(value);
        return Optional.ofNullable(row).map(r -> cells(read, r));
    }

    @Override
    public List<Map<String, String>> rows(String table) {
        DataTable read = tables.computeIfAbsent(table, this::read);
        return IntStream.range(0, read.rows().size())
                .mapToObj(i -> cells(read, i))
                .toList();
    }

    private static Map<String, Integer> ordered(DataTable table, int column) {
        Map<String, Integer> rows = new HashMap<>();
        for (int i = 0; i < table.rows().size(); i++) {
            rows.putIfAbsent(table.rows().get(i).get(column), i);
        }
        return rows;
    }

    private static Map<String, String> cells(DataTable table, int row) {
        Map<String, String> cells = new LinkedHashMap<>();
        for (int i = 0; i < table.columns().size(); i++) {
            cells.put(table.columns().get(i), table.rows().get(row).get(i));
        }
        return cells;
    }

    private DataTable read(String name) {
        Inside inside = folder.orElseThrow(
                () -> Problem.input("The table " + name + " belongs to a project, and there is none here", null, null));
        for (String place : List.of("mocks/" + contract, "mocks", "suites")) {
            Path path = inside.resolve(inside.folder(), place + "/" + name);
            if (Files.isRegularFile(path)) {
                return DataTable.parse(name, TextFile.read(there(path, name), name, MOST_MEGABYTES));
            }
        }
        throw Problem.input(
                "There is no table “" + name + "”", null, "Put it into mocks/" + contract + " or suites, as CSV.");
    }
}
