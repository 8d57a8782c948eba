package dev.mockbell.message;

import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import java.util.function.IntPredicate;
import java.util.regex.Pattern;
import java.util.regex.PatternSyntaxException;

/** Strings that match a regular expression of XML Schema (part 2 appendix F). */
final class PatternSamples {
    private static final String PREFERRED = "A1a0bBcC23456789 -._/:@+,%#&=!?*()";
    private static final int MOST = 100_000;

    private sealed interface Node {}

    private record Letter(IntPredicate accepts) implements Node {}

    private record Sequence(List<Node> parts) implements Node {}

    private record Choice(List<Node> branches) implements Node {}

    private record Repeat(Node part, int min, int max) implements Node {}

    private final String source;
    private int at;

    private PatternSamples(String source) {
        this.source = source;
    }

    /** Candidates between the lengths where that can be had, best first; none when the expression cannot be read. */
    static List<String> of(String pattern, int least, int most) {
        Node root;
        try {
            root = new PatternSamples(pattern).choice();
        } catch (RuntimeException unreadable) {
            return List.of();
        }
        Set<String> found = new LinkedHashSet<>();
        int shortest = length(root);
        for (int extra : new int[] {Math.max(0, least - shortest), 0, 1, 2, 3, 5, 8}) {
            for (int branch = 0; branch < 4; branch++) {
                StringBuilder out = new StringBuilder();
                write(root, out, new int[] {Math.min(extra, MOST)}, branch);
                if (out.length() <= most) {
                    found.add(out.toString());
                }
            }
        }
        return new ArrayList<>(found);
    }

    private static int length(Node node) {
        if (node instanceof Letter) {
            return 1;
        }
        if (node instanceof Sequence s) {
            return s.parts().stream().mapToInt(PatternSamples::length).sum();
        }
        if (node instanceof Choice c) {
            return c.branches().stream().mapToInt(PatternSamples::length).min().orElse(0);
        }
        Repeat r = (Repeat) node;
        return Math.min(MOST, r.min()) * length(r.part());
    }

    private static void write(Node node, StringBuilder out, int[] extra, int branch) {
        if (node instanceof Letter letter) {
            out.append(Character.toChars(first(letter.accepts())));
        } else if (node instanceof Sequence s) {
            s.parts().forEach(p -> write(p, out, extra, branch));
        } else if (node instanceof Choice c) {
            int index = branch == 0 ? shortest(c) : (branch - 1) % c.branches().size();
            write(c.branches().get(index), out, extra, branch);
        } else if (node instanceof Repeat r) {
            int times = Math.min(r.min(), MOST);
            int unit = Math.max(1, length(r.part()));
            while (extra[0] >= unit && (r.max() < 0 || times < r.max()) && times < MOST) {
                extra[0] -= unit;
                times++;
            }
            for (int i = 0; i < times; i++) {
                write(r.part(), out, extra, branch);
            }
        }
    }

    private static int shortest(Choice c) {
        int best = 0;
        for (int i = 1; i < c.branches().size(); i++) {
            if (length(c.branches().get(i)) < length(c.branches().get(best))) {
                best = i;
            }
        }
        return best;
    }

    private static int first(IntPredicate accepts) {
        for (int i = 0; i < PREFERRED.length(); i++) {
            if (accepts.test(PREFERRED.charAt(i))) {
                return PREFERRED.charAt(i);
            }
        }
        for (int c = 0x21; c < 0xD800; c++) {
            if (accepts.test(c)) {
                return c;
            }
        }
        return accepts.test('\t') ? '\t' : ' ';
    }

    private Node choice() {
        List<Node> branches = new ArrayList<>();
        branches.add(sequence());
        while (at < source.length() && source.charAt(at) == '|') {
            at++;
            branches.add(sequence());
        }
        return branches.size() == 1 ? branches.get(0) : new Choice(branches);
    }

    private Node sequence() {
        List<Node> parts = new ArrayList<>();
        while (at < source.length() && source.charAt(at) != '|' && source.charAt(at) != ')') {
            parts.add(quantified(atom()));
        }
        return new Sequence(parts);
    }

