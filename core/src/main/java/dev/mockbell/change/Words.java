package dev.mockbell.change;

import dev.mockbell.change.Fields.Field;
import dev.mockbell.schema.AttributeDecl;
import dev.mockbell.schema.Occurs;
import dev.mockbell.schema.TypeDef;
import javax.xml.namespace.QName;

/** Declarations in few words. */
final class Words {
    private static final int MOST = 90;

    private Words() {}

    static String often(Occurs occurs) {
        if (occurs.max() == 0) {
            return "never";
        }
        if (!occurs.repeats()) {
            return occurs.optional() ? "may be left out" : "required";
        }
        if (occurs.max() == Occurs.UNBOUNDED) {
            return occurs.min() == 0
                    ? "any number of times"
                    : occurs.min() == 1 ? "once or more" : occurs.min() + " times or more";
        }
        return occurs.min() == occurs.max() ? occurs.max() + " times" : occurs.min() + " to " + occurs.max() + " times";
    }

    static String type(TypeDef type) {
        if (type.isAny()) {
            return "anything";
        }
        if (type.simple().isPresent()) {
            return type.summary();
        }
        return switch (type.content()) {
            case EMPTY -> "empty";
            case MIXED -> "text and elements";
            default -> type.name().map(QName::getLocalPart).orElse("elements");
        };
    }

    static String field(Field field) {
        return often(field.occurs()) + " · " + type(field.element().type());
    }

    static String attribute(AttributeDecl attribute) {
        return (attribute.required() ? "required" : "may be left out") + " · " + type(attribute.type());
    }

    static String namespace(QName name) {
        return name.getNamespaceURI().isEmpty() ? "no namespace" : "namespace " + name.getNamespaceURI();
    }

    static String model(ContentModel model) {
        String words = model.toString();
        return words.length() <= MOST ? words : words.substring(0, MOST - 1) + "…";
    }
}
