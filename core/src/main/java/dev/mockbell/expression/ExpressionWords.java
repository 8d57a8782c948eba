package dev.mockbell.expression;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;

/** What can be written in an expression that is being typed: variables, secrets, functions. */
public final class ExpressionWords {
    private static final List<String> USUAL = List.of(
            "current-date()",
            "current-dateTime()",
            "current-time()",
            "concat(",
            "substring(",
            "string-length(",
            "upper-case(",
            "lower-case(",
            "normalize-space(",
            "format-date(",
            "format-number(",
            "round(",
            "sum(",
            "count(",
            "xs:dayTimeDuration('P1D')");

    private ExpressionWords() {}

    /**
     * The words that go on with what stands before the caret.
     *
     * @param from offset of the part that a word replaces
     */
    public record At(int from, List<String> words) {}

    /** Empty words when the caret is not within braces or nothing fits. */
    public static At at(String text, int caret, Scope scope) {
        int open = openBrace(text, caret);
        if (open < 0) {
            return new At(caret, List.of());
        }
        int from = caret;
        while (from > open + 1 && isWord(text.charAt(from - 1))) {
            from--;
        }
        String part = text.substring(from, caret).toLowerCase(Locale.ROOT);
        List<String> all = new ArrayList<>();
        scope.variables().keySet().stream().sorted().forEach(v -> all.add("$" + v));
        FunctionDoc.ALL.forEach(f -> all.add(f.signature().replaceFirst("\\(.+\\)$", "(")));
        all.addAll(USUAL);
        List<String> found = all.stream()
                .filter(w -> w.toLowerCase(Locale.ROOT).startsWith(part)
                        || !part.isEmpty() && w.toLowerCase(Locale.ROOT).contains(":" + part))
                .filter(w -> !w.equalsIgnoreCase(part))
                .toList();
        return new At(from, found);
    }

    /** As {@link #at}, in XML: of the text or the tag that the caret is in. */
    public static At inXml(String xml, int caret, Scope scope) {
        int tag = xml.lastIndexOf('<', caret - 1);
        int end = tag < 0 ? -1 : xml.indexOf('>', tag);
        int start = tag < 0 ? 0 : end >= 0 && end < caret ? end + 1 : tag;
        At within = at(xml.substring(start, caret), caret - start, scope);
        return new At(start + within.from(), within.words());
    }

    private static int openBrace(String text, int caret) {
        int open = -1;
        for (int i = 0; i < caret; i++) {
            char c = text.charAt(i);
            boolean doubled = i + 1 < text.length() && text.charAt(i + 1) == c;
            if (c == '{' && open < 0) {
                if (doubled && i + 1 < caret) {
                    i++;
                } else {
                    open = i;
                }
            } else if (c == '}' && open >= 0) {
                open = -1;
            }
        }
        return open;
    }

    private static boolean isWord(char c) {
        return Character.isLetterOrDigit(c) || c == '$' || c == ':' || c == '-' || c == '_' || c == '.';
    }
}
