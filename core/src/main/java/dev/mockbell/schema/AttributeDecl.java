package dev.mockbell.schema;

import dev.mockbell.xml.Place;
import java.util.Optional;
import javax.xml.namespace.QName;

/**
 * An attribute that an element may carry.
 *
 * @param fixed the only value it may have
 * @param byDefault the value it has when left out
 * @param ofEncoding whether SOAP's encoding brings it in: it says how a value is written, such as where it stands instead
 * @param place where it is declared; empty when that is in a group or a base type
 */
public record AttributeDecl(
        QName name,
        TypeDef type,
        boolean required,
        Optional<String> fixed,
        Optional<String> byDefault,
        String documentation,
        boolean ofEncoding,
        Optional<Place> place) {}
