package dev.mockbell.desktop.view;

/** The faces of a message: how it is looked at and edited. */
enum Face {
    SHEET("Sheet"),
    XML("XML"),
    HEADERS("Headers"),
    WIRE("Wire");

    private final String words;

    Face(String words) {
        this.words = words;
    }

    String words() {
        return words;
    }
}
