package dev.mockbell.sample;

import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import java.util.stream.Collectors;
import java.util.stream.IntStream;

/**
 * Makes schemas up that are valid by XML Schema 1.0 and use most of what it has: derived types of all kinds, groups,
 * substitution, wildcards, nil, defaults, lists and unions, recursion. One seed gives one schema. Every element of a
 * schema has a name of its own, so that content models are never ambiguous.
 */
public final class RandomSchemas {
    private static final List<String> PATTERNS =
            List.of("[A-Z]{2}-[0-9]{3}", "(north|south) (ridge|face)", "\\d+(\\.\\d{2})?", "[^\\s]{3,8}");
    private static final List<String> PLAIN = List.of(
            "xs:string",
            "xs:token",
            "xs:int",
            "xs:boolean",
            "xs:date",
            "xs:dateTime",
            "xs:decimal",
            "xs:double",
            "xs:anyURI",
            "xs:duration",
            "xs:gYear",
            "xs:hexBinary",
            "xs:base64Binary",
            "xs:language",
            "xs:NMTOKENS",
            "xs:unsignedByte",
            "xs:time",
            "xs:NCName",
            "xs:normalizedString");

    private final Random random;
    private final StringBuilder top = new StringBuilder();
    private final List<String> simple = new ArrayList<>();
    private final List<Made> complex = new ArrayList<>();
    private int names;

    /**
     * A complex type to derive from or to use.
     *
     * @param sequence whether its content is a sequence of elements only, written in {@code parts}
     */
    private record Made(String name, boolean sequence, List<Part> parts, boolean open, boolean isAbstract) {}

    /** An element of a sequence. */
    private record Part(String text, boolean optional) {}

    private RandomSchemas(long seed) {
        random = new Random(seed);
    }

    /** What stands in a schema for {@code urn:t} that declares {@code t:Root}. */
    public static String of(long seed) {
        return new RandomSchemas(seed).make();
    }

    private String make() {
        top.append("<xs:attribute name='unit' type='xs:token'/>");
        top.append("<xs:attributeGroup name='marks'><xs:attribute name='seen' type='xs:boolean' default='false'/>"
                + "<xs:attribute name='rank' type='xs:positiveInteger'/></xs:attributeGroup>");
        times(2 + random.nextInt(5), this::simpleType);
        times(3 + random.nextInt(5), this::complexType);
        substitutes();
        Made root = complex.get(complex.size() - 1);
        String type = root.isAbstract() ? concrete(root) : root.name();
        return top + "<xs:element name='Root' type='t:" + type + "'/>";
    }

    private static void times(int count, Runnable action) {
        IntStream.range(0, count).forEach(i -> action.run());
    }

    private String name(String start) {
        return start + ++names;
    }

    private boolean rarely() {
        return random.nextInt(4) == 0;
    }

    private <T> T any(List<T> of) {
        return of.get(random.nextInt(of.size()));
    }

    // simple types

    private void simpleType() {
        String own = name("S");
        top.append("<xs:simpleType name='").append(own).append("'>");
        switch (random.nextInt(9)) {
            case 0 -> {
                int least = random.nextInt(40) - 20;
                restrict(
                        any(List.of("xs:int", "xs:integer", "xs:short", "xs:decimal")),
                        facet(rarely() ? "minExclusive" : "minInclusive", least)
                                + facet("maxInclusive", least + 2 + random.nextInt(50)));
            }
            case 1 -> {
                int least = random.nextInt(4);
                restrict(
                        any(List.of("xs:string", "xs:token", "xs:normalizedString", "xs:anyURI")),
                        facet("minLength", least) + facet("maxLength", least + 1 + random.nextInt(9)));
            }
            case 2 -> restrict("xs:string", facet("pattern", any(PATTERNS)));
            case 3 ->
                restrict(
                        any(List.of("xs:string", "xs:token", "xs:NMTOKEN")),
                        IntStream.rangeClosed(0, 1 + random.nextInt(4))
                                .mapToObj(i -> facet("enumeration", "kind" + i))
                                .collect(Collectors.joining()));
            case 4 -> restrict("xs:decimal", facet("totalDigits", 5) + facet("fractionDigits", random.nextInt(3)));
            case 5 -> restrict("xs:date", facet("minInclusive", "2027-01-01") + facet("maxExclusive", "2027-03-01"));
            case 6 -> restrict("xs:hexBinary", facet("length", 1 + random.nextInt(4)));
            case 7 -> list(own);
            default -> {
                // built-in members only: lists and unions of lists are another matter
                String members = any(List.of("xs:int xs:boolean", "xs:date xs:NMTOKEN", "xs:decimal xs:gYear"));
                top.append("<xs:union memberTypes='").append(members).append("'/>");
            }
        }
        top.append("</xs:simpleType>");
        simple.add("t:" + own);
        if (rarely()) {
            narrower();
        }
    }

