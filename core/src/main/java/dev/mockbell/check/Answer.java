package dev.mockbell.check;

import dev.mockbell.exchange.Exchange;
import dev.mockbell.exchange.Exchange.Outcome;
import dev.mockbell.exchange.Message;
import dev.mockbell.expression.Expressions;
import dev.mockbell.message.MessageOutline;
import dev.mockbell.problem.Problem;
import dev.mockbell.redact.Redactor;
import dev.mockbell.soap.EnvelopeScan;
import dev.mockbell.soap.NoEnvelope;
import dev.mockbell.soap.References;
import dev.mockbell.soap.SoapFault;
import dev.mockbell.soap.SoapMessage;
import dev.mockbell.validation.MessageValidator.Breach;
import dev.mockbell.xml.Xml;
import dev.mockbell.xml.XmlLimits;
import java.util.List;
import java.util.Optional;
import net.sf.saxon.s9api.XdmNode;
import org.w3c.dom.Document;

/**
 * An exchange looked at as a SOAP answer. The body is read once; what is wrong with it is kept as words.
 *
 * @param outline what the contract says the answer holds; empty for a one-way operation
 * @param whole whether an answer came to its end
 * @param soap the envelope; empty when there is none. Its tree is without the payload, which is in {@code content}
 * @param instead what came in its place; empty when nothing is due or the envelope is there
 * @param flaw why there is no envelope, sentences; empty when there is one or none is due
 * @param content the payload as a document of its own; empty when there is none
 * @param payload that document for XPath
 * @param validity what of it breaks the contract
 * @param security what was verified of its security, words; empty when nothing was
 */
