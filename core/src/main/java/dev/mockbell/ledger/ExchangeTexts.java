package dev.mockbell.ledger;

import dev.mockbell.exchange.Message;
import dev.mockbell.exchange.MessageText;
import dev.mockbell.redact.Redactor;
import java.util.Optional;

/** Gives what went over the wire, for reports, by the exchange's number on the ledger. */
@FunctionalInterface
public interface ExchangeTexts {
    /** How much of a message is in a report; what is left out is said. */
    int MOST = 64 << 10;

    /** Nothing is known. */
    ExchangeTexts NONE = number -> Optional.empty();

    /**
     * Both sides of an exchange.
     *
     * @param answer empty when there was none
     */
    record Both(String request, String answer) {}

    /** Both sides, secrets masked; empty when the exchange is not there any more. */
    Optional<Both> of(long number);

    /** Those on a ledger. */
    static ExchangeTexts on(Ledger ledger, Redactor redactor) {
        MessageText text = new MessageText(Optional.of(redactor), MOST);
        return number -> number <= 0
                ? Optional.empty()
                : ledger.get(number)
                        .map(e -> new Both(
                                whole(text, e.request()),
                                e.response().map(r -> whole(text, r)).orElse("")));
    }

    private static String whole(MessageText text, Message message) {
        String head = text.redactor().map(r -> r.wire(message.head())).orElse(message.head());
        return head.replace("\r\n", "\n").stripTrailing() + "\n\n"
                + (message.body().isEmpty() ? "(no body)" : text.body(message));
    }
}
