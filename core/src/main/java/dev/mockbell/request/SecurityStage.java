package dev.mockbell.request;

import dev.mockbell.content.Content;
import dev.mockbell.expression.Braces;
import dev.mockbell.security.KeyName;
import dev.mockbell.security.MessageSecurity;
import dev.mockbell.soap.Xop;
import dev.mockbell.xml.Xml;
import dev.mockbell.xml.XmlLimits;
import dev.mockbell.xml.XmlText;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Set;
import java.util.function.UnaryOperator;
import org.w3c.dom.Document;

/**
 * The security header. It comes when the envelope is whole, since it may sign it.
 *
 * @param parts that the envelope leaves values to; what is signed or encrypted are the values themselves
 */
record SecurityStage(SecurityText security, List<Attachment> parts) implements Stage {
    @Override
    public List<Braces> texts() {
        return security.texts();
    }

    @Override
    public Stage with(UnaryOperator<Braces> change) {
        return new SecurityStage(security.with(change), parts);
    }

    /** Nonce and time are new each time. */
    @Override
    public Changes changes(Set<String> captured) {
        return Changes.EVERY_CALL;
    }

    @Override
    public void apply(Draft draft) {
        MessageSecurity made = security.filled(draft.filler());
        Document envelope = Xml.parse(draft.body(), "", "the request", XmlLimits.MESSAGE);
        boolean covers = security.signed() != KeyName.NONE || security.encrypted() != KeyName.NONE;
        Runnable takeOut = covers && !parts.isEmpty()
                ? Xop.inPlace(envelope, parts.stream().map(Attachment::part).toList())
                : () -> {};
        made.secure(envelope);
        takeOut.run();
        draft.body(Content.of(XmlText.exact(envelope).getBytes(StandardCharsets.UTF_8)));
    }
}
