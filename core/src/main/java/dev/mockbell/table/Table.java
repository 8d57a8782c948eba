package dev.mockbell.table;

import dev.mockbell.expression.Expressions;
import dev.mockbell.expression.Scope;
import dev.mockbell.message.MessagePath;
import dev.mockbell.problem.Problem;
import dev.mockbell.xml.Xml;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.w3c.dom.Attr;
import org.w3c.dom.Document;
import org.w3c.dom.Element;
import org.w3c.dom.Node;
import org.w3c.dom.Text;

/**
 * Rows and columns of a message. Of each row, its fields and attributes and those of what stands in it once are columns; what
 * repeats in a row is one value, with {@code "; "} between.
 *
 * @param shape what was wanted, its columns with those that the rows have beyond
 * @param rows what is shown, in order
 * @param total how many rows there are before any was left out
 * @param kept how many are left by the condition
 */
public record Table(Shape shape, List<Row> rows, int total, int kept) {
    /** The value of an element that is nil (XML Schema Part 1, §2.6.2). No value of XML has this character. */
    public static final String NIL = "\u0000nil";

    private static final String XMLNS = "http://www.w3.org/2000/xmlns/";
    private static final String XSI = "http://www.w3.org/2001/XMLSchema-instance";
    private static final String BETWEEN = "; ";

    /** A row deeper than this is none that anybody reads. */
    private static final int DEEPEST = 12;

    private static final int MOST_COLUMNS = 500;

    /**
     * A row.
     *
     * @param number its place in the message, from 1, among the rows that the condition left
     * @param element what it was made of
     * @param values by the paths of columns; what is left out has none
     */
    public record Row(int number, Element element, Map<String, String> values) {
        /** The value in a column; null when it is left out. */
        public String value(Column column) {
            return values.get(column.path());
        }
    }

    /**
     * Makes the table of a message.
     *
     * @throws Problem when an XPath of the shape is none, or leads to no element
     */
    public static Table of(Document document, Shape shape, Expressions expressions, Scope scope) {
        Scope looking = scope.on(expressions.wrap(document));
        List<Element> all = elements(expressions.nodes(shape.rows(), looking));
        List<Element> wanted = shape.where().isEmpty()
                ? all
                : elements(expressions.nodes("(" + shape.rows() + ")[" + shape.where() + "]", looking));
        List<Row> rows = new ArrayList<>();
        Map<String, String> names = new LinkedHashMap<>();
        for (Element element : wanted) {
            Map<String, String> values = new HashMap<>();
            fields(element, "", 0, values, names);
            rows.add(new Row(rows.size() + 1, element, values));
        }
        List<Column> columns = columns(shape.columns(), names, rows);
        Shape known = shape.with(columns);
        shape.sort()
                .ifPresent(s -> columns.stream()
                        .filter(c -> c.path().equals(s.path()))
                        .findFirst()
                        .ifPresent(c -> rows.sort(order(c, s.down()))));
        List<Row> shown = shape.most() > 0 && rows.size() > shape.most() ? rows.subList(0, shape.most()) : rows;
        return new Table(known, List.copyOf(shown), all.size(), wanted.size());
    }

    private static Comparator<Row> order(Column column, boolean down) {
        Comparator<String> up = column.type().order();
        Comparator<Row> absent = Comparator.comparing(r -> isNothing(r.value(column)));
        Comparator<Row> values = (a, b) -> up.compare(a.value(column), b.value(column));
        return absent.thenComparing(down ? values.reversed() : values);
    }

    /** Whether a value is left out or nil. */
    public static boolean isNothing(String value) {
        return value == null || value.equals(NIL);
    }

    private static List<Element> elements(List<Node> nodes) {
        return nodes.stream()
                .filter(Element.class::isInstance)
                .map(Element.class::cast)
                .toList();
    }

    private static List<Column> columns(List<Column> known, Map<String, String> names, List<Row> rows) {
        List<Column> columns = new ArrayList<>();
        Set<String> seen = new HashSet<>();
        Set<String> titles = new HashSet<>();
        for (Column c : known) {
            columns.add(c.typed(type(c.path(), rows)));
            seen.add(c.path());
            titles.add(c.name());
        }
        names.forEach((path, name) -> {
            if (seen.add(path) && columns.size() < MOST_COLUMNS) {
                String title = titles.add(name) ? name : path;
                titles.add(title);
                columns.add(new Column(path, title, type(path, rows), false, true));
            }
        });
        return columns;
    }

