package dev.mockbell.written;

import java.util.List;

/**
 * An operation as it was written.
 *
 * @param oneWay whether no answer comes
 * @param means for people; may be empty
 * @param parts in the order in which they were written
 */
public record WrittenOperation(String name, boolean oneWay, String means, List<WrittenPart> parts) {
    public WrittenOperation {
        parts = List.copyOf(parts);
    }

    /** The fields of a part that there is one of; empty when it was not written. */
    List<WrittenField> fields(WrittenPart.Kind kind) {
        return parts.stream()
                .filter(p -> p.kind() == kind)
                .flatMap(p -> p.fields().stream())
                .toList();
    }
}
