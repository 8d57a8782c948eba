package dev.mockbell.sample;

import dev.mockbell.message.Prefixes;
import dev.mockbell.pattern.XsPattern;
import dev.mockbell.schema.SimpleType;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import javax.xml.namespace.QName;

/**
 * Values that a simple type accepts, plausible by the name they stand under. The same type, name and variant give the
 * same value; another variant gives another where the type has room.
 */
public final class SampleValues {
    /** The namespace of the built-in types. */
    public static final String XSD = "http://www.w3.org/2001/XMLSchema";

    private static final int MOST_ITEMS = 10_000;
    private static final int LONGEST = 100_000;

    private final Prefixes prefixes;
    private int identifiers;

    public SampleValues(Prefixes prefixes) {
        this.prefixes = prefixes;
    }

    /** A value; where none was found within a bounded search, one that is close. */
    public String of(SimpleType type, String name, int variant) {
        if (type.isQualifiedName()) {
            return qualified(type, name, variant);
        }
        // what depends on the type, the name and the variant alone is thought about once
        boolean alone = type.variety() == SimpleType.Variety.ATOMIC
                && !Set.of("ID", "IDREF", "ENTITY").contains(type.builtIn());
        return alone ? type.kept(name, variant, () -> made(type, name, variant)) : made(type, name, variant);
    }

    private String made(SimpleType type, String name, int variant) {
        List<String> enumeration = type.enumeration();
        if (!enumeration.isEmpty()) {
            List<String> good = type.acceptedEnumeration(v -> accepts(type, v));
            return good.isEmpty() ? enumeration.get(0) : good.get(variant % good.size());
        }
        List<String> first = switch (type.variety()) {
            case LIST -> List.of(list(type, name, variant));
            case UNION -> type.members().stream().map(m -> of(m, name, variant)).toList();
            case ATOMIC -> candidates(type, name, variant);
        };
        for (String candidate : first) {
            if (accepts(type, candidate)) {
                return candidate;
            }
        }
        List<String> matching = matching(type, first, variant);
        if (!matching.isEmpty()) {
            return matching.get(variant % matching.size());
        }
        return first.isEmpty() ? "" : first.get(0);
    }

    private String qualified(SimpleType type, String name, int variant) {
        List<QName> allowed = type.qualifiedEnumeration();
        if (allowed.isEmpty()) {
            return prefixes.lexical(new QName("urn:northfell:names", ncName(name)));
        }
        return prefixes.lexical(allowed.get(variant % allowed.size()));
    }

    /** The type's own judgement, asked only when a matcher of linear time has found that the patterns match. */
    private static boolean accepts(SimpleType type, String text) {
        for (XsPattern pattern : type.readPatterns()) {
            if (!pattern.matches(text)) {
                return false;
            }
        }
        return type.accepts(text);
    }

    /** Strings made from the patterns, those that keep the other facets too. */
    private static List<String> matching(SimpleType type, List<String> near, int variant) {
        List<XsPattern> patterns = type.readPatterns();
        if (patterns.isEmpty()) {
            return List.of();
        }
        Set<String> found = new LinkedHashSet<>();
        for (String padded : PaddedNumbers.of(type, near)) {
            if (accepts(type, padded)) {
                found.add(padded);
            }
        }
        boolean counted = countsCharacters(type);
        int least = counted ? least(type) : 0;
        int most = counted ? most(type) : Integer.MAX_VALUE;
        int count = 24 + 4 * variant;
        for (boolean wide : new boolean[] {false, true}) {
            if (found.size() <= variant) {
                type.matching(least, most, count, wide).stream()
                        .filter(text -> accepts(type, text))
                        .forEach(found::add);
            }
        }
        return new ArrayList<>(found);
    }

    private static boolean countsCharacters(SimpleType type) {
        return type.variety() == SimpleType.Variety.ATOMIC
                && Set.of("string", "anyURI").contains(type.primitive());
    }

    private String list(SimpleType type, String name, int variant) {
        int least = type.length().or(type::minLength).orElse(1);
        int most = type.length().or(type::maxLength).orElse(Integer.MAX_VALUE);
        int count = Math.min(Math.max(least, Math.min(1, most)), MOST_ITEMS);
        List<String> items = new ArrayList<>();
        for (int i = 0; i < count; i++) {
            int turn = variant;
            type.item().ifPresent(t -> items.add(of(t, name, turn)));
        }
        return String.join(" ", items);
    }

    static int least(SimpleType type) {
        return type.length().or(type::minLength).orElse(0);
    }

    static int most(SimpleType type) {
        return type.length().or(type::maxLength).orElse(Integer.MAX_VALUE);
    }

