package dev.mockbell.request;

import dev.mockbell.expression.Braces;
import dev.mockbell.soap.Addressing;
import java.util.List;
import java.util.function.UnaryOperator;

/**
 * What WS-Addressing says of a request, with expressions.
 *
 * @param replyTo empty for the way that the request came
 * @param answered whether an answer is due
 */
record AddressingText(Addressing kind, String action, Braces messageId, Braces replyTo, boolean answered) {
    private static final String UNIQUE = "urn:uuid:{bell:uuid()}";

    static AddressingText of(Addressing kind, String action, String replyTo, boolean answered) {
        return new AddressingText(kind, action, Braces.parse(UNIQUE), Braces.parse(replyTo), answered);
    }

    List<Braces> texts() {
        return List.of(messageId, replyTo);
    }

    AddressingText with(UnaryOperator<Braces> change) {
        return new AddressingText(kind, action, change.apply(messageId), change.apply(replyTo), answered);
    }

    /** The header blocks for where the draft goes. */
    List<String> blocks(Draft draft) {
        return kind.blocks(
                action,
                draft.filler().fill(messageId),
                draft.address(),
                draft.filler().fill(replyTo).strip(),
                answered);
    }
}
