package dev.mockbell.ledger;

/**
 * In which order lines are listed.
 *
 * @param by which column
 * @param descending the largest, newest or last first
 */
public record Order(Column by, boolean descending) {
    public static final Order NEWEST = new Order(Column.NUMBER, true);

    /** What lines can be ordered by. */
    public enum Column {
        NUMBER("line.id"),
        TIME("line.started"),
        WAY("line.way"),
        OPERATION("(SELECT text FROM word WHERE word.id = line.operation)"),
        ENDPOINT("(SELECT text FROM word WHERE word.id = line.endpoint)"),
        STATUS("line.status"),
        TOOK("line.nanos"),
        SENT("line.sent"),
        RECEIVED("line.received"),
        RESULT("line.outcome"),
        CALLER("(SELECT text FROM word WHERE word.id = line.caller)"),
        FROM("(SELECT text FROM word WHERE word.id = line.origin)");

        private final String sql;

        Column(String sql) {
            this.sql = sql;
        }

        String sql() {
            return sql;
        }
    }

    String sql() {
        String way = descending ? " DESC" : "";
        return by == Column.NUMBER ? "line.id" + way : by.sql() + way + ", line.id DESC";
    }
}
