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

    private static final int MOST_COLUMNS = 500;

    /** A row. */
    public static final class Row {
        private final int number;
        private final Element element;
        private final RowReader.Cells cells;

        Row(int number, Element element, RowReader.Cells cells) {
            this.number = number;
            this.element = element;
            this.cells = cells;
        }

        /** Its place in the message, from 1, among the rows that the condition left. */
        public int number() {
            return number;
        }

        /** What it was made of. */
        public Element element() {
            return element;
        }

        /** The value in a column; null when it is left out. */
        public String value(Column column) {
            return cells.at(column.path());
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
        RowReader reader = new RowReader(
                shape.columns(), Math.max(MOST_COLUMNS, shape.columns().size()));
        for (Element element : wanted) {
            rows.add(new Row(rows.size() + 1, element, reader.read(element)));
        }
        List<Column> columns = columns(shape.columns(), reader.names(), rows);
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
        return Type.of(() -> rows.stream().map(r -> r.cells.at(path)).iterator());
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
            count(root, "/" + RowReader.local(root), 0, counts);
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
        children.forEach(c -> like.merge(RowReader.local(c), 1, Integer::sum));
        like.forEach((name, number) -> {
            if (number > 1 || counts.containsKey(path + "/" + name)) {
                counts.merge(path + "/" + name, number, Integer::sum);
            }
        });
        if (depth < XML_DEEPEST) {
            children.forEach(c -> count(c, path + "/" + RowReader.local(c), depth + 1, counts));
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
            like += n instanceof Element && RowReader.local(n).equals(RowReader.local(element)) ? 1 : 0;
        }
        return like > 1;
    }
}
