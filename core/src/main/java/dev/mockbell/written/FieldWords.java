package dev.mockbell.written;

import dev.mockbell.schema.Occurs;
import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Consumer;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/**
 * What the words of a field mean in XML Schema.
 *
 * @param base the built-in type, {@code xs:int}; empty for a group or another's type
 * @param named the type of a group that is written elsewhere; empty for none
 * @param facets the facets as elements, {@code <xs:maxLength value="200"/>}
 * @param media the media types that its bytes may be; empty where they stay in the message
 */
record FieldWords(
        String base,
        String named,
        boolean group,
        Occurs occurs,
        boolean nil,
        List<String> facets,
        Optional<String> media) {
    /** The words for types that the table offers, with what they are. */
    static final Map<String, String> TYPES = types();

    private static final Set<String> NUMBERS = Set.of(
            "decimal",
            "float",
            "double",
            "integer",
            "nonPositiveInteger",
            "negativeInteger",
            "long",
            "int",
            "short",
            "byte",
            "nonNegativeInteger",
            "unsignedLong",
            "unsignedInt",
            "unsignedShort",
            "unsignedByte",
            "positiveInteger");
    private static final Set<String> BUILT_IN = with(
            NUMBERS,
            "string",
            "boolean",
            "duration",
            "dateTime",
            "time",
            "date",
            "gYearMonth",
            "gYear",
            "gMonthDay",
            "gDay",
            "gMonth",
            "hexBinary",
            "base64Binary",
            "anyURI",
            "QName",
            "normalizedString",
            "token",
            "language",
            "NMTOKEN",
            "Name",
            "NCName",
            "ID",
            "IDREF");
    private static final Set<String> MOMENTS = Set.of("date", "time", "dateTime", "gYear", "gYearMonth", "duration");
    private static final Set<String> BYTES = Set.of("base64Binary", "hexBinary");
    private static final Pattern TIMES =
            Pattern.compile("(\\d{1,9})\\s*(?:to|\\.\\.|-|–)\\s*(\\d{1,9}|n|\\*)(?: times)?");
    private static final Pattern BETWEEN = Pattern.compile("(\\S+)\\s+to\\s+(\\S+?)(?: long)?");
    private static final BigDecimal INT = BigDecimal.valueOf(Integer.MAX_VALUE);
    private static final BigDecimal LONG = BigDecimal.valueOf(Long.MAX_VALUE);

    private static Set<String> with(Set<String> some, String... more) {
        return Stream.concat(some.stream(), Stream.of(more)).collect(Collectors.toUnmodifiableSet());
    }

    private static Map<String, String> types() {
        Map<String, String> all = new LinkedHashMap<>();
        all.put("text", "string");
        all.put("whole number", "int");
        all.put("number", "decimal");
        all.put("money", "decimal");
        all.put("yes or no", "boolean");
        all.put("date", "date");
        all.put("time", "time");
        all.put("date and time", "dateTime");
        all.put("bytes", "base64Binary");
        all.put("address", "anyURI");
        all.put("one of", "string");
        all.put("group", "");
        return all;
    }

    /** Words that other tables use for the same. */
    private static final Map<String, String> LIKE = Map.ofEntries(
            Map.entry("", "text"),
            Map.entry("string", "text"),
            Map.entry("char", "text"),
            Map.entry("varchar", "text"),
            Map.entry("number (whole)", "whole number"),
            Map.entry("integer", "whole number"),
            Map.entry("numeric", "number"),
            Map.entry("amount", "money"),
            Map.entry("bool", "yes or no"),
            Map.entry("boolean", "yes or no"),
            Map.entry("flag", "yes or no"),
            Map.entry("datetime", "date and time"),
            Map.entry("timestamp", "date and time"),
            Map.entry("binary", "bytes"),
            Map.entry("base64", "bytes"),
            Map.entry("file", "bytes"),
            Map.entry("uri", "address"),
            Map.entry("url", "address"),
            Map.entry("enum", "one of"),
            Map.entry("enumeration", "one of"),
            Map.entry("object", "group"),
            Map.entry("complex", "group"));

    /**
     * Reads a field's words.
     *
     * @param groups the names of types that groups of the table have
     * @param flaw hears what cannot be so
     */
    static FieldWords of(WrittenField field, Set<String> groups, Consumer<String> flaw) {
        String often = field.often().strip().toLowerCase(Locale.ROOT);
        boolean nil = often.matches(".*\\b(may be nil|nillable|nil)\\b.*");
        Occurs occurs = occurs(
                often.replaceAll("[,;]?\\s*\\b(may be nil|nillable|nil)\\b", "").strip(), flaw);
        String type = field.type().strip();
        String word = LIKE.getOrDefault(type.toLowerCase(Locale.ROOT), type.toLowerCase(Locale.ROOT));
        boolean inside = !field.inner().isEmpty();
        if (inside && type.isEmpty() || "group".equals(word)) {
            none(field.limits(), "A group has no limits of its own", flaw);
            return new FieldWords("", "", true, occurs, nil, List.of(), Optional.empty());
        }
        if (inside) {
            flaw.accept("It has fields in it, so its type is group, not “" + type + "”.");
            return new FieldWords("", "", true, occurs, nil, List.of(), Optional.empty());
        }
        if (groups.contains(type)) {
            none(field.limits(), "A group has no limits of its own", flaw);
            return new FieldWords("", type, false, occurs, nil, List.of(), Optional.empty());
        }
        String base = base(type, word, field.limits());
        if (base == null) {
            flaw.accept("“" + type + "” is no type. Write " + String.join(", ", TYPES.keySet())
                    + ", a type of XML Schema such as xs:long, or the name of a group.");
            base = "string";
        }
        Limits limits = new Limits(base, word, flaw);
        limits.read(field.limits());
        return new FieldWords("xs:" + limits.base, "", false, occurs, nil, List.copyOf(limits.facets), limits.media);
    }

    private static void none(String limits, String why, Consumer<String> flaw) {
        if (!limits.isBlank()) {
            flaw.accept(why + ": “" + limits.strip() + "”.");
        }
    }

    private static String base(String type, String word, String limits) {
        if (TYPES.containsKey(word)) {
            return TYPES.get(word);
        }
        String local = type.replaceFirst("^(xs|xsd):", "");
        return BUILT_IN.contains(local) ? local : null;
    }

    private static Occurs occurs(String words, Consumer<String> flaw) {
        switch (words) {
            case "", "once", "required", "mandatory", "1", "m", "yes", "y", "must" -> {
                return Occurs.ONCE;
            }
            case "may be left out", "optional", "o", "no", "n", "0..1", "can" -> {
                return new Occurs(0, 1);
            }
            case "any number", "any number of times", "0..n", "0..*", "*", "many" -> {
                return new Occurs(0, Occurs.UNBOUNDED);
            }
            case "once or more", "1..n", "1..*", "+" -> {
                return new Occurs(1, Occurs.UNBOUNDED);
            }
            default -> {
                // a range, or a number of times
            }
        }
        Matcher range = TIMES.matcher(words);
        if (range.matches()) {
            int low = Integer.parseInt(range.group(1));
            int high = range.group(2).matches("\\d+") ? Integer.parseInt(range.group(2)) : Occurs.UNBOUNDED;
            if (high == Occurs.UNBOUNDED || low <= high && high > 0) {
                return new Occurs(low, high);
            }
        }
        Matcher times = Pattern.compile("(\\d{1,9})(?: times)?( or more)?").matcher(words);
        if (times.matches() && Integer.parseInt(times.group(1)) > 0) {
            int count = Integer.parseInt(times.group(1));
            return new Occurs(count, times.group(2) == null ? count : Occurs.UNBOUNDED);
        }
        flaw.accept("How often it is there is not understood: “" + words
                + "”. Write once, may be left out, any number, once or more, or 1 to 20.");
        return Occurs.ONCE;
    }

    /** How often in the table's own words. */
    static String words(Occurs occurs) {
        if (occurs.max() == Occurs.UNBOUNDED) {
            return occurs.min() == 0 ? "any number" : occurs.min() == 1 ? "once or more" : occurs.min() + " or more";
        }
        if (occurs.max() == 1) {
            return occurs.min() == 0 ? "may be left out" : "once";
        }
        return occurs.min() == occurs.max() ? occurs.min() + " times" : occurs.min() + " to " + occurs.max();
    }

    /** Reads limits piece by piece. */
    private static final class Limits {
        private final String word;
        private final Consumer<String> flaw;
        private final List<String> facets = new ArrayList<>();
        private String base;
        private Optional<String> media = Optional.empty();

        Limits(String base, String word, Consumer<String> flaw) {
            this.base = base;
            this.word = word;
            this.flaw = flaw;
        }

        void read(String limits) {
            if ("one of".equals(word)) {
                values(limits);
                return;
            }
            if ("money".equals(word)) {
                facet("fractionDigits", "2");
            }
            for (String piece : limits.split(";|·")) {
                if (!piece.isBlank()) {
                    piece(piece.strip());
                }
            }
        }

        private void values(String limits) {
            List<String> all = Arrays.stream(limits.split("[,;|]"))
                    .map(String::strip)
                    .filter(v -> !v.isEmpty())
                    .distinct()
                    .toList();
            if (all.isEmpty()) {
                flaw.accept("Which ones? Write the values in its limits, with commas between them.");
            }
            all.forEach(v -> facet("enumeration", v));
        }

        private void facet(String name, String value) {
            StringBuilder escaped = new StringBuilder();
            dev.mockbell.xml.Markup.attribute(dev.mockbell.xml.Markup.legal(value), escaped);
            facets.add("<xs:" + name + " value=\"" + escaped + "\"/>");
        }

        private void piece(String piece) {
            boolean known;
            if (NUMBERS.contains(base)) {
                known = number(piece.toLowerCase(Locale.ROOT));
            } else if (MOMENTS.contains(base)) {
                known = moment(piece);
            } else if (BYTES.contains(base)) {
                known = bytes(piece.toLowerCase(Locale.ROOT));
            } else if ("boolean".equals(base)) {
                known = false;
            } else {
                known = length(piece.toLowerCase(Locale.ROOT)) || pattern(piece);
            }
            if (!known) {
                flaw.accept("The limit “" + piece + "” is not understood for this type. Write "
                        + (NUMBERS.contains(base)
                                ? "1 to 14, from 1, up to 14, over 0, under 10 or 2 digits after the point."
                                : MOMENTS.contains(base)
                                        ? "from 2027-01-01, or 2027-01-01 to 2027-12-31."
                                        : BYTES.contains(base)
                                                ? "as an attachment, a media type, or at most 1000."
                                                : "at most 200, 3 to 20, or a pattern."));
            }
        }

        private boolean length(String piece) {
            Matcher most = Pattern.compile("(?:at most|up to|max(?:imum)?) (\\d{1,9})(?: long| characters)?")
                    .matcher(piece);
            Matcher least = Pattern.compile("(?:at least|from|min(?:imum)?) (\\d{1,9})(?: long| characters)?")
                    .matcher(piece);
            Matcher exact = Pattern.compile("(?:length )?(\\d{1,9})(?: long| characters)?")
                    .matcher(piece);
            Matcher both = Pattern.compile("(\\d{1,9}) to (\\d{1,9})(?: long| characters)?")
                    .matcher(piece);
            if (most.matches()) {
                facet("maxLength", most.group(1));
            } else if (least.matches()) {
                facet("minLength", least.group(1));
            } else if (exact.matches()) {
                facet("length", exact.group(1));
            } else if (both.matches()) {
                if (Long.parseLong(both.group(1)) > Long.parseLong(both.group(2))) {
                    flaw.accept("Nothing is " + piece + " long: the first number is the larger one.");
                }
                facet("minLength", both.group(1));
                facet("maxLength", both.group(2));
            } else {
                return false;
            }
            return true;
        }

        private boolean pattern(String piece) {
            if (dev.mockbell.pattern.XsPattern.parse(piece).isEmpty()) {
                return false;
            }
            facet("pattern", piece);
            return true;
        }

        private boolean bytes(String piece) {
            if (piece.matches("as an? attachment|attached")) {
                media = Optional.of("*/*");
                return true;
            }
            if (piece.matches("[a-z]+/[a-z0-9.+*-]+")) {
                media = Optional.of(piece);
                return true;
            }
            return length(piece.replace(" bytes", " long"));
        }

        private boolean number(String piece) {
            Matcher digits =
                    Pattern.compile("(\\d{1,3}) (?:digits? )?after the point").matcher(piece);
            Matcher total = Pattern.compile("(\\d{1,3}) digits?").matcher(piece);
            if (digits.matches()) {
                facet("fractionDigits", digits.group(1));
                return true;
            }
            if (total.matches()) {
                facet("totalDigits", total.group(1));
                return true;
            }
            return bounds(piece, Limits::isNumber);
        }

        private boolean moment(String piece) {
            return bounds(piece, v -> v.matches("-?[0-9P][0-9A-Z:.+-]*"));
        }

        private static boolean isNumber(String text) {
            return text.matches("[+-]?(\\d{1,40}(\\.\\d{0,40})?|\\.\\d{1,40})");
        }

        private boolean bounds(String piece, java.util.function.Predicate<String> isValue) {
            Matcher both = BETWEEN.matcher(piece);
            Matcher one = Pattern.compile("(?i)(from|at least|up to|to|at most|over|under|more than|less than) (\\S+)")
                    .matcher(piece);
            if (both.matches() && isValue.test(both.group(1)) && isValue.test(both.group(2))) {
                if (isNumber(both.group(1))
                        && isNumber(both.group(2))
                        && new BigDecimal(both.group(1)).compareTo(new BigDecimal(both.group(2))) > 0) {
                    flaw.accept("Nothing is " + piece + ": the first number is the larger one.");
                }
                bound("minInclusive", both.group(1));
                bound("maxInclusive", both.group(2));
                return true;
            }
            if (one.matches() && isValue.test(one.group(2))) {
                bound(
                        switch (one.group(1).toLowerCase(Locale.ROOT)) {
                            case "from", "at least" -> "minInclusive";
                            case "over", "more than" -> "minExclusive";
                            case "under", "less than" -> "maxExclusive";
                            default -> "maxInclusive";
                        },
                        one.group(2));
                return true;
            }
            return false;
        }

        private void bound(String facet, String value) {
            if ("int".equals(base) && "whole number".equals(word) && isNumber(value)) {
                BigDecimal size = new BigDecimal(value).abs();
                base = size.compareTo(LONG) > 0 ? "integer" : size.compareTo(INT) > 0 ? "long" : base;
            } else if ("long".equals(base)
                    && "whole number".equals(word)
                    && new BigDecimal(value).abs().compareTo(LONG) > 0) {
                base = "integer";
            }
            facet(facet, value);
        }
    }
}
