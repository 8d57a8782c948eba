package dev.mockbell.request;

import dev.mockbell.content.Content;
import dev.mockbell.expression.Braces;
import dev.mockbell.soap.Envelope;
import dev.mockbell.soap.SoapVersion;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Optional;
import java.util.function.UnaryOperator;

/**
 * The envelope around payload and header blocks.
 *
 * @param blocks of the SOAP header; empty for none
 */
record EnvelopeStage(SoapVersion version, Braces payload, Optional<Braces> blocks) implements Stage {
    @Override
    public List<Braces> texts() {
        return blocks.map(b -> List.of(payload, b)).orElse(List.of(payload));
    }

    @Override
    public Stage with(UnaryOperator<Braces> change) {
        return new EnvelopeStage(version, change.apply(payload), blocks.map(change));
    }

    @Override
    public void apply(Draft draft) {
        List<String> header = blocks.map(b -> List.of(draft.filler().fill(b))).orElse(List.of());
        String text = Envelope.around(version, draft.filler().fill(payload), header);
        draft.body(Content.of(text.getBytes(StandardCharsets.UTF_8)));
    }
}
