package dev.mockbell.compare;

import dev.mockbell.expression.Expressions;
import dev.mockbell.expression.Scope;
import java.util.Collections;
import java.util.IdentityHashMap;
import java.util.List;
import java.util.Set;
import org.w3c.dom.Document;
import org.w3c.dom.Node;

/** Which parts of messages are not compared. */
public final class LeftOut {
    private LeftOut() {}

    /**
     * The nodes that paths lead to in a message.
     *
     * @param paths XPaths over it; one without positions leads to all of its like
     * @throws dev.mockbell.problem.Problem when one of them is none
     */
    public static Set<Node> in(Document document, List<String> paths, Expressions expressions, Scope scope) {
        Set<Node> found = Collections.newSetFromMap(new IdentityHashMap<>());
        if (paths.isEmpty() || document.getDocumentElement() == null) {
            return found;
        }
        Scope looking = scope.on(expressions.wrap(document));
        paths.forEach(path -> found.addAll(expressions.nodes(path, looking)));
        return found;
    }

    /** Two messages held against each other without what these paths lead to in either. */
    public static Comparison without(
            Document before, Document now, List<String> paths, Expressions expressions, Scope scope) {
        Set<Node> out = Collections.newSetFromMap(new IdentityHashMap<>());
        out.addAll(in(before, paths, expressions, scope));
        out.addAll(in(now, paths, expressions, scope));
        return Comparison.of(before.getDocumentElement(), now.getDocumentElement(), out);
    }
}
