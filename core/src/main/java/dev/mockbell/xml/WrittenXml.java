package dev.mockbell.xml;

import java.util.ArrayDeque;
import java.util.Deque;
import java.util.IdentityHashMap;
import java.util.Map;
import org.w3c.dom.Document;
import org.w3c.dom.Element;
import org.w3c.dom.Node;

/**
 * The text of a document that is edited and written again and again: {@link XmlText#exact} of it, where elements in which
 * nothing has changed are taken over from the text before. A change of one element among 20,000 costs about a thirtieth of
 * writing all. Whoever changes the document says so by {@link #changed}. Not safe for several threads at once.
 */
public final class WrittenXml {
    private static final int CHANGED = -1;
    private static final int SPARE = 10_000;

    private final Document document;
    private final Map<Node, Span> spans = new IdentityHashMap<>();
    private final StringBuilder builder = new StringBuilder();
    private String text = "";
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
        for (Node n = element; n instanceof Element; n = n.getParentNode()) {
            forget(n);
        }
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
        boolean all = spans.isEmpty();
        turn++;
        builder.setLength(0);
        text = XmlText.exact(document, new Writing(text, turn), builder);
        usual = all ? spans.size() : usual;
        return text;
    }

    /** Of how many elements a place is held; for tests. */
    int held() {
        return spans.size();
    }

    /** One writing, over the text of the one before. */
    private final class Writing implements XmlText.Kept {
        private final String before;
        private final long now;
        private final Deque<Open> open = new ArrayDeque<>();

        /** An element being written: where it starts now, where it started before, and when that was. */
        private record Open(Element element, int start, int startBefore, long writtenBefore) {}

        Writing(String before, long now) {
            this.before = before;
            this.now = now;
        }

        @Override
        public boolean takeOver(Element element, StringBuilder out) {
            Open around = open.peek();
            Span span = around == null ? null : spans.get(element);
            boolean stands = span != null
                    && span.length != CHANGED
                    && span.around == around.element
                    && around.startBefore >= 0
                    && span.placed == around.writtenBefore;
            if (!stands) {
                return false;
            }
            int from = around.startBefore + span.from;
            int at = out.length();
            // two copies of memory are faster than a stretch appended character by character
            out.append(before.substring(from, from + span.length));
            span.from = at - around.start;
            span.placed = now;
            return true;
        }

        @Override
        public void begins(Element element, int at) {
            Span span = spans.computeIfAbsent(element, e -> new Span());
            Open around = open.peek();
            boolean root = around == null;
            boolean stood = span.written > 0
                    && (root
                            ? span.around == null
                            : span.around == around.element && span.placed == around.writtenBefore);
            int startBefore =
                    !stood ? -1 : root ? span.from : around.startBefore < 0 ? -1 : around.startBefore + span.from;
            open.push(new Open(element, at, startBefore, span.written));
            span.around = root ? null : around.element;
            span.from = root ? at : at - around.start;
            span.placed = now;
            span.written = now;
        }

        @Override
        public void ends(Element element, int at) {
            spans.get(element).length = at - open.pop().start;
        }
    }
}
