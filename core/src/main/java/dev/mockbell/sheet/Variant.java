package dev.mockbell.sheet;

import dev.mockbell.message.ElementMatch;
import dev.mockbell.sample.SampleValues;
import dev.mockbell.schema.ElementDecl;
import dev.mockbell.schema.TypeDef;
import dev.mockbell.sheet.SheetRow.Kind;
import dev.mockbell.sheet.SheetRow.State;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.w3c.dom.Element;

/**
 * Something that may stand in a row's place.
 *
 * @param title the name of the element or type
 * @param isType whether it differs by its type alone, told by {@code xsi:type} (XML Schema part 1 §2.6.1)
 * @param isNow whether it is what stands there
 */
public record Variant(String title, boolean isType, boolean isNow, ElementDecl element, TypeDef type) {
    static List<Variant> of(SheetRow row) {
        Optional<ElementDecl> given = row.target().element();
        boolean element = row.target().node() instanceof Element && row.kind() != Kind.REPEATS;
        if (given.isEmpty() || !element || row.state() == State.LEFT_OUT) {
            return List.of();
        }
        Element node = (Element) row.target().node();
        List<ElementDecl> elements = new ArrayList<>();
        if (!given.get().isAbstract()) {
            elements.add(given.get());
        }
        elements.addAll(given.get().substitutes());
        ElementDecl standing = elements.stream()
                .filter(e -> e.name().equals(ElementMatch.nameOf(node)))
                .findFirst()
                .orElse(given.get());
        List<Variant> found = new ArrayList<>();
        if (elements.size() > 1) {
            for (ElementDecl e : elements) {
                found.add(new Variant(e.name().getLocalPart(), false, e == standing, e, concrete(e)));
            }
        }
        List<TypeDef> types = types(standing);
        String named = node.getAttributeNS(Sheet.XSI, "type").strip();
        String local = named.substring(named.indexOf(':') + 1);
        if (types.size() > 1) {
            for (TypeDef t : types) {
                String title = t.name().map(n -> n.getLocalPart()).orElse("its own type");
                boolean now = named.isEmpty() ? t == standing.type() : title.equals(local);
                found.add(new Variant(title, true, now, standing, t));
            }
        }
        return found;
    }

    /** The types that an element may have: its own, unless that is abstract, and those that are derived from it. */
    public static List<TypeDef> types(ElementDecl element) {
        List<TypeDef> types = new ArrayList<>();
        if (!element.type().isAbstract()) {
            types.add(element.type());
        }
        boolean open = element.type().isAny();
        element.alternatives().stream()
                .filter(t -> t.name().isPresent())
                .filter(t -> open || !SampleValues.XSD.equals(t.name().get().getNamespaceURI()))
                .forEach(types::add);
        return types;
    }

    private static TypeDef concrete(ElementDecl element) {
        return element.type().isAbstract()
                ? element.alternatives().stream().findFirst().orElse(element.type())
                : element.type();
    }
}