    private void restrict(String base, String facets) {
        top.append("<xs:restriction base='")
                .append(base)
                .append("'>")
                .append(facets)
                .append("</xs:restriction>");
    }

    private static String facet(String name, Object value) {
        return "<xs:" + name + " value='" + value + "'/>";
    }

    private void list(String own) {
        String item = any(List.of("xs:int", "xs:NMTOKEN", "xs:date"));
        top.append("<xs:restriction><xs:simpleType><xs:list itemType='" + item + "'/></xs:simpleType>")
                .append(facet("minLength", 1 + random.nextInt(2)))
                .append(facet("maxLength", 3 + random.nextInt(2)))
                .append("</xs:restriction>");
    }

    /** A restriction of a restriction. */
    private void narrower() {
        String middle = name("S");
        top.append("<xs:simpleType name='").append(middle).append("'>");
        restrict("xs:int", facet("minInclusive", 1) + facet("maxInclusive", 90));
        String own = name("S");
        top.append("</xs:simpleType><xs:simpleType name='").append(own).append("'>");
        restrict("t:" + middle, facet("maxInclusive", 20 + random.nextInt(40)));
        top.append("</xs:simpleType>");
        simple.add("t:" + own);
    }

    private String simpleUse() {
        return random.nextInt(3) > 0 ? any(simple) : any(PLAIN);
    }

    // complex types

    private void complexType() {
        List<Made> bases = complex.stream().filter(Made::sequence).toList();
        int kind = random.nextInt(bases.isEmpty() ? 4 : 7);
        switch (kind) {
            case 0 -> simpleContent();
            case 1 -> allOf();
            case 2 -> choices();
            case 3 -> sequence(false);
            case 4 -> sequence(random.nextInt(3) == 0);
            case 5 -> extension(any(bases));
            default -> restriction(any(bases));
        }
    }

    private void simpleContent() {
        String own = name("C");
        top.append("<xs:complexType name='").append(own).append("'><xs:simpleContent><xs:extension base='");
        top.append(simpleUse()).append("'>").append(attributes(own)).append("</xs:extension></xs:simpleContent>");
        top.append("</xs:complexType>");
        complex.add(new Made(own, false, List.of(), false, false));
    }

    private void allOf() {
        String own = name("C");
        StringBuilder inside = new StringBuilder();
        times(1 + random.nextInt(4), () -> inside.append(element(random.nextBoolean() ? 0 : 1, 1)));
        top.append("<xs:complexType name='").append(own).append("'><xs:all");
        top.append(rarely() ? " minOccurs='0'>" : ">").append(inside).append("</xs:all>");
        top.append(attributes(own)).append("</xs:complexType>");
        complex.add(new Made(own, false, List.of(), false, false));
    }

    private void choices() {
        String own = name("C");
        String particle = random.nextBoolean() ? particle("choice", 2) : groupUse();
        top.append("<xs:complexType name='").append(own).append("'").append(rarely() ? " mixed='true'>" : ">");
        top.append(particle).append(attributes(own)).append("</xs:complexType>");
        complex.add(new Made(own, false, List.of(), false, false));
    }

