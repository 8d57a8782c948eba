package dev.mockbell.problem;

import java.util.Objects;
import java.util.Optional;

/**
 * Something that the user can put right. The message reads as one sentence or two: what happened, where, and what can
 * be done. Programs show the message and never the stack trace.
 */
public final class Problem extends RuntimeException {
    private static final long serialVersionUID = 1L;

    /** What kind of problem it is; decides the exit code of a command. */
    public enum Kind {
        /** Input that cannot be read or used, or wrong usage. */
        INPUT(2),
        /** A local port that another program holds. */
        PORT_TAKEN(2),
        /** An expression that does not parse or does not give a value. */
        EXPRESSION(2),
        /** A file that a newer program wrote. */
        NEWER_FORMAT(2),
        /** A secret that is needed where the user has not yet let it go; the place is the host. */
        SECRET_WITHHELD(2),
        /** Listening beyond this machine, which the user has not yet allowed; the place is the address. */
        LISTENING_REFUSED(2),
        /** Load on another machine, which the user has not yet confirmed; the place is the host. */
        LOAD_UNCONFIRMED(2),
        /** The other side did not answer. */
        NO_ANSWER(4),
        /** The user stopped the work. */
        STOPPED(1);

        private final int exitCode;

        Kind(int exitCode) {
            this.exitCode = exitCode;
        }

        /** The exit code that a command ends with. */
        public int exitCode() {
            return exitCode;
        }
    }

    private final Kind kind;
    private final String what;
    private final String where;
    private final String advice;

    private Problem(Kind kind, String what, String where, String advice, Throwable cause) {
        super(sentence(what, where, advice), cause);
        this.kind = kind;
        this.what = what;
        this.where = where;
        this.advice = advice;
    }

    /**
     * Bad input.
     *
     * @param what a clause without full stop: "The file is empty"
     * @param where a file, address, line and column; null when the clause says it
     * @param advice a sentence: "Give the address of the WSDL itself."
     */
    public static Problem input(String what, String where, String advice) {
        return new Problem(Kind.INPUT, what, where, advice, null);
    }

    /** A problem of the given kind; see {@link #input} for the texts. */
    public static Problem of(Kind kind, String what, String where, String advice, Throwable cause) {
        return new Problem(kind, what, where, advice, cause);
    }

    /** The user asked to stop. */
    public static Problem stopped() {
        return new Problem(Kind.STOPPED, "Stopped", null, null, null);
    }

    private static String sentence(String what, String where, String advice) {
        Objects.requireNonNull(what, "what");
        StringBuilder text = new StringBuilder(what);
        if (where != null && !where.isEmpty()) {
            // where may be a name that a user or a file gave
            text.append(" (").append(where.replaceAll("\\p{Cntrl}", "\uFFFD")).append(')');
        }
        text.append('.');
        if (advice != null && !advice.isEmpty()) {
            text.append(' ').append(advice);
        }
        return text.toString();
    }

    public Kind kind() {
        return kind;
    }

    /** The clause that says what happened. */
    public String what() {
        return what;
    }

    /** Where it happened, when the clause does not say it. */
    public Optional<String> where() {
        return Optional.ofNullable(where);
    }

    /** What the user can do. */
    public Optional<String> advice() {
        return Optional.ofNullable(advice);
    }

    /** The most useful short text of any failure: its message, or its kind when it has none. */
    public static String reason(Throwable failure) {
        Throwable at = failure;
        while (at.getMessage() == null && at.getCause() != null) {
            at = at.getCause();
        }
        return at.getMessage() == null ? at.getClass().getSimpleName() : at.getMessage();
    }
}
