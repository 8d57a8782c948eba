package dev.mockbell.sheet;

import java.util.AbstractList;
import java.util.List;
import java.util.function.Supplier;

/** Rows that are laid out when somebody looks at them, for nobody opens each of ninety thousand. */
final class LaterRows extends AbstractList<SheetRow> {
    private Supplier<List<SheetRow>> making;
    private List<SheetRow> made;

    LaterRows(Supplier<List<SheetRow>> making) {
        this.making = making;
    }

    private List<SheetRow> made() {
        if (made == null) {
            made = List.copyOf(making.get());
            making = null;
        }
        return made;
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