    /** A named group, used at once. */
    private String groupUse() {
        String group = name("G");
        String inside = particle(any(List.of("choice", "sequence")), 1, "");
        top.append("<xs:group name='").append(group).append("'>").append(inside).append("</xs:group>");
        return "<xs:group ref='t:" + group + "'" + occurs() + "/>";
    }

    private String particle(String compositor, int depth) {
        return particle(compositor, depth, occurs());
    }

    private String particle(String compositor, int depth, String occurs) {
        StringBuilder inside = new StringBuilder();
        times(1 + random.nextInt(3), () -> {
            if (depth > 0 && rarely()) {
                inside.append(particle(any(List.of("choice", "sequence")), depth - 1));
            } else {
                inside.append(element(-1, -1));
            }
        });
        return "<xs:" + compositor + occurs + ">" + inside + "</xs:" + compositor + ">";
    }

    private String occurs() {
        return switch (random.nextInt(6)) {
            case 0 -> " minOccurs='0'";
            case 1 -> " maxOccurs='3'";
            case 2 -> " minOccurs='2' maxOccurs='unbounded'";
            case 3 -> " minOccurs='0' maxOccurs='unbounded'";
            default -> "";
        };
    }

    /** @param least how often at least; -1 for whatever comes */
    private String element(int least, int most) {
        String own = name("e");
        StringBuilder text = new StringBuilder("<xs:element name='" + own + "'");
        text.append(least < 0 ? occurs() : " minOccurs='" + least + "' maxOccurs='" + most + "'");
        if (rarely()) {
            text.append(" nillable='true'");
        }
        if (random.nextInt(6) == 0) {
            text.append(" form='unqualified'");
        }
        if (random.nextInt(7) == 0) {
            return text + ">" + anonymous() + "</xs:element>";
        }
        List<Made> usable = complex.stream().filter(c -> !c.isAbstract()).toList();
        if (!usable.isEmpty() && random.nextInt(3) == 0) {
            return text.append(" type='t:")
                    .append(any(usable).name())
                    .append("'/>")
                    .toString();
        }
        if (random.nextInt(8) == 0) {
            return text
                    + any(List.of(
                            " type='xs:int' default='7'/>",
                            " type='xs:token' fixed='so'/>",
                            " type='xs:int' fixed='7'/>",
                            " type='xs:decimal' fixed='1.50'/>"));
        }
        return text.append(" type='").append(simpleUse()).append("'/>").toString();
    }

    /** A type without a name, right in its element. */
    private String anonymous() {
        return switch (random.nextInt(3)) {
            case 0 ->
                "<xs:simpleType><xs:restriction base='xs:token'>" + facet("maxLength", 4) + facet("pattern", "[a-z ]*")
                        + "</xs:restriction></xs:simpleType>";
            case 1 ->
                "<xs:complexType><xs:simpleContent><xs:extension base='xs:NMTOKEN'><xs:attribute name='" + name("a")
                        + "' form='qualified' type='xs:boolean'/></xs:extension></xs:simpleContent></xs:complexType>";
            default ->
                "<xs:complexType><xs:sequence" + occurs() + "><xs:element name='" + name("e")
                        + "' type='" + simpleUse() + "'/><xs:element name='" + name("e") + "'" + occurs()
                        + "><xs:complexType/></xs:element></xs:sequence></xs:complexType>";
        };
    }

    private void sequence(boolean isAbstract) {
        String own = name("C");
        List<Part> parts = new ArrayList<>();
        times(1 + random.nextInt(4), () -> {
            boolean optional = random.nextBoolean();
            parts.add(new Part(element(optional ? 0 : 1, optional && random.nextBoolean() ? 4 : 1), optional));
        });
        if (rarely()) {
            // recursion, which always ends somewhere
            parts.add(new Part("<xs:element name='" + name("e") + "' minOccurs='0' type='t:" + own + "'/>", true));
        }
        boolean open = rarely();
        top.append("<xs:complexType name='")
                .append(own)
                .append(
                        isAbstract
                                ? "' abstract='true'>"
                                : any(List.of("'>", "'>", "' block='extension'>", "' block='restriction'>")))
                .append("<xs:sequence>");
        parts.forEach(p -> top.append(p.text()));
        if (open) {
            top.append("<xs:any namespace='##other' processContents='lax' minOccurs='0' maxOccurs='2'/>");
        }
        top.append("</xs:sequence>").append(attributes(own)).append("</xs:complexType>");
        complex.add(new Made(own, true, parts, open, isAbstract));
    }

