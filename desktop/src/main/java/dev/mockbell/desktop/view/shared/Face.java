package dev.mockbell.desktop.view.shared;

/** The faces of a message: how it is looked at and edited. */
public enum Face {
    SHEET("Sheet"),
    XML("XML"),
    TABLE("Table"),
    HEADERS("Headers"),
    SECURITY("Security"),
    PARTS("Parts"),
    WIRE("Wire"),
    CONTENT("Content"),
    BEHAVIOUR("Behaviour"),
    MEMORY("Memory");

    private final String words;

    Face(String words) {
        this.words = words;
    }

    /** What people read. */
    public String words() {
        return words;
    }
}
