package dev.mockbell.written;

import java.util.List;

/**
 * A field as it was written; what its words mean is worked out by {@link WrittenDocuments}.
 *
 * @param name an attribute's starts with {@code @}
 * @param type "text", "whole number", "group"; empty for text, or for a group where fields are in it
 * @param often "once", "may be left out", "1 to 20", with "may be nil" behind it; empty for once
 * @param limits "at most 200", "1 to 14", the values of "one of", a pattern; empty for none
 * @param means for people; may be empty
 */
public record WrittenField(
        String name, String type, String often, String limits, String means, List<WrittenField> inner) {
    public WrittenField {
        inner = List.copyOf(inner);
    }
}
