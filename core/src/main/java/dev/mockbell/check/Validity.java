package dev.mockbell.check;

import dev.mockbell.content.Part;
import dev.mockbell.message.ElementMatch;
import dev.mockbell.message.MessageOutline;
import dev.mockbell.schema.ElementDecl;
import dev.mockbell.soap.SoapMessage;
import dev.mockbell.validation.MessageValidator;
import dev.mockbell.validation.MessageValidator.Breach;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.Supplier;
import org.w3c.dom.Document;

/** What of an answer breaks the contract, looked at when it is first asked for, and once. Safe for several threads. */
public final class Validity {
    private final Optional<MessageOutline> outline;
    private final Optional<SoapMessage> soap;
    private final Optional<Document> content;
    private final Supplier<List<Part>> beside;
    private List<Breach> found;

    /**
     * @param content the payload, where it was taken out of the envelope
     * @param beside the parts that came beside the envelope
     */
    Validity(
            Optional<MessageOutline> outline,
            Optional<SoapMessage> soap,
            Optional<Document> content,
            Supplier<List<Part>> beside) {
        this.beside = beside;
        this.outline = outline;
        this.soap = soap;
        this.content = content;
    }

    /**
     * What of the body, the header blocks and the parts beside the envelope that the contract names, or a fault's detail breaks
     * the contract; nothing where that does not say what is due.
     */
    synchronized List<Breach> breaches() {
        if (found == null) {
            found = outline.isEmpty() || soap.isEmpty() ? List.of() : validated(outline.get(), soap.get());
        }
        return found;
    }

    private List<Breach> validated(MessageOutline due, SoapMessage envelope) {
        MessageValidator validator = new MessageValidator(due.schemas());
        boolean one = envelope.fault().isEmpty() && content.isPresent() && !due.isWholeBody();
        List<Breach> all =
                new ArrayList<>(one ? validator.validate(due, content.get()) : validator.validate(due, envelope));
        for (ElementDecl declared : due.headers()) {
            envelope.headers().stream()
                    .filter(h -> ElementMatch.matches(declared, h))
                    .forEach(h -> all.addAll(validator.validate(declared, h)));
        }
        if (envelope.fault().isEmpty() && !due.attachments().isEmpty()) {
            all.addAll(BesideParts.breaches(due.attachments(), beside.get()));
        }
        return List.copyOf(all);
    }
}
