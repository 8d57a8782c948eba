package dev.mockbell.written;

import dev.mockbell.schema.Occurs;
import dev.mockbell.xml.Markup;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.BiConsumer;
import java.util.function.ToIntFunction;

/**
 * The declarations of a schema as lines, each with the rows of the table that it is of. Types that say the same have one
 * definition.
 */
final class TypeBlocks {
    /** A line of the schema with the rows that it comes from. */
    record Line(String text, List<Integer> rows) {
        Line inward() {
            return new Line("  " + text, rows);
        }
    }

    private final Map<String, List<Line>> types = new LinkedHashMap<>();
    private final Map<String, String> byContent = new HashMap<>();
    private final ToIntFunction<WrittenField> row;
    private final BiConsumer<Integer, String> flaw;
    private final Set<String> groups;
    private boolean media;

    /**
     * @param row the row of a field
     * @param groups names that fields may have as their type
     * @param flaw hears of a row what cannot be so
     */
    TypeBlocks(ToIntFunction<WrittenField> row, Set<String> groups, BiConsumer<Integer, String> flaw) {
        this.row = row;
        this.groups = groups;
        this.flaw = flaw;
    }

    /** The types by name, in the order in which they were needed. */
    Map<String, List<Line>> types() {
        return types;
    }

    /** Whether some bytes are said to travel beside the message. */
    boolean hasMedia() {
        return media;
    }

    /** The content of an element or type with these fields. */
    List<Line> content(List<WrittenField> fields) {
        List<Line> lines = new ArrayList<>();
        Map<String, WrittenField> seen = new HashMap<>();
        lines.add(new Line("<xs:sequence>", List.of()));
        for (WrittenField field : fields) {
            if (isAllowed(field, seen) && !isAttribute(field)) {
                element(field, true).forEach(l -> lines.add(l.inward()));
            }
        }
        lines.add(new Line("</xs:sequence>", List.of()));
        for (WrittenField field : fields) {
            if (isAttribute(field) && seen.get(field.name().strip()) == field) {
                lines.addAll(attribute(field));
            }
        }
        return lines;
    }

    private boolean isAllowed(WrittenField field, Map<String, WrittenField> seen) {
        String name = field.name().strip();
        int at = row.applyAsInt(field);
        if (!Names.isName(isAttribute(field) ? name.substring(1) : name)) {
            flaw.accept(at, Names.whyNot(name, "field"));
            return false;
        }
        if (seen.putIfAbsent(name, field) != null) {
            flaw.accept(
                    at,
                    "There are two fields “" + name
                            + "” beside each other. Say how often it is there, or name it another way.");
            return false;
        }
        return true;
    }

    private static boolean isAttribute(WrittenField field) {
        return field.name().strip().startsWith("@");
    }

    /** An element; how often it is there is said of one within a type alone. */
    List<Line> element(WrittenField field, boolean local) {
        int at = row.applyAsInt(field);
        FieldWords words = FieldWords.of(field, groups, text -> flaw.accept(at, text));
        String type = type(field, words, at);
        StringBuilder start =
                new StringBuilder("<xs:element name=\"" + field.name().strip() + "\" type=\"" + type + "\"");
        if (local) {
            occurs(words.occurs(), start);
        }
        if (words.nil()) {
            start.append(" nillable=\"true\"");
        }
        words.media().ifPresent(m -> {
            media = true;
            start.append(" xmime:expectedContentTypes=\"").append(m).append("\"");
        });
        return documented(start.toString(), "xs:element", field.means(), at);
    }

    private static void occurs(Occurs occurs, StringBuilder into) {
        if (occurs.min() != 1) {
            into.append(" minOccurs=\"").append(occurs.min()).append("\"");
        }
        if (occurs.max() != 1) {
            into.append(" maxOccurs=\"")
                    .append(occurs.max() == Occurs.UNBOUNDED ? "unbounded" : occurs.max())
                    .append("\"");
        }
    }

    private List<Line> attribute(WrittenField field) {
        int at = row.applyAsInt(field);
        FieldWords words = FieldWords.of(field, groups, text -> flaw.accept(at, text));
        if (words.group() || !words.named().isEmpty()) {
            flaw.accept(at, "An attribute has a value and no fields. Take the @ away, or what is in it.");
            return List.of();
        }
        if (words.occurs().repeats() || words.nil()) {
            flaw.accept(at, "An attribute is there once or left out. Write once or may be left out.");
        }
        String use = words.occurs().optional() ? "" : " use=\"required\"";
        return documented(
                "<xs:attribute name=\"" + field.name().strip().substring(1) + "\" type=\"" + type(field, words, at)
                        + "\"" + use,
                "xs:attribute",
                field.means(),
                at);
    }

    static List<Line> documented(String start, String name, String means, int row) {
        List<Integer> rows = List.of(row);
        if (means.isBlank()) {
            return List.of(new Line(start + "/>", rows));
        }
        return List.of(
                new Line(start + ">", rows),
                new Line("  " + documentation(means), rows),
                new Line("</" + name + ">", rows));
    }

    static String documentation(String means) {
        StringBuilder text = new StringBuilder();
        Markup.text(Markup.legal(means.strip()), text);
        return "<xs:annotation><xs:documentation>" + text + "</xs:documentation></xs:annotation>";
    }

    private String type(WrittenField field, FieldWords words, int at) {
        if (!words.named().isEmpty()) {
            return "tns:" + words.named();
        }
        if (words.group()) {
            List<Line> lines = new ArrayList<>();
            lines.add(new Line("<xs:complexType name=\"\u0000\">", List.of(at)));
            content(field.inner()).forEach(l -> lines.add(l.inward()));
            lines.add(new Line("</xs:complexType>", List.of()));
            return "tns:" + define(field, lines);
        }
        if (words.facets().isEmpty()) {
            return words.base();
        }
        List<Line> lines = new ArrayList<>();
        List<Integer> rows = List.of(at);
        lines.add(new Line("<xs:simpleType name=\"\u0000\">", rows));
        lines.add(new Line("  <xs:restriction base=\"" + words.base() + "\">", rows));
        words.facets().forEach(f -> lines.add(new Line("    " + f, rows)));
        lines.add(new Line("  </xs:restriction>", rows));
        lines.add(new Line("</xs:simpleType>", rows));
        return "tns:" + define(field, lines);
    }

    /** The name of a type with that content, defined where none is yet; rows that say the same are of the same lines. */
    private String define(WrittenField field, List<Line> lines) {
        StringBuilder content = new StringBuilder(Names.ofType(field.name()));
        lines.forEach(l -> content.append('\n').append(l.text()));
        String known = byContent.get(content.toString());
        if (known != null) {
            List<Line> merged = new ArrayList<>();
            List<Line> there = types.get(known);
            for (int i = 0; i < there.size(); i++) {
                List<Integer> rows = new ArrayList<>(there.get(i).rows());
                rows.addAll(lines.get(i).rows());
                merged.add(new Line(there.get(i).text(), List.copyOf(rows)));
            }
            types.put(known, merged);
            return known;
        }
        String base = Names.ofType(field.name());
        String name = base;
        for (int i = 2; types.containsKey(name); i++) {
            name = base + i;
        }
        String chosen = name;
        types.put(
                name,
                lines.stream()
                        .map(l -> new Line(l.text().replace("\u0000", chosen), l.rows()))
                        .toList());
        byContent.put(content.toString(), name);
        return name;
    }
}
