package dev.mockbell.request;

import dev.mockbell.content.Content;
import dev.mockbell.expression.Braces;
import dev.mockbell.soap.Envelope;
import dev.mockbell.soap.SoapVersion;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.UnaryOperator;

/**
 * The envelope around payload and header blocks.
 *
 * @param blocks of the SOAP header; empty for none
 * @param addressing more blocks; a message that has some of its kind is left alone
 */
record EnvelopeStage(SoapVersion version, Braces payload, Optional<Braces> blocks, Optional<AddressingText> addressing)
        implements Stage {
    @Override
    public List<Braces> texts() {
        List<Braces> texts = new ArrayList<>(List.of(payload));
        blocks.ifPresent(texts::add);
        addressing.ifPresent(a -> texts.addAll(a.texts()));
        return List.copyOf(texts);
    }

    @Override
    public Stage with(UnaryOperator<Braces> change) {
        return new EnvelopeStage(
                version, change.apply(payload), blocks.map(change), addressing.map(a -> a.with(change)));
    }

    @Override
    public void apply(Draft draft) {
        List<String> header = new ArrayList<>();
        blocks.ifPresent(b -> header.add(draft.filler().fill(b)));
        String content = draft.filler().fill(payload);
        // who writes blocks of WS-Addressing by hand wants those
        boolean byHand = addressing.isPresent()
                && (String.join("", header) + content)
                        .contains(addressing.get().kind().namespace());
        addressing.filter(a -> !byHand).ifPresent(a -> header.addAll(a.blocks(draft)));
        String text = Envelope.around(version, content, header);
        draft.body(Content.of(text.getBytes(StandardCharsets.UTF_8)));
    }
}
