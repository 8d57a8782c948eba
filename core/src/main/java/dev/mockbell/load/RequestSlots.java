package dev.mockbell.load;

import dev.mockbell.expression.Braces;
import dev.mockbell.expression.Expressions;
import dev.mockbell.expression.Expressions.Compiled;
import dev.mockbell.expression.Expressions.Effort;
import dev.mockbell.expression.Scope;
import dev.mockbell.problem.Problem;
import dev.mockbell.request.Filler;
import dev.mockbell.request.RequestRecipe;
import dev.mockbell.wire.jms.JmsAddress;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import net.sf.saxon.s9api.XdmValue;

/**
 * A request that is encoded once, with slots in its body where values go. It exists where everything but those values is the
 * same each time; that is found out by making the request twice with marks in the place of values.
 */
final class RequestSlots {
    private static final Pattern PLAIN = Pattern.compile("\\s*\\$([A-Za-z_][\\w.-]*)\\s*");
    private static final Pattern LENGTH = Pattern.compile("(?i)\r\ncontent-length: (\\d+)\r\n");
    private static final Pattern CHARSET = Pattern.compile("(?i)charset=\"?([\\w.-]+)");
    private static final byte[] NONE = {};
    private static final byte[] END = {'\r', '\n', '\r', '\n'};

    /** Letters alone, so that no escaping and no encoding of an address changes them. */
    private static final String MARK = "zqMbSlotXj";

    private final byte[] beforeLength;
    /** Null where the head says no length. */
    private final byte[] afterLength;

    private final List<byte[]> literals;
    private final List<Slot> slots;
    private final List<String> names;
    private final XdmValue[] known;
    private final boolean plain;

    /**
     * What goes into a slot.
     *
     * @param name of the variable that is all of it; empty when the expression is more
     */
    private record Slot(Braces.Piece.Expression expression, String name, Compiled compiled) {}

    private RequestSlots(
            byte[] beforeLength,
            byte[] afterLength,
            List<byte[]> literals,
            List<Slot> slots,
            List<String> names,
            XdmValue[] known) {
        this.beforeLength = beforeLength;
        this.afterLength = afterLength;
        this.literals = literals;
        this.slots = slots;
        this.names = names;
        this.known = known;
        this.plain = slots.stream().noneMatch(s -> s.name().isEmpty());
    }

    /** Whether only variables are put in, so that it is made in no time. */
    boolean isPlain() {
        return plain;
    }

    /** @return empty where the request has to be made anew each time */
    static Optional<RequestSlots> of(
            RequestRecipe recipe, Way way, Scope usual, Expressions expressions, Set<String> captured) {
        // a secret goes into a slot only where it may go to that host
        Scope scope = usual.forHost(JmsAddress.hostOf(recipe.address()));
        Marking marking = new Marking();
        String first = made(recipe, way, marking);
        marking.again();
        if (!first.equals(made(recipe, way, marking)) || marking.found.isEmpty()) {
            return Optional.empty();
        }
        int head = first.indexOf("\r\n\r\n") + END.length;
        Matcher length = LENGTH.matcher(first);
        Matcher charset = CHARSET.matcher(first.substring(0, head));
        boolean utf8 = !charset.find() || "utf-8".equals(charset.group(1).toLowerCase(Locale.ROOT));
        if (!utf8) {
            return Optional.empty();
        }
        // a message of a queue does not say how long it is
        boolean told = length.find() && length.end() <= head;
        Set<String> all = new TreeSet<>(captured);
        all.addAll(scope.variables().keySet());
        List<String> names = List.copyOf(all);
        XdmValue[] known = names.stream().map(scope.variables()::get).toArray(XdmValue[]::new);
        List<byte[]> literals = new ArrayList<>();
        List<Slot> slots = new ArrayList<>();
        int at = head;
        while (true) {
            int next = first.indexOf(MARK, at);
            if (next < 0) {
                break;
            }
            int number = Integer.parseInt(first.substring(next + MARK.length(), next + MARK.length() + 4));
            literals.add(bytes(first.substring(at, next)));
            Braces.Piece.Expression expression = marking.found.get(number);
            Matcher matcher = PLAIN.matcher(expression.xpath());
            String name = matcher.matches() ? matcher.group(1) : "";
            slots.add(new Slot(
                    expression, name, name.isEmpty() ? expressions.compiled(expression.xpath(), names, scope) : null));
            at = next + MARK.length() + 4;
        }
        literals.add(bytes(first.substring(at)));
        boolean inHead = first.substring(0, head).contains(MARK);
        if (inHead || slots.size() != marking.found.size()) {
            return Optional.empty();
        }
        return Optional.of(new RequestSlots(
                bytes(first.substring(0, told ? length.start(1) : head)),
                told ? bytes(first.substring(length.end(1), head)) : null,
                literals,
                slots,
                names,
                known));
    }

