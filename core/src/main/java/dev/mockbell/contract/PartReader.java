package dev.mockbell.contract;

import dev.mockbell.schema.Schemas;
import dev.mockbell.xml.Xml;
import java.util.ArrayList;
import java.util.Collection;
import java.util.IdentityHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;
import javax.xml.namespace.QName;
import org.w3c.dom.Element;

/** Reads the parts of WSDL 1.1 messages. */
final class PartReader {
    private final Definitions definitions;
    private final Schemas schemas;
    private final Map<Element, Message> known = new IdentityHashMap<>();

    PartReader(Definitions definitions, Schemas schemas) {
        this.definitions = definitions;
        this.schemas = schemas;
    }

    /** A message with its parts. */
    record Message(QName name, List<MessagePart> parts, Element element) {
        Optional<MessagePart> part(String wanted) {
            return parts.stream().filter(p -> p.name().equals(wanted)).findFirst();
        }
    }

    /** The message that an element refers to by its attribute {@code message}; a finding when there is none. */
    Optional<Message> message(Element from) {
        Optional<Element> message = definitions.find("message", from, "message");
        if (message.isEmpty()) {
            definitions.unresolved("unresolved-message", "message", from, "message");
        }
        return message.map(e -> known.computeIfAbsent(e, this::read));
    }

    /** Resolves every message, also one that no operation uses. */
    void all(Collection<Element> messages) {
        messages.forEach(m -> known.computeIfAbsent(m, this::read));
    }

    /** The part of a message that an element refers to by one of its attributes; a finding when there is none. */
    Optional<MessagePart> part(Message message, Element from, String attribute) {
        String name = from.getAttribute(attribute).strip();
        return name.isEmpty() ? unnamed(from, attribute) : part(message, name, from);
    }

    private Optional<MessagePart> unnamed(Element from, String attribute) {
        definitions.unresolved("unresolved-part", "part", from, attribute);
        return Optional.empty();
    }

    /** The part of that name; a finding when the message has none. */
    Optional<MessagePart> part(Message message, String name, Element from) {
        Optional<MessagePart> part = message.part(name);
        if (part.isEmpty()) {
            String has = message.parts().stream().map(MessagePart::name).collect(Collectors.joining(", "));
            definitions.error(
                    "unresolved-part",
                    "The message " + message.name().getLocalPart() + " has no part " + name
                            + (has.isEmpty() ? "; it has none at all" : "; it has " + has),
                    from);
        }
        return part;
    }

    private Message read(Element message) {
        List<MessagePart> found = new ArrayList<>();
        for (Element part : Xml.children(message, Wsdl.V11, "part")) {
            Optional<QName> element = name(part, "element");
            Optional<QName> type = name(part, "type");
            if (element.isPresent() && schemas.element(element.get()).isEmpty()) {
                missing("element", element.get(), part);
            }
            if (type.isPresent() && schemas.type(type.get()).isEmpty()) {
                missing("type", type.get(), part);
            }
            found.add(new MessagePart(part.getAttribute("name"), element, type, Xml.placeOf(part)));
        }
        return new Message(Definitions.nameOf(message), List.copyOf(found), message);
    }

    /** A name whose prefix nobody declares, or that has none, may still mean the target namespace. */
    private Optional<QName> name(Element part, String attribute) {
        Optional<QName> exact = Wsdl.qname(part, attribute);
        String text = part.getAttribute(attribute).strip();
        boolean known = exact.filter(
                        q -> schemas.element(q).isPresent() || schemas.type(q).isPresent())
                .isPresent();
        if (known || text.isEmpty() || text.contains(":") && exact.isPresent()) {
            return exact;
        }
        QName near = new QName(Wsdl.targetNamespace(part), text.substring(text.indexOf(':') + 1));
        boolean there = "element".equals(attribute)
                ? schemas.element(near).isPresent()
                : schemas.type(near).isPresent();
        return there ? Optional.of(near) : exact.or(() -> Optional.of(near));
    }

    private void missing(String kind, QName name, Element part) {
        boolean undeclared = Wsdl.qname(part, kind).isEmpty();
        String text = part.getAttribute(kind).strip();
        definitions.finding(
                Finding.Severity.ERROR,
                "unresolved-" + kind,
                "Part " + part.getAttribute("name") + " refers to the " + kind + " "
                        + (undeclared
                                ? text + ", whose prefix " + text.replaceAll(":.*", "") + " is not declared"
                                : name + ", which no schema has"),
                undeclared ? "Declare the prefix." : "Import the schema that has it.",
                part);
    }
}
