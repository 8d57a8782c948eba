package dev.mockbell.mock;

import java.util.Arrays;
import java.util.List;
import java.util.Locale;

/** What the expressions of an answer may look at, each a variable of that name; those of remembered values follow. */
enum Slot {
    /** What is in the body, as a document. Paths start from it. */
    REQUEST,
    /** The header blocks of the envelope. */
    HEADERS,
    /** A map of the fields of HTTP by their names in small letters, and of {@code method}, {@code path} and {@code query}. */
    HTTP,
    /** The operation's name. */
    OPERATION,
    /** The number of this call of the operation, 1 for the first. */
    HITS,
    /** Who calls, a text. */
    CALLER,
    /** What is in the body of the answer, as a document; only for what is remembered with it, and changed in it on its way. */
    ANSWER;

    /** In the order of the slots. */
    static final List<String> NAMES =
            Arrays.stream(values()).map(s -> s.name().toLowerCase(Locale.ROOT)).toList();
}
