package dev.mockbell.suite;

import dev.mockbell.content.Content;
import dev.mockbell.exchange.Exchange;
import dev.mockbell.exchange.Exchange.Outcome;
import dev.mockbell.exchange.HttpMessage;
import dev.mockbell.exchange.Message;
import dev.mockbell.problem.Problem;
import dev.mockbell.redact.Redactor;
import dev.mockbell.security.AnswerSecurity;
import dev.mockbell.soap.Addressing;
import dev.mockbell.soap.SoapMessage;
import dev.mockbell.xml.XmlText;
import java.nio.charset.StandardCharsets;

/** Looks at answers before anything else does: whether they are secured as they should be, and whose answer they are. */
final class AnswerOpening {
    private AnswerOpening() {}

    /** With the answer decrypted; failed when it is not secured as it should be. A fault may come as it is. */
    static Exchange open(Exchange exchange, AnswerSecurity security, Redactor redactor) {
        Message response = exchange.response().orElseThrow();
        SoapMessage soap;
        try {
            soap = SoapMessage.of(response, "answer");
        } catch (Problem noEnvelope) {
            // that is told by whoever reads it next
            return exchange;
        }
        try {
            AnswerSecurity.Opened opened = security.open(soap.document());
            Exchange told = exchange.withOutcome(exchange.outcome(), redactor.text(opened.words()));
            return opened.decrypted() ? told.withResponse(plain(response, soap)) : told;
        } catch (Problem problem) {
            // who refuses a request may not know whom to sign for
            return soap.fault().isPresent()
                    ? exchange
                    : exchange.withOutcome(Outcome.FAILED, redactor.text(problem.getMessage()));
        }
    }

    /** The message as it reads decrypted; its wire bytes stay as they came. */
    private static Message plain(Message response, SoapMessage soap) {
        String text = XmlText.exact(soap.document());
        return response.accept(http -> {
            String declared = text.startsWith("<?xml") ? text.substring(text.indexOf("?>") + 2) : text;
            Content body = Content.of(
                    ("<?xml version=\"1.0\" encoding=\"UTF-8\"?>" + declared).getBytes(StandardCharsets.UTF_8));
            return new HttpMessage(http.title(), http.headers(), body, http.wire());
        });
    }

    /** Failed when the answer relates to another message; one that relates to none says so. */
    static Exchange related(Exchange exchange, Addressing addressing, Redactor redactor) {
        try {
            SoapMessage asked = SoapMessage.of(exchange.request(), "request");
            SoapMessage answer = SoapMessage.of(exchange.response().orElseThrow(), "answer");
            return addressing
                    .unrelated(asked, answer)
                    .filter(u -> answer.fault().isEmpty())
                    .map(u -> exchange.withOutcome(
                            u.toAnother() ? Outcome.FAILED : exchange.outcome(),
                            redactor.text(exchange.note().isEmpty() ? u.words() : exchange.note() + "; " + u.words())))
                    .orElse(exchange);
        } catch (Problem noEnvelope) {
            return exchange;
        }
    }
}
