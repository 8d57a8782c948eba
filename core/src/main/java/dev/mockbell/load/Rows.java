package dev.mockbell.load;

import dev.mockbell.expression.Expressions;
import dev.mockbell.file.Inside;
import dev.mockbell.problem.Problem;
import dev.mockbell.suite.DataTable;
import dev.mockbell.suite.Workbench;
import dev.mockbell.xml.TextFile;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.concurrent.atomic.AtomicLong;
import java.util.random.RandomGenerator;

/** The rows of a plan, ready to be taken. Safe for many threads. */
final class Rows {
    /** A plan without rows. */
    static final Rows NONE = new Rows(List.of(Map.of()), RowUse.Order.IN_ORDER, LoadPart.whole(1));

    private static final int MOST_MEGABYTES = 64;

    private final List<Map<String, String>> rows;
    private final RowUse.Order order;
    private final LoadPart part;
    private final AtomicLong taken = new AtomicLong();

    private Rows(List<Map<String, String>> rows, RowUse.Order order, LoadPart part) {
        this.rows = rows;
        this.order = order;
        this.part = part;
    }

    /**
     * Reads the table; expressions in its cells have their values once, before the run.
     *
     * @param part of several generators each has every so-manieth row, so that none is taken twice
     * @throws Problem when the file is missing, is no table, has no rows, or lies outside the project
     */
    static Rows of(RowUse use, Workbench bench, Expressions expressions, LoadPart part) {
        Path file = new Inside(bench.folder()).resolve(bench.folder(), use.file());
        DataTable table = DataTable.parse(use.file(), TextFile.read(file, "The table of rows", MOST_MEGABYTES));
        if (table.rows().isEmpty()) {
            throw Problem.input("The table of rows is empty", use.file(), "Give it a row at least.");
        }
        List<Map<String, String>> rows = new ArrayList<>();
        for (List<String> cells : table.rows()) {
            Map<String, String> row = new LinkedHashMap<>();
            for (int i = 0; i < cells.size(); i++) {
                row.put(table.columns().get(i), expressions.fill(cells.get(i), bench.variables()));
            }
            rows.add(Map.copyOf(row));
        }
        return new Rows(List.copyOf(rows), use.order(), part);
    }

    /** The same rows for something that takes none of them away. */
    Rows again() {
        return new Rows(rows, order == RowUse.Order.ONCE ? RowUse.Order.IN_ORDER : order, part);
    }

    /** The names of the variables that they give. */
    Set<String> columns() {
        return rows.get(0).keySet();
    }

    /** The next row; null when each was to be taken once and there are no more. */
    Map<String, String> next(RandomGenerator chance) {
        if (rows.size() == 1 && order != RowUse.Order.ONCE) {
            return rows.get(0);
        }
        return switch (order) {
            case IN_ORDER -> rows.get((int) (take() % rows.size()));
            case AT_RANDOM -> rows.get(chance.nextInt(rows.size()));
            case ONCE -> {
                long at = take();
                yield at < rows.size() ? rows.get((int) at) : null;
            }
        };
    }

    private long take() {
        return taken.getAndIncrement() * part.parts() + part.number();
    }
}