    private static Type type(String path, List<Row> rows) {
        return Type.of(() -> rows.stream().map(r -> r.values().get(path)).iterator());
    }

    private static void fields(
            Element element, String at, int depth, Map<String, String> values, Map<String, String> names) {
        for (Attr attr : Xml.attributes(element)) {
            if (!XMLNS.equals(attr.getNamespaceURI()) && !XSI.equals(attr.getNamespaceURI())) {
                put(at + "@" + local(attr), local(attr), attr.getValue(), values, names);
            }
        }
        if (element.getFirstChild() == null || !hasElements(element)) {
            String path = at.isEmpty() ? "." : at.substring(0, at.length() - 1);
            String value = "true".equals(element.getAttributeNS(XSI, "nil").strip()) ? NIL : element.getTextContent();
            put(path, local(element), value, values, names);
            return;
        }
        for (Node n = element.getFirstChild(); n != null; n = n.getNextSibling()) {
            if (n instanceof Element child && depth < DEEPEST) {
                fields(child, at + local(child) + "/", depth + 1, values, names);
            }
        }
        String mixed = ownText(element);
        if (!mixed.isEmpty()) {
            put(at.isEmpty() ? "." : at.substring(0, at.length() - 1), local(element), mixed, values, names);
        }
    }

    private static void put(
            String path, String name, String value, Map<String, String> values, Map<String, String> names) {
        names.putIfAbsent(path, name);
        values.merge(path, value, (a, b) -> (a.equals(NIL) ? "" : a) + BETWEEN + (b.equals(NIL) ? "" : b));
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

    private static String local(Node node) {
        return node.getLocalName() == null ? node.getNodeName() : node.getLocalName();
    }

    /** The columns that are shown and written. */
    public List<Column> columns() {
        return shape.columns().stream().filter(Column::shown).toList();
    }

    /** The XPath of a cell's value in the message. */
    public static String path(Row row, Column column) {
        String own = MessagePath.of(row.element());
        return column.path().equals(".") ? own : own + "/" + column.path();
    }

    /**
     * The repeated elements of a message, each by the XPath that leads to all of its like, those with the most first.
     *
     * @param most how many are told
     */
    public static List<Repeated> repeated(Document document, int most) {
        Map<String, Integer> counts = new LinkedHashMap<>();
        Element root = document.getDocumentElement();
        if (root != null) {
            count(root, "/" + local(root), 0, counts);
        }
        return counts.entrySet().stream()
                .map(e -> new Repeated(e.getKey(), e.getValue()))
                .sorted(Comparator.comparingInt(Repeated::count).reversed())
                .limit(most)
                .toList();
    }

    /**
     * Elements that stand several times in one other.
     *
     * @param path an XPath without positions
     */
    public record Repeated(String path, int count) {}

    private static void count(Element element, String path, int depth, Map<String, Integer> counts) {
        Map<String, Integer> like = new HashMap<>();
        List<Element> children = Xml.children(element);
        children.forEach(c -> like.merge(local(c), 1, Integer::sum));
        like.forEach((name, number) -> {
            if (number > 1 || counts.containsKey(path + "/" + name)) {
                counts.merge(path + "/" + name, number, Integer::sum);
            }
        });
        if (depth < XML_DEEPEST) {
            children.forEach(c -> count(c, path + "/" + local(c), depth + 1, counts));
        }
    }

    private static final int XML_DEEPEST = 500;

    /** The XPath to all the like of an element that repeats where it stands, or where something around it does; empty for none. */
    public static Optional<String> rowsAround(Node pointed) {
        Node at = pointed instanceof Attr a
                ? a.getOwnerElement()
                : pointed instanceof Text t ? t.getParentNode() : pointed;
        for (; at instanceof Element e; at = at.getParentNode()) {
            if (repeats(e)) {
                return Optional.of(MessagePath.of(e).replaceAll("\\[\\d+]", ""));
            }
        }
        return Optional.empty();
    }

    private static boolean repeats(Element element) {
        if (!(element.getParentNode() instanceof Element parent)) {
            return false;
        }
        int like = 0;
        for (Node n = parent.getFirstChild(); n != null && like < 2; n = n.getNextSibling()) {
            like += n instanceof Element && local(n).equals(local(element)) ? 1 : 0;
        }
        return like > 1;
    }
}
