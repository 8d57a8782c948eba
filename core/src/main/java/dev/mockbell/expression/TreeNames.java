package dev.mockbell.expression;

import java.util.Arrays;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.ConcurrentMap;
import java.util.concurrent.atomic.AtomicInteger;
import net.sf.saxon.om.FingerprintedQName;
import net.sf.saxon.om.NamePool;
import net.sf.saxon.om.NamespaceUri;
import net.sf.saxon.om.NodeName;

/**
 * The names of elements and attributes as trees hold them, each looked up in the library's pool once: messages have the same ones
 * over and over. Safe for many threads.
 */
final class TreeNames {
    /** Clients may send whatever names they like; beyond so many, names are looked up each time. */
    private static final int MOST = 4_096;

    /** With one local name, which are gone through one by one. */
    private static final int MOST_ALIKE = 16;

    private static final NodeName[] NONE = {};

    private final NamePool pool;
    private final ConcurrentMap<String, NodeName[]> byLocal = new ConcurrentHashMap<>();
    private final AtomicInteger known = new AtomicInteger();

    TreeNames(NamePool pool) {
        this.pool = pool;
    }

    NodeName of(String prefix, String uri, String local) {
        NodeName[] alike = byLocal.getOrDefault(local, NONE);
        for (NodeName name : alike) {
            if (name.getPrefix().equals(prefix)
                    && name.getNamespaceUri().toString().equals(uri)) {
                return name;
            }
        }
        NodeName made = new FingerprintedQName(prefix, NamespaceUri.of(uri), local, pool);
        if (alike.length < MOST_ALIKE && known.get() < MOST) {
            known.incrementAndGet();
            byLocal.merge(local, new NodeName[] {made}, (there, one) -> {
                NodeName[] all = Arrays.copyOf(there, there.length + 1);
                all[there.length] = made;
                return all;
            });
        }
        return made;
    }
}
