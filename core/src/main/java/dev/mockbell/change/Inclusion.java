package dev.mockbell.change;

import java.util.ArrayDeque;
import java.util.Deque;
import java.util.HashSet;
import java.util.Optional;
import java.util.Set;
import javax.xml.namespace.QName;

/** Whether what one content model allows, another does too: both are followed by every name that one of them knows. */
final class Inclusion {
    /** How often a name is followed before it is given up; content models of services take some thousands. */
    private static final int MOST_STEPS = 300_000;

    /** A name of a namespace that neither says anything of. */
    private static final QName STRANGE = new QName("\u0000elsewhere", "\u0000any");

    private record Pair(ContentModel was, Optional<ContentModel> is) {}

    private Inclusion() {}

    /** How all that is allowed now relates to what was. */
    static Relation between(ContentModel was, ContentModel is) {
        if (was.equals(is)) {
            return Relation.SAME;
        }
        Set<QName> names = new HashSet<>();
        was.names(names);
        is.names(names);
        names.add(STRANGE);
        Optional<Boolean> holds = isWithin(was, is, names);
        Optional<Boolean> held = isWithin(is, was, names);
        return holds.isEmpty() || held.isEmpty() ? Relation.UNKNOWN : Relation.of(holds.get(), held.get());
    }

    /** Empty when there are too many states to tell. */
    private static Optional<Boolean> isWithin(ContentModel part, ContentModel whole, Set<QName> names) {
        Set<Pair> seen = new HashSet<>();
        Deque<Pair> open = new ArrayDeque<>();
        open.add(new Pair(part, Optional.of(whole)));
        while (!open.isEmpty()) {
            Pair at = open.remove();
            if (at.is.isEmpty() || at.was.endsHere() && !at.is.get().endsHere()) {
                return Optional.of(false);
            }
            for (QName name : names) {
                Optional<ContentModel> next = at.was.after(name);
                if (next.isPresent()) {
                    Pair pair = new Pair(next.get(), at.is.get().after(name));
                    if (seen.add(pair)) {
                        open.add(pair);
                    }
                }
            }
            if ((long) seen.size() * names.size() > MOST_STEPS) {
                return Optional.empty();
            }
        }
        return Optional.of(true);
    }
}
