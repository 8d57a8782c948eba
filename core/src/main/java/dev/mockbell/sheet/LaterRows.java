package dev.mockbell.sheet;

import java.util.AbstractList;
import java.util.List;
import java.util.function.Supplier;

/**
 * Rows that are laid out when somebody looks at them, for nobody opens each of ninety thousand. There is at least one. Safe for
 * several threads, so that many can be laid out off the one that shows them.
 */
final class LaterRows extends AbstractList<SheetRow> {
    private Supplier<List<SheetRow>> making;
    private volatile List<SheetRow> made;

    LaterRows(Supplier<List<SheetRow>> making) {
        this.making = making;
    }

    private List<SheetRow> made() {
        return made == null ? make() : made;
    }

    private synchronized List<SheetRow> make() {
        if (made == null) {
            made = List.copyOf(making.get());
            making = null;
        }
        return made;
    }

    /** Does not lay out anything. */
    @Override
    public boolean isEmpty() {
        List<SheetRow> there = made;
        return there != null && there.isEmpty();
    }

    @Override
    public SheetRow get(int index) {
        return made().get(index);
    }

    @Override
    public int size() {
        return made().size();
    }
}
