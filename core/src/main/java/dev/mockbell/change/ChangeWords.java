package dev.mockbell.change;

import dev.mockbell.change.ContractChange.Kind;

/** What a change comes to, in words. */
final class ChangeWords {
    private ChangeWords() {}

    static String sentence(ContractChange change, Side side) {
        String outcome = switch (change.half()) {
            case OPERATION -> ofOperation(change, side);
            case ENDPOINT -> ofEndpoint(change, side);
            default -> ofMessage(change, side);
        };
        return said(change) + " " + outcome;
    }

    private static String said(ContractChange change) {
        String what = change.path().isEmpty() ? change.half().words() : change.path();
        String now = switch (change.kind()) {
            case ADDED -> "is new: " + change.after();
            case GONE -> "is gone; it was " + change.before();
            case RENAMED -> "is gone, and " + change.after().replace("renamed ", "") + " is new in its place";
            case CHANGED -> "was " + change.before() + " and is " + change.after();
        };
        return what + " " + now + ".";
    }

    private static String ofOperation(ContractChange change, Side side) {
        boolean callers = side == Side.CALLERS;
        return switch (change.on(side)) {
            case BREAKS ->
                callers
                        ? "Who calls it as before is refused."
                        : "A service as it was does not offer what callers may ask for now.";
            case MAY_BREAK ->
                callers
                        ? "Callers that heed this part of the contract must be made anew."
                        : "A service that heeds this part of the contract must be made anew.";
            default -> callers ? "Callers need not change." : "A service as it was still does.";
        };
    }

    private static String ofEndpoint(ContractChange change, Side side) {
        return switch (change.kind()) {
            case ADDED -> "Callers may use it.";
            case GONE ->
                side == Side.CALLERS
                        ? "Callers that use this port find it in the contract no more."
                        : "A service need not offer it any more.";
            default -> "Callers that took the address from the contract must take the new one.";
        };
    }

    private static String ofMessage(ContractChange change, Side side) {
        boolean callers = side == Side.CALLERS;
        boolean writes = callers != change.half().comesFromService();
        String who = callers ? "A caller" : "A service";
        String message = change.half().comesFromService() ? "answer" : "request";
        boolean extra = change.kind() == Kind.ADDED;
        return switch (change.on(side)) {
            case BREAKS ->
                writes
                        ? who + " that writes a" + ("answer".equals(message) ? "n " : " ") + message
                                + " as before may write one that is not valid any more."
                        : who + " made by the contract as it was may get a" + ("answer".equals(message) ? "n " : " ")
                                + message + " that it cannot read.";
            case MAY_BREAK ->
                extra && !writes
                        ? who
                                + " that passes over what it does not know is as well off as before; one that validates, or"
                                + " was generated strictly, refuses it."
                        : "Whether this breaks anybody cannot be told from the contract alone.";
            default -> who + " made by the contract as it was need not change.";
        };
    }
}
