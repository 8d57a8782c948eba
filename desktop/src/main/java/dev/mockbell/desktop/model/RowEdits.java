package dev.mockbell.desktop.model;

import dev.mockbell.problem.Problem;
import dev.mockbell.sample.SampleBuilder.Detail;
import dev.mockbell.sheet.Sheet;
import dev.mockbell.sheet.SheetRow;
import dev.mockbell.sheet.Variant;
import java.util.List;

/** What can be done to the rows of a message beyond typing in them; each is one step of undo. */
public final class RowEdits {
    private final MessageModel model;

    RowEdits(MessageModel model) {
        this.model = model;
    }

    /** Puts a part in that is left out. */
    public void include(SheetRow row) {
        model.change(s -> s.include(row));
    }

    /** Takes an optional part out. */
    public void leaveOut(SheetRow row) {
        model.change(s -> s.leaveOut(row));
    }

    /** Adds one more behind the last of several. */
    public void repeat(SheetRow row) {
        model.change(s -> s.addRepeat(row));
    }

    /** Adds one more of the group that the row is part of. */
    public void repeatGroup(SheetRow row) {
        model.change(s -> s.addGroup(row));
    }

    /** Says how often the row is written when the message is made. */
    public void instruct(SheetRow row, String text) {
        model.change(s -> s.instruct(row, text));
    }

    /** Adds a copy behind the row. */
    public void duplicate(SheetRow row) {
        model.change(s -> s.duplicate(row));
    }

    /** Moves one of several up, by -1, or down, by 1. */
    public void move(SheetRow row, int by) {
        model.change(s -> s.move(row, by));
    }

    /** Takes the row out, also one that the contract requires. */
    public void remove(SheetRow row) {
        model.change(s -> s.remove(row));
    }

    /** Takes another branch of a choice. */
    public void choose(SheetRow row, String branch) {
        model.change(s -> s.choose(row, branch));
    }

    /** Marks the row as having no value, or takes the mark away. */
    public void setNil(SheetRow row, boolean nil) {
        model.change(s -> s.setNil(row, nil));
    }

    /** Adds text at the end of an element of mixed content. */
    public void addText(SheetRow row) {
        model.change(s -> s.addText(row, "text"));
    }

    /**
     * Puts attributes on a row's element, written as in its tag.
     *
     * @throws Problem when they are none; nothing has changed then
     */
    public void addAttributes(SheetRow row, String text) {
        model.change(s -> s.addAttributes(row, text));
    }

    /** Takes another type or element for the row. */
    public void become(SheetRow row, Variant variant) {
        model.change(s -> s.become(row, variant));
    }

    /**
     * Puts XML in at a row.
     *
     * @throws Problem when it has no place there; nothing has changed then
     */
    public void paste(SheetRow row, String text) {
        model.change(s -> s.pasteXml(row, text));
    }

    /**
     * Fills repeating rows from a table.
     *
     * @throws Problem when a line has too many cells; nothing has changed then
     */
    public void pasteRows(SheetRow row, List<List<String>> table) {
        model.change(s -> s.pasteRows(row, table));
    }

    /** Puts all optional parts in, or takes them all out. */
    public void fill(Detail detail) {
        model.change(s -> s.fill(detail));
    }

    /** Takes the optional parts out that still are as in a sample. */
    public void keepWhatDiffers() {
        model.change(Sheet::keepWhatDiffers);
    }

    /** Gives a row a value from elsewhere than its own field, which shows it then. */
    public void put(SheetRow row, String value) {
        model.change(s -> s.setValue(row, value));
    }
}
