package dev.mockbell.written;

/**
 * A row of the table that a contract is written in.
 *
 * @param depth of a field, 0 for one right in its part
 * @param name of the operation, the fault or the field
 * @param type of a field in words; of an operation "one-way" or empty; of a part the code of its kind
 */
public record WrittenRow(Kind kind, int depth, String name, String type, String often, String limits, String means) {
    /** What a row is. */
    public enum Kind {
        OPERATION,
        PART,
        FIELD
    }

    public static final String ONE_WAY = "one-way";

    /** A row of an operation. */
    public static WrittenRow operation(String name, boolean oneWay, String means) {
        return new WrittenRow(Kind.OPERATION, 0, name, oneWay ? ONE_WAY : "", "", "", means);
    }

    /** A row of a part. */
    public static WrittenRow part(WrittenPart.Kind kind, String name) {
        return new WrittenRow(Kind.PART, 0, name, kind.code(), "", "", "");
    }

    /** A row of a field. */
    public static WrittenRow field(int depth, String name, String type, String often, String limits, String means) {
        return new WrittenRow(Kind.FIELD, Math.max(0, depth), name, type, often, limits, means);
    }

    public boolean isField() {
        return kind == Kind.FIELD;
    }

    /** What part it begins; that it takes something for one that begins none. */
    public WrittenPart.Kind part() {
        for (WrittenPart.Kind one : WrittenPart.Kind.values()) {
            if (one.code().equals(type)) {
                return one;
            }
        }
        return WrittenPart.Kind.TAKES;
    }

    /** The same so deep. */
    public WrittenRow at(int other) {
        return new WrittenRow(kind, Math.max(0, other), name, type, often, limits, means);
    }

    /** The same with the cell of a column changed. */
    public WrittenRow with(Column column, String text) {
        return switch (column) {
            case NAME -> new WrittenRow(kind, depth, text, type, often, limits, means);
            case TYPE -> new WrittenRow(kind, depth, name, text, often, limits, means);
            case OFTEN -> new WrittenRow(kind, depth, name, type, text, limits, means);
            case LIMITS -> new WrittenRow(kind, depth, name, type, often, text, means);
            case MEANS -> new WrittenRow(kind, depth, name, type, often, limits, text);
        };
    }

    /** The text of a cell. */
    public String cell(Column column) {
        return switch (column) {
            case NAME -> name;
            case TYPE -> type;
            case OFTEN -> often;
            case LIMITS -> limits;
            case MEANS -> means;
        };
    }

    /** A column of the table. */
    public enum Column {
        NAME("Name"),
        TYPE("Type"),
        OFTEN("How often"),
        LIMITS("Limits"),
        MEANS("What it means");

        private final String title;

        Column(String title) {
            this.title = title;
        }

        public String title() {
            return title;
        }
    }
}
