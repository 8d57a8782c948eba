package dev.mockbell.expression;

import dev.mockbell.expression.Braces.Piece;
import java.util.ArrayList;
import java.util.List;

/**
 * Takes XML with expressions apart without parsing it, so that what was written is what is sent. Comments and processing
 * instructions hold no expressions; elsewhere an expression is read with its references resolved, and its value is
 * escaped for the place where it stands.
 */
final class XmlBraces {
    private final String source;
    private final List<Piece> pieces = new ArrayList<>();
    private final StringBuilder literal = new StringBuilder();
    private boolean inTag;
    private char quote;

    private final boolean instructed;

    private XmlBraces(String source, boolean instructed) {
        this.source = source;
        this.instructed = instructed;
    }

    /** @param instructed whether the instructions of a template count */
    static Braces parse(String source, boolean instructed) {
        boolean plain = source.indexOf('{') < 0 && source.indexOf('}') < 0;
        if (plain && !(instructed && source.contains("<?"))) {
            return new Braces(source, source.isEmpty() ? List.of() : List.of(new Piece.Literal(source)));
        }
        XmlBraces parsing = new XmlBraces(source, instructed);
        parsing.run();
        return new Braces(source, List.copyOf(parsing.pieces));
    }

    private void run() {
        int at = 0;
        while (at < source.length()) {
            int special = special(at);
            part(at, special, Escaping.CONTENT);
            if (special >= source.length()) {
                break;
            }
            at = section(special);
        }
        flush();
    }

    /** Where the next comment, processing instruction or CDATA section starts. */
    private int special(int from) {
        for (int i = source.indexOf('<', from); i >= 0; i = source.indexOf('<', i + 1)) {
            if (source.startsWith("<!--", i) || source.startsWith("<?", i) || source.startsWith("<![CDATA[", i)) {
                return i;
            }
        }
        return source.length();
    }

    private int section(int start) {
        boolean cdata = source.startsWith("<![CDATA[", start);
        String close = cdata ? "]]>" : source.startsWith("<?", start) ? "?>" : "-->";
        int found = source.indexOf(close, start + 2);
        int end = found < 0 ? source.length() : found + close.length();
        if (cdata && found >= 0) {
            literal.append("<![CDATA[");
            part(start + 9, found, Escaping.CDATA);
            literal.append(close);
        } else if (!(instructed && close.equals("?>") && found >= 0 && instruction(start, found))) {
            literal.append(source, start, end);
        }
        return end;
    }

    private boolean instruction(int start, int close) {
        String[] parts = source.substring(start + 2, close).strip().split("\\s+", 2);
        if (!Template.INSTRUCTIONS.contains(parts[0])) {
            return false;
        }
        flush();
        pieces.add(new Piece.Instruction(parts[0], parts.length < 2 ? "" : parts[1], start));
        return true;
    }

    private void part(int from, int to, Escaping escaping) {
        String raw = source.substring(from, to);
        int at = 0;
        while (at < raw.length()) {
            char c = raw.charAt(at);
            if (c != '{' && c != '}') {
                if (escaping == Escaping.CONTENT) {
                    passed(c);
                }
                literal.append(c);
                at++;
            } else if (at + 1 < raw.length() && raw.charAt(at + 1) == c) {
                literal.append(c);
                at += 2;
            } else if (c == '}') {
                throw Braces.loneBrace(source, from + at);
            } else {
                boolean within = inTag && escaping == Escaping.CONTENT;
                at = expression(raw, at, from, within ? Escaping.MARKUP : escaping);
            }
        }
    }

    /** Keeps up with whether what follows stands in a tag. */
    private void passed(char c) {
        if (!inTag) {
            inTag = c == '<';
        } else if (quote != 0) {
            quote = c == quote ? 0 : quote;
        } else if (c == '"' || c == '\'') {
            quote = c;
        } else if (c == '>') {
            inTag = false;
        }
    }

    private int expression(String raw, int brace, int from, Escaping escaping) {
        flush();
        // a reference may hide a quote, so the end is looked for in what the parser would hand over
        Decoded decoded = escaping != Escaping.CDATA ? Decoded.of(raw, brace + 1) : Decoded.plain(raw, brace + 1);
        int end = Braces.end(decoded.text(), 0, source, from + brace);
        pieces.add(new Piece.Expression(decoded.text().substring(0, end), from + brace + 1, escaping));
        return decoded.origin(end) + 1;
    }

    private void flush() {
        if (literal.length() > 0) {
            pieces.add(new Piece.Literal(literal.toString()));
            literal.setLength(0);
        }
    }

    /**
     * Text with its references resolved.
     *
     * @param origins where each character of the text stands in the source; null when they follow each other
     */
    private record Decoded(String text, int start, int[] origins) {
        private static final int LONGEST_REFERENCE = 10;

        static Decoded plain(String raw, int from) {
            return new Decoded(raw.substring(from), from, null);
        }

        static Decoded of(String raw, int from) {
            int close = raw.indexOf('}', from);
            int amp = raw.indexOf('&', from);
            if (amp < 0 || close >= 0 && amp > close && raw.indexOf('"', from) < 0 && raw.indexOf('\'', from) < 0) {
                return plain(raw, from);
            }
            StringBuilder text = new StringBuilder();
            int[] origins = new int[raw.length() - from + 1];
            int i = from;
            while (i < raw.length()) {
                origins[text.length()] = i;
                int semicolon = raw.charAt(i) == '&' ? raw.indexOf(';', i) : -1;
                String resolved = semicolon > 0 && semicolon - i <= LONGEST_REFERENCE
                        ? resolve(raw.substring(i + 1, semicolon))
                        : null;
                if (resolved == null) {
                    text.append(raw.charAt(i++));
                } else {
                    text.append(resolved);
                    i = semicolon + 1;
                }
            }
            origins[text.length()] = i;
            return new Decoded(text.toString(), from, origins);
        }

        private static String resolve(String name) {
            return switch (name) {
                case "lt" -> "<";
                case "gt" -> ">";
                case "amp" -> "&";
                case "quot" -> "\"";
                case "apos" -> "'";
                default -> number(name);
            };
        }

        private static String number(String name) {
            try {
                int code = name.startsWith("#x")
                        ? Integer.parseInt(name.substring(2), 16)
                        : name.startsWith("#") ? Integer.parseInt(name.substring(1)) : -1;
                return Character.isBmpCodePoint(code) ? String.valueOf((char) code) : null;
            } catch (NumberFormatException noReference) {
                return null;
            }
        }

        int origin(int index) {
            return origins == null ? start + index : origins[index];
        }
    }
}
