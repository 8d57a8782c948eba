package dev.mockbell.mock;

import dev.mockbell.expression.Expressions;
import dev.mockbell.expression.Expressions.Compiled;
import dev.mockbell.problem.Problem;
import java.util.ArrayList;
import java.util.List;

/** Says which parts of a condition a request does not meet, and what it has instead. */
final class Differences {
    private static final int LONGEST = 60;

    /** Those of two characters before those of one that they start with. */
    private static final List<String> COMPARES =
            List.of("!=", "<=", ">=", "=", "<", ">", " eq ", " ne ", " lt ", " le ", " gt ", " ge ");

    private final Ground ground;
    private final RequestValues values;

    Differences(Ground ground, RequestValues values) {
        this.ground = ground;
        this.values = values;
    }

    /**
     * How near a request came to a condition.
     *
     * @param met how many of its parts, joined by “and”, hold
     * @param parts how many there are
     * @param words what does not hold, a clause for each
     */
    record Near(int met, int parts, List<String> words) {
        double share() {
            return parts == 0 ? 0 : (double) met / parts;
        }
    }

    Near of(String condition) {
        List<String> parts = split(condition, " and ");
        List<String> words = new ArrayList<>();
        int met = 0;
        for (String part : parts) {
            try {
                if (compiled(part).holds(values.all(), values.context(), values.effort())) {
                    met++;
                } else {
                    words.add(words(part));
                }
            } catch (Problem problem) {
                words.add(problem.getMessage());
            }
        }
        return new Near(met, parts.size(), words);
    }

    private Compiled compiled(String xpath) {
        return ground.expressions().compiled(xpath, ground.names(), ground.scope());
    }

    private String words(String part) {
        for (String compare : COMPARES) {
            List<String> sides = split(part, compare);
            if (sides.size() == 2) {
                try {
                    String left = text(sides.get(0));
                    return sides.get(0) + " is " + (left.isEmpty() ? "not there" : "“" + left + "”") + ", not "
                            + compare.strip() + " " + sides.get(1);
                } catch (Problem noSide) {
                    return part + " does not hold";
                }
            }
        }
        return part + " does not hold";
    }

    private String text(String side) {
        String text = Expressions.text(compiled(side).value(values.all(), values.context(), values.effort()))
                .strip();
        return text.length() > LONGEST ? text.substring(0, LONGEST) + "…" : text;
    }

    /** Taken apart where the separator stands outside of brackets, texts and comments. */
    static List<String> split(String xpath, String by) {
        List<String> parts = new ArrayList<>();
        int depth = 0;
        int from = 0;
        char quote = 0;
        for (int i = 0; i < xpath.length(); i++) {
            char c = xpath.charAt(i);
            if (quote != 0) {
                quote = c == quote ? 0 : quote;
            } else if (c == '"' || c == '\'') {
                quote = c;
            } else if (c == '(' || c == '[' || c == '{') {
                depth++;
            } else if (c == ')' || c == ']' || c == '}') {
                depth--;
            } else if (depth == 0 && xpath.startsWith(by, i)) {
                parts.add(xpath.substring(from, i).strip());
                from = i + by.length();
                i = from - 1;
            }
        }
        parts.add(xpath.substring(from).strip());
        return parts;
    }
}
