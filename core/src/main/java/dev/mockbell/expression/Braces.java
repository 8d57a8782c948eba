package dev.mockbell.expression;

import dev.mockbell.problem.Problem;
import java.util.ArrayList;
import java.util.List;

/**
 * Text with expressions in braces, as in the text value templates of XSLT 3.0 (§5.6.2): {@code {$nights + 1}} is an XPath
 * expression, doubled braces stand for themselves. Braces within the expression's string literals and comments do not
 * end it.
 */
public record Braces(String source, List<Piece> pieces) {
    /** A stretch of the text. */
    public sealed interface Piece {
        /** Text that stands as it is. */
        record Literal(String text) implements Piece {}

        /**
         * An expression.
         *
         * @param offset where it starts in the source, behind the brace
         * @param escaping what its value must be made into there
         */
        record Expression(String xpath, int offset, Escaping escaping) implements Piece {}

        /**
         * A processing instruction, in a text whose instructions say what is written how often ({@link Template}).
         *
         * @param target its name
         * @param data what follows the name
         * @param offset where it starts in the source
         */
        record Instruction(String target, String data, int offset) implements Piece {}
    }

    /** Whether the text has at least one expression, well-formed or not. */
    public static boolean hasExpression(String text) {
        for (int i = 0; i < text.length(); i++) {
            if (text.charAt(i) == '{') {
                if (i + 1 < text.length() && text.charAt(i + 1) == '{') {
                    i++;
                } else {
                    return true;
                }
            }
        }
        return false;
    }

    /**
     * Takes the text apart.
     *
     * @throws Problem when a brace is not closed or stands alone, with its column
     */
    public static Braces parse(String source) {
        List<Piece> pieces = new ArrayList<>();
        StringBuilder literal = new StringBuilder();
        int i = 0;
        while (i < source.length()) {
            char c = source.charAt(i);
            boolean doubled = i + 1 < source.length() && source.charAt(i + 1) == c;
            if ((c == '{' || c == '}') && doubled) {
                literal.append(c);
                i += 2;
            } else if (c == '}') {
                throw loneBrace(source, i);
            } else if (c == '{') {
                int end = end(source, i + 1, source, i);
                if (literal.length() > 0) {
                    pieces.add(new Piece.Literal(literal.toString()));
                    literal.setLength(0);
                }
                pieces.add(new Piece.Expression(source.substring(i + 1, end), i + 1, Escaping.NONE));
                i = end + 1;
            } else {
                literal.append(c);
                i++;
            }
        }
        if (literal.length() > 0) {
            pieces.add(new Piece.Literal(literal.toString()));
        }
        return new Braces(source, List.copyOf(pieces));
    }

    /**
     * As {@link #parse(String)}, for XML: comments and processing instructions stay as they are, and what an expression
     * gives is escaped for its place.
     */
    public static Braces parseXml(String source) {
        return XmlBraces.parse(source, false);
    }

    /** As {@link #parseXml}, with the processing instructions of a {@link Template} as pieces of their own. */
    public static Braces parseTemplate(String source) {
        return XmlBraces.parse(source, true);
    }

    static Problem loneBrace(String source, int at) {
        return bad("A closing brace stands alone", source, at, "Double it to mean the character itself.");
    }

    /** Where an expression ends; {@code whole} and {@code at} are for telling of one that does not. */
    static int end(String source, int from, String whole, int at) {
        int depth = 0;
        int i = from;
        while (i < source.length()) {
            char c = source.charAt(i);
            if (c == '"' || c == '\'') {
                int close = source.indexOf(c, i + 1);
                if (close < 0) {
                    throw bad("A string literal is not closed", whole, at, "Close it with " + c + ".");
                }
                i = close + 1;
                continue;
            }
            if (source.startsWith("(:", i)) {
                int close = source.indexOf(":)", i + 2);
                if (close < 0) {
                    throw bad("A comment is not closed", whole, at, "Close it with :).");
                }
                i = close + 2;
                continue;
            }
            if (c == '{') {
                depth++;
            } else if (c == '}') {
                if (depth == 0) {
                    return i;
                }
                depth--;
            }
            i++;
        }
        throw bad("A brace is not closed", whole, at, "Close it with }, or double it to mean the character.");
    }

    private static Problem bad(String what, String source, int at, String advice) {
        int start = Math.max(0, Math.min(at - 20, source.length() - 60));
        String near = source.substring(start, Math.min(source.length(), start + 60));
        String shown = (start > 0 ? "…" : "") + near + (start + 60 < source.length() ? "…" : "");
        int line = (int) source.substring(0, at).chars().filter(c -> c == '\n').count();
        int column = at - source.lastIndexOf('\n', at - 1);
        String where = (line > 0 ? "line " + (line + 1) + ", " : "") + "column " + column;
        return Problem.of(Problem.Kind.EXPRESSION, what, where + " of “" + shown + "”", advice, new Mistake.Place(at));
    }

    /** The text between expressions, with doubled braces as the single ones that they stand for. */
    public String literal() {
        StringBuilder text = new StringBuilder();
        for (Piece piece : pieces) {
            if (piece instanceof Piece.Literal literal) {
                text.append(literal.text());
            }
        }
        return text.toString();
    }

    /** The text as it must be written so that it means itself. */
    public static String literally(String text) {
        return text.replace("{", "{{").replace("}", "}}");
    }

    /** Whether no expression occurs, so that the text is always the same. */
    public boolean constant() {
        return pieces.stream().allMatch(p -> p instanceof Piece.Literal);
    }
}
