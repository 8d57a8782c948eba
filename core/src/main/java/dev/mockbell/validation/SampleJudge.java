package dev.mockbell.validation;

import dev.mockbell.contract.Contract;
import dev.mockbell.contract.Operation;
import dev.mockbell.message.MessageOutline;
import dev.mockbell.sample.SampleEnvelope;
import dev.mockbell.schema.ElementDecl;
import dev.mockbell.soap.SoapMessage;
import dev.mockbell.xml.Xml;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Iterator;
import java.util.List;
import java.util.Optional;
import org.w3c.dom.Element;

/** Says of a sample whether it is valid, all of its parts: body, header blocks, the detail of a fault. */
public final class SampleJudge {
    private final Contract contract;
    private final MessageValidator validator;

    public SampleJudge(Contract contract) {
        this.contract = contract;
        this.validator = new MessageValidator(contract.schemas());
    }

    /** What is not valid, each a sentence with its path; empty when all is. An encoded body is held against its parts alone. */
    public List<String> breaches(Operation operation, SampleEnvelope sample) {
        if (surelyValid(outline(operation, sample), sample)) {
            return List.of();
        }
        SoapMessage message = SoapMessage.parse(sample.text().getBytes(StandardCharsets.UTF_8), "the sample");
        MessageOutline outline = outline(operation, sample);
        List<MessageValidator.Breach> found = new ArrayList<>();
        Iterator<Element> blocks = message.headers().iterator();
        for (ElementDecl header : outline.headers()) {
            if (blocks.hasNext()) {
                found.addAll(validator.validate(header, blocks.next()));
            }
        }
        if (sample.direction() == SampleEnvelope.Direction.FAULT) {
            detail(message).ifPresent(d -> outline.root().ifPresent(root -> found.addAll(validator.validate(root, d))));
        } else {
            found.addAll(validator.validate(outline, message));
        }
        return found.stream().map(b -> b.text() + " (" + b.path() + ")").toList();
    }

    /** Most are, which is told from their text sooner than from a tree. */
    private boolean surelyValid(MessageOutline outline, SampleEnvelope sample) {
        if (outline.encoding().isPresent()
                || outline.isWholeBody()
                || outline.headers().size() != sample.headers().size()) {
            return false;
        }
        Iterator<String> blocks = sample.headers().iterator();
        return outline.headers().stream().allMatch(h -> validator.surelyTakes(h, blocks.next()))
                && outline.root()
                        .map(r -> validator.surelyTakes(r, sample.payload()))
                        .orElse(sample.payload().isEmpty());
    }

    private MessageOutline outline(Operation operation, SampleEnvelope sample) {
        return switch (sample.direction()) {
            case REQUEST -> MessageOutline.ofRequest(contract, operation);
            case RESPONSE ->
                MessageOutline.ofAnswer(contract, operation).orElseGet(() -> MessageOutline.empty(contract));
            case FAULT ->
                operation.faults().stream()
                        .filter(f -> sample.fault().equals(Optional.of(f.name())))
                        .findFirst()
                        .map(f -> MessageOutline.of(contract, f))
                        .orElseGet(() -> MessageOutline.empty(contract));
        };
    }

    private static Optional<Element> detail(SoapMessage message) {
        return message.payload().stream()
                .flatMap(f -> Xml.children(f).stream())
                .filter(e -> "detail".equalsIgnoreCase(e.getLocalName()))
                .flatMap(d -> Xml.children(d).stream())
                .findFirst();
    }
}