    private Node quantified(Node part) {
        if (at >= source.length()) {
            return part;
        }
        switch (source.charAt(at)) {
            case '?' -> {
                at++;
                return new Repeat(part, 0, 1);
            }
            case '*' -> {
                at++;
                return new Repeat(part, 0, -1);
            }
            case '+' -> {
                at++;
                return new Repeat(part, 1, -1);
            }
            case '{' -> {
                int end = source.indexOf('}', at);
                String[] bounds = source.substring(at + 1, end).split(",", -1);
                at = end + 1;
                int min = Integer.parseInt(bounds[0]);
                int max = bounds.length == 1 ? min : bounds[1].isEmpty() ? -1 : Integer.parseInt(bounds[1]);
                return new Repeat(part, min, max);
            }
            default -> {
                return part;
            }
        }
    }

    private Node atom() {
        char c = source.charAt(at++);
        switch (c) {
            case '(' -> {
                Node inner = choice();
                at++;
                return inner;
            }
            case '[' -> {
                return new Letter(characterClass());
            }
            case '.' -> {
                return new Letter(x -> x != '\n' && x != '\r');
            }
            case '\\' -> {
                return new Letter(escape());
            }
            default -> {
                int literal = c;
                return new Letter(x -> x == literal);
            }
        }
    }

    private IntPredicate characterClass() {
        boolean negated = source.charAt(at) == '^';
        if (negated) {
            at++;
        }
        IntPredicate accepts = x -> false;
        boolean first = true;
        while (first || source.charAt(at) != ']') {
            first = false;
            if (source.charAt(at) == '-' && at + 1 < source.length() && source.charAt(at + 1) == '[') {
                at += 2;
                IntPredicate minus = characterClass();
                IntPredicate base = negated ? accepts.negate() : accepts;
                at++;
                return base.and(minus.negate());
            }
            accepts = accepts.or(range());
        }
        at++;
        return negated ? accepts.negate() : accepts;
    }

    private IntPredicate range() {
        char c = source.charAt(at++);
        if (c == '\\') {
            int single = singleEscape(source.charAt(at));
            if (single < 0) {
                return escape();
            }
            at++;
            return upTo(single);
        }
        return upTo(c);
    }

    private IntPredicate upTo(int from) {
        boolean ranged = at + 1 < source.length()
                && source.charAt(at) == '-'
                && source.charAt(at + 1) != ']'
                && source.charAt(at + 1) != '[';
        if (!ranged) {
            return x -> x == from;
        }
        at++;
        int to = source.charAt(at++);
        if (to == '\\') {
            to = singleEscape(source.charAt(at++));
        }
        int last = to;
        return x -> x >= from && x <= last;
    }

    private static int singleEscape(char c) {
        return switch (c) {
            case 'n' -> '\n';
            case 'r' -> '\r';
            case 't' -> '\t';
            default -> "\\|.?*+(){}-[]^$".indexOf(c) >= 0 ? c : -1;
        };
    }

    private IntPredicate escape() {
        char c = source.charAt(at++);
        int single = singleEscape(c);
        if (single >= 0) {
            return x -> x == single;
        }
        return switch (c) {
            case 'd' -> Character::isDigit;
            case 'D' -> x -> !Character.isDigit(x);
            case 's' -> x -> x == ' ' || x == '\t' || x == '\n' || x == '\r';
            case 'S' -> x -> x != ' ' && x != '\t' && x != '\n' && x != '\r';
            case 'w' -> Character::isLetterOrDigit;
            case 'W' -> x -> !Character.isLetterOrDigit(x);
            case 'i' -> x -> Character.isLetter(x) || x == '_' || x == ':';
            case 'I' -> x -> !(Character.isLetter(x) || x == '_' || x == ':');
            case 'c' -> x -> Character.isLetterOrDigit(x) || "_:-.".indexOf(x) >= 0;
            case 'C' -> x -> !(Character.isLetterOrDigit(x) || "_:-.".indexOf(x) >= 0);
            case 'p', 'P' -> category(c == 'P');
            default -> x -> x == c;
        };
    }

    private IntPredicate category(boolean negated) {
        int end = source.indexOf('}', at);
        String name = source.substring(at + 1, end);
        at = end + 1;
        String java = name.startsWith("Is") ? "In" + name.substring(2) : name;
        try {
            Pattern pattern = Pattern.compile("\\p{" + java + "}");
            IntPredicate accepts =
                    x -> pattern.matcher(new String(Character.toChars(x))).matches();
            return negated ? accepts.negate() : accepts;
        } catch (PatternSyntaxException unknownBlock) {
            return x -> true;
        }
    }
}
