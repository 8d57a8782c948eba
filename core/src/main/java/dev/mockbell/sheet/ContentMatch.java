package dev.mockbell.sheet;

import dev.mockbell.schema.Occurs;
import dev.mockbell.schema.Particle;
import java.util.BitSet;
import java.util.List;
import org.w3c.dom.Element;
import org.w3c.dom.Node;

/**
 * Whether elements in a row are what a particle allows (XML Schema part 1 §3.9.4). Unlike a reading that takes elements
 * as they come, this tries every way of dividing them among the standings of a group: of {@code (a{1,3}){2,}}, two
 * {@code a} may be one standing or two.
 */
final class ContentMatch {
    private final List<? extends Node> elements;

    private ContentMatch(List<? extends Node> elements) {
        this.elements = elements;
    }

    /** Whether the particle, as often as it may stand, takes all of the elements. */
    static boolean matches(Particle particle, List<? extends Node> elements) {
        BitSet start = new BitSet();
        start.set(0);
        return new ContentMatch(elements).ends(particle, start).get(elements.size());
    }

    /** Where the particle can end, when it begins at one of these positions. */
    private BitSet ends(Particle particle, BitSet starts) {
        Occurs occurs = particle.occurs();
        if (!(particle instanceof Particle.OfGroup)) {
            return runs(particle, starts);
        }
        BitSet now = starts;
        for (int i = 0; i < occurs.min() && !now.isEmpty(); i++) {
            BitSet next = once((Particle.OfGroup) particle, now);
            if (next.equals(now)) {
                break;
            }
            now = next;
        }
        BitSet found = (BitSet) now.clone();
        for (int i = occurs.min(); occurs.allows(i) && !now.isEmpty(); i++) {
            now = once((Particle.OfGroup) particle, now);
            // from where it could end before, nothing new follows
            now.andNot(found);
            found.or(now);
        }
        return found;
    }

    /** Where as many of an element as may stand in a row can end. */
    private BitSet runs(Particle particle, BitSet starts) {
        BitSet found = new BitSet();
        Occurs occurs = particle.occurs();
        int end = 0;
        for (int i = starts.nextSetBit(0); i >= 0; i = starts.nextSetBit(i + 1)) {
            // what a run reaches to is found once for all that begin in it
            end = Math.max(end, i);
            while (end < elements.size() && occurs.allows(end - i) && takes(particle, end)) {
                end++;
            }
            int most = occurs.max() == Occurs.UNBOUNDED ? end : Math.min(end, i + occurs.max());
            if (most >= i + occurs.min()) {
                found.set(i + occurs.min(), most + 1);
            }
        }
        return found;
    }

    private boolean takes(Particle particle, int at) {
        return SheetShape.starts(particle, (Element) elements.get(at));
    }

    private BitSet once(Particle.OfGroup group, BitSet starts) {
        BitSet found = new BitSet();
        switch (group.compositor()) {
            case SEQUENCE -> {
                BitSet now = starts;
                for (Particle part : group.parts()) {
                    now = ends(part, now);
                }
                found.or(now);
            }
            case CHOICE -> group.parts().forEach(p -> found.or(ends(p, starts)));
            case ALL -> starts.stream().forEach(s -> all(group, s, found));
        }
        return found;
    }

    private void all(Particle.OfGroup group, int start, BitSet found) {
        BitSet open = new BitSet();
        open.set(0, group.parts().size());
        int at = start;
        boolean more = true;
        while (more) {
            if (open.stream().allMatch(p -> group.parts().get(p).occurs().optional())) {
                found.set(at);
            }
            int here = at;
            int taken = at == elements.size()
                    ? -1
                    : open.stream()
                            .filter(p -> takes(group.parts().get(p), here))
                            .findFirst()
                            .orElse(-1);
            more = taken >= 0;
            if (more) {
                open.clear(taken);
                at++;
            }
        }
    }
}
