package dev.mockbell.change;

import dev.mockbell.xml.Place;
import java.util.Optional;

/**
 * One thing in which a contract became another.
 *
 * @param operation the operation's key; empty for a port
 * @param path where in the message, from below its root, {@code party/guest/@age}; the name of a fault, a header block or a
 *     port otherwise; empty for the message or the operation as a whole
 * @param kind what happened
 * @param before what was so, in few words
 * @param after what is so now
 * @param was where the old contract says it
 * @param is where the new one does
 */
public record ContractChange(
        String operation,
        Half half,
        String path,
        Kind kind,
        String before,
        String after,
        Effect callers,
        Effect service,
        Optional<Place> was,
        Optional<Place> is) {
    /** What is said where there was or is nothing. */
    public static final String NOT_THERE = "not there";

    /** What happened. */
    public enum Kind {
        ADDED,
        GONE,
        /** Something like it, of another name, is there in its place. */
        RENAMED,
        CHANGED
    }

    /** A change of messages. */
    static ContractChange of(
            String operation,
            Half half,
            String path,
            Kind kind,
            String before,
            String after,
            Relation relation,
            Optional<Place> was,
            Optional<Place> is) {
        boolean extra = kind == Kind.ADDED;
        Effect writer = Effect.onWriter(relation);
        Effect reader = Effect.onReader(relation, extra);
        return new ContractChange(
                operation,
                half,
                path,
                kind,
                before,
                after,
                half.comesFromService() ? reader : writer,
                half.comesFromService() ? writer : reader,
                was,
                is);
    }

    /** What something is called now that was renamed; empty for any other change. */
    public Optional<String> renamedTo() {
        return kind == Kind.RENAMED ? Optional.of(after.replaceAll("^renamed |\\?$", "")) : Optional.empty();
    }

    /** What it does to a side. */
    public Effect on(Side side) {
        return side == Side.CALLERS ? callers : service;
    }

    /** Where, for people: {@code takes · nights}. */
    public String where() {
        return path.isEmpty() ? half.words() : half == Half.ENDPOINT ? path : half.words() + " · " + path;
    }

    /** What it comes to for a side, a sentence or two. */
    public String sentence(Side side) {
        return ChangeWords.sentence(this, side);
    }
}
