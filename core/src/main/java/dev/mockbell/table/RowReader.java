package dev.mockbell.table;

import dev.mockbell.xml.Xml;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.w3c.dom.Attr;
import org.w3c.dom.Element;
import org.w3c.dom.Node;
import org.w3c.dom.Text;

/**
 * Takes the values of elements that are rows out of them. A row is kept as its values alone; where those stand is found once and
 * shared by rows one after the other with values at the same places.
 */
final class RowReader {
    private static final String XMLNS = "http://www.w3.org/2000/xmlns/";
    private static final String XSI = "http://www.w3.org/2001/XMLSchema-instance";
    private static final String BETWEEN = "; ";

    /** A row deeper than this is none that anybody reads. */
    private static final int DEEPEST = 12;

    private final int most;
    private final Map<String, Integer> indexes = new HashMap<>();
    private final Map<String, String> names = new LinkedHashMap<>();
    private final Step root = new Step("");
    private final List<Step> filled = new ArrayList<>();
    private int[] last = new int[0];

    /** A place in rows, by the steps that lead to it; what the current row has there. */
    private static final class Step {
        private final String path;
        private final Map<String, Step> inner = new HashMap<>();
        private int index = -1;
        private String value;
        private StringBuilder more;

        Step(String path) {
            this.path = path;
        }

        Step further(String name) {
            return new Step(path.isEmpty() ? name : path + "/" + name);
        }

        String place() {
            return path.isEmpty() ? "." : path;
        }

        void add(String other) {
            if (value == null) {
                value = other;
                return;
            }
            // what repeats a hundred thousand times in one row is not copied as often
            if (more == null) {
                more = new StringBuilder(value.equals(Table.NIL) ? "" : value);
            }
            more.append(BETWEEN).append(other.equals(Table.NIL) ? "" : other);
        }

        String take() {
            String taken = more == null ? value : more.toString();
            value = null;
            more = null;
            return taken;
        }
    }

    /** A row's values, in the order of their places. */
    static final class Cells {
        private final Map<String, Integer> indexes;
        private final int[] places;
        private final String[] values;

        private Cells(Map<String, Integer> indexes, int[] places, String[] values) {
            this.indexes = indexes;
            this.places = places;
            this.values = values;
        }

        /** The value at a place; null when there is none. */
        String at(String path) {
            Integer index = indexes.get(path);
            int found = index == null ? -1 : Arrays.binarySearch(places, index);
            return found < 0 ? null : values[found];
        }
    }

    /**
     * @param known columns whose values are wanted in any case
     * @param most how many places are told apart; values at others are left out
     */
    RowReader(List<Column> known, int most) {
        this.most = most;
        for (Column column : known) {
            Step at = root;
            for (String name :
                    column.path().equals(".") ? new String[0] : column.path().split("/")) {
                at = at.inner.computeIfAbsent(name, at::further);
            }
            at.index = index(at);
        }
    }

    /** The names of the places that were found, by their paths, as they came. */
    Map<String, String> names() {
        return names;
    }

    /** The values of a row. */
    Cells read(Element element) {
        fields(element, root, 0);
        filled.sort(Comparator.comparingInt(s -> s.index));
        int[] places = new int[filled.size()];
        String[] values = new String[places.length];
        for (int i = 0; i < places.length; i++) {
            places[i] = filled.get(i).index;
            values[i] = filled.get(i).take();
        }
        filled.clear();
        return new Cells(indexes, shared(places), values);
    }

    private int[] shared(int[] places) {
        if (!Arrays.equals(last, places)) {
            last = places;
        }
        return last;
    }

    private void fields(Element element, Step at, int depth) {
        for (Attr attr : Xml.attributes(element)) {
            if (!XMLNS.equals(attr.getNamespaceURI()) && !XSI.equals(attr.getNamespaceURI())) {
                put(step(at, "@" + local(attr)), local(attr), attr.getValue());
            }
        }
        if (element.getFirstChild() == null || !hasElements(element)) {
            boolean nil = "true".equals(element.getAttributeNS(XSI, "nil").strip());
            put(at, local(element), nil ? Table.NIL : element.getTextContent());
            return;
        }
        for (Node n = element.getFirstChild(); n != null; n = n.getNextSibling()) {
            if (n instanceof Element child && depth < DEEPEST) {
                Step inner = step(at, local(child));
                if (inner != null) {
                    fields(child, inner, depth + 1);
                }
            }
        }
        String mixed = ownText(element);
        if (!mixed.isEmpty()) {
            put(at, local(element), mixed);
        }
    }

    /** A place in another one; null for one that is not told apart any more. */
    private Step step(Step at, String name) {
        Step there = at.inner.get(name);
        if (there == null && indexes.size() < most) {
            there = at.further(name);
            at.inner.put(name, there);
        }
        return there;
    }

    private void put(Step at, String name, String value) {
        if (at == null) {
            return;
        }
        if (at.index < 0 && indexes.size() < most) {
            at.index = index(at);
        }
        if (at.index >= 0) {
            names.putIfAbsent(at.place(), name);
            if (at.value == null) {
                filled.add(at);
            }
            at.add(value);
        }
    }

    private int index(Step at) {
        return indexes.computeIfAbsent(at.place(), p -> indexes.size());
    }

    private static boolean hasElements(Element element) {
        for (Node n = element.getFirstChild(); n != null; n = n.getNextSibling()) {
            if (n instanceof Element) {
                return true;
            }
        }
        return false;
    }

    private static String ownText(Element element) {
        StringBuilder text = new StringBuilder();
        for (Node n = element.getFirstChild(); n != null; n = n.getNextSibling()) {
            if (n instanceof Text t) {
                text.append(t.getData());
            }
        }
        return text.toString().strip();
    }

    /** The name that stands in paths. */
    static String local(Node node) {
        return node.getLocalName() == null ? node.getNodeName() : node.getLocalName();
    }
}
