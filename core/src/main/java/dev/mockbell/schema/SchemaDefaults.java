package dev.mockbell.schema;

/** Facets that a built-in type brings along and that need not be told to people: everyone knows what an int holds. */
final class SchemaDefaults {
    private SchemaDefaults() {}

    static boolean hasDefaultPattern(SimpleType type) {
        return type.name()
                        .map(n -> SchemaReplay.XSD.equals(n.getNamespaceURI()))
                        .orElse(false)
                || type.patterns().stream()
                        .allMatch(p -> p.equals("\\i\\c*")
                                || p.equals("[\\i-[:]][\\c-[:]]*")
                                || p.equals("\\c+")
                                || p.equals("[\\-+]?[0-9]+")
                                || p.startsWith("([a-zA-Z]{1,8})"));
    }

    /** Whether a lower bound is that of the built-in type itself. */
    static boolean isLeast(String builtIn, String bound) {
        return switch (builtIn) {
            case "long" -> "-9223372036854775808".equals(bound);
            case "int" -> "-2147483648".equals(bound);
            case "short" -> "-32768".equals(bound);
            case "byte" -> "-128".equals(bound);
            default -> false;
        };
    }

    /** Whether an upper bound is that of the built-in type itself. */
    static boolean isMost(String builtIn, String bound) {
        return switch (builtIn) {
            case "long" -> "9223372036854775807".equals(bound);
            case "int" -> "2147483647".equals(bound);
            case "short" -> "32767".equals(bound);
            case "byte" -> "127".equals(bound);
            case "unsignedLong" -> "18446744073709551615".equals(bound);
            case "unsignedInt" -> "4294967295".equals(bound);
            case "unsignedShort" -> "65535".equals(bound);
            case "unsignedByte" -> "255".equals(bound);
            default -> false;
        };
    }

    static boolean hasDefaultBounds(SimpleType type) {
        String low = type.minInclusive().orElse(null);
        String high = type.maxInclusive().orElse(null);
        return switch (type.builtIn()) {
            case "long" -> "-9223372036854775808".equals(low) && "9223372036854775807".equals(high);
            case "int" -> "-2147483648".equals(low) && "2147483647".equals(high);
            case "short" -> "-32768".equals(low) && "32767".equals(high);
            case "byte" -> "-128".equals(low) && "127".equals(high);
            case "unsignedLong" -> "0".equals(low) && "18446744073709551615".equals(high);
            case "unsignedInt" -> "0".equals(low) && "4294967295".equals(high);
            case "unsignedShort" -> "0".equals(low) && "65535".equals(high);
            case "unsignedByte" -> "0".equals(low) && "255".equals(high);
            case "nonNegativeInteger" -> "0".equals(low) && high == null;
            case "positiveInteger" -> "1".equals(low) && high == null;
            case "nonPositiveInteger" -> "0".equals(high) && low == null;
            case "negativeInteger" -> "-1".equals(high) && low == null;
            default ->
                low == null
                        && high == null
                        && type.minExclusive().isEmpty()
                        && type.maxExclusive().isEmpty();
        };
    }
}
