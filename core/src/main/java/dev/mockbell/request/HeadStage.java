package dev.mockbell.request;

import dev.mockbell.content.Header;
import dev.mockbell.expression.Braces;
import dev.mockbell.problem.Problem;
import dev.mockbell.soap.SoapVersion;
import java.util.List;
import java.util.function.UnaryOperator;

/**
 * The header fields of HTTP that SOAP asks for (SOAP 1.1 §6, SOAP 1.2 part 2 §7), then the user's own.
 *
 * @param action the binding's SOAPAction; empty for none
 * @param charset what the envelope is encoded in, as Content-Type has it
 */
record HeadStage(SoapVersion version, String action, String charset, List<Field> own) implements Stage {
    /** A header field as it was written. */
    record Field(String name, Braces value) {
        static Field of(Header header) {
            return new Field(header.name(), Braces.parse(header.value()));
        }
    }

    @Override
    public List<Braces> texts() {
        return own.stream().map(Field::value).toList();
    }

    @Override
    public Stage with(UnaryOperator<Braces> change) {
        return new HeadStage(
                version,
                action,
                charset,
                own.stream()
                        .map(f -> new Field(f.name(), change.apply(f.value())))
                        .toList());
    }

    @Override
    public void apply(Draft draft) {
        draft.header("Content-Type", version.contentType(action, charset));
        if (version == SoapVersion.V11) {
            draft.header("SOAPAction", "\"" + action + "\"");
        }
        // several fields of one name are the user's to write; they only take the place of what would be made
        for (Field field : own) {
            draft.headers().removeIf(h -> h.name().equalsIgnoreCase(field.name()));
        }
        for (Field field : own) {
            draft.headers().add(new Header(name(field.name()), value(field, draft.filler())));
        }
    }

    private static String name(String name) {
        if (!name.matches("[!#$%&'*+.^_`|~0-9A-Za-z-]+")) {
            throw Problem.input(
                    "“" + name.replaceAll("\\p{Cntrl}", "?") + "” cannot be the name of a header",
                    null,
                    "Names have letters, digits and hyphens (RFC 9110 §5.1).");
        }
        return name;
    }

    private static String value(Field field, Filler filler) {
        String value = filler.fill(field.value());
        if (value.chars().anyMatch(c -> c < 0x20 && c != '\t' || c == 0x7F)) {
            throw Problem.input(
                    "The header " + field.name() + " has a line break or another control character in its value",
                    null,
                    "A header field is one line (RFC 9110 §5.5).");
        }
        return value;
    }
}
