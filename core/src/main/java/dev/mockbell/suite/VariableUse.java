package dev.mockbell.suite;

import dev.mockbell.check.Capture;
import dev.mockbell.check.Check;
import dev.mockbell.content.Header;
import java.util.ArrayList;
import java.util.List;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** Where a case or a suite uses a variable, and how it is called by another name there. */
public final class VariableUse {
    private VariableUse() {}

    private static Pattern of(String variable) {
        return Pattern.compile("\\$" + Pattern.quote(variable) + "(?![\\p{L}\\p{N}_.-])");
    }

    /** Whether the request, the checks or the captures of a case use a variable. */
    public static boolean in(Case kept, String variable) {
        return !renamed(kept, variable, variable + "0").equals(kept);
    }

    /** The case with a variable by another name wherever it is used. */
    public static Case renamed(Case kept, String variable, String other) {
        Pattern pattern = of(variable);
        String by = Matcher.quoteReplacement("$" + other);
        List<Header> headers = kept.headers().stream()
                .map(h -> new Header(h.name(), within(h.value(), pattern, by)))
                .toList();
        List<Check> checks = written(pattern, by).checks(kept.checks());
        List<Capture> captures = new ArrayList<>();
        for (Capture c : kept.captures()) {
            captures.add(new Capture(c.name(), pattern.matcher(c.path()).replaceAll(by), c.takes(), c.fromRequest()));
        }
        return kept.withBody(within(kept.body(), pattern, by))
                .withSoapHeaders(within(kept.soapHeaders(), pattern, by))
                .withHeaders(headers)
                .withChecks(checks)
                .withCaptures(captures);
    }

    /** Whether the conditions, the values or the tables of a suite's steps use a variable. */
    public static boolean in(Suite suite, String variable) {
        return !renamed(suite, variable, variable + "0").equals(suite);
    }

    /** The suite with a variable by another name wherever its steps use it. */
    public static Suite renamed(Suite suite, String variable, String other) {
        return written(of(variable), Matcher.quoteReplacement("$" + other)).suite(suite);
    }

    private static WrittenExpressions written(Pattern pattern, String by) {
        return new WrittenExpressions(x -> pattern.matcher(x).replaceAll(by), t -> within(t, pattern, by));
    }

    /** In the expressions of a text alone: what stands outside braces means itself. */
    private static String within(String text, Pattern pattern, String by) {
        if (text.indexOf('{') < 0 || !pattern.matcher(text).find()) {
            return text;
        }
        StringBuilder out = new StringBuilder();
        int depth = 0;
        int from = 0;
        for (int i = 0; i < text.length(); i++) {
            char c = text.charAt(i);
            boolean doubled = depth == 0 && i + 1 < text.length() && text.charAt(i + 1) == c;
            if (doubled && (c == '{' || c == '}')) {
                i++;
            } else if (c == '{' && depth++ == 0) {
                out.append(text, from, i);
                from = i;
            } else if (c == '}' && depth > 0 && --depth == 0) {
                out.append(pattern.matcher(text.substring(from, i)).replaceAll(by));
                from = i;
            }
        }
        return out.append(text, from, text.length()).toString();
    }
}
