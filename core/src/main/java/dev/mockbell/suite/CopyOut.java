package dev.mockbell.suite;

import dev.mockbell.content.Content;
import dev.mockbell.content.Header;
import dev.mockbell.contract.Contract.BoundOperation;
import dev.mockbell.exchange.Exchange;
import dev.mockbell.exchange.Message;
import dev.mockbell.expression.Braces;
import dev.mockbell.expression.Expressions;
import dev.mockbell.expression.Scope;
import dev.mockbell.problem.Problem;
import dev.mockbell.redact.Redactor;
import dev.mockbell.request.RequestRecipe;
import dev.mockbell.wire.CallRequest;
import dev.mockbell.wire.jms.JmsAddress;
import java.net.URI;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * A request as something that can be pasted elsewhere. Expressions are filled with what they give now; a secret stands as a
 * variable of the shell or the process, and so does a value that is worked out from one, because the value itself must not
 * leave.
 */
public final class CopyOut {
    /** What it is copied as. */
    public enum Form {
        /** A command line for a POSIX shell. */
        CURL,
        /** The bytes of HTTP/1.1 (RFC 9112 §2.1). A secret stands as {@code $NAME}, uncounted in Content-Length. */
        RAW,
        /** A Java program on the client of the standard library; runs from its source file with Java 11 or later. */
        JAVA
    }

    /** What to say of a copy of a request that goes by a security profile. */
    public static final String WITHOUT_PROFILE =
            "The copy has nothing of the security profile: no login, no certificate, no security header.";

    /** What whoever sends it again writes anew. */
    private static final Set<String> FRAMING = Set.of(
            "host",
            "content-length",
            "transfer-encoding",
            "content-encoding",
            "connection",
            "expect",
            "accept-encoding");

    private static final char OPEN = '\uE000';
    private static final char CLOSE = '\uE001';
    private static final Pattern MARK = Pattern.compile(OPEN + "([A-Z0-9_]+)" + CLOSE);
    private static final Pattern PLAIN_SECRET = Pattern.compile("\\s*\\$secret:([\\p{L}_][\\p{L}\\p{N}_.-]*)\\s*");

    private final Expressions expressions;

    public CopyOut(Expressions expressions) {
        this.expressions = expressions;
    }

    /**
     * The request of a case.
     *
     * @throws Problem when an expression fails, there is no address, or it is that of a queue
     */
    public String of(Form form, BoundOperation bound, Case kept, Optional<String> endpoint, Scope scope) {
        Map<String, String> variables = new LinkedHashMap<>();
        CallRequest request =
                RequestRecipe.of(bound, kept.request().readable(), endpoint).make(b -> fill(b, scope, variables));
        return written(form, request, bound.operation().name(), variables);
    }

    private static String written(Form form, CallRequest request, String operation, Map<String, String> variables) {
        if (JmsAddress.is(request.address())) {
            throw Problem.input(
                    "This request goes to a queue, and what is copied would send it by HTTP",
                    request.address().toString(),
                    "Copy the message as XML.");
        }
        return switch (form) {
            case CURL -> curl(request, variables);
            case RAW -> raw(request);
            case JAVA -> java(request, operation, variables);
        };
    }

    /**
     * The request of an exchange as it was sent, but for what frames it; credentials and secrets are masked.
     *
     * @throws Problem when it went to a queue
     */
    public static String sent(Form form, Exchange exchange, Redactor redactor) {
        Message message = exchange.request();
        List<Header> headers = new ArrayList<>();
        for (Header header : message.headers()) {
            if (!FRAMING.contains(header.name().toLowerCase(Locale.ROOT))) {
                String line =
                        redactor.wire(message.title() + "\r\n" + header.name() + ": " + header.value() + "\r\n\r\n");
                headers.add(new Header(
                        header.name(),
                        line.substring(line.indexOf(": ", line.indexOf("\r\n")) + 2)
                                .strip()));
            }
        }
        String method = message.title().split(" ", 2)[0];
        CallRequest request = new CallRequest(
                method.isEmpty() ? "POST" : method,
                URI.create(redactor.text(exchange.endpoint())),
                headers,
                Content.of(redactor.message(message.text()).getBytes(StandardCharsets.UTF_8)),
                CallRequest.USUAL_TIMEOUT);
        return written(form, request, exchange.operation(), Map.of());
    }

    private String fill(Braces braces, Scope scope, Map<String, String> variables) {
        StringBuilder out = new StringBuilder();
        for (Braces.Piece piece : braces.pieces()) {
            if (piece instanceof Braces.Piece.Literal literal) {
                out.append(literal.text());
            } else if (piece instanceof Braces.Piece.Expression e) {
                if (e.xpath().contains("$secret:")) {
                    out.append(OPEN).append(variable(e.xpath(), variables)).append(CLOSE);
                } else {
                    out.append(e.escaping().of(expressions.text(e.xpath(), scope)));
                }
            }
        }
        return out.toString();
    }

    private static String variable(String xpath, Map<String, String> variables) {
        Matcher plain = PLAIN_SECRET.matcher(xpath);
        if (plain.matches()) {
            String name = shellName(plain.group(1));
            variables.put(name, "the secret " + plain.group(1));
            return name;
        }
        for (Map.Entry<String, String> v : variables.entrySet()) {
            if (v.getValue().equals("the value of {" + xpath + "}")) {
                return v.getKey();
            }
        }
        String name = "SECRET_VALUE_" + (variables.size() + 1);
        variables.put(name, "the value of {" + xpath + "}");
        return name;
    }

