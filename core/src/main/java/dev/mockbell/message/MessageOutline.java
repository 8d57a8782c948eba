package dev.mockbell.message;

import dev.mockbell.contract.FaultDef;
import dev.mockbell.contract.MessageDef;
import dev.mockbell.contract.MessagePart;
import dev.mockbell.schema.ElementDecl;
import dev.mockbell.schema.Schemas;
import dev.mockbell.schema.TypeDef;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import javax.xml.namespace.QName;

/**
 * What a message may hold: the element that stands in the SOAP body and those that stand in the header.
 *
 * @param root the body's element; empty for an empty body
 * @param headers the header elements that the contract names
 */
public record MessageOutline(Schemas schemas, Optional<ElementDecl> root, List<ElementDecl> headers) {
    /** The outline of an operation's input or output. Parts that no schema knows are left out; findings tell of them. */
    public static MessageOutline of(Schemas schemas, MessageDef message) {
        List<ElementDecl> parts = new ArrayList<>();
        for (MessagePart part : message.body()) {
            element(schemas, part).ifPresent(parts::add);
        }
        Optional<ElementDecl> root = message.wrapper()
                .map(name -> ElementDecl.implied(name, TypeDef.implied(parts)))
                .or(() -> parts.stream().findFirst());
        List<ElementDecl> headers = message.headers().stream()
                .flatMap(p -> element(schemas, p).stream())
                .toList();
        return new MessageOutline(schemas, root, headers);
    }

    /** The outline of the element in a fault's detail. */
    public static MessageOutline of(Schemas schemas, FaultDef fault) {
        return new MessageOutline(schemas, fault.element().flatMap(schemas::element), List.of());
    }

    private static Optional<ElementDecl> element(Schemas schemas, MessagePart part) {
        Optional<ElementDecl> declared = part.element().flatMap(schemas::element);
        if (declared.isPresent()) {
            return declared;
        }
        return part.type().flatMap(schemas::type).map(type -> ElementDecl.implied(new QName(part.name()), type));
    }
}
