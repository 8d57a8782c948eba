package dev.mockbell.load;

import dev.mockbell.expression.Braces;
import dev.mockbell.expression.Expressions;
import dev.mockbell.expression.Scope;
import dev.mockbell.soap.Envelope;
import dev.mockbell.soap.SoapVersion;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Map;
import java.util.regex.Pattern;

/**
 * The bytes of a step's request. What does not depend on captures is made once; a plain variable is put in without the
 * expression engine; anything else is evaluated, which must not happen on an event loop.
 */
final class RequestTemplate {
    private static final Pattern PLAIN = Pattern.compile("\\s*\\$([A-Za-z_][\\w.-]*)\\s*");

    /** How much work it is to make the request. */
    enum Cost {
        CONSTANT,
        PLAIN_VARIABLES,
        EXPRESSIONS
    }

    private final String head;
    private final SoapVersion version;
    private final Braces body;
    private final Scope scope;
    private final Expressions expressions;
    private final Cost cost;
    private final byte[] constant;

    /** @param head request line and headers without Content-Length, each line ended */
    RequestTemplate(String head, SoapVersion version, String body, Scope scope, Expressions expressions) {
        this.head = head;
        this.version = version;
        this.body = Braces.parseXml(body);
        this.scope = scope;
        this.expressions = expressions;
        boolean plain = this.body.pieces().stream()
                .allMatch(p -> p instanceof Braces.Piece.Literal
                        || p instanceof Braces.Piece.Expression e
                                && PLAIN.matcher(e.xpath()).matches());
        this.cost = this.body.constant() ? Cost.CONSTANT : plain ? Cost.PLAIN_VARIABLES : Cost.EXPRESSIONS;
        this.constant = cost == Cost.CONSTANT ? encode(expressions.fill(this.body, scope)) : null;
    }

    Cost cost() {
        return cost;
    }

    /** The request; {@code captured} are the values of earlier steps. */
    byte[] bytes(Map<String, String> captured) {
        return switch (cost) {
            case CONSTANT -> constant;
            case PLAIN_VARIABLES -> encode(plain(captured));
            case EXPRESSIONS -> encode(expressions.fill(body, scope.with(captured)));
        };
    }

    private String plain(Map<String, String> captured) {
        StringBuilder out = new StringBuilder();
        for (Braces.Piece piece : body.pieces()) {
            if (piece instanceof Braces.Piece.Literal literal) {
                out.append(literal.text());
            } else {
                var matcher = PLAIN.matcher(((Braces.Piece.Expression) piece).xpath());
                String name = matcher.matches() ? matcher.group(1) : "";
                String value = captured.get(name);
                if (value == null && scope.variables().containsKey(name)) {
                    value = Expressions.text(scope.variables().get(name));
                }
                if (value == null) {
                    throw dev.mockbell.problem.Problem.of(
                            dev.mockbell.problem.Problem.Kind.EXPRESSION,
                            "There is no value for $" + name,
                            null,
                            "Capture it in an earlier step.",
                            null);
                }
                out.append(((Braces.Piece.Expression) piece).escaping().of(value));
            }
        }
        return out.toString();
    }

    private byte[] encode(String payload) {
        byte[] content = Envelope.around(version, payload, List.of()).getBytes(StandardCharsets.UTF_8);
        byte[] start = (head + "Content-Length: " + content.length + "\r\n\r\n").getBytes(StandardCharsets.ISO_8859_1);
        byte[] all = java.util.Arrays.copyOf(start, start.length + content.length);
        System.arraycopy(content, 0, all, start.length, content.length);
        return all;
    }
}
