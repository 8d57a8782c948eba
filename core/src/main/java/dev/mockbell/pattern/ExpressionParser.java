package dev.mockbell.pattern;

import java.util.ArrayList;
import java.util.List;

/** Reads an expression. What the standard forbids but is clear enough is read all the same. */
final class ExpressionParser {
    private static final int DEEPEST = 500;

    private final int[] source;
    private int at;
    private int depth;

    private ExpressionParser(String source) {
        this.source = source.codePoints().toArray();
    }

    /** @throws IllegalArgumentException when it cannot be read; the message says where */
    static Expression parse(String text) {
        ExpressionParser parser = new ExpressionParser(text);
        Expression root = parser.choice();
        if (parser.at < parser.source.length) {
            throw parser.wrong("a bracket closes that was not opened");
        }
        return root;
    }

    private IllegalArgumentException wrong(String why) {
        return new IllegalArgumentException(why + " at character " + (at + 1));
    }

    private boolean more() {
        return at < source.length;
    }

    private int peek() {
        return more() ? source[at] : -1;
    }

    private int take() {
        if (!more()) {
            throw wrong("the expression ends too early");
        }
        return source[at++];
    }

    private Expression choice() {
        if (++depth > DEEPEST) {
            throw wrong("brackets are nested too deep");
        }
        List<Expression> branches = new ArrayList<>();
        branches.add(sequence());
        while (peek() == '|') {
            at++;
            branches.add(sequence());
        }
        depth--;
        return branches.size() == 1 ? branches.get(0) : new Expression.Choice(branches);
    }

    private Expression sequence() {
        List<Expression> parts = new ArrayList<>();
        while (more() && peek() != '|' && peek() != ')') {
            parts.add(quantified(atom()));
        }
        return parts.size() == 1 ? parts.get(0) : new Expression.Sequence(parts);
    }

    private Expression quantified(Expression part) {
        switch (peek()) {
            case '?' -> {
                at++;
                return new Expression.Repeat(part, 0, 1);
            }
            case '*' -> {
                at++;
                return new Expression.Repeat(part, 0, -1);
            }
            case '+' -> {
                at++;
                return new Expression.Repeat(part, 1, -1);
            }
            case '{' -> {
                at++;
                int min = number();
                int max = min;
                if (peek() == ',') {
                    at++;
                    max = peek() == '}' ? -1 : number();
                }
                if (take() != '}' || (max >= 0 && max < min)) {
                    throw wrong("the quantity is not well-formed");
                }
                return new Expression.Repeat(part, min, max);
            }
            default -> {
                return part;
            }
        }
    }

    private int number() {
        long value = 0;
        int from = at;
        while (peek() >= '0' && peek() <= '9') {
            value = Math.min(Integer.MAX_VALUE, value * 10 + take() - '0');
        }
        if (at == from) {
            throw wrong("a number is missing in the quantity");
        }
        return (int) value;
    }

    private Expression atom() {
        int c = take();
        switch (c) {
            case '(' -> {
                Expression inner = choice();
                if (take() != ')') {
                    throw wrong("a closing bracket is missing");
                }
                return inner;
            }
            case '[' -> {
                return new Expression.Letter(characterClass());
            }
            case '.' -> {
                return new Expression.Letter(CharSet.of('\n', '\r').not());
            }
            case '\\' -> {
                return new Expression.Letter(escape());
            }
            case '*', '+', '?' -> throw wrong("there is nothing to repeat");
            default -> {
                return new Expression.Letter(CharSet.of(c));
            }
        }
    }

    private CharSet characterClass() {
        boolean negated = peek() == '^';
        if (negated) {
            at++;
        }
        CharSet all = CharSet.NONE;
        boolean first = true;
        while (first || peek() != ']') {
            if (peek() == '-' && at + 1 < source.length && source[at + 1] == '[') {
                at += 2;
                CharSet minus = characterClass();
                if (take() != ']') {
                    throw wrong("the class does not end after what it takes away");
                }
                return (negated ? all.not() : all).minus(minus);
            }
            all = all.or(range());
            first = false;
        }
        at++;
        return negated ? all.not() : all;
    }

    private CharSet range() {
        int from = take();
        if (from == '\\') {
            int single = single(peek());
            if (single < 0) {
                return escape();
            }
            at++;
            from = single;
        }
        boolean ranged = peek() == '-' && at + 1 < source.length && source[at + 1] != ']' && source[at + 1] != '[';
        if (!ranged) {
            return CharSet.of(from);
        }
        at++;
        int to = take();
        if (to == '\\') {
            to = single(take());
        }
        if (to < from) {
            throw wrong("a range runs backwards");
        }
        return CharSet.range(from, to);
    }

    private static int single(int c) {
        return switch (c) {
            case 'n' -> '\n';
            case 'r' -> '\r';
            case 't' -> '\t';
            default -> c >= 0 && "\\|.?*+(){}-[]^$/".indexOf(c) >= 0 ? c : -1;
        };
    }

    private CharSet escape() {
        int c = take();
        int single = single(c);
        if (single >= 0) {
            return CharSet.of(single);
        }
        return switch (c) {
            case 'd' -> CharSet.digits();
            case 'D' -> CharSet.digits().not();
            case 's' -> CharSet.SPACE;
            case 'S' -> CharSet.SPACE.not();
            case 'w' -> CharSet.word();
            case 'W' -> CharSet.word().not();
            case 'i' -> CharSet.nameStart();
            case 'I' -> CharSet.nameStart().not();
            case 'c' -> CharSet.nameChar();
            case 'C' -> CharSet.nameChar().not();
            case 'p' -> property();
            case 'P' -> property().not();
            default -> throw wrong("“\\" + Character.toString(c) + "” is no escape of XML Schema");
        };
    }

    private CharSet property() {
        if (take() != '{') {
            throw wrong("a category is missing");
        }
        StringBuilder name = new StringBuilder();
        while (peek() != '}') {
            name.appendCodePoint(take());
        }
        at++;
        String text = name.toString();
        return CharSet.category(text)
                .or(() -> text.startsWith("Is") ? CharSet.block(text.substring(2)) : java.util.Optional.empty())
                .orElseThrow(() -> wrong("there is no category or block " + text));
    }
}
