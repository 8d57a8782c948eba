package dev.mockbell.sheet;

import dev.mockbell.message.Prefixes;
import dev.mockbell.sample.SampleBuilder;
import dev.mockbell.sample.SampleBuilder.Detail;
import dev.mockbell.sample.SampleValues;
import dev.mockbell.schema.AttributeDecl;
import dev.mockbell.schema.ElementDecl;
import dev.mockbell.schema.SimpleType;
import dev.mockbell.sheet.SheetRow.Kind;
import dev.mockbell.sheet.SheetRow.Round;
import dev.mockbell.sheet.SheetRow.State;
import dev.mockbell.sheet.SheetRow.Target;
import java.util.ArrayList;
import java.util.List;
import org.w3c.dom.Attr;
import org.w3c.dom.Element;
import org.w3c.dom.Node;

/** Edits of what is there and what is left out. What goes is set aside and comes back as it was. */
final class PresenceEdits {
    private final SheetTree tree;
    private final SetAside aside;

    PresenceEdits(SheetTree tree, SetAside aside) {
        this.tree = tree;
        this.aside = aside;
    }

    void include(SheetRow given) {
        SheetRow row = tree.now(given);
        Target target = row.target();
        if (row.state() != State.LEFT_OUT) {
            return;
        }
        if (target.attribute().isPresent()) {
            include(target.attribute().get(), target);
        } else if (row.kind() == Kind.CHOICE) {
            choose(row, chosenBefore(row));
        } else if (target.round().filter(r -> r.nodes().isEmpty()).isPresent()) {
            includeRound(row);
        } else {
            target.element().ifPresent(declared -> includeElement(declared, target));
        }
        tree.touched(target.parent());
    }

    private void includeElement(ElementDecl declared, Target target) {
        List<Node> back = aside.takeBack(target.place());
        List<Node> nodes = back != null ? back : List.of(tree.sample(declared, target.parent()));
        nodes.forEach(n -> tree.insert(target.parent(), n, target.before()));
    }

    private void includeRound(SheetRow row) {
        Target target = row.target();
        Round round = target.round().orElseThrow();
        List<Node> back = aside.takeBack(target.parent() == null ? "" : roundPlace(row));
        if (back != null) {
            back.forEach(n -> tree.insert(target.parent(), n, target.before()));
        } else {
            SheetShape.firstInstance(round.group())
                    .forEach(d -> tree.insert(target.parent(), tree.sample(d, target.parent()), target.before()));
        }
        tree.touched(target.parent());
        SheetRow own = tree.now(row);
        if (own.state() == State.LEFT_OUT
                && own.target().round().filter(r -> !r.nodes().isEmpty()).isPresent()) {
            own.target().element().ifPresent(d -> includeElement(d, own.target()));
        }
    }

    private static String roundPlace(SheetRow row) {
        String place = row.target().place();
        return place.substring(0, place.lastIndexOf('/')) + "/("
                + SheetShape.title(row.target().round().orElseThrow().group()) + ")";
    }

    private void include(AttributeDecl declared, Target target) {
        Element owner = target.parent();
        List<Node> back = aside.takeBack(target.place());
        if (back != null) {
            owner.setAttributeNodeNS((Attr) back.get(0));
            return;
        }
        Prefixes prefixes = new Prefixes(tree.outline().prefixes());
        prefixes.inScopeOf(owner);
        String local = declared.name().getLocalPart();
        String value = declared.fixed()
                .or(declared::byDefault)
                .orElseGet(() -> declared.type()
                        .simple()
                        .map(t -> free(t, local, prefixes))
                        .orElse(""));
        String namespace = declared.name().getNamespaceURI();
        if (namespace.isEmpty()) {
            owner.setAttributeNS(null, local, value);
        } else {
            owner.setAttributeNS(namespace, prefixes.lexical(declared.name()), value);
        }
        prefixes.declareOn(owner);
    }

    /** A sample value; of a type whose values must differ over the document, one that is not there yet. */
    private String free(SimpleType type, String name, Prefixes prefixes) {
        SampleValues values = new SampleValues(prefixes);
        String value = values.of(type, name, 0);
        boolean unique = "ID".equals(type.builtIn());
        for (int i = 1; unique && i < 1_000 && tree.text().contains("\"" + value + "\""); i++) {
            value = values.of(type, name, i);
        }
        return value;
    }

