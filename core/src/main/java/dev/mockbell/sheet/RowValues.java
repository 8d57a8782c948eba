package dev.mockbell.sheet;

import dev.mockbell.expression.Braces;
import dev.mockbell.problem.Problem;
import dev.mockbell.schema.ElementDecl;
import dev.mockbell.schema.SimpleType;
import dev.mockbell.schema.TypeDef;
import java.util.IdentityHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.w3c.dom.Element;

/** What rows say of their values. What is the same for all values of a type is worked out once. */
final class RowValues {
    /** What a row says of its type. */
    record Look(String summary, List<String> options, Optional<SimpleType> simple) {}

    static final Look NOTHING = new Look("", List.of(), Optional.empty());

    private final Map<TypeDef, Look> looks = new IdentityHashMap<>();
    private final boolean templated;

    /** @param templated whether braces in values mean expressions */
    RowValues(boolean templated) {
        this.templated = templated;
    }

    Look look(TypeDef type) {
        return looks.computeIfAbsent(type, t -> {
            Optional<SimpleType> simple = t.simple();
            return new Look(t.summary(), simple.map(RowValues::options).orElse(List.of()), simple);
        });
    }

    private static List<String> options(SimpleType type) {
        if (!type.enumeration().isEmpty()) {
            return type.enumeration();
        }
        return "boolean".equals(type.primitive()) ? List.of("true", "false") : List.of();
    }

    /** Whether a value is only known when the message is sent. */
    boolean isOpen(String value) {
        return templated && value.indexOf('{') >= 0;
    }

    private static boolean isBase64(SimpleType type) {
        return "base64Binary".equals(type.primitive());
    }

    /** Why an element's value is not valid. */
    Optional<String> problem(Optional<SimpleType> type, ElementDecl declared, String value, Element at) {
        if (value.isEmpty() && declared.byDefault().or(declared::fixed).isPresent()) {
            return Optional.empty();
        }
        return problem(type, declared.fixed(), value, at);
    }

    /** Why a value is not valid; one with an expression is judged only by whether its braces can be read. */
    Optional<String> problem(Optional<SimpleType> type, Optional<String> fixed, String value, Element at) {
        String plain = value;
        if (templated && (value.indexOf('{') >= 0 || value.indexOf('}') >= 0)) {
            try {
                Braces braces = Braces.parse(value);
                if (!braces.constant()) {
                    return Optional.empty();
                }
                plain = braces.literal();
            } catch (Problem problem) {
                return Optional.of(problem.what());
            }
        }
        String judged = plain;
        if (templated
                && judged.startsWith("cid:")
                && type.filter(RowValues::isBase64).isPresent()) {
            // it goes as a part, whose bytes are not here to be judged
            return Optional.empty();
        }
        boolean other = fixed.isPresent()
                && !fixed.get().equals(judged)
                && type.filter(t -> t.isSame(fixed.get(), judged, at::lookupNamespaceURI))
                        .isEmpty();
        if (other) {
            return Optional.of("the contract fixes this value to “" + fixed.get() + "”");
        }
        return type.flatMap(t -> t.whyNot(judged, at::lookupNamespaceURI));
    }
}