    /** In ISO 8859-1, a character a byte, so that places in it are places in the bytes. */
    private static String made(RequestRecipe recipe, Way way, Filler filler) {
        return new String(way.written(recipe.make(filler)), StandardCharsets.ISO_8859_1);
    }

    private static byte[] bytes(String text) {
        return text.getBytes(StandardCharsets.ISO_8859_1);
    }

    /** Puts marks in the place of values, each with a number of four digits. */
    private static final class Marking implements Filler {
        private List<Braces.Piece.Expression> found = new ArrayList<>();

        void again() {
            found = new ArrayList<>();
        }

        @Override
        public String fill(Braces text) {
            StringBuilder out = new StringBuilder();
            for (Braces.Piece piece : text.pieces()) {
                if (piece instanceof Braces.Piece.Literal literal) {
                    out.append(literal.text());
                } else if (piece instanceof Braces.Piece.Expression expression) {
                    out.append(MARK).append(String.format(Locale.ROOT, "%04d", found.size()));
                    found.add(expression);
                }
            }
            return out.toString();
        }
    }

    /**
     * The request with values.
     *
     * @param values by name; they come before those that are known from the start
     * @param effort how much an expression may take
     * @throws Problem when there is no value, or an expression gives none
     * @throws Expressions.MoreEffort when it takes more
     */
    byte[] bytes(Map<String, String> values, Effort effort) {
        byte[][] filled = new byte[slots.size()][];
        XdmValue[] bound = null;
        int body = 0;
        for (int i = 0; i < filled.length; i++) {
            Slot slot = slots.get(i);
            String value;
            if (slot.name().isEmpty()) {
                bound = bound == null ? bound(values) : bound;
                value = Expressions.text(slot.compiled().value(bound, null, effort));
            } else {
                value = value(slot.name(), values);
            }
            filled[i] = slot.expression().escaping().of(value).getBytes(StandardCharsets.UTF_8);
            body += filled[i].length + literals.get(i).length;
        }
        body += literals.get(filled.length).length;
        byte[] length = length(body);
        byte[] all = Arrays.copyOf(beforeLength, beforeLength.length + length.length + body);
        int at = put(length, all, beforeLength.length);
        for (int i = 0; i < filled.length; i++) {
            at = put(literals.get(i), all, at);
            at = put(filled[i], all, at);
        }
        put(literals.get(filled.length), all, at);
        return all;
    }

    /** The rest of the head, from where the length stands. */
    private byte[] length(int body) {
        if (afterLength == null) {
            return NONE;
        }
        byte[] digits = Integer.toString(body).getBytes(StandardCharsets.ISO_8859_1);
        byte[] rest = Arrays.copyOf(digits, digits.length + afterLength.length);
        put(afterLength, rest, digits.length);
        return rest;
    }

    private static int put(byte[] part, byte[] into, int at) {
        System.arraycopy(part, 0, into, at, part.length);
        return at + part.length;
    }

    private XdmValue[] bound(Map<String, String> values) {
        XdmValue[] bound = known.clone();
        for (int i = 0; i < bound.length; i++) {
            String value = values.get(names.get(i));
            if (value != null) {
                bound[i] = Scope.untyped(value);
            }
        }
        return bound;
    }

    private String value(String name, Map<String, String> values) {
        String value = values.get(name);
        if (value != null) {
            return value;
        }
        int at = names.indexOf(name);
        if (at < 0 || known[at] == null) {
            throw Problem.of(
                    Problem.Kind.EXPRESSION,
                    "There is no value for $" + name,
                    null,
                    "Capture it in an earlier step.",
                    null);
        }
        return Expressions.text(known[at]);
    }
}
