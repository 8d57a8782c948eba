package dev.mockbell.message;

import dev.mockbell.contract.Attachment;
import dev.mockbell.contract.Contract;
import dev.mockbell.contract.FaultDef;
import dev.mockbell.contract.HeaderDef;
import dev.mockbell.contract.MessageDef;
import dev.mockbell.contract.MessagePart;
import dev.mockbell.contract.Operation;
import dev.mockbell.schema.ElementDecl;
import dev.mockbell.schema.Schemas;
import dev.mockbell.schema.TypeDef;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import javax.xml.namespace.QName;

/**
 * What a message may hold: the element that stands in the SOAP body and those that stand in the header.
 *
 * @param prefixes a prefix for each namespace as the contract declares them
 * @param root the body's element; empty for an empty body. Where the contract puts several elements, or the content of a
 *     type, straight into the body, it is the SOAP body itself (WSDL 1.1 §3.5)
 * @param headers the header elements that the contract names
 * @param encoding the encoding style of an encoded message; empty for a literal one
 * @param attachments the parts that travel beside it
 */
public record MessageOutline(
        Schemas schemas,
        Map<String, String> prefixes,
        Optional<ElementDecl> root,
        List<ElementDecl> headers,
        Optional<String> encoding,
        List<Attachment> attachments) {
    private static final String BODY = "Body";

    /** The outline of an operation's input or output. Parts that no schema knows are left out; findings tell of them. */
    public static MessageOutline of(Contract contract, MessageDef message) {
        Schemas schemas = contract.schemas();
        List<ElementDecl> parts = new ArrayList<>();
        for (MessagePart part : message.body()) {
            element(schemas, part, "").ifPresent(parts::add);
        }
        Optional<ElementDecl> root = message.wrapper()
                .map(name -> ElementDecl.implied(name, TypeDef.implied(parts)))
                .or(() -> document(schemas, message, parts));
        List<ElementDecl> headers = new ArrayList<>();
        for (HeaderDef header : message.headers()) {
            element(schemas, header.part(), header.namespace()).ifPresent(headers::add);
        }
        return new MessageOutline(
                schemas, contract.prefixes(), root, List.copyOf(headers), message.encoding(), message.attachments());
    }

    private static Optional<ElementDecl> document(Schemas schemas, MessageDef message, List<ElementDecl> parts) {
        QName body = new QName(message.envelope(), BODY);
        if (parts.size() > 1) {
            return Optional.of(ElementDecl.implied(body, TypeDef.implied(parts)));
        }
        Optional<TypeDef> bare =
                message.encoding().isPresent() || message.body().size() != 1
                        ? Optional.empty()
                        : message.body().get(0).type().flatMap(schemas::type);
        boolean typed = bare.isPresent() && message.body().get(0).element().isEmpty();
        return typed
                ? Optional.of(ElementDecl.implied(body, bare.get()))
                : parts.stream().findFirst();
    }

    /** The outline of the element in a fault's detail. */
    public static MessageOutline of(Contract contract, FaultDef fault) {
        Schemas schemas = contract.schemas();
        return new MessageOutline(
                schemas,
                contract.prefixes(),
                fault.part().flatMap(p -> element(schemas, p, "")),
                List.of(),
                fault.encoding(),
                List.of());
    }

    /** What a request of an operation holds. */
    public static MessageOutline ofRequest(Contract contract, Operation operation) {
        return operation.input().map(i -> of(contract, i)).orElseGet(() -> empty(contract));
    }

    /** What the answer of an operation holds; empty for a one-way operation. */
    public static Optional<MessageOutline> ofAnswer(Contract contract, Operation operation) {
        return operation.output().map(o -> of(contract, o));
    }

    /** The outline of a message with nothing in it. */
    public static MessageOutline empty(Contract contract) {
        return new MessageOutline(
                contract.schemas(), contract.prefixes(), Optional.empty(), List.of(), Optional.empty(), List.of());
    }

    private static Optional<ElementDecl> element(Schemas schemas, MessagePart part, String namespace) {
        Optional<ElementDecl> declared = part.element().flatMap(schemas::element);
        if (declared.isPresent()) {
            return declared;
        }
        return part.type()
                .flatMap(schemas::type)
                .map(type -> ElementDecl.implied(new QName(namespace, part.name()), type));
    }

    /** Whether the root is the SOAP body itself. */
    public boolean isWholeBody() {
        return root.filter(MessageOutline::isBody).isPresent();
    }

    public static boolean isBody(ElementDecl root) {
        return BODY.equals(root.name().getLocalPart())
                && (root.name().getNamespaceURI().endsWith("/envelope/")
                        || root.name().getNamespaceURI().endsWith("/soap-envelope"))
                && !root.isGlobal();
    }

    /** The names of the elements that the body begins with: the root, or the first part where there are several. */
    public Optional<QName> firstName() {
        if (!isWholeBody()) {
            return root.map(ElementDecl::name);
        }
        return root.flatMap(r -> r.type().particle())
                .filter(p -> p instanceof dev.mockbell.schema.Particle.OfGroup)
                .flatMap(p -> ((dev.mockbell.schema.Particle.OfGroup) p)
                        .parts().stream().findFirst())
                .filter(p -> p instanceof dev.mockbell.schema.Particle.OfElement)
                .map(p -> ((dev.mockbell.schema.Particle.OfElement) p).element().name());
    }
}
