package dev.mockbell.change;

import dev.mockbell.change.ContractChange.Kind;
import dev.mockbell.xml.Place;
import java.util.Optional;

/**
 * Something in which a type became another, from where the type stands.
 *
 * @param path from there; empty for the type itself
 */
record Detail(
        String path,
        Kind kind,
        String before,
        String after,
        Relation relation,
        Optional<Place> was,
        Optional<Place> is) {
    /** The same from one element above. */
    Detail under(String name) {
        String full = path.isEmpty() ? name : name + "/" + path;
        return new Detail(full, kind, before, after, relation, was, is);
    }
}
