package dev.mockbell.expression;

import dev.mockbell.expression.Expressions.Compiled;
import java.io.ByteArrayOutputStream;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import net.sf.saxon.s9api.XdmItem;
import net.sf.saxon.s9api.XdmValue;

/**
 * A text with expressions in braces, taken apart and compiled once, written in UTF-8 many times. Safe for many threads.
 */
public final class Template {
    private final Expressions expressions;
    private final List<Part> parts = new ArrayList<>();
    private final int size;

    /** What stands as it is, in bytes; or an expression. */
    private record Part(byte[] bytes, Braces.Piece.Expression piece, Compiled compiled) {}

    /**
     * Takes a text apart.
     *
     * @param variables the names of those that its expressions may use, in the order of their slots
     * @param ground as for {@link Expressions#compiled}
     * @throws dev.mockbell.problem.Problem when a brace stands alone or an expression does not parse
     */
    public Template(Expressions expressions, Braces braces, List<String> variables, Scope ground) {
        this.expressions = expressions;
        int fixed = 0;
        for (Braces.Piece piece : braces.pieces()) {
            if (piece instanceof Braces.Piece.Literal literal) {
                byte[] bytes = literal.text().getBytes(StandardCharsets.UTF_8);
                fixed += bytes.length;
                parts.add(new Part(bytes, null, null));
            } else if (piece instanceof Braces.Piece.Expression expression) {
                parts.add(new Part(null, expression, expressions.compiled(expression.xpath(), variables, ground)));
            }
        }
        this.size = fixed;
    }

    /** Whether it is the same each time. */
    public boolean constant() {
        return parts.stream().allMatch(p -> p.compiled() == null);
    }

    /** Whether any of its expressions looks at the message that paths start from. */
    public boolean looksAtContext() {
        return parts.stream().anyMatch(p -> p.compiled() != null && p.compiled().looksAtContext());
    }

    /** Whether any of its expressions uses the variable in a slot. */
    public boolean uses(int slot) {
        return parts.stream().anyMatch(p -> p.compiled() != null && p.compiled().uses(slot));
    }

    /** The text with the values of its expressions, in UTF-8; values and context as for {@link Compiled#value}. */
    public byte[] filled(XdmValue[] values, XdmItem context, Expressions.Effort effort) {
        ByteArrayOutputStream out = new ByteArrayOutputStream(size + 256);
        for (Part part : parts) {
            byte[] bytes = part.bytes() != null
                    ? part.bytes()
                    : expressions
                            .written(part.piece(), part.compiled().value(values, context, effort))
                            .getBytes(StandardCharsets.UTF_8);
            out.write(bytes, 0, bytes.length);
        }
        return out.toByteArray();
    }
}