    private void extension(Made base) {
        String own = name("C");
        String inside = base.open() ? "" : "<xs:sequence>" + element(-1, -1) + element(-1, -1) + "</xs:sequence>";
        top.append("<xs:complexType name='").append(own).append("'><xs:complexContent><xs:extension base='t:");
        top.append(base.name()).append("'>").append(inside);
        top.append("<xs:attribute name='").append(name("a")).append("' type='xs:int'/>");
        top.append("</xs:extension></xs:complexContent></xs:complexType>");
        complex.add(new Made(own, false, List.of(), true, false));
    }

    /** Some of what is optional in the base is not there. */
    private void restriction(Made base) {
        String own = name("C");
        top.append("<xs:complexType name='").append(own).append("'><xs:complexContent><xs:restriction base='t:");
        top.append(base.name()).append("'><xs:sequence>");
        base.parts().stream().filter(p -> !p.optional() || random.nextBoolean()).forEach(p -> top.append(p.text()));
        top.append("</xs:sequence></xs:restriction></xs:complexContent></xs:complexType>");
        complex.add(new Made(own, false, List.of(), true, false));
    }

    private String concrete(Made base) {
        String own = name("C");
        top.append("<xs:complexType name='" + own + "'><xs:complexContent><xs:extension base='t:" + base.name()
                + "'/></xs:complexContent></xs:complexType>");
        return own;
    }

    private String attributes(String owner) {
        StringBuilder text = new StringBuilder();
        times(random.nextInt(3), () -> {
            text.append("<xs:attribute name='").append(name("a")).append("'");
            switch (random.nextInt(5)) {
                case 0 -> text.append(" type='xs:token' fixed='so'");
                case 1 -> text.append(" type='xs:int' default='3'");
                case 2 -> text.append(" type='").append(simpleUse()).append("' use='required'");
                default -> text.append(" type='").append(simpleUse()).append("'");
            }
            text.append("/>");
        });
        if (rarely()) {
            text.append("<xs:attribute ref='t:unit'").append(random.nextBoolean() ? " use='required'/>" : "/>");
        }
        if (rarely()) {
            text.append("<xs:attributeGroup ref='t:marks'/>");
        }
        if (rarely()) {
            text.append("<xs:anyAttribute namespace='##other' processContents='lax'/>");
        }
        return text.toString();
    }

    /** A head with members, of which one may not be used, in a type that becomes the last. */
    private void substitutes() {
        String head = name("H");
        boolean isAbstract = random.nextBoolean();
        top.append("<xs:element name='" + head + "' type='xs:token'" + (isAbstract ? " abstract='true'/>" : "/>"));
        times(
                1 + random.nextInt(3),
                () -> top.append("<xs:element name='" + name("h")
                        + "' substitutionGroup='t:" + head + "' type='xs:"
                        + any(List.of("token", "NCName", "language")) + "'/>"));
        Made other = any(complex);
        String own = name("C");
        top.append("<xs:complexType name='" + own + "'><xs:sequence><xs:element ref='t:" + head + "'" + occurs()
                + "/><xs:element name='" + name("e") + "' type='t:"
                + (other.isAbstract() ? concrete(other) : other.name()) + "'" + occurs() + "/>"
                + particle("choice", 2) + (random.nextBoolean() ? groupUse() : "") + "</xs:sequence>" + attributes(own)
                + "</xs:complexType>");
        complex.add(new Made(own, false, List.of(), false, false));
    }
}
