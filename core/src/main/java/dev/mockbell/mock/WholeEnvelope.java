package dev.mockbell.mock;

import dev.mockbell.expression.Expressions;
import dev.mockbell.problem.Problem;
import dev.mockbell.soap.Envelope;
import dev.mockbell.soap.SoapFault;
import dev.mockbell.soap.SoapMessage;
import dev.mockbell.soap.SoapVersion;
import dev.mockbell.xml.Xml;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Optional;
import java.util.stream.Collectors;
import org.w3c.dom.Element;

/**
 * An answer that was written as a whole envelope. A client of the other version gets the same header blocks and the same body in an
 * envelope of its own.
 *
 * @param text as it was written; empty when the answer is no whole envelope
 * @param read what is in it; empty when it cannot be read as it stands
 */
record WholeEnvelope(String text, Optional<SoapMessage> read, Expressions expressions) {
    static WholeEnvelope of(AnswerContent content, Expressions expressions) {
        String text = content.isFault() || !Envelope.isEnvelope(content.xml()) ? "" : content.xml();
        return new WholeEnvelope(text, text.isEmpty() ? Optional.empty() : read(text), expressions);
    }

    private static Optional<SoapMessage> read(String text) {
        try {
            return Optional.of(SoapMessage.parse(text.getBytes(StandardCharsets.UTF_8), "answer"));
        } catch (Problem notYet) {
            // expressions may stand where XML has no place for them; it is sent as it was written
            return Optional.empty();
        }
    }

    boolean isFault() {
        return read.flatMap(SoapMessage::fault).isPresent();
    }

    /** In a version; empty when the answer is no whole envelope. */
    Optional<String> in(SoapVersion version) {
        if (text.isEmpty()) {
            return Optional.empty();
        }
        if (read.isEmpty() || read.get().version() == version) {
            return Optional.of(Envelope.around(version, text, List.of()));
        }
        SoapMessage message = read.get();
        List<String> headers = message.headers().stream().map(this::xml).toList();
        String body = message.fault()
                .map(f -> fault(version, f, message.payload().orElseThrow()))
                .orElseGet(() -> message.payload().map(this::xml).orElse(""));
        return Optional.of(Envelope.around(version, body, headers));
    }

    private String fault(SoapVersion version, SoapFault fault, Element element) {
        String local = fault.code().replaceFirst("^.*:", "");
        boolean sender = local.startsWith("Client") || local.startsWith("Sender");
        String detail = Xml.children(element).stream()
                .filter(e -> "detail".equalsIgnoreCase(e.getLocalName()))
                .flatMap(d -> Xml.children(d).stream())
                .map(this::xml)
                .collect(Collectors.joining());
        return SoapFault.xml(version, sender ? SoapFault.Code.SENDER : SoapFault.Code.RECEIVER, fault.reason(), detail);
    }

    /** With every declaration that is in scope, since values may be names too. */
    private String xml(Element element) {
        return expressions.xml(expressions.wrap(element));
    }
}
