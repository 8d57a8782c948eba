package dev.mockbell.sample;

import dev.mockbell.schema.SimpleType;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;

/** Other ways of writing numbers and times, for types whose pattern asks for a certain form. */
final class PaddedNumbers {
    private static final int WIDEST = 20;
    private static final int MOST_FRACTION = 6;

    private PaddedNumbers() {}

    /** @param plain values of the type as they are usually written */
    static List<String> of(SimpleType type, List<String> plain) {
        String primitive = type.primitive();
        if ("decimal".equals(primitive)) {
            return numbers(plain);
        }
        return Set.of("dateTime", "time", "date").contains(primitive) ? times(plain) : List.of();
    }

    private static List<String> numbers(List<String> plain) {
        List<String> found = new ArrayList<>();
        for (String number : plain.subList(0, Math.min(12, plain.size()))) {
            boolean negative = number.startsWith("-");
            String digits = negative ? number.substring(1) : number;
            String whole = digits.contains(".") ? digits.substring(0, digits.indexOf('.')) : digits;
            String fraction = digits.contains(".") ? digits.substring(digits.indexOf('.') + 1) : "";
            for (int width = whole.length(); width <= WIDEST; width++) {
                String padded = (negative ? "-" : "") + "0".repeat(width - whole.length()) + whole;
                found.add(fraction.isEmpty() ? padded : padded + "." + fraction);
                for (int more = Math.max(1, fraction.length()); more <= MOST_FRACTION; more++) {
                    found.add(padded + "." + fraction + "0".repeat(more - fraction.length()));
                }
                found.add("+" + padded);
            }
        }
        return found;
    }

    private static List<String> times(List<String> plain) {
        List<String> found = new ArrayList<>();
        for (String time : plain) {
            String bare = time.replaceAll("(Z|[+-]\\d\\d:\\d\\d)$", "").replaceAll("\\.\\d+$", "");
            for (String zone : List.of("Z", "", "+01:00", "-05:00", "+00:00")) {
                found.add(bare + zone);
                for (int digits : new int[] {3, 6, 7, 1, 2, 9}) {
                    if (bare.contains(":")) {
                        found.add(bare + "." + "0".repeat(digits) + zone);
                    }
                }
            }
        }
        return found;
    }
}