    private List<String> candidates(SimpleType type, String name, int variant) {
        return switch (type.primitive()) {
            case "string" -> strings(type, name, variant);
            case "boolean" ->
                variant % 2 == 0 ? List.of("true", "1", "false", "0") : List.of("false", "0", "true", "1");
            case "decimal" -> OrderedSamples.decimals(type, name, variant);
            case "float", "double" -> OrderedSamples.floats(type, variant);
            case "duration" -> OrderedSamples.durations(type, variant);
            case "dateTime", "time", "date", "gYearMonth", "gYear", "gMonthDay", "gDay", "gMonth" ->
                OrderedSamples.times(type, variant);
            case "hexBinary" -> List.of(hex(type, variant));
            case "base64Binary" -> List.of(base64(type, variant));
            case "anyURI" ->
                sized(
                        type,
                        List.of("https://northfell.example/" + ncName(name) + numbered(variant), "urn:n", "a"),
                        variant);
            case "anySimpleType" ->
                // what services on Java call a point in time; to any other a text as good as another
                List.of(OrderedSamples.day(variant));
            default -> List.of(words(name) + numbered(variant));
        };
    }

    private List<String> strings(SimpleType type, String name, int variant) {
        return switch (type.builtIn()) {
            case "language" -> List.of(variant % 2 == 0 ? "en" : "nb", "nb-NO", "en-GB", "i-north");
            case "ID" -> {
                identifiers++;
                yield sized(type, List.of("id" + identifiers, "i" + identifiers), identifiers - 1);
            }
            case "IDREF", "ENTITY" -> sized(type, List.of("id" + Math.max(1, identifiers), "i1"), variant);
            case "NCName", "Name", "NMTOKEN" ->
                sized(type, List.of(ncName(name) + numbered(variant), "name", "n"), variant);
            default -> {
                String plain = words(name);
                String more = variant == 0 ? plain : plain + " " + (variant + 1);
                yield sized(type, List.of(more, ncName(name) + numbered(variant), "a"), variant);
            }
        };
    }

    private static String numbered(int variant) {
        return variant == 0 ? "" : Integer.toString(variant + 1);
    }

    /** Candidates cut or lengthened to the length facets; ones that fit come as they are. */
    private static List<String> sized(SimpleType type, List<String> usual, int variant) {
        int least = Math.min(least(type), LONGEST);
        int most = most(type);
        List<String> all = new ArrayList<>();
        for (String value : usual.subList(0, variant == 0 ? usual.size() : 1)) {
            if (value.length() >= least && value.length() <= most) {
                all.add(value);
            }
        }
        String number = numbered(variant);
        String base = usual.get(0).replace(' ', '-');
        StringBuilder fitted = new StringBuilder(base.isEmpty() ? "a" : base);
        while (fitted.length() < least) {
            fitted.append('a');
        }
        if (fitted.length() > most) {
            fitted.setLength(Math.max(0, most - Math.min(most, number.length())));
            fitted.append(number, 0, Math.min(number.length(), most));
        }
        all.add(fitted.toString());
        all.addAll(usual);
        return all;
    }

    private static String hex(SimpleType type, int variant) {
        return java.util.HexFormat.of().withUpperCase().formatHex(bytes(type, 2, variant));
    }

    private static String base64(SimpleType type, int variant) {
        return java.util.Base64.getEncoder().encodeToString(bytes(type, 10, variant));
    }

    private static byte[] bytes(SimpleType type, int usual, int variant) {
        byte[] text = "hut;bunks\n".getBytes(java.nio.charset.StandardCharsets.US_ASCII);
        int count = Math.max(Math.min(least(type), LONGEST), Math.min(most(type), usual));
        byte[] bytes = new byte[count];
        for (int i = 0; i < count; i++) {
            bytes[i] = text[(i + variant) % text.length];
        }
        return bytes;
    }

    /** The name as one that XML allows without colon. */
    private static String ncName(String name) {
        String plain = name.replace(":", "-");
        return plain.isEmpty() ? "name" : plain;
    }

    /** Words for a text field by its name. */
    public static String words(String name) {
        String lower = name.toLowerCase(Locale.ROOT);
        if (lower.contains("mail")) {
            return "ines@northfell.example";
        }
        if (lower.contains("phone") || lower.contains("mobile")) {
            return "+47 555 0142";
        }
        if (lower.equals("name") || lower.endsWith("guestname") || lower.contains("fullname")) {
            return "Ines Okafor";
        }
        if (lower.contains("currency")) {
            return "EUR";
        }
        if (lower.contains("country")) {
            return "NO";
        }
        String spaced = name.replaceAll("([a-z0-9])([A-Z])", "$1 $2").replaceAll("[_.\\-]+", " ");
        return spaced.isBlank() ? "a" : spaced.strip().toLowerCase(Locale.ROOT);
    }
}
