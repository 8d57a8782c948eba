package dev.mockbell.written;

import dev.mockbell.written.WrittenRow.Kind;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/** The table of a contract: its operations, parts and fields in the order in which they are shown, and back. */
public final class WrittenRows {
    private WrittenRows() {}

    /** The rows of a contract. */
    public static List<WrittenRow> of(WrittenContract contract) {
        List<WrittenRow> rows = new ArrayList<>();
        for (WrittenOperation operation : contract.operations()) {
            rows.add(WrittenRow.operation(operation.name(), operation.oneWay(), operation.means()));
            for (WrittenPart part : operation.parts()) {
                rows.add(WrittenRow.part(part.kind(), part.name()));
                part.fields().forEach(f -> add(f, 0, rows));
            }
        }
        return rows;
    }

    /** The rows of fields alone, so deep. */
    public static List<WrittenRow> of(List<WrittenField> fields, int depth) {
        List<WrittenRow> rows = new ArrayList<>();
        fields.forEach(f -> add(f, depth, rows));
        return rows;
    }

    private static void add(WrittenField field, int depth, List<WrittenRow> rows) {
        rows.add(WrittenRow.field(depth, field.name(), field.type(), field.often(), field.limits(), field.means()));
        field.inner().forEach(f -> add(f, depth + 1, rows));
    }

    /**
     * The operations that rows say. A field that is deeper than it can be stands as deep as it can; fields before any part are
     * what their operation takes, and what stands before any operation is of one without a name.
     */
    public static List<WrittenOperation> operations(List<WrittenRow> rows) {
        List<WrittenOperation> operations = new ArrayList<>();
        for (int at = 0; at < rows.size(); ) {
            boolean named = rows.get(at).kind() == Kind.OPERATION;
            WrittenRow head = named ? rows.get(at) : WrittenRow.operation("", false, "");
            int from = named ? at + 1 : at;
            int to = from;
            while (to < rows.size() && rows.get(to).kind() != Kind.OPERATION) {
                to++;
            }
            operations.add(new WrittenOperation(
                    head.name(), WrittenRow.ONE_WAY.equals(head.type()), head.means(), parts(rows.subList(from, to))));
            at = to;
        }
        return operations;
    }

    private static List<WrittenPart> parts(List<WrittenRow> rows) {
        List<WrittenPart> parts = new ArrayList<>();
        for (int at = 0; at < rows.size(); ) {
            boolean named = rows.get(at).kind() == Kind.PART;
            WrittenRow head = named ? rows.get(at) : WrittenRow.part(WrittenPart.Kind.TAKES, "");
            int from = named ? at + 1 : at;
            int to = from;
            while (to < rows.size() && rows.get(to).isField()) {
                to++;
            }
            parts.add(new WrittenPart(head.part(), head.name(), fields(rows.subList(from, to), 0)));
            at = to;
        }
        return parts;
    }

    private static List<WrittenField> fields(List<WrittenRow> rows, int depth) {
        List<WrittenField> fields = new ArrayList<>();
        for (int at = 0; at < rows.size(); ) {
            WrittenRow row = rows.get(at);
            int to = at + 1;
            while (to < rows.size() && rows.get(to).depth() > depth) {
                to++;
            }
            fields.add(new WrittenField(
                    row.name(),
                    row.type(),
                    row.often(),
                    row.limits(),
                    row.means(),
                    fields(rows.subList(at + 1, to), depth + 1)));
            at = to;
        }
        return fields;
    }

    /** Operations of one name as one, with the parts of all: a request and its answer come as samples of their own. */
    public static List<WrittenOperation> merged(List<WrittenOperation> operations) {
        Map<String, WrittenOperation> named = new LinkedHashMap<>();
        for (WrittenOperation one : operations) {
            named.merge(one.name(), one, (was, now) -> {
                List<WrittenPart> parts = new ArrayList<>(was.parts());
                parts.addAll(now.parts());
                return new WrittenOperation(was.name(), was.oneWay() && now.oneWay(), was.means(), parts);
            });
        }
        return List.copyOf(named.values());
    }
}
