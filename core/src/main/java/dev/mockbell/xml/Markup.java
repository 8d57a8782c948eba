package dev.mockbell.xml;

import java.util.LinkedHashSet;
import java.util.Set;

/** Text as it is written in markup (XML 1.0 §2.4, §3.3.3). */
public final class Markup {
    private Markup() {}

    /** Appends text as it stands between tags; a carriage return would be read as a line feed otherwise. */
    public static void text(String text, StringBuilder into) {
        write(text, Place.TEXT, into);
    }

    /** Appends text as it stands in an attribute in quotation marks; white space would be read as spaces otherwise. */
    public static void attribute(String text, StringBuilder into) {
        write(text, Place.ATTRIBUTE, into);
    }

    /** A value as it may stand in either, for a place that is not known. */
    public static String anywhere(String value) {
        for (int i = 0; i < value.length(); i++) {
            if (entity(value.charAt(i), Place.EITHER) != null) {
                StringBuilder into = new StringBuilder(value.length() + 16);
                write(value, Place.EITHER, into);
                return into.toString();
            }
        }
        return value;
    }

    /** A text with the replacement character in place of each that markup cannot hold (XML 1.0 §2.2). */
    public static String legal(String text) {
        StringBuilder into = new StringBuilder(text.length());
        text.codePoints()
                .map(c -> c == 9
                                || c == 10
                                || c == 13
                                || c >= 0x20 && c < 0xD800
                                || c > 0xDFFF && c != 0xFFFE && c != 0xFFFF
                        ? c
                        : 0xFFFD)
                .forEach(into::appendCodePoint);
        return into.toString();
    }

    /** The ways in which writers, ours and others', may have put a value into markup; the value itself among them. */
    public static Set<String> forms(String value) {
        Set<String> forms = new LinkedHashSet<>();
        String least = value.replace("&", "&amp;").replace("<", "&lt;");
        String more = least.replace(">", "&gt;");
        String most = more.replace("\"", "&quot;");
        forms.add(value);
        forms.add(least);
        forms.add(more);
        forms.add(least.replace("\"", "&quot;"));
        forms.add(most);
        forms.add(most.replace("'", "&apos;"));
        forms.add(most.replace("'", "&#39;"));
        return forms;
    }

    private enum Place {
        TEXT,
        ATTRIBUTE,
        EITHER
    }

    private static void write(String text, Place place, StringBuilder into) {
        int from = 0;
        for (int i = 0; i < text.length(); i++) {
            char c = text.charAt(i);
            // nearly all of a message is plain, so it is taken over in stretches
            String entity = c > '>' ? null : entity(c, place);
            if (entity != null) {
                into.append(text, from, i).append(entity);
                from = i + 1;
            }
        }
        into.append(text, from, text.length());
    }

    private static String entity(char c, Place place) {
        return switch (c) {
            case '&' -> "&amp;";
            case '<' -> "&lt;";
            case '>' -> "&gt;";
            case '\r' -> "&#13;";
            case '"' -> place == Place.TEXT ? null : "&quot;";
            case '\n' -> place == Place.ATTRIBUTE ? "&#10;" : null;
            case '\t' -> place == Place.ATTRIBUTE ? "&#9;" : null;
            default -> null;
        };
    }
}
