package dev.mockbell.message;

import dev.mockbell.contract.Contract;
import dev.mockbell.contract.MessageDef;
import dev.mockbell.contract.MessagePart;
import dev.mockbell.contract.Operation;
import dev.mockbell.exchange.Message;
import dev.mockbell.soap.SoapVersion;
import dev.mockbell.xml.Xml;
import java.io.ByteArrayInputStream;
import java.util.HashMap;
import java.util.Map;
import java.util.Optional;
import javax.xml.namespace.QName;
import javax.xml.stream.XMLInputFactory;
import javax.xml.stream.XMLStreamConstants;
import javax.xml.stream.XMLStreamException;
import javax.xml.stream.XMLStreamReader;

/**
 * Tells which operation of which contract a request is: by the first element of its body, else by the action that it names. What
 * more than one operation fits is the first of them.
 */
public final class OperationFinder {
    /** Where the body of an envelope begins. */
    private static final int START = 64 << 10;

    private final XMLInputFactory streams = Xml.streaming();
    private final Map<QName, Found> byPayload = new HashMap<>();
    private final Map<String, Found> byAction = new HashMap<>();

    /** @param operation its key */
    public record Found(String contract, String operation) {}

    /** @param contracts by the name that they have in a project */
    public OperationFinder(Map<String, Contract> contracts) {
        contracts.forEach((name, contract) -> contract.ports().stream()
                .flatMap(p -> p.binding().operations().stream())
                .forEach(o -> add(name, o)));
    }

    private void add(String name, Operation operation) {
        Found found = new Found(name, operation.key());
        operation.input().ifPresent(input -> {
            payload(input).ifPresent(q -> byPayload.putIfAbsent(q, found));
            if (!input.action().isEmpty()) {
                byAction.putIfAbsent(input.action(), found);
            }
        });
        operation.soapAction().filter(a -> !a.isEmpty()).ifPresent(a -> byAction.putIfAbsent(a, found));
    }

    /** What stands first in the body: the wrapper of rpc style (WSDL 1.1 §3.5), or the first part's element. */
    private static Optional<QName> payload(MessageDef input) {
        return input.wrapper().or(() -> input.body().stream().findFirst().flatMap(MessagePart::element));
    }

    /** The operation of a request; empty when no contract has it. */
    public Optional<Found> find(Message request) {
        if (byPayload.isEmpty() && byAction.isEmpty()) {
            return Optional.empty();
        }
        return payload(request).map(byPayload::get).or(() -> action(request).map(byAction::get));
    }

    private static Optional<String> action(Message request) {
        Optional<String> field = request.header("SOAPAction").map(OperationFinder::unquoted);
        return field.filter(a -> !a.isEmpty())
                .or(() -> request.type().parameter("action").map(OperationFinder::unquoted));
    }

    private static String unquoted(String text) {
        String t = text.strip();
        return t.length() > 1 && t.startsWith("\"") && t.endsWith("\"") ? t.substring(1, t.length() - 1) : t;
    }

    /** The name of the first element of the body; of what is no envelope, of its root. */
    private Optional<QName> payload(Message request) {
        byte[] start = request.root().content().start(START);
        if (start.length == 0) {
            return Optional.empty();
        }
        try {
            XMLStreamReader reader = streams.createXMLStreamReader(new ByteArrayInputStream(start));
            boolean within = false;
            int depth = 0;
            while (reader.hasNext()) {
                int event = reader.next();
                if (event == XMLStreamConstants.START_ELEMENT) {
                    depth++;
                    QName name = reader.getName();
                    boolean soap =
                            SoapVersion.ofNamespace(name.getNamespaceURI()).isPresent();
                    if (within || depth == 1 && !soap) {
                        return Optional.of(name);
                    }
                    within = soap && depth == 2 && "Body".equals(name.getLocalPart());
                } else if (event == XMLStreamConstants.END_ELEMENT) {
                    depth--;
                    within = false;
                }
            }
            return Optional.empty();
        } catch (XMLStreamException | RuntimeException noXml) {
            return Optional.empty();
        }
    }
}
