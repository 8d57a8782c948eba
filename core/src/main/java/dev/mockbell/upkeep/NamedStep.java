package dev.mockbell.upkeep;

import java.util.function.UnaryOperator;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * Finds the steps of an XPath that name an element or attribute of a message, and gives them another name.
 *
 * @param name the local name
 * @param parent the local name of the element that it stands in; empty when that is the root or not known
 * @param pattern finds the name
 */
record NamedStep(String name, String parent, Pattern pattern) {
    private static final Pattern LAST = Pattern.compile("([\\p{L}_][\\p{L}\\p{N}_.-]*)$");

    /** That of the end of a path such as {@code party/guest/@age}. */
    static NamedStep of(String path) {
        String[] steps = path.replaceAll("\\([^)]*\\)/?", "").replace("@", "").split("/");
        String name = steps[steps.length - 1];
        String parent = steps.length > 1 ? steps[steps.length - 2] : "";
        return new NamedStep(
                name,
                parent,
                Pattern.compile("(?<![\\p{L}\\p{N}_.$-])" + Pattern.quote(name) + "(?![\\p{L}\\p{N}_.(:-])"));
    }

    /** Whether an expression names it. */
    boolean isIn(String xpath) {
        return !renaming(name + "0").apply(xpath).equals(xpath);
    }

    /** Gives the steps another name, and leaves all else, also what stands in quotation marks. */
    UnaryOperator<String> renaming(String other) {
        return xpath -> {
            StringBuilder out = new StringBuilder();
            Matcher matcher = pattern.matcher(xpath);
            int from = 0;
            while (matcher.find()) {
                if (!isQuoted(xpath, matcher.start()) && isBelow(xpath, matcher.start())) {
                    out.append(xpath, from, matcher.start()).append(other);
                    from = matcher.end();
                }
            }
            return out.append(xpath, from, xpath.length()).toString();
        };
    }

    private static boolean isQuoted(String xpath, int at) {
        char quote = 0;
        for (int i = 0; i < at; i++) {
            char c = xpath.charAt(i);
            if (quote == 0 && (c == '\'' || c == '"')) {
                quote = c;
            } else if (c == quote) {
                quote = 0;
            }
        }
        return quote != 0;
    }

    /** Whether the step before, where there is one, is the parent or could be. */
    private boolean isBelow(String xpath, int at) {
        if (parent.isEmpty()) {
            return true;
        }
        int i = at;
        if (i > 0 && xpath.charAt(i - 1) == '@') {
            i--;
        }
        // a prefix of the name itself
        if (i > 0 && xpath.charAt(i - 1) == ':') {
            i--;
            while (i > 0
                    && (Character.isLetterOrDigit(xpath.charAt(i - 1)) || "*_.-".indexOf(xpath.charAt(i - 1)) >= 0)) {
                i--;
            }
        }
        if (i == 0 || xpath.charAt(i - 1) != '/' || i > 1 && xpath.charAt(i - 2) == '/') {
            return true;
        }
        Matcher last = LAST.matcher(withoutPredicates(xpath.substring(0, i - 1)));
        return !last.find() || last.group(1).equals(parent);
    }

    private static String withoutPredicates(String path) {
        String left = path;
        for (int i = 0; left.endsWith("]") && i < 50; i++) {
            int depth = 0;
            int at = left.length() - 1;
            for (; at >= 0; at--) {
                depth += left.charAt(at) == ']' ? 1 : left.charAt(at) == '[' ? -1 : 0;
                if (depth == 0) {
                    break;
                }
            }
            left = left.substring(0, Math.max(0, at));
        }
        return left;
    }
}