public record Answer(
        Exchange exchange,
        Optional<MessageOutline> outline,
        boolean whole,
        Optional<SoapMessage> soap,
        Optional<NoEnvelope> instead,
        Optional<String> flaw,
        Optional<Document> content,
        Optional<XdmNode> payload,
        Validity validity,
        Optional<String> security) {
    /**
     * Reads the response of an exchange, once, and says how the exchange went: by its status and by what the body is. One
     * that has failed came without a whole answer.
     */
    public static Answer of(Exchange exchange, Optional<MessageOutline> outline, Expressions expressions) {
        if (exchange.response().isEmpty() || exchange.outcome() == Outcome.FAILED) {
            return without(exchange, outline, false, Optional.empty(), Optional.of(exchange.note()));
        }
        Message response = exchange.response().get();
        boolean good = response.isGood();
        if (response.body().isEmpty() && (outline.isEmpty() || exchange.status() == 202)) {
            Exchange judged = good ? exchange : failed(exchange, lead(response) + "; there is no body");
            return without(judged, outline, true, Optional.empty(), Optional.empty());
        }
        if (response.root().content().size() > XmlLimits.MESSAGE.bytes()) {
            return large(exchange, outline, response);
        }
        try {
            SoapMessage soap = SoapMessage.of(response, "answer");
            Exchange judged = good ? exchange : failed(exchange, lead(response));
            judged = soap.fault()
                    .map(f -> exchange.withOutcome(Outcome.FAULT, f.title()))
                    .orElse(judged);
            if (outline.flatMap(MessageOutline::encoding).isPresent()) {
                References.inPlace(soap);
            }
            boolean one = outline.filter(MessageOutline::isWholeBody).isEmpty();
            Optional<Document> content = one ? soap.takePayload() : soap.payloadDocument();
            Optional<XdmNode> payload = content.map(expressions::wrap);
            Optional<SoapMessage> envelope = Optional.of(soap);
            Validity validity = new Validity(outline, envelope, content, response::attachments);
            return new Answer(
                    judged,
                    outline,
                    true,
                    envelope,
                    Optional.empty(),
                    Optional.empty(),
                    content,
                    payload,
                    validity,
                    Optional.empty());
        } catch (Problem noEnvelope) {
            return instead(exchange, outline, response, NoEnvelope.of(response));
        }
    }

    private static Answer without(
            Exchange exchange,
            Optional<MessageOutline> outline,
            boolean whole,
            Optional<NoEnvelope> instead,
            Optional<String> flaw) {
        return new Answer(
                exchange,
                outline,
                whole,
                Optional.empty(),
                instead,
                flaw,
                Optional.empty(),
                Optional.empty(),
                new Validity(outline, Optional.empty(), Optional.empty(), List::of),
                Optional.empty());
    }

    /** What is told first is the status and what the server wants; then what the body is. */
    private static Answer instead(
            Exchange exchange, Optional<MessageOutline> outline, Message response, NoEnvelope found) {
        String words = lead(response) + "; " + found.words();
        String next = (found.next() + " " + NoEnvelope.help(response.status())).strip();
        Answer read = without(
                failed(exchange, words),
                outline,
                true,
                Optional.of(found),
                Optional.of(capital(words) + "." + (next.isEmpty() ? "" : " " + next)));
        return new Answer(
                read.exchange,
                outline,
                true,
                read.soap,
                read.instead,
                read.flaw,
                found.document(),
                Optional.empty(),
                read.validity,
                Optional.empty());
    }

    /** One that is too large for a tree is gone through once from end to end, and kept. */
    private static Answer large(Exchange exchange, Optional<MessageOutline> outline, Message response) {
        String size = "the answer has " + response.root().content().size()
                + " bytes, more than are taken apart with the memory that there is ("
                + XmlLimits.MESSAGE.bytes() + ")";
        EnvelopeScan scan = EnvelopeScan.of(response.root());
        if (scan.flaw().isPresent()) {
            String words = lead(response) + "; " + scan.flaw().get();
            return without(failed(exchange, words), outline, true, Optional.empty(), Optional.of(capital(words) + "."));
        }
        Exchange judged = scan.isFault()
                ? exchange.withOutcome(Outcome.FAULT, "a fault; " + size)
                : response.isGood()
                        ? exchange.withOutcome(exchange.outcome(), size)
                        : failed(exchange, lead(response) + "; " + size);
        String flaw = capital(size)
                + ". It is kept whole and shown in part; give the program more memory to have it checked.";
        return without(judged, outline, true, Optional.empty(), Optional.of(flaw));
    }

    private static String capital(String clause) {
        return Character.toUpperCase(clause.charAt(0)) + clause.substring(1);
    }

    private static Exchange failed(Exchange exchange, String words) {
        return exchange.withOutcome(Outcome.FAILED, words);
    }

    /** "status 401 Unauthorized, it asks for Basic". */
    private static String lead(Message response) {
        String title = response.title().replaceFirst("^HTTP/\\S+\\s+", "").strip();
        List<String> told = NoEnvelope.told(response);
        return (response.hasStatus() ? "status " + title : "a message " + title)
                + (told.isEmpty() ? "" : ", " + String.join(", ", told));
    }

    /** With the values of secrets out of what is listed of the exchange. */
    public Answer masked(Redactor redactor) {
        return new Answer(
                exchange.withOutcome(exchange.outcome(), redactor.text(exchange.note())),
                outline,
                whole,
                soap,
                instead,
                flaw.map(redactor::text),
                content,
                payload,
                validity,
                security.map(redactor::text));
    }

    /** The same answer, its exchange with a number or another outcome. */
    public Answer with(Exchange other) {
        return new Answer(other, outline, whole, soap, instead, flaw, content, payload, validity, security);
    }

    /** Whether both are of what came at one time, though one may have been judged since, or have a number on the ledger. */
    public boolean isSame(Answer other) {
        // made once for what came, and carried along
        return validity == other.validity;
    }

    /** With what was verified of its security. */
    public Answer verified(Optional<String> words) {
        return new Answer(exchange, outline, whole, soap, instead, flaw, content, payload, validity, words);
    }

    /** What of the body, the header blocks, or a fault's detail, breaks the contract; nothing where that does not say what is due. */
    public List<Breach> breaches() {
        return validity.breaches();
    }

    public Optional<SoapFault> fault() {
        return soap.flatMap(SoapMessage::fault);
    }

    /** The payload's document; an empty one when there is none. */
    public Document document() {
        return content.orElseGet(Xml::newDocument);
    }
}
