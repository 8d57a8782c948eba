package dev.mockbell.change;

/** What of an operation a change is about. */
public enum Half {
    /** The operation itself: that it is there, its pattern, style, action. */
    OPERATION("operation"),
    TAKES("takes"),
    GIVES("gives"),
    FAILS("fails with"),
    /** A port of the contract, beside all operations. */
    ENDPOINT("endpoint");

    private final String words;

    Half(String words) {
        this.words = words;
    }

    /** As shown before a path: "takes", "gives", "fails with". */
    public String words() {
        return words;
    }

    /** Whether the service writes it and callers read it. */
    boolean comesFromService() {
        return this == GIVES || this == FAILS;
    }
}
