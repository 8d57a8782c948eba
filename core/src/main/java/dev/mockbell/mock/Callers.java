package dev.mockbell.mock;

import dev.mockbell.expression.Expressions;
import dev.mockbell.expression.Expressions.Compiled;
import dev.mockbell.problem.Problem;
import java.nio.charset.StandardCharsets;
import java.util.Base64;
import java.util.Optional;
import net.sf.saxon.s9api.XdmNode;

/** Tells who calls. Safe for many threads. */
final class Callers {
    private static final String SECURITY =
            "http://docs.oasis-open.org/wss/2004/01/oasis-200401-wss-wssecurity-secext-1.0.xsd";

    /** Of the mock's own way to tell; null where there is none, or it cannot be used. */
    private final Compiled own;

    /** @param written the mock's expression; empty for none */
    Callers(String written, Ground ground) {
        Compiled compiled = null;
        try {
            compiled =
                    written.isBlank() ? null : ground.expressions().compiled(written, ground.names(), ground.scope());
        } catch (Problem toldElsewhere) {
            compiled = null;
        }
        this.own = compiled;
    }

    boolean looksAt(Slot slot) {
        return own == null
                ? slot == Slot.HEADERS
                : own.uses(slot.ordinal()) || slot == Slot.REQUEST && own.looksAtContext();
    }

    /** Empty when the mock's own way gives nothing. */
    String of(MockRequest request, RequestReading reading, RequestValues values) {
        if (own != null) {
            return Expressions.text(own.value(values.all(), values.context(), values.effort()))
                    .strip();
        }
        return basic(request.http().get().getOrDefault("authorization", ""))
                .or(() -> token(reading))
                .orElseGet(request.remote());
    }

    /** The user name of a login by RFC 7617. */
    static Optional<String> basic(String authorization) {
        return login(authorization)
                .map(login -> login.substring(0, Math.max(0, login.indexOf(':'))))
                .filter(name -> !name.isEmpty());
    }

    /** User name and password of a login by RFC 7617, with a colon between them. */
    static Optional<String> login(String authorization) {
        if (!authorization.regionMatches(true, 0, "Basic ", 0, 6)) {
            return Optional.empty();
        }
        try {
            return Optional.of(new String(
                    Base64.getDecoder().decode(authorization.substring(6).strip()), StandardCharsets.UTF_8));
        } catch (IllegalArgumentException notBase64) {
            return Optional.empty();
        }
    }

    /** The user name of a UsernameToken (WSS UsernameToken Profile 1.1 §3.1). */
    private static Optional<String> token(RequestReading reading) {
        for (XdmNode document : reading.headers()) {
            for (XdmNode node : document.select(net.sf.saxon.s9api.streams.Steps.descendant(SECURITY, "Username"))
                    .toList()) {
                return Optional.of(node.getStringValue().strip());
            }
        }
        return Optional.empty();
    }
}
