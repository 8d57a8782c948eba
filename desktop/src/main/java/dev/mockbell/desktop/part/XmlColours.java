package dev.mockbell.desktop.part;

import java.util.Collection;
import java.util.Collections;
import java.util.List;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.fxmisc.richtext.model.StyleSpans;
import org.fxmisc.richtext.model.StyleSpansBuilder;

/** The colours of a stretch of XML, HTTP heads included. */
final class XmlColours {
    // a name is tried once, from its first letter: a long word of a value would else cost the square of its length
    private static final Pattern PIECES = Pattern.compile(
            "(?<comment><!--.*?(?:-->|\\z))"
                    + "|(?<cdata><!\\[CDATA\\[.*?(?:\\]\\]>|\\z))"
                    + "|(?<expression>\\{[^{}<>]*\\})"
                    + "|(?<tag></?[A-Za-z_][\\w:.-]*|/?>|<\\?[^>]*\\?>)"
                    + "|(?<attribute>(?<![\\w:.-])[A-Za-z_][\\w:.-]*+(?==[\"']))"
                    + "|(?<value>\"[^\"<]*\"|'[^'<]*')"
                    + "|(?<head>\\A(?:[A-Z]+ [^\\n]*HTTP/1\\.[01]|HTTP/1[^\\n]*)(?:\\r?\\n[^\\n]+)*)",
            Pattern.DOTALL);
    private static final List<String> NAMES =
            List.of("comment", "cdata", "expression", "tag", "attribute", "value", "head");

    private XmlColours() {}

    /** The spans of the text from an offset on; what is before it is looked at but not styled. */
    static StyleSpans<Collection<String>> of(String text, int from) {
        StyleSpansBuilder<Collection<String>> spans = new StyleSpansBuilder<>();
        Matcher matcher = PIECES.matcher(text);
        int last = from;
        while (matcher.find()) {
            if (matcher.end() <= from) {
                continue;
            }
            String style = style(matcher);
            int start = Math.max(from, matcher.start());
            spans.add(Collections.emptyList(), start - last);
            spans.add(List.of(style), matcher.end() - start);
            last = matcher.end();
        }
        spans.add(Collections.emptyList(), text.length() - last);
        return spans.create();
    }

    private static String style(Matcher matcher) {
        for (String name : NAMES) {
            if (matcher.group(name) != null) {
                return "tag".equals(name) ? "tag-name" : "cdata".equals(name) ? "comment" : name;
            }
        }
        return "tag-name";
    }
}
