package dev.mockbell.expression;

import dev.mockbell.expression.Expressions.Compiled;
import dev.mockbell.expression.Expressions.Effort;
import dev.mockbell.problem.Problem;
import java.io.ByteArrayOutputStream;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Iterator;
import java.util.List;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import net.sf.saxon.s9api.XdmAtomicValue;
import net.sf.saxon.s9api.XdmItem;
import net.sf.saxon.s9api.XdmValue;

/**
 * A text with expressions in braces, taken apart and compiled once, written in UTF-8 many times. Of a text in XML what stands between
 * {@code <?for $hut in //hut?>} and {@code <?end?>} is written once for each item, with the variable (and {@code $position}, from 1)
 * in its expressions; what stands between {@code <?if nights > 7?>} and {@code <?end?>} only if the condition holds. Safe for many
 * threads.
 */
public final class Template {
    /** The targets of the processing instructions that count. */
    static final Set<String> INSTRUCTIONS = Set.of("for", "if", "end");

    /** The longest that is written. */
    private static final int MOST_BYTES = 64 << 20;

    /** So often something is repeated with little effort, all repetitions together. */
    private static final int FEW = 50;

    /** So often at most. */
    private static final int MOST_REPEATS = 1_000_000;

    private static final String POSITION = "position";
    private static final Pattern FOR = Pattern.compile("\\$([A-Za-z_][\\w.-]*)\\s+in\\s+(.+)", Pattern.DOTALL);

    private final Expressions expressions;
    private final Scope ground;
    private final List<Part> parts;
    private final int slots;
    private int fixed;
    private int most;

    private sealed interface Part {}

    private record Fixed(byte[] bytes) implements Part {}

    private record Filled(Braces.Piece.Expression piece, Compiled compiled) implements Part {}

    /** @param slot of the variable; that of the position follows */
    private record Repeated(Compiled items, int slot, List<Part> parts) implements Part {}

    private record Chosen(Compiled condition, List<Part> parts) implements Part {}

    /**
     * Takes a text apart.
     *
     * @param variables the names of those that its expressions may use, in the order of their slots
     * @param ground as for {@link Expressions#compiled}
     * @throws Problem when a brace stands alone, an expression does not parse or an instruction has no end
     */
    public Template(Expressions expressions, Braces braces, List<String> variables, Scope ground) {
        this.expressions = expressions;
        this.ground = ground;
        this.slots = variables.size();
        this.most = slots;
        this.parts = parts(braces.pieces().iterator(), variables, null);
    }

    private List<Part> parts(Iterator<Braces.Piece> pieces, List<String> variables, Braces.Piece.Instruction within) {
        List<Part> made = new ArrayList<>();
        while (pieces.hasNext()) {
            Braces.Piece piece = pieces.next();
            if (piece instanceof Braces.Piece.Literal literal) {
                byte[] bytes = literal.text().getBytes(StandardCharsets.UTF_8);
                fixed += bytes.length;
                made.add(new Fixed(bytes));
            } else if (piece instanceof Braces.Piece.Expression expression) {
                made.add(new Filled(expression, expressions.compiled(expression.xpath(), variables, ground)));
            } else if (piece instanceof Braces.Piece.Instruction instruction) {
                switch (instruction.target()) {
                    case "for" -> made.add(repeated(pieces, variables, instruction));
                    case "if" ->
                        made.add(new Chosen(
                                expressions.compiled(instruction.data(), variables, ground),
                                parts(pieces, variables, instruction)));
                    default -> {
                        if (within == null) {
                            throw bad("<?end?> ends nothing", instruction, "Take it out.");
                        }
                        return List.copyOf(made);
                    }
                }
            }
        }
        if (within != null) {
            throw bad("<?" + within.target() + "?> has no end", within, "Write <?end?> behind what it is about.");
        }
        return List.copyOf(made);
    }

