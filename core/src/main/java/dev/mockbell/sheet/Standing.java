package dev.mockbell.sheet;

/** What the contract says of an element's being where it is. */
enum Standing {
    DECLARED(""),
    /** Any element may stand here. */
    FREE("any element"),
    UNKNOWN("not in the contract");

    private final String words;

    Standing(String words) {
        this.words = words;
    }

    /** What a row says in place of a type. */
    String words() {
        return words;
    }
}
