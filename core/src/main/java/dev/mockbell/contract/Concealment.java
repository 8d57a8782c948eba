package dev.mockbell.contract;

import dev.mockbell.xml.Place;
import dev.mockbell.xml.Xml;
import java.util.Collection;
import java.util.Collections;
import java.util.HashMap;
import java.util.IdentityHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import javax.xml.namespace.QName;
import org.w3c.dom.Document;
import org.w3c.dom.Element;

/**
 * Takes operations out of a contract's documents: out of the bindings (WSDL 1.1 §2.5, WSDL 2.0 §2.9) and out of the port
 * types and interfaces (§2.4, §2.2), where what another binding still offers stays. Of overloaded operations the one that
 * is meant goes and the others stay.
 */
final class Concealment {
    private final Set<String> keys;
    private final Set<Place> places;
    private final Map<QName, Element> faces = new HashMap<>();
    private final Map<QName, Element> declared = new HashMap<>();
    private final Set<Element> gone = Collections.newSetFromMap(new IdentityHashMap<>());
    private final Set<Element> kept = Collections.newSetFromMap(new IdentityHashMap<>());

    private Concealment(Contract contract, Set<String> keys) {
        this.keys = keys;
        this.places = contract.services().stream()
                .flatMap(s -> s.ports().stream())
                .flatMap(p -> p.binding().operations().stream())
                .filter(o -> keys.contains(o.key()))
                .map(Operation::place)
                .collect(Collectors.toSet());
    }

    /**
     * Takes them out.
     *
     * @param documents as read anew; they are changed
     * @param keys of operations
     */
    static void apply(Contract contract, Collection<Document> documents, Set<String> keys) {
        if (!keys.isEmpty()) {
            new Concealment(contract, keys)
                    .apply(documents.stream().map(Document::getDocumentElement).toList());
        }
    }

    private void apply(List<Element> roots) {
        for (Element root : roots) {
            for (Element face : Xml.children(root)) {
                if (isWsdl(face) && Set.of("portType", "interface").contains(face.getLocalName())) {
                    faces.putIfAbsent(Definitions.nameOf(face), face);
                    operations(face)
                            .forEach(o -> declared.putIfAbsent(
                                    new QName(Wsdl.targetNamespace(root), o.getAttribute("name")), o));
                }
            }
        }
        for (Element root : roots) {
            for (Element binding : Xml.children(root)) {
                if (isWsdl(binding) && "binding".equals(binding.getLocalName())) {
                    unbind(binding);
                }
            }
        }
        // what no binding offers is no operation of a port; it goes by its name alone
        faces.values()
                .forEach(face -> operations(face).stream()
                        .filter(o -> !kept.contains(o) && keys.contains(o.getAttribute("name")))
                        .forEach(gone::add));
        gone.stream()
                .filter(o -> !kept.contains(o))
                .forEach(o -> o.getParentNode().removeChild(o));
    }

    private void unbind(Element binding) {
        boolean first = Wsdl.V11.equals(binding.getNamespaceURI());
        Optional<Element> face =
                Wsdl.qname(binding, first ? "type" : "interface").map(faces::get);
        OverloadedNames overloads =
                new OverloadedNames(face.map(Concealment::operations).orElse(List.of()));
        for (Element bound : operations(binding)) {
            Optional<Element> means =
                    first ? overloads.match(bound) : Wsdl.qname(bound, "ref").map(declared::get);
            boolean concealed = places.contains(Xml.placeOf(bound));
            if (concealed) {
                gone.add(bound);
            }
            means.ifPresent((concealed ? gone : kept)::add);
        }
        if (!first) {
            face.ifPresent(f -> operations(f).stream()
                    .filter(o -> places.contains(Xml.placeOf(o)))
                    .forEach(gone::add));
        }
    }

    private static List<Element> operations(Element holder) {
        return Xml.children(holder, holder.getNamespaceURI(), "operation");
    }

    private static boolean isWsdl(Element element) {
        return Wsdl.V11.equals(element.getNamespaceURI())
                || Wsdl.V20_FAMILY.contains(String.valueOf(element.getNamespaceURI()));
    }
}
