package dev.mockbell.message;

import dev.mockbell.schema.SimpleType;
import java.math.BigDecimal;
import java.math.RoundingMode;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;

/** Values that a simple type accepts, plausible by the name they stand under. The same type and name, the same value. */
final class SampleValues {
    private int ids;

    String of(SimpleType type, String name) {
        List<String> enumeration = type.enumeration();
        if (!enumeration.isEmpty()) {
            return enumeration.stream().filter(type::accepts).findFirst().orElse(enumeration.get(0));
        }
        return switch (type.variety()) {
            case LIST -> list(type, name);
            case UNION ->
                type.members().stream()
                        .map(m -> of(m, name))
                        .filter(type::accepts)
                        .findFirst()
                        .orElse("");
            case ATOMIC -> atomic(type, name);
        };
    }

    private String list(SimpleType type, String name) {
        int count = type.length().or(type::minLength).orElse(1);
        String item = type.item().map(t -> of(t, name)).orElse("");
        List<String> items = new ArrayList<>();
        for (int i = 0; i < Math.min(Math.max(count, type.maxLength().orElse(1) == 0 ? 0 : 1), 10_000); i++) {
            items.add(item);
        }
        return String.join(" ", items);
    }

    private String atomic(SimpleType type, String name) {
        for (String candidate : candidates(type, name)) {
            if (type.accepts(candidate)) {
                return candidate;
            }
        }
        for (String pattern : type.patterns()) {
            for (String candidate : PatternSamples.of(pattern, least(type), most(type))) {
                if (type.accepts(candidate)) {
                    return candidate;
                }
            }
        }
        return candidates(type, name).get(0);
    }

    private static int least(SimpleType type) {
        return type.length().or(type::minLength).orElse(0);
    }

    private static int most(SimpleType type) {
        return type.length().or(type::maxLength).orElse(Integer.MAX_VALUE);
    }

    private List<String> candidates(SimpleType type, String name) {
        return switch (type.primitive()) {
            case "string" -> strings(type, name);
            case "boolean" -> List.of("true", "false", "1");
            case "decimal" -> decimals(type, name);
            case "float", "double" -> bounded(type, List.of("1.5", "0", "1", "-1", "100"));
            case "duration" -> bounded(type, List.of("P1D", "PT1H", "P1Y", "PT0S"));
            case "dateTime" -> bounded(type, List.of("2027-02-12T09:30:00Z", "2027-02-12T09:30:00"));
            case "time" -> bounded(type, List.of("09:30:00", "09:30:00Z"));
            case "date" -> bounded(type, List.of("2027-02-12", "2027-02-12Z"));
            case "gYearMonth" -> bounded(type, List.of("2027-02"));
            case "gYear" -> bounded(type, List.of("2027"));
            case "gMonthDay" -> bounded(type, List.of("--02-12"));
            case "gDay" -> bounded(type, List.of("---12"));
            case "gMonth" -> bounded(type, List.of("--02"));
            case "hexBinary" -> List.of(binary(type, "4E", 2));
            case "base64Binary" -> List.of(base64(type));
            case "anyURI" -> sized(type, List.of("https://northfell.example/" + name, "urn:northfell", "a"));
            case "QName" -> List.of("xs:string");
            case "NOTATION" -> List.of("xs:string");
            default -> List.of(words(name));
        };
    }

    /** The candidates, then the bounds themselves and their near neighbours. */
    private static List<String> bounded(SimpleType type, List<String> usual) {
        List<String> all = new ArrayList<>(usual);
        type.minInclusive().ifPresent(all::add);
        type.maxInclusive().ifPresent(all::add);
        return all;
    }

    private static List<String> decimals(SimpleType type, String name) {
        List<BigDecimal> found = new ArrayList<>();
        String lower = name.toLowerCase(Locale.ROOT);
        boolean whole =
                !"decimal".equals(type.builtIn()) || type.fractionDigits().orElse(1) == 0;
        if (!whole) {
            found.add(new BigDecimal(lower.contains("lat") ? "66.12" : "92.25"));
        }
        found.add(new BigDecimal(lower.contains("age") ? 34 : lower.contains("year") ? 2027 : 2));
        type.minInclusive().map(BigDecimal::new).ifPresent(found::add);
        BigDecimal step = BigDecimal.ONE.movePointLeft(
                whole ? 0 : Math.min(6, type.fractionDigits().orElse(2)));
        type.minExclusive().map(BigDecimal::new).ifPresent(v -> {
            found.add(v.setScale(0, RoundingMode.FLOOR).add(BigDecimal.ONE));
            found.add(v.add(step));
        });
        type.maxInclusive().map(BigDecimal::new).ifPresent(found::add);
        type.maxExclusive().map(BigDecimal::new).ifPresent(v -> {
            found.add(v.setScale(0, RoundingMode.CEILING).subtract(BigDecimal.ONE));
            found.add(v.subtract(step));
        });
        found.add(BigDecimal.ZERO);
        found.add(BigDecimal.ONE.negate());
        return found.stream().map(BigDecimal::toPlainString).toList();
    }

    private List<String> strings(SimpleType type, String name) {
        String builtIn = type.builtIn();
        return switch (builtIn) {
            case "language" -> sized(type, List.of("en", "nb-NO"));
            case "ID" -> {
                ids++;
                yield sized(type, List.of("id" + ids, "i" + ids));
            }
            case "IDREF", "IDREFS", "ENTITY", "ENTITIES" -> sized(type, List.of("id" + Math.max(1, ids), "i1"));
            case "NCName", "Name", "NMTOKEN", "NMTOKENS" -> sized(type, List.of(name, "name", "n"));
            default -> sized(type, List.of(words(name), name, "a"));
        };
    }

    /** Candidates cut or lengthened to the length facets; ones that fit come as they are. */
    private static List<String> sized(SimpleType type, List<String> usual) {
        int least = Math.min(least(type), 100_000);
        int most = most(type);
        List<String> all = new ArrayList<>();
        for (String value : usual) {
            if (value.length() >= least && value.length() <= most) {
                all.add(value);
            }
        }
        String base = usual.get(0).replace(' ', '-');
        StringBuilder fitted = new StringBuilder(base.isEmpty() ? "a" : base);
        while (fitted.length() < least) {
            fitted.append('a');
        }
        if (fitted.length() > most) {
            fitted.setLength(most);
        }
        all.add(fitted.toString());
        all.addAll(usual);
        return all;
    }

    private static String binary(SimpleType type, String octet, int usual) {
        int count = Math.max(Math.min(least(type), 100_000), Math.min(most(type), usual));
        return octet.repeat(count);
    }

    private static String base64(SimpleType type) {
        byte[] text = "hut;bunks\n".getBytes(java.nio.charset.StandardCharsets.US_ASCII);
        int count = Math.max(Math.min(least(type), 100_000), Math.min(most(type), text.length));
        byte[] bytes = new byte[count];
        for (int i = 0; i < count; i++) {
            bytes[i] = text[i % text.length];
        }
        return java.util.Base64.getEncoder().encodeToString(bytes);
    }

    private static String words(String name) {
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
