package dev.mockbell.schema;

import java.util.ArrayList;
import java.util.List;

/** Facets in words. */
final class FacetWords {
    private FacetWords() {}

    static String summary(SimpleType type) {
        List<String> enumeration = type.enumeration();
        if (!enumeration.isEmpty()) {
            String all = String.join(" | ", enumeration);
            return all.length() <= 24 ? all : enumeration.size() + " values";
        }
        List<String> words = new ArrayList<>();
        boolean listed = type.variety() == SimpleType.Variety.LIST;
        words.add(listed ? "list of " + type.item().map(SimpleType::builtIn).orElse("values") : "xs:" + type.builtIn());
        if (!type.patterns().isEmpty() && !SchemaDefaults.hasDefaultPattern(type)) {
            words.set(0, String.join(" and ", type.patterns()));
        }
        String range = range(type);
        if (!range.isEmpty()) {
            words.add(range);
        }
        type.length().ifPresent(n -> words.add("length " + n));
        type.minLength().filter(n -> n > 0).ifPresent(n -> words.add("min " + n));
        type.maxLength().ifPresent(n -> words.add("max " + n));
        type.totalDigits().ifPresent(n -> words.add(n + " digits"));
        type.fractionDigits().filter(n -> n > 0).ifPresent(n -> words.add(n + " after the point"));
        return String.join(" · ", words);
    }

    /** From where to where its values go; empty where that is no narrower than the built-in type's. */
    static String range(SimpleType type) {
        String low = type.minInclusive()
                .filter(v -> !SchemaDefaults.isLeast(type.builtIn(), v))
                .orElse(type.minExclusive().map(v -> "over " + v).orElse(null));
        String high = type.maxInclusive()
                .filter(v -> !SchemaDefaults.isMost(type.builtIn(), v))
                .orElse(type.maxExclusive().map(v -> "under " + v).orElse(null));
        // the library writes decimals in their canonical form, which is nobody's
        low = low == null ? null : low.replaceFirst("\\.0$", "");
        high = high == null ? null : high.replaceFirst("\\.0$", "");
        if (SchemaDefaults.hasDefaultBounds(type) || low == null && high == null) {
            return "";
        }
        if (low != null && high != null) {
            return low + " to " + high;
        }
        if (low != null) {
            return low.startsWith("over") ? low : "from " + low;
        }
        return high.startsWith("under") ? high : "up to " + high;
    }

    /** Why {@code text} is refused, from the key of the validator's message. */
    static String of(SimpleType type, String text, String key) {
        String shown = text.length() > 40 ? text.substring(0, 37) + "…" : text;
        String quoted = "“" + shown + "”";
        return switch (key == null ? "" : key) {
            case "cvc-enumeration-valid" -> quoted + " is not one of " + String.join(", ", type.enumeration());
            case "cvc-pattern-valid" -> quoted + " does not match the pattern " + String.join(" and ", type.patterns());
            case "cvc-length-valid" ->
                quoted + " must have the length " + type.length().orElse(0);
            case "cvc-minLength-valid" ->
                quoted + " is shorter than " + type.minLength().orElse(0);
            case "cvc-maxLength-valid" ->
                quoted + " is longer than " + type.maxLength().orElse(0);
            case "cvc-minInclusive-valid" ->
                quoted + " is less than " + type.minInclusive().orElse("");
            case "cvc-maxInclusive-valid" ->
                quoted + " is more than " + type.maxInclusive().orElse("");
            case "cvc-minExclusive-valid" ->
                quoted + " must be more than " + type.minExclusive().orElse("");
            case "cvc-maxExclusive-valid" ->
                quoted + " must be less than " + type.maxExclusive().orElse("");
            case "cvc-totalDigits-valid" ->
                quoted + " has more than " + type.totalDigits().orElse(0) + " digits";
            case "cvc-fractionDigits-valid" ->
                quoted + " has more than " + type.fractionDigits().orElse(0) + " digits after the point";
            default -> text.isEmpty() ? "a value is needed: " + summary(type) : quoted + " is not " + article(type);
        };
    }

    private static String article(SimpleType type) {
        return "a value of type " + type.name().map(n -> n.getLocalPart()).orElse(type.builtIn());
    }
}