    void leaveOut(SheetRow given) {
        if (given.target().parent() == null || tree.standing(given).isEmpty()) {
            return;
        }
        SheetRow row = tree.now(given);
        Target target = row.target();
        if (row.kind() == Kind.CHOICE) {
            aside.put(target.place() + "|" + row.value(), target.nodes());
            aside.put(target.place() + "|", List.of(tree.document().createTextNode(row.value())));
            target.nodes().forEach(Placement::remove);
        } else if (target.node() == null) {
            return;
        } else if (target.node() instanceof Attr attr) {
            aside.put(target.place(), List.of(attr));
            attr.getOwnerElement().removeAttributeNode(attr);
        } else if (target.round().filter(Round::canGo).isPresent()
                && !row.occurs().optional()) {
            List<Node> nodes = target.round().get().nodes();
            aside.put(roundPlace(row), nodes);
            nodes.forEach(Placement::remove);
        } else {
            aside.add(target.place(), target.node());
            Placement.remove(target.node());
        }
        tree.touched(target.parent());
    }

    void remove(SheetRow given) {
        if (tree.standing(given).isEmpty()) {
            return;
        }
        SheetRow row = tree.now(given);
        if (row.target().node() instanceof Attr || row.kind() == Kind.CHOICE) {
            leaveOut(row);
        } else if (row.target().node() != null && row.target().parent() != null) {
            aside.put(row.target().place(), new ArrayList<>(List.of(row.target().node())));
            Placement.remove(row.target().node());
            tree.touched(row.target().parent());
        }
    }

    private String chosenBefore(SheetRow row) {
        List<Node> branch = aside.at(row.target().place() + "|");
        return branch != null
                ? branch.get(0).getNodeValue()
                : row.options().isEmpty() ? "" : row.options().get(0);
    }

    void choose(SheetRow given, String option) {
        SheetRow row = tree.now(given);
        Target target = row.target();
        int index = row.options().indexOf(option);
        if (index < 0 || option.equals(row.value())) {
            return;
        }
        List<Node> standing = target.nodes();
        Node before = standing.isEmpty() ? target.before() : Placement.nextMarkup(standing.get(standing.size() - 1));
        if (!standing.isEmpty()) {
            aside.put(target.place() + "|" + row.value(), standing);
            standing.forEach(Placement::remove);
        }
        List<Node> back = aside.takeBack(target.place() + "|" + option);
        if (back != null) {
            back.forEach(n -> tree.insert(target.parent(), n, before));
        } else {
            tree.insertAll(
                    target.parent(), SheetShape.firstInstance(target.branches().get(index)), before);
        }
        tree.touched(target.parent());
    }

    void setNil(SheetRow given, boolean nil) {
        Element element = (Element) given.target().node();
        String place = "nil " + given.id();
        if (nil) {
            List<Node> inside = new ArrayList<>();
            while (element.hasChildNodes()) {
                inside.add(element.removeChild(element.getFirstChild()));
            }
            aside.put(place, inside);
            Prefixes prefixes = new Prefixes(tree.outline().prefixes());
            prefixes.inScopeOf(element);
            element.setAttributeNS(Sheet.XSI, prefixes.of(Sheet.XSI) + ":nil", "true");
            prefixes.declareOn(element);
        } else {
            element.removeAttributeNS(Sheet.XSI, "nil");
            List<Node> inside = aside.takeBack(place);
            if (inside != null && !element.hasChildNodes()) {
                inside.forEach(element::appendChild);
            }
        }
        tree.touched(element);
    }

    List<Variant> variants(SheetRow row) {
        return Variant.of(tree.now(row));
    }

    void become(SheetRow given, Variant variant) {
        SheetRow row = tree.now(given);
        Element old = (Element) row.target().node();
        Element parent = row.target().parent();
        if (parent == null || variant.isNow()) {
            return;
        }
        String place = row.target().place() + " as ";
        List<Node> back = aside.takeBack(place + variant.title());
        Element fresh = back == null
                ? new SampleBuilder(tree.outline(), Detail.REQUIRED).buildFor(variant.element(), variant.type(), parent)
                : (Element) back.get(0);
        if (back == null) {
            Carry.over(old, fresh);
        }
        variants(row).stream()
                .filter(Variant::isNow)
                .findFirst()
                .ifPresent(v -> aside.put(place + v.title(), List.of(old)));
        tree.insert(parent, fresh, old);
        Placement.remove(old);
        tree.touched(parent);
    }
}
