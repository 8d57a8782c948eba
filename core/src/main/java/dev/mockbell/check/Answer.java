package dev.mockbell.check;

import dev.mockbell.exchange.Exchange;
import dev.mockbell.exchange.Exchange.Outcome;
import dev.mockbell.expression.Expressions;
import dev.mockbell.message.MessageOutline;
import dev.mockbell.problem.Problem;
import dev.mockbell.redact.Redactor;
import dev.mockbell.soap.SoapFault;
import dev.mockbell.soap.SoapMessage;
import dev.mockbell.xml.Xml;
import java.util.Optional;
import net.sf.saxon.s9api.XdmNode;

/**
 * An exchange looked at as a SOAP answer. The body is read once; what is wrong with it is kept as words.
 *
 * @param outline what the contract says the answer holds; empty for a one-way operation
 * @param whole whether an answer came to its end
 * @param soap the envelope; empty when there is none
 * @param flaw why there is no envelope; empty when there is one or none is due
 * @param payload the body's element as the root of a tree for XPath; empty when there is none
 */
public record Answer(
        Exchange exchange,
        Optional<MessageOutline> outline,
        boolean whole,
        Optional<SoapMessage> soap,
        Optional<String> flaw,
        Optional<XdmNode> payload) {
    /**
     * Reads the response of an exchange, once, and says how the exchange went: by its status and by what the body is. One
     * that has failed came without a whole answer.
     */
    public static Answer of(Exchange exchange, Optional<MessageOutline> outline, Expressions expressions) {
        if (exchange.response().isEmpty() || exchange.outcome() == Outcome.FAILED) {
            return new Answer(
                    exchange, outline, false, Optional.empty(), Optional.of(exchange.note()), Optional.empty());
        }
        String status = "status " + exchange.status();
        boolean good = exchange.status() / 100 == 2;
        boolean empty = exchange.response().get().body().isEmpty();
        if (empty && (outline.isEmpty() || exchange.status() == 202)) {
            Exchange judged = good ? exchange : exchange.withOutcome(Outcome.FAILED, status + " without a body");
            return new Answer(judged, outline, true, Optional.empty(), Optional.empty(), Optional.empty());
        }
        try {
            SoapMessage soap = SoapMessage.of(exchange.response().get(), "response");
            Exchange judged = good ? exchange : exchange.withOutcome(Outcome.FAILED, status);
            judged = soap.fault()
                    .map(f -> exchange.withOutcome(Outcome.FAULT, f.title()))
                    .orElse(judged);
            Optional<XdmNode> payload = soap.payloadDocument().map(expressions::wrap);
            return new Answer(judged, outline, true, Optional.of(soap), Optional.empty(), payload);
        } catch (Problem problem) {
            Exchange judged = exchange.withOutcome(
                    Outcome.FAILED, empty ? status + " without a body" : status + ", " + lower(problem.what()));
            String what = status + "; " + problem.getMessage();
            return new Answer(judged, outline, true, Optional.empty(), Optional.of(what), Optional.empty());
        }
    }

    private static String lower(String text) {
        return Character.toLowerCase(text.charAt(0)) + text.substring(1);
    }

    /** With the values of secrets out of what is listed of the exchange. */
    public Answer masked(Redactor redactor) {
        return with(exchange.withOutcome(exchange.outcome(), redactor.text(exchange.note())));
    }

    /** The same answer, its exchange with a number or another outcome. */
    public Answer with(Exchange other) {
        return new Answer(other, outline, whole, soap, flaw, payload);
    }

    public Optional<SoapFault> fault() {
        return soap.flatMap(SoapMessage::fault);
    }

    /** The payload's document; an empty one when there is none. */
    public org.w3c.dom.Document document() {
        return soap.flatMap(SoapMessage::payloadDocument).orElseGet(Xml::newDocument);
    }
}
