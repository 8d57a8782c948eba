package dev.mockbell.sheet;

import dev.mockbell.message.Fragments;
import dev.mockbell.message.MessageOutline;
import dev.mockbell.problem.Problem;
import dev.mockbell.sample.SampleBuilder.Detail;
import dev.mockbell.xml.Xml;
import dev.mockbell.xml.XmlLimits;
import java.util.List;
import java.util.Optional;
import org.w3c.dom.Document;
import org.w3c.dom.Element;
import org.w3c.dom.Node;

/**
 * A message as a typed outline that is edited in place. The XML tree is the truth: the rows show it against the contract,
 * every edit is an edit of the tree, and whatever the contract does not know stays where it is. An edit costs what it
 * touches: rows of other parts are the same objects before and after. Not safe for several threads at once.
 *
 * <p>Edits take a row that the sheet gave earlier; it may be older than the last edit as long as its place still stands.
 */
public final class Sheet {
    /** The namespace of {@code xsi:type} and {@code xsi:nil} (XML Schema Part 1, §2.6). */
    public static final String XSI = "http://www.w3.org/2001/XMLSchema-instance";

    /** Rows are laid out by recursion, so a message nested deeper than this has XML as its only face. */
    private static final int DEEPEST = 500;

    private final SheetTree tree;
    private final SetAside aside = new SetAside();
    private final ValueEdits values;
    private final PresenceEdits presence;
    private final OrderEdits order;

    private Sheet(SheetTree tree) {
        this.tree = tree;
        this.values = new ValueEdits(tree);
        this.presence = new PresenceEdits(tree, aside);
        this.order = new OrderEdits(tree, aside);
    }

    /**
     * Opens a message whose values may hold expressions in braces.
     *
     * @param text the payload; empty for an empty body
     * @throws Problem when it is not well-formed or nested more than 500 deep
     */
    public static Sheet open(MessageOutline outline, String text) {
        return open(outline, text, true);
    }

    /** As {@link #open(MessageOutline, String)}, for a message that was received: a brace in it is a brace. */
    public static Sheet openReceived(MessageOutline outline, String text) {
        return open(outline, text, false);
    }

    /**
     * As {@link #openReceived(MessageOutline, String)}, for a tree, which becomes the sheet's.
     *
     * @throws Problem when it is nested more than 500 deep
     */
    public static Sheet openReceived(MessageOutline outline, Document document) {
        return new Sheet(new SheetTree(outline, document, false, elements(document)));
    }

    /** About how many elements the message had when it was opened; asking lays out nothing. */
    public int elements() {
        return tree.elements();
    }

    /**
     * How many elements there are.
     *
     * @throws Problem when they are nested too deep
     */
    private static int elements(Document document) {
        int depth = 0;
        int count = 0;
        Node at = document.getFirstChild();
        while (at != null && at != document) {
            count += at instanceof Element ? 1 : 0;
            if (at.getFirstChild() != null) {
                at = at.getFirstChild();
                if (++depth > DEEPEST) {
                    throw Problem.input(
                            "The message is nested more than " + DEEPEST + " deep", null, "Look at it as XML.");
                }
                continue;
            }
            while (at != document && at.getNextSibling() == null) {
                at = at.getParentNode();
                depth--;
            }
            at = at == document ? null : at.getNextSibling();
        }
        return count;
    }

    private static Sheet open(MessageOutline outline, String text, boolean templated) {
        XmlLimits most = new XmlLimits(DEEPEST, 0, XmlLimits.MESSAGE.bytes(), false);
        Document document = text.isBlank() ? Xml.newDocument() : Xml.parse(text.strip(), "message", most);
        return new Sheet(new SheetTree(outline, document, templated, elements(document)));
    }

    /** The message as XML, exactly as the tree holds it. */
    public String text() {
        return tree.text();
    }

    /** How many characters at the start of the text given last are surely as in another; 0 unless it came right before. */
    public int sameBefore(String other) {
        return tree.written().sameBefore(other);
    }

    /** As {@link #sameBefore}, at the end. */
    public int sameAfter(String other) {
        return tree.written().sameAfter(other);
    }

    public MessageOutline outline() {
        return tree.outline();
    }

    /**
     * Remembers what had been taken out of another sheet of the same kind of message, so that it comes back here too: where
     * an element stands at the same path.
     */
    public void remember(Sheet other) {
        aside.remember(other.aside, other.tree, tree);
    }

    /** The row of the message's root; empty when the body is empty. */
    public Optional<SheetRow> root() {
        return tree.root();
    }

    /** A row given earlier, as it is now; empty when there is no such row any more. Costs what its parent holds, at most. */
    public Optional<SheetRow> standing(SheetRow row) {
        return tree.standing(row);
    }

    /** As {@link #standing}; the row as it was when there is no such row any more. */
    SheetRow now(SheetRow row) {
        return tree.now(row);
    }

    /** The row that holds this one as it is now. */
    Optional<SheetRow> holder(SheetRow row) {
        return tree.holder(row);
    }

