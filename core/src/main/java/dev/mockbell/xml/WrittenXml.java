package dev.mockbell.xml;

import java.util.ArrayDeque;
import java.util.Collections;
import java.util.Deque;
import java.util.IdentityHashMap;
import java.util.Map;
import java.util.Set;
import org.w3c.dom.Document;
import org.w3c.dom.Element;
import org.w3c.dom.Node;

/**
 * The text of a document that is edited and written again and again: {@link XmlText#exact} of it, of which only what has
 * changed is written anew. When one element has changed, its stretch of the text is replaced; otherwise whatever stands in
 * unchanged elements is taken over from the text before. Whoever changes the document says so by {@link #changed}. Not safe
 * for several threads at once.
 */
public final class WrittenXml {
    private static final int CHANGED = -1;
    private static final int NOWHERE = -1;
    private static final int SPARE = 10_000;

    private final Document document;
    private final Map<Node, Span> spans = new IdentityHashMap<>();
    private final Set<Element> changed = Collections.newSetFromMap(new IdentityHashMap<>());
    private final StringBuilder whole = new StringBuilder();
    private String text = "";
    private String before = "";
    private int sameBefore;
    private int sameAfter;
    private long turn;
    private int usual;

    /**
     * Where an element stands in the text. The place is told from the start of the element around it, so that it stays true
     * while that one moves as a whole.
     */
    private static final class Span {
        private Element around;
        private int from;
        /** {@link #CHANGED} when it is not as it was. */
        private int length;
        /** When it was placed in the element around it. */
        private long placed;
        /** When what is in it was written last. */
        private long written;
    }

    /** A document of which nothing has been written yet. */
    public WrittenXml(Document document) {
        this.document = document;
    }

    /** Says that an element has changed: its name, its attributes, or which nodes are right in it. */
    public void changed(Element element) {
        changed.add(element);
    }

    /** Says that a node has been put where it is, and that anything may have changed below it since it was written. */
    public void placed(Node node) {
        forget(node);
        for (Node n = node.getFirstChild(); n != null; n = n.getNextSibling()) {
            placed(n);
        }
    }

    private void forget(Node element) {
        Span span = spans.get(element);
        if (span != null) {
            span.length = CHANGED;
        }
    }

    /** The document exactly as it is now. */
    public String text() {
        if (spans.size() > 2 * usual + SPARE) {
            // those of elements that are gone
            spans.clear();
        }
        turn++;
        before = text;
        Element one = changed.size() == 1 ? changed.iterator().next() : null;
        int start = one == null ? NOWHERE : start(one);
        if (start != NOWHERE && spans.get(one).length != CHANGED) {
            replace(one, start);
        } else {
            writeAll();
        }
        changed.clear();
        return text;
    }

    /** How many characters at the start of the text given last are surely as in another; 0 unless it came right before. */
    public int sameBefore(String other) {
        return other == before ? sameBefore : 0;
    }

    /** As {@link #sameBefore}, at the end. */
    public int sameAfter(String other) {
        return other == before ? sameAfter : 0;
    }

    /** Of how many elements a place is held; for tests. */
    int held() {
        return spans.size();
    }

    private void writeAll() {
        for (Element element : changed) {
            for (Node n = element; n instanceof Element; n = n.getParentNode()) {
                forget(n);
            }
        }
        boolean first = spans.isEmpty();
        whole.setLength(0);
        XmlText.write(document, new Writing(0), whole);
        text = whole.toString();
        sameBefore = 0;
        sameAfter = 0;
        usual = first ? spans.size() : usual;
    }

    /** Where an element starts in the text as it was written last; {@link #NOWHERE} when it did not stand there. */
    private int start(Element element) {
        int at = 0;
        Element inner = element;
        while (true) {
            Span span = spans.get(inner);
            if (span == null) {
                return NOWHERE;
            }
            at += span.from;
            Node parent = inner.getParentNode();
            if (!(parent instanceof Element around)) {
                return parent == document && span.around == null ? at : NOWHERE;
            }
            Span outer = spans.get(around);
            if (outer == null || span.around != around || span.placed != outer.written) {
                return NOWHERE;
            }
            inner = around;
        }
    }

    private void replace(Element element, int start) {
        Span span = spans.get(element);
        int end = start + span.length;
        Element around = span.around;
        int from = span.from;
        StringBuilder part = new StringBuilder(span.length + 64);
        Writing writing = new Writing(start);
        if (around != null) {
            writing.startWithin(around, start - from);
        }
        forget(element);
        XmlText.write(element, writing, part);
        span.placed = around == null ? span.placed : spans.get(around).written;
        whole.replace(start, end, part.toString());
        sameBefore = start;
        sameAfter = text.length() - end;
        text = whole.toString();
        int by = part.length() - (end - start);
        for (Element inner = element; by != 0 && inner.getParentNode() instanceof Element outer; inner = outer) {
            spans.get(outer).length += by;
            for (Node n = inner.getNextSibling(); n != null; n = n.getNextSibling()) {
                Span next = n.getNodeType() == Node.ELEMENT_NODE ? spans.get(n) : null;
                if (next != null) {
                    next.from += by;
                }
            }
        }
    }

    /** One writing, over the text of the one before. */
    private final class Writing implements XmlText.Kept {
        private final String was = text;
        private final long now = turn;
        private final int base;
        private final Deque<Open> open = new ArrayDeque<>();

        /** An element being written: where it starts now, where it started before, and when that was. */
        private record Open(Element element, int start, int startBefore, long writtenBefore) {}

        /** @param base where in the whole text what is written starts */
        Writing(int base) {
            this.base = base;
        }

        /** Goes on within an element that itself is not written. */
        void startWithin(Element around, int start) {
            open.push(new Open(around, start, start, spans.get(around).written));
        }

        @Override
        public boolean takeOver(Element element, StringBuilder out) {
            Open around = open.peek();
            Span span = around == null ? null : spans.get(element);
            if (span == null || span.length == CHANGED || !stood(span, around)) {
                return false;
            }
            int from = around.startBefore + span.from;
            span.from = base + out.length() - around.start;
            span.placed = now;
            // two copies of memory are faster than a stretch appended character by character
            out.append(was.substring(from, from + span.length));
            return true;
        }

        /** Whether an element stood in the one around it in the text before. */
        private static boolean stood(Span span, Open around) {
            return span.around == around.element
                    && around.startBefore != NOWHERE
                    && span.placed == around.writtenBefore;
        }

        @Override
        public void begins(Element element, int at) {
            Span span = spans.computeIfAbsent(element, e -> new Span());
            Open around = open.peek();
            int startBefore = NOWHERE;
            if (span.written > 0 && around == null && span.around == null) {
                startBefore = span.from;
            } else if (span.written > 0 && around != null && stood(span, around)) {
                startBefore = around.startBefore + span.from;
            }
            int start = base + at;
            open.push(new Open(element, start, startBefore, span.written));
            span.around = around == null ? null : around.element;
            span.from = around == null ? start : start - around.start;
            span.placed = now;
            span.written = now;
        }

        @Override
        public void ends(Element element, int at) {
            spans.get(element).length = base + at - open.pop().start;
        }
    }
}
