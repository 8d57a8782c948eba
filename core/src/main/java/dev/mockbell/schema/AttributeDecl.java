package dev.mockbell.schema;

import java.util.Optional;
import javax.xml.namespace.QName;

/**
 * An attribute that an element may carry.
 *
 * @param fixed the only value it may have
 * @param byDefault the value it has when left out
 */
public record AttributeDecl(
        QName name,
        TypeDef type,
        boolean required,
        Optional<String> fixed,
        Optional<String> byDefault,
        String documentation) {}