    private Repeated repeated(
            Iterator<Braces.Piece> pieces, List<String> variables, Braces.Piece.Instruction instruction) {
        Matcher matcher = FOR.matcher(instruction.data().strip());
        if (!matcher.matches()) {
            throw bad(
                    "“" + instruction.data() + "” does not say what is repeated",
                    instruction,
                    "Write <?for $name in EXPRESSION?>.");
        }
        List<String> inner = new ArrayList<>(variables);
        // the same name further out is not seen from within
        inner.replaceAll(name -> name.equals(matcher.group(1)) || name.equals(POSITION) ? "" : name);
        int slot = inner.size();
        inner.add(matcher.group(1));
        inner.add(POSITION);
        most = Math.max(most, inner.size());
        Compiled items = expressions.compiled(matcher.group(2), variables, ground);
        return new Repeated(items, slot, parts(pieces, inner, instruction));
    }

    private static Problem bad(String what, Braces.Piece.Instruction at, String advice) {
        return Problem.of(Problem.Kind.EXPRESSION, what, null, advice, new Mistake.Place(at.offset()));
    }

    /** Whether it is the same each time. */
    public boolean constant() {
        return parts.stream().allMatch(p -> p instanceof Fixed);
    }

    /** Whether any of its expressions looks at the message that paths start from. */
    public boolean looksAtContext() {
        return compiled(parts).stream().anyMatch(Compiled::looksAtContext);
    }

    /** Whether any of its expressions uses the variable in a slot. */
    public boolean uses(int slot) {
        return compiled(parts).stream().anyMatch(c -> c.uses(slot));
    }

    private static List<Compiled> compiled(List<Part> parts) {
        List<Compiled> all = new ArrayList<>();
        for (Part part : parts) {
            if (part instanceof Filled filled) {
                all.add(filled.compiled());
            } else if (part instanceof Repeated repeated) {
                all.add(repeated.items());
                all.addAll(compiled(repeated.parts()));
            } else if (part instanceof Chosen chosen) {
                all.add(chosen.condition());
                all.addAll(compiled(chosen.parts()));
            }
        }
        return all;
    }

    /** The text with the values of its expressions, in UTF-8; values and context as for {@link Compiled#value}. */
    public byte[] filled(XdmValue[] values, XdmItem context, Effort effort) {
        ByteArrayOutputStream out = new ByteArrayOutputStream(fixed + 256);
        int[] repeats = {0};
        write(parts, out, most == slots ? values : Arrays.copyOf(values, most), context, effort, repeats);
        return out.toByteArray();
    }

    /** Counts one more repetition. */
    private static void repeated(int[] repeats, Effort effort) {
        repeats[0]++;
        if (effort == Effort.LITTLE && repeats[0] > FEW) {
            throw new Expressions.MoreEffort();
        }
        if (repeats[0] > MOST_REPEATS) {
            throw Problem.of(
                    Problem.Kind.EXPRESSION,
                    "Something would be written more than " + MOST_REPEATS + " times",
                    null,
                    "Let its expressions give less.",
                    null);
        }
    }

    private void write(
            List<Part> these,
            ByteArrayOutputStream out,
            XdmValue[] values,
            XdmItem context,
            Effort effort,
            int[] repeats) {
        for (Part part : these) {
            if (part instanceof Fixed literal) {
                out.write(literal.bytes(), 0, literal.bytes().length);
            } else if (part instanceof Filled filled) {
                byte[] bytes = expressions
                        .written(filled.piece(), filled.compiled().value(values, context, effort))
                        .getBytes(StandardCharsets.UTF_8);
                out.write(bytes, 0, bytes.length);
            } else if (part instanceof Chosen chosen) {
                if (chosen.condition().holds(values, context, effort)) {
                    write(chosen.parts(), out, values, context, effort, repeats);
                }
            } else if (part instanceof Repeated repeated) {
                long position = 0;
                for (XdmItem item : repeated.items().value(values, context, effort)) {
                    repeated(repeats, effort);
                    values[repeated.slot()] = item;
                    values[repeated.slot() + 1] = new XdmAtomicValue(++position);
                    write(repeated.parts(), out, values, context, effort, repeats);
                }
            }
            if (out.size() > MOST_BYTES) {
                throw Problem.of(
                        Problem.Kind.EXPRESSION,
                        "The text would have more than " + (MOST_BYTES >> 20) + " MB",
                        null,
                        "Let its expressions give less.",
                        null);
            }
        }
    }
}
