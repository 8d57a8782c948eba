package dev.mockbell.sheet;

import dev.mockbell.message.MessagePath;
import java.util.Optional;
import java.util.function.Predicate;
import org.w3c.dom.Attr;
import org.w3c.dom.Node;

/** Finds rows. */
final class RowSearch {
    private RowSearch() {}

    /** The row of that id at or below a row; null when there is none. */
    static SheetRow id(SheetRow row, String id) {
        if (row.id().equals(id)) {
            return row;
        }
        for (SheetRow child : row.children()) {
            SheetRow found = id(child, id);
            if (found != null) {
                return found;
            }
        }
        return null;
    }

    /** The row of that id right in an element, choices and gathered repeats looked through; null when there is none. */
    static SheetRow direct(SheetRow holder, String id) {
        return direct(holder, row -> row.id().equals(id));
    }

    /** As {@link #direct(SheetRow, String)}, the first row for which a condition holds. */
    static SheetRow direct(SheetRow holder, Predicate<SheetRow> wanted) {
        for (SheetRow child : holder.children()) {
            if (wanted.test(child)) {
                return child;
            }
            boolean open = child.kind() == SheetRow.Kind.CHOICE || child.kind() == SheetRow.Kind.REPEATS;
            SheetRow found = open ? direct(child, wanted) : null;
            if (found != null) {
                return found;
            }
        }
        return null;
    }

    /** The row that stands for the node. */
    static Optional<SheetRow> of(SheetRow from, Node node) {
        if (from.target().node() == node) {
            return Optional.of(from);
        }
        for (SheetRow child : from.children()) {
            boolean holds =
                    child.target().node() == null || isWithin(child.target().node(), node);
            if (holds) {
                Optional<SheetRow> found = of(child, node);
                if (found.isPresent()) {
                    return found;
                }
            }
        }
        return Optional.empty();
    }

    private static boolean isWithin(Node outer, Node node) {
        for (Node n = node; n != null; n = n instanceof Attr a ? a.getOwnerElement() : n.getParentNode()) {
            if (n == outer) {
                return true;
            }
        }
        return false;
    }

    /** The row at a path of names with positions, with or without prefixes. */
    static Optional<SheetRow> at(SheetRow root, String path) {
        return MessagePath.node(root.target().node(), path).flatMap(n -> of(root, n));
    }
}
