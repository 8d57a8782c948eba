package dev.mockbell.mock;

import dev.mockbell.content.Content;
import dev.mockbell.content.Header;
import dev.mockbell.exchange.Message;
import dev.mockbell.expression.Expressions;
import dev.mockbell.problem.Problem;
import dev.mockbell.soap.SoapMessage;
import dev.mockbell.task.StopSignal;
import dev.mockbell.wire.CallRequest;
import dev.mockbell.wire.CallResult;
import dev.mockbell.xml.Xml;
import dev.mockbell.xml.XmlLimits;
import java.net.URI;
import java.net.URISyntaxException;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.w3c.dom.Document;
import org.w3c.dom.Element;
import org.w3c.dom.Node;

/** Asks the live endpoint in a client's place. Safe for many threads; it waits for the answer. */
final class Forwarding {
    /** So long a live endpoint is waited for. */
    static final Duration PATIENCE = Duration.ofSeconds(60);

    /** What is between one hop and the next only (RFC 9110 §7.6.1), and what this side says for itself. */
    private static final Set<String> OWN = Set.of(
            "host",
            "content-length",
            "connection",
            "keep-alive",
            "proxy-connection",
            "proxy-authenticate",
            "proxy-authorization",
            "te",
            "trailer",
            "transfer-encoding",
            "upgrade",
            "expect",
            "accept-encoding",
            "content-encoding",
            "method",
            "path",
            "query");

    private final MockSurroundings around;

    Forwarding(MockSurroundings around) {
        this.around = around;
    }

    /**
     * What the live endpoint said.
     *
     * @param failed why that is no answer; empty when it is one
     * @param call as it went there
     */
    record Live(int status, String contentType, List<Header> fields, byte[] body, String failed, Call call) {}

    /** A call that was made, with its address. */
    record Call(URI address, CallResult result) {}

    Live ask(
            AnswerContent.PassOn content,
            PreparedBody prepared,
            Optional<String> declared,
            MockRequest request,
            RequestValues values,
            Ground ground) {
        String address = content.endpoint().isBlank()
                ? declared.orElse("")
                : content.endpoint().strip();
        byte[] body = request.raw();
        List<Header> fields = new ArrayList<>();
        boolean changed = !prepared.asked().isEmpty() && !request.type().inParts();
        for (Map.Entry<String, String> field : request.http().get().entrySet()) {
            String name = field.getKey().toLowerCase(Locale.ROOT);
            if (!OWN.contains(name) && !(changed && name.equals("content-type"))) {
                fields.add(new Header(field.getKey(), field.getValue()));
            }
        }
        if (changed) {
            body = changed(request.body(), prepared.asked(), values, ground);
            fields.add(new Header(
                    "Content-Type",
                    request.type().type().text().replaceAll("(?i)charset=\"?[^;\"]+\"?", "charset=utf-8")));
        }
        String query = request.http().get().getOrDefault("query", "");
        URI uri;
        try {
            uri = new URI(address + (query.isEmpty() ? "" : (address.contains("?") ? "&" : "?") + query));
            if (uri.getHost() == null) {
                throw new URISyntaxException(address, "it has no host");
            }
        } catch (URISyntaxException e) {
            throw Problem.input(
                    "“" + address + "” is no address to pass a request on to",
                    null,
                    "Give the answer the address of the live endpoint.");
        }
        CallResult result = around.onward()
                .call(new CallRequest("POST", uri, List.copyOf(fields), Content.of(body), PATIENCE), new StopSignal());
        Optional<String> failure = result.whyNot();
        if (failure.isPresent() || result.response().isEmpty()) {
            return new Live(
                    0, "", List.of(), new byte[0], failure.orElse("There was no answer."), new Call(uri, result));
        }
        Message message = result.response().get();
        byte[] answer = message.body().bytes();
        String type = Header.first(message.headers(), "Content-Type").orElse("");
        int status = message.status();
        boolean fault = status >= 500 && isFault(message);
        String failed = status >= 500 && !fault ? "It answered with status " + status + "." : "";
        if (failed.isEmpty()
                && !prepared.answered().isEmpty()
                && !type.toLowerCase(Locale.ROOT).startsWith("multipart/")) {
            answer = changed(
                    Xml.parse(answer, type, "live answer", XmlLimits.MESSAGE), prepared.answered(), values, ground);
            type = type.replaceAll("(?i)charset=\"?[^;\"]+\"?", "charset=utf-8");
        }
        List<Header> back = message.headers().stream()
                .filter(h -> !OWN.contains(h.name().toLowerCase(Locale.ROOT)))
                .filter(h ->
                        !h.name().equalsIgnoreCase("Content-Type") && !h.name().equalsIgnoreCase("Date"))
                .toList();
        return new Live(status, type, back, answer, failed, new Call(uri, result));
    }

    private static boolean isFault(Message message) {
        try {
            return SoapMessage.of(message, "live answer").fault().isPresent();
        } catch (Problem noEnvelope) {
            return false;
        }
    }

    private byte[] changed(byte[] body, List<PreparedBody.Change> changes, RequestValues values, Ground ground) {
        return changed(Xml.parse(body, "request", XmlLimits.MESSAGE), changes, values, ground);
    }

    private byte[] changed(Document document, List<PreparedBody.Change> changes, RequestValues values, Ground ground) {
        Expressions expressions = ground.expressions();
        SoapMessage message = SoapMessage.of(document, "message that is passed on");
        Document payload = message.payloadDocument()
                .orElseThrow(() -> Problem.input(
                        "The body of the message that is passed on is empty",
                        null,
                        "There is nothing to change in it."));
        RequestValues seen =
                values.answered(expressions.read(expressions.xml(expressions.wrap(payload.getDocumentElement()))));
        for (PreparedBody.Change change : changes) {
            String value = new String(
                    change.value().filled(seen.all(), seen.context(), seen.effort()), StandardCharsets.UTF_8);
            List<Node> found = expressions.nodes(change.path(), ground.scope().on(expressions.wrap(payload)));
            if (found.isEmpty()) {
                throw Problem.input(
                        "The path " + change.path() + " leads nowhere in the message that is passed on",
                        null,
                        "Mend the path.");
            }
            for (Node node : found) {
                if (node.getNodeType() == Node.ATTRIBUTE_NODE) {
                    node.setNodeValue(value);
                } else {
                    node.setTextContent(value);
                }
            }
        }
        Element before = message.payload().orElseThrow();
        before.getParentNode().replaceChild(document.importNode(payload.getDocumentElement(), true), before);
        return expressions.xml(expressions.wrap(document.getDocumentElement())).getBytes(StandardCharsets.UTF_8);
    }
}
