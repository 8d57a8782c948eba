package dev.mockbell.pattern;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;

/** An immutable set of code points, kept as sorted ranges that do not touch. */
final class CharSet {
    private static final int LAST = Character.MAX_CODE_POINT;
    static final CharSet NONE = new CharSet(new int[0]);
    static final CharSet ALL = range(0, LAST);
    static final CharSet SPACE = of(' ', '\t', '\n', '\r');

    /** First, last, first, last … both inclusive. */
    private final int[] ranges;

    private CharSet(int[] ranges) {
        this.ranges = ranges;
    }

    static CharSet range(int first, int last) {
        return new CharSet(new int[] {first, last});
    }

    static CharSet of(int... points) {
        CharSet all = NONE;
        for (int point : points) {
            all = all.or(range(point, point));
        }
        return all;
    }

    /** The set of a general category such as {@code L} or {@code Nd}; empty when there is none of that name. */
    static Optional<CharSet> category(String name) {
        return Optional.ofNullable(Categories.BY_NAME.get(name));
    }

    /** The set of a Unicode block by its name without {@code Is} (XML Schema part 2 §F.1.1); empty when unknown. */
    static Optional<CharSet> block(String name) {
        Character.UnicodeBlock block;
        try {
            block = Character.UnicodeBlock.forName(name);
        } catch (IllegalArgumentException e) {
            return Optional.empty();
        }
        int first = -1;
        int last = -1;
        for (int c = 0; c <= LAST; c++) {
            if (block.equals(Character.UnicodeBlock.of(c))) {
                first = first < 0 ? c : first;
                last = c;
            }
        }
        return first < 0 ? Optional.of(NONE) : Optional.of(range(first, last));
    }

    static CharSet digits() {
        return Categories.BY_NAME.get("Nd");
    }

    /** All but punctuation, separators and others ({@code \w}). */
    static CharSet word() {
        return Categories.WORD;
    }

    /** What an XML name may begin with, the colon included ({@code \i}; XML 1.0 §2.3). */
    static CharSet nameStart() {
        return Categories.NAME_START;
    }

    /** What an XML name may go on with ({@code \c}). */
    static CharSet nameChar() {
        return Categories.NAME_CHAR;
    }

    boolean isEmpty() {
        return ranges.length == 0;
    }

    boolean contains(int point) {
        int low = 0;
        int high = ranges.length / 2 - 1;
        while (low <= high) {
            int middle = (low + high) >>> 1;
            if (point < ranges[2 * middle]) {
                high = middle - 1;
            } else if (point > ranges[2 * middle + 1]) {
                low = middle + 1;
            } else {
                return true;
            }
        }
        return false;
    }

    CharSet or(CharSet other) {
        List<int[]> all = new ArrayList<>();
        collect(all);
        other.collect(all);
        all.sort((a, b) -> Integer.compare(a[0], b[0]));
        return merged(all);
    }

    CharSet not() {
        int[] found = new int[ranges.length + 2];
        int size = 0;
        int from = 0;
        for (int i = 0; i < ranges.length; i += 2) {
            if (ranges[i] > from) {
                found[size++] = from;
                found[size++] = ranges[i] - 1;
            }
            from = ranges[i + 1] + 1;
        }
        if (from <= LAST) {
            found[size++] = from;
            found[size++] = LAST;
        }
        return new CharSet(Arrays.copyOf(found, size));
    }

    CharSet and(CharSet other) {
        List<int[]> both = new ArrayList<>();
        int i = 0;
        int j = 0;
        while (i < ranges.length && j < other.ranges.length) {
            int first = Math.max(ranges[i], other.ranges[j]);
            int last = Math.min(ranges[i + 1], other.ranges[j + 1]);
            if (first <= last) {
                both.add(new int[] {first, last});
            }
            if (ranges[i + 1] < other.ranges[j + 1]) {
                i += 2;
            } else {
                j += 2;
            }
        }
        return merged(both);
    }

    CharSet minus(CharSet other) {
        return and(other.not());
    }

    boolean meets(CharSet other) {
        int i = 0;
        int j = 0;
        while (i < ranges.length && j < other.ranges.length) {
            if (Math.max(ranges[i], other.ranges[j]) <= Math.min(ranges[i + 1], other.ranges[j + 1])) {
                return true;
            }
            if (ranges[i + 1] < other.ranges[j + 1]) {
                i += 2;
            } else {
                j += 2;
            }
        }
        return false;
    }

    /** The first points of its ranges, at most {@code most}. */
    List<Integer> firsts(int most) {
        List<Integer> found = new ArrayList<>();
        for (int i = 0; i < ranges.length && found.size() < most; i += 2) {
            found.add(ranges[i]);
        }
        return found;
    }

    private void collect(List<int[]> into) {
        for (int i = 0; i < ranges.length; i += 2) {
            into.add(new int[] {ranges[i], ranges[i + 1]});
        }
    }

    private static CharSet merged(List<int[]> sorted) {
        int[] found = new int[sorted.size() * 2];
        int size = 0;
        for (int[] range : sorted) {
            if (size > 0 && range[0] <= found[size - 1] + 1) {
                found[size - 1] = Math.max(found[size - 1], range[1]);
            } else {
                found[size++] = range[0];
                found[size++] = range[1];
            }
        }
        return new CharSet(Arrays.copyOf(found, size));
    }

    /** The general categories, made in one walk over Unicode when the first is asked for. */
    private static final class Categories {
        private static final String[] CODES = {
            "Cn", "Lu", "Ll", "Lt", "Lm", "Lo", "Mn", "Me", "Mc", "Nd", "Nl", "No", "Zs", "Zl", "Zp", "Cc", "Cf", null,
            "Co", "Cs", "Pd", "Ps", "Pe", "Pc", "Po", "Sm", "Sc", "Sk", "So", "Pi", "Pf"
        };
        static final Map<String, CharSet> BY_NAME = walk();
        static final CharSet WORD =
                BY_NAME.get("P").or(BY_NAME.get("Z")).or(BY_NAME.get("C")).not();
        static final CharSet NAME_START = BY_NAME.get("L").or(BY_NAME.get("Nl")).or(of('_', ':'));
        static final CharSet NAME_CHAR = NAME_START
                .or(BY_NAME.get("Nd"))
                .or(BY_NAME.get("Mc"))
                .or(BY_NAME.get("Mn"))
                .or(BY_NAME.get("Lm"))
                .or(of('.', '-', 0xB7));

        private static Map<String, CharSet> walk() {
            Map<String, List<int[]>> found = new TreeMap<>();
            for (int c = 0; c <= LAST; c++) {
                String code = CODES[Character.getType(c)];
                add(found, code, c);
                add(found, code.substring(0, 1).toUpperCase(Locale.ROOT), c);
            }
            Map<String, CharSet> sets = new TreeMap<>();
            found.forEach((name, ranges) -> sets.put(name, merged(ranges)));
            return Map.copyOf(sets);
        }

        private static void add(Map<String, List<int[]>> found, String name, int point) {
            List<int[]> ranges = found.computeIfAbsent(name, n -> new ArrayList<>());
            int[] last = ranges.isEmpty() ? null : ranges.get(ranges.size() - 1);
            if (last != null && last[1] == point - 1) {
                last[1] = point;
            } else {
                ranges.add(new int[] {point, point});
            }
        }
    }
}
