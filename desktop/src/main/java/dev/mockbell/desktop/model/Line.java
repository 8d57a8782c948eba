package dev.mockbell.desktop.model;

import dev.mockbell.sheet.SheetRow;

/** A row as shown; it changes with what it shows, so that a field that is being typed in stays. */
public final class Line {
    private final int depth;
    private boolean open;
    private SheetRow row;

    Line(SheetRow row, int depth, boolean open) {
        this.row = row;
        this.depth = depth;
        this.open = open;
    }

    /** The row, as it is now. */
    public SheetRow row() {
        return row;
    }

    /** How far in. */
    public int depth() {
        return depth;
    }

    /** Whether what is below is shown. */
    public boolean open() {
        return open;
    }

    /** Whether it is the line of the same row; then it shows that as it is now. */
    boolean takes(Line other) {
        boolean same = depth == other.depth && row.id().equals(other.row.id());
        if (same) {
            row = other.row;
            open = other.open;
        }
        return same;
    }

    /** Shows the row as it is now. */
    void show(SheetRow now) {
        row = now;
    }
}
