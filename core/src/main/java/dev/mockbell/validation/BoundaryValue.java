package dev.mockbell.validation;

import dev.mockbell.pattern.XsPattern;
import dev.mockbell.schema.SimpleType;
import dev.mockbell.schema.SimpleType.Variety;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.time.format.DateTimeParseException;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/**
 * A value at or near a limit of its type.
 *
 * @param why which limit, in a few words
 */
record BoundaryValue(String value, String why) {
    private static final int LONGEST = 20_000;
    private static final int MOST_VALUES = 20;

    /** The values worth trying for a type, each once. {@code usual} is one that the type accepts. */
    static List<BoundaryValue> of(SimpleType type, String usual) {
        Map<String, String> found = new LinkedHashMap<>();
        if (type.variety() == Variety.ATOMIC) {
            bounds(type, found);
            lengths(type, usual, found);
            digits(type, found);
            patterns(type, usual, found);
        }
        enumeration(type, found);
        wrongType(type, found);
        if (!type.accepts("")) {
            found.putIfAbsent("", "empty");
        }
        List<BoundaryValue> values = new ArrayList<>();
        found.forEach((value, why) -> values.add(new BoundaryValue(value, why)));
        return values;
    }

    private static void enumeration(SimpleType type, Map<String, String> found) {
        List<String> values = type.enumeration();
        values.stream().limit(MOST_VALUES).forEach(v -> found.putIfAbsent(v, "one of the values"));
        if (!values.isEmpty()) {
            String unknown = "unknown";
            while (values.contains(unknown)) {
                unknown += "x";
            }
            found.putIfAbsent(unknown, "a value that is not listed");
        }
    }

    private static void bounds(SimpleType type, Map<String, String> found) {
        boolean over = type.minExclusive().isPresent();
        boolean under = type.maxExclusive().isPresent();
        type.minInclusive().filter(v -> !over).ifPresent(v -> around(type, v, -1, "the least", found));
        type.maxInclusive().filter(v -> !under).ifPresent(v -> around(type, v, 1, "the most", found));
        type.minExclusive().ifPresent(v -> beside(type, v, 1, "the lower limit", found));
        type.maxExclusive().ifPresent(v -> beside(type, v, -1, "the upper limit", found));
    }

    /** The limit itself, which is in, with its neighbours. */
    private static void around(SimpleType type, String limit, int outward, String name, Map<String, String> found) {
        found.putIfAbsent(limit, name + " that is allowed");
        step(type, limit, -outward).ifPresent(v -> found.putIfAbsent(v, "just inside " + name));
        step(type, limit, outward).ifPresent(v -> found.putIfAbsent(v, "just outside " + name));
    }

    /** The limit itself, which is out, with its neighbour inside. */
    private static void beside(SimpleType type, String limit, int inward, String name, Map<String, String> found) {
        found.putIfAbsent(limit, name + " itself, which is not allowed");
        step(type, limit, inward).ifPresent(v -> found.putIfAbsent(v, "just inside " + name));
    }

    private static Optional<String> step(SimpleType type, String value, int by) {
        try {
            switch (type.primitive()) {
                case "decimal" -> {
                    int places = type.fractionDigits().orElse(2);
                    BigDecimal unit = BigDecimal.ONE.movePointLeft(Math.min(places, 12));
                    return Optional.of(new BigDecimal(value)
                            .add(unit.multiply(BigDecimal.valueOf(by)))
                            .toPlainString());
                }
                case "float", "double" -> {
                    double number = Double.parseDouble(value);
                    return Double.isInfinite(number)
                            ? Optional.empty()
                            : Optional.of(String.valueOf(number + by * Math.max(1, Math.ulp(number))));
                }
                case "date" -> {
                    return Optional.of(LocalDate.parse(value).plusDays(by).toString());
                }
                case "gYear" -> {
                    return Optional.of(String.valueOf(Integer.parseInt(value) + by));
                }
                default -> {
                    return Optional.empty();
                }
            }
        } catch (NumberFormatException | DateTimeParseException notThatForm) {
            return Optional.empty();
        }
    }

    private static void lengths(SimpleType type, String usual, Map<String, String> found) {
        type.length().filter(BoundaryValue::fits).ifPresent(n -> {
            length(type, usual, n, "the length that is asked for", found);
            length(type, usual, n - 1, "one too short", found);
            length(type, usual, n + 1, "one too long", found);
        });
        type.minLength().filter(n -> n > 0 && fits(n)).ifPresent(n -> {
            length(type, usual, n, "as short as is allowed", found);
            length(type, usual, n - 1, "one too short", found);
        });
        type.maxLength().filter(BoundaryValue::fits).ifPresent(n -> {
            length(type, usual, n, "as long as is allowed", found);
            length(type, usual, n + 1, "one too long", found);
        });
    }

    private static boolean fits(int length) {
        return length <= LONGEST;
    }

    private static void length(SimpleType type, String usual, int n, String why, Map<String, String> found) {
        if (n < 0) {
            return;
        }
        List<XsPattern> patterns = type.readPatterns();
        List<String> matching = patterns.isEmpty() ? List.of() : XsPattern.samples(patterns, n, n, 1);
        String text;
        if (!matching.isEmpty()) {
            text = matching.get(0);
        } else if ("hexBinary".equals(type.primitive())) {
            text = "4A".repeat(n);
        } else if ("base64Binary".equals(type.primitive())) {
            text = java.util.Base64.getEncoder().encodeToString(new byte[n]);
        } else {
            text = usual.length() >= n ? usual.substring(0, n) : usual + "x".repeat(n - usual.length());
            text = text.endsWith(" ") ? text.substring(0, n - 1) + "x" : text;
        }
        found.putIfAbsent(text, why + ", " + n);
    }

    private static void digits(SimpleType type, Map<String, String> found) {
        type.totalDigits().filter(n -> n < 200).ifPresent(n -> {
            int places = Math.min(n, type.fractionDigits().orElse(0));
            String most = "9".repeat(n - places) + (places > 0 ? (n == places ? "0." : ".") + "9".repeat(places) : "");
            found.putIfAbsent(most, "as many digits as are allowed, " + n);
            found.putIfAbsent("9".repeat(n + 1), "one digit too many");
        });
        type.fractionDigits().filter(n -> n > 0 && n < 200).ifPresent(n -> {
            found.putIfAbsent("1." + "1".repeat(n), "as many digits after the point as are allowed, " + n);
            found.putIfAbsent("1." + "1".repeat(n + 1), "one digit too many after the point");
        });
    }

    private static void patterns(SimpleType type, String usual, Map<String, String> found) {
        boolean own = !type.readPatterns().isEmpty();
        if (own && "string".equals(type.primitive())) {
            for (String odd : List.of(usual + "#", "#", usual + usual)) {
                boolean matches = type.readPatterns().stream().allMatch(p -> p.matches(odd));
                if (!matches) {
                    found.putIfAbsent(odd, "does not match the pattern");
                    return;
                }
            }
        }
    }

    private static void wrongType(SimpleType type, Map<String, String> found) {
        if (!type.enumeration().isEmpty()) {
            return;
        }
        for (String wrong : List.of("not this type", "-")) {
            if (!type.accepts(wrong)) {
                found.putIfAbsent(wrong, "not a value of the type");
                return;
            }
        }
    }
}