    private static String shellName(String name) {
        String plain = name.toUpperCase(Locale.ROOT).replaceAll("[^A-Z0-9_]", "_");
        return Character.isDigit(plain.charAt(0)) ? "_" + plain : plain;
    }

    private static String curl(CallRequest request, Map<String, String> variables) {
        StringBuilder out = new StringBuilder();
        variables.forEach((name, what) -> out.append("# ")
                .append(name)
                .append(" is ")
                .append(oneLine(what))
                .append('\n'));
        out.append("curl -sS -X ")
                .append(request.method())
                .append(' ')
                .append(shell(request.address().toString()));
        for (Header header : request.headers()) {
            out.append(" \\\n  -H ").append(shell(header.name() + ": " + header.value()));
        }
        if (!request.body().isEmpty()) {
            out.append(" \\\n  --data-raw ").append(shell(body(request)));
        }
        return out.append('\n').toString();
    }

    private static String oneLine(String text) {
        return text.replaceAll("\\s+", " ");
    }

    /** In single quotes, where a shell changes nothing; a variable stands between them in double ones. */
    private static String shell(String text) {
        String quoted = "'" + text.replace("'", "'\\''") + "'";
        return MARK.matcher(quoted).replaceAll("'\"\\$$1\"'");
    }

    private static String raw(CallRequest request) {
        URI address = request.address();
        String path = address.getRawPath() == null || address.getRawPath().isEmpty() ? "/" : address.getRawPath();
        String query = address.getRawQuery() == null ? "" : "?" + address.getRawQuery();
        String body = MARK.matcher(body(request)).replaceAll("\\$$1");
        StringBuilder out = new StringBuilder(request.method())
                .append(' ')
                .append(path)
                .append(query)
                .append(" HTTP/1.1\r\n");
        out.append("Host: ").append(address.getRawAuthority()).append("\r\n");
        for (Header header : request.headers()) {
            String value = MARK.matcher(header.value()).replaceAll("\\$$1");
            out.append(header.name()).append(": ").append(value).append("\r\n");
        }
        return out.append("Content-Length: ")
                .append(body.getBytes(StandardCharsets.UTF_8).length)
                .append("\r\nConnection: close\r\n\r\n")
                .append(body)
                .toString();
    }

    private static String java(CallRequest request, String operation, Map<String, String> variables) {
        String name = operation.replaceAll("[^A-Za-z0-9_]", "");
        String type = name.isEmpty() || Character.isDigit(name.charAt(0)) ? "Call" + name : name;
        StringBuilder out = new StringBuilder();
        out.append("import java.net.URI;\n");
        out.append("import java.net.http.HttpClient;\n");
        out.append("import java.net.http.HttpRequest;\n");
        out.append("import java.net.http.HttpResponse;\n\n");
        out.append("public class ").append(type).append(" {\n");
        out.append("    public static void main(String[] args) throws Exception {\n");
        variables.forEach((variable, what) -> out.append("        // the environment variable ")
                .append(variable)
                .append(" holds ")
                .append(oneLine(what).replace("\\", "/"))
                .append('\n'));
        out.append("        String body = ").append(source(body(request))).append(";\n");
        out.append("        HttpRequest request = HttpRequest.newBuilder(URI.create(")
                .append(source(request.address().toString()))
                .append("))\n");
        for (Header header : request.headers()) {
            out.append("            .header(")
                    .append(source(header.name()))
                    .append(", ")
                    .append(source(header.value()))
                    .append(")\n");
        }
        out.append(
                "POST".equals(request.method())
                        ? "            .POST(HttpRequest.BodyPublishers.ofString(body))\n"
                        : "            .method(\"" + request.method()
                                + "\", HttpRequest.BodyPublishers.ofString(body))\n");
        out.append("            .build();\n");
        out.append("        HttpResponse<String> response =\n");
        out.append("            HttpClient.newHttpClient().send(request, HttpResponse.BodyHandlers.ofString());\n");
        out.append("        System.out.println(response.statusCode());\n");
        out.append("        System.out.println(response.body());\n");
        return out.append("    }\n}\n").toString();
    }

    /** The text as a Java expression, a literal a line. */
    private static String source(String text) {
        String[] lines = text.split("(?<=\n)", -1);
        List<String> parts = new ArrayList<>();
        for (String line : lines) {
            if (!line.isEmpty()) {
                parts.add(MARK.matcher(quoted(line)).replaceAll("\" + System.getenv(\"$1\") + \""));
            }
        }
        return parts.isEmpty() ? "\"\"" : String.join("\n            + ", parts);
    }

    private static String quoted(String line) {
        StringBuilder out = new StringBuilder("\"");
        for (int i = 0; i < line.length(); i++) {
            char c = line.charAt(i);
            switch (c) {
                case '"' -> out.append("\\\"");
                case '\\' -> out.append("\\\\");
                case '\n' -> out.append("\\n");
                case '\r' -> out.append("\\r");
                case '\t' -> out.append("\\t");
                default -> {
                    if (c >= ' ' && c < 127 || c == OPEN || c == CLOSE) {
                        out.append(c);
                    } else {
                        out.append("\\u%04X".formatted((int) c));
                    }
                }
            }
        }
        return out.append('"').toString();
    }

    private static String body(CallRequest request) {
        return request.body().text(StandardCharsets.UTF_8);
    }
}
