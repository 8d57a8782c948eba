package dev.mockbell.sheet;

import dev.mockbell.message.MessagePath;
import java.util.Map;
import java.util.function.BiConsumer;
import org.w3c.dom.Element;
import org.w3c.dom.Node;

/**
 * The paths of all rows of a message, worked out together: one by one, each costs what stands beside it in the message, so
 * that many cost far more than the message has.
 */
public final class RowPaths {
    private final SheetRow root;
    private final Map<Node, String> paths;

    private RowPaths(SheetRow root, Map<Node, String> paths) {
        this.root = root;
        this.paths = paths;
    }

    /** The paths of a row that stands for an element, and of all below. */
    public static RowPaths of(SheetRow root) {
        return new RowPaths(root, MessagePath.all((Element) root.target().node()));
    }

    /** The path of a row, as {@link SheetRow#path()} gives it; empty also for text. */
    public String path(SheetRow row) {
        Node node = row.target().node();
        return node == null ? "" : paths.getOrDefault(node, "");
    }

    /** Goes over all rows that stand for an element or attribute. */
    public void each(BiConsumer<SheetRow, String> visitor) {
        each(root, visitor);
    }

    private void each(SheetRow row, BiConsumer<SheetRow, String> visitor) {
        String path = path(row);
        if (!path.isEmpty()) {
            visitor.accept(row, path);
        }
        row.children().forEach(c -> each(c, visitor));
    }
}
