package dev.mockbell.soap;

import java.util.List;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** Puts a payload into an envelope. The payload's text is taken as it is, so that what was written is what is sent. */
public final class Envelope {
    private static final Pattern BODY = Pattern.compile("<([A-Za-z_][\\w.-]*:)?Body(\\s[^>]*)?>");

    private static final Pattern PROLOG = Pattern.compile("\uFEFF?(\\s+|<\\?.*?\\?>|<!--.*?-->)*+", Pattern.DOTALL);
    private static final Pattern ENVELOPE = Pattern.compile("<([A-Za-z_][\\w.-]*:)?Envelope[\\s>]");

    private Envelope() {}

    /**
     * An envelope around a payload.
     *
     * @param payload the body's content, without XML declaration; may be empty. A whole envelope is given back unchanged,
     *     and a SOAP body takes the place of the one that would be made
     * @param headers header blocks as XML; may be empty
     */
    public static String around(SoapVersion version, String payload, List<String> headers) {
        String content = withoutDeclaration(payload);
        if (isEnvelope(content)) {
            return content;
        }
        StringBuilder out = new StringBuilder();
        out.append("<soap:Envelope xmlns:soap=\"").append(version.namespace()).append("\">\n");
        if (!headers.isEmpty()) {
            out.append("  <soap:Header>\n");
            headers.forEach(
                    h -> out.append(indented(withoutDeclaration(h), "    ")).append('\n'));
            out.append("  </soap:Header>\n");
        }
        if (isBody(content, version)) {
            out.append(indented(content, "  ")).append('\n');
        } else if (content.isEmpty()) {
            out.append("  <soap:Body/>\n");
        } else {
            out.append("  <soap:Body>\n");
            out.append(indented(content, "    ")).append('\n');
            out.append("  </soap:Body>\n");
        }
        return out.append("</soap:Envelope>\n").toString();
    }

    private static boolean isBody(String content, SoapVersion version) {
        Matcher start = BODY.matcher(content);
        if (!start.lookingAt()) {
            return false;
        }
        String declaration =
                start.group(1) == null ? "xmlns" : "xmlns:" + start.group(1).replace(":", "");
        return start.group()
                .matches("(?s).*\\s" + Pattern.quote(declaration) + "\\s*=\\s*[\"']"
                        + Pattern.quote(version.namespace()) + "[\"'].*");
    }

    /** Whether the text is an envelope already, whatever stands before it: a declaration, comments, a byte order mark. */
    public static boolean isEnvelope(String text) {
        Matcher prolog = PROLOG.matcher(text);
        int start = prolog.lookingAt() ? prolog.end() : 0;
        return ENVELOPE.matcher(text).region(start, text.length()).lookingAt();
    }

    private static String withoutDeclaration(String xml) {
        String text = (xml.startsWith("\uFEFF") ? xml.substring(1) : xml).strip();
        return text.startsWith("<?xml") ? text.substring(text.indexOf("?>") + 2).strip() : text;
    }

    /** Shifts only text whose white space cannot matter: each line starts with markup. */
    private static String indented(String xml, String by) {
        String[] lines = xml.split("\n", -1);
        for (int i = 1; i < lines.length; i++) {
            if (!lines[i].stripLeading().startsWith("<")) {
                return by + xml;
            }
        }
        return by + String.join("\n" + by, lines);
    }
}