    /** The row of that id, as it is now. */
    public Optional<SheetRow> row(String id) {
        return root().map(r -> RowSearch.id(r, id));
    }

    /** The row of the element or attribute that a path leads to, as {@link SheetRow#path()} gives it. */
    public Optional<SheetRow> at(String path) {
        return root().flatMap(r -> RowSearch.at(r, path));
    }

    /**
     * The row at a path of names and positions; what is left out on the way is put in.
     *
     * @return empty when the contract has no such place
     */
    public Optional<SheetRow> ensure(String path) {
        return new Reach(this).at(path);
    }

    /** Types a value. Comments within the element stay, and what was a CDATA section is one afterwards. */
    public void setValue(SheetRow row, String value) {
        values.setValue(row, value);
    }

    /**
     * Says how often an element is written when the message is made: {@code for $hut in //hut}, {@code if nights > 7}, or once for an
     * empty text.
     *
     * @throws Problem when the text says neither; nothing has changed then
     */
    public void instruct(SheetRow row, String text) {
        new InstructionEdits(tree).instruct(row, text);
    }

    /** Adds text at the end of an element of mixed content. */
    public void addText(SheetRow row, String text) {
        values.addText(row, text);
    }

    /**
     * Puts attributes on an element, as they are written in its tag, with declarations of their prefixes if need be. One
     * that is there already gets the new value; one that the contract does not know is a flaw of its row.
     *
     * @throws Problem when the text is not attributes; nothing has changed then
     */
    public void addAttributes(SheetRow row, String text) {
        values.addAttributes(row, text);
    }

    /**
     * Puts a part in that was left out; one that was there before comes back with its values. With a part of a group that
     * must stand together comes the rest of the group.
     */
    public void include(SheetRow row) {
        presence.include(row);
    }

    /**
     * Takes a part out, or all that stands of a choice or a group that must stand together. It comes back when put in again.
     * The root stays.
     */
    public void leaveOut(SheetRow row) {
        presence.leaveOut(row);
    }

    /** Takes a row out that the contract may even require: one of several, or what it does not know. */
    public void remove(SheetRow row) {
        presence.remove(row);
    }

    /** Takes a branch of a choice in place of the one that stands. */
    public void choose(SheetRow row, String option) {
        presence.choose(row, option);
    }

    /** Marks an element as having no value, or takes the mark away; what was in it then comes back. */
    public void setNil(SheetRow row, boolean nil) {
        presence.setNil(row, nil);
    }

    /** What may stand in the row's place: other types by {@code xsi:type}, and elements that substitute. */
    public List<Variant> variants(SheetRow row) {
        return presence.variants(row);
    }

    /** Takes another type or element for a row; values of the same name go over, and what it was comes back when chosen again. */
    public void become(SheetRow row, Variant variant) {
        presence.become(row, variant);
    }

    /** Adds one more of a repeating part behind the row; one that was taken out comes back first. */
    public void addRepeat(SheetRow row) {
        order.addRepeat(row);
    }

    /** Adds one more of the group that the row is part of, behind the group's standing. */
    public void addGroup(SheetRow row) {
        order.addGroup(row);
    }

    /** Adds a copy of the row's element behind it. */
    public void duplicate(SheetRow row) {
        order.duplicate(row);
    }

    /**
     * Moves one of several elements past its neighbour of the same kind.
     *
     * @param by -1 for up, 1 for down
     * @return whether there was a neighbour
     */
    public boolean move(SheetRow row, int by) {
        return order.move(row, by);
    }

    /** Gives an element the name and the place of a part that is left out; what is in it stays. */
    public void moveTo(SheetRow row, SheetRow leftOut) {
        order.moveTo(row, leftOut);
    }

    /** Puts every optional part in, or takes every optional part out, below the root. Nothing else changes. */
    public void fill(Detail detail) {
        tree.ensureRoot();
        if (detail == Detail.FULL) {
            new Filling(this).all();
        } else {
            new Filling(this).requiredOnly();
        }
    }

    /** Takes the optional parts out whose values are still those of a sample. */
    public void keepWhatDiffers() {
        tree.ensureRoot();
        new Filling(this).whatDiffers();
    }

    /** The part of the message that a row stands for, as XML that stands alone. */
    public String xml(SheetRow row) {
        return Fragments.text(row.target().node());
    }

    /**
     * Puts XML in: in place of the row's element when its name is the same, as a child where the contract has a place for
     * it, or where any element may stand.
     *
     * @throws Problem when it is not well-formed or has no place there
     */
    public void pasteXml(SheetRow given, String xml) {
        SheetRow row = tree.now(given);
        tree.touched(new Pasting(this, tree.document()).paste(row, xml));
    }

    /**
     * Fills repeating elements from the rows of a table, from the row's element on; elements are added as they are needed.
     *
     * @param table lines of cells. When the cells of the first line are all names of fields, it names the columns, else
     *     the columns are the fields in their order
     * @return how many elements were filled
     * @throws Problem when a line has more cells than the element has fields
     */
    public int pasteRows(SheetRow given, List<List<String>> table) {
        return new PastedRows(this).paste(tree.now(given), table);
    }
}
