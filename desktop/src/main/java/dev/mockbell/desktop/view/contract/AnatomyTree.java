package dev.mockbell.desktop.view.contract;

import dev.mockbell.desktop.part.Parts;
import dev.mockbell.schema.AttributeDecl;
import dev.mockbell.schema.ElementDecl;
import dev.mockbell.schema.Occurs;
import dev.mockbell.schema.Particle;
import dev.mockbell.schema.TypeDef;
import dev.mockbell.xml.Place;
import java.util.Optional;
import java.util.function.Consumer;
import javafx.geometry.Insets;
import javafx.geometry.Pos;
import javafx.scene.control.Label;
import javafx.scene.input.KeyCode;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;

/** The inside of an element, opened level by level on demand, so that recursion costs nothing until it is looked at. */
final class AnatomyTree extends VBox {
    private final Consumer<Place> toSource;

    /** @param toSource shows a place in the contract's documents */
    AnatomyTree(ElementDecl root, Consumer<Place> toSource) {
        this.toSource = toSource;
        fill(this, root.type(), 0);
    }

    private void fill(VBox into, TypeDef type, int depth) {
        for (AttributeDecl attribute : type.attributes()) {
            HBox row = row(
                    Parts.text("@" + attribute.name().getLocalPart(), "table-text"),
                    attribute.type().summary(),
                    attribute.required() ? "1" : "0..1",
                    told(attribute.documentation(), attribute.place()),
                    depth);
            attribute.place().ifPresent(p -> row.setOnContextMenuRequested(e -> toSource.accept(p)));
            into.getChildren().add(row);
        }
        type.particle().ifPresent(p -> particle(into, p, depth));
    }

    private void particle(VBox into, Particle particle, int depth) {
        if (particle instanceof Particle.OfElement e) {
            element(into, e.element(), e.occurs(), depth);
        } else if (particle instanceof Particle.OfGroup g) {
            boolean choice =
                    g.compositor() == Particle.Compositor.CHOICE && g.parts().size() > 1;
            if (choice || g.occurs().repeats()) {
                into.getChildren()
                        .add(row(
                                Parts.text(choice ? "one of" : "together", "table-text", "bronze"),
                                "",
                                g.occurs().toString(),
                                "",
                                depth));
                g.parts().forEach(p -> particle(into, p, depth + 1));
            } else {
                g.parts().forEach(p -> particle(into, p, depth));
            }
        } else if (particle instanceof Particle.OfAny any) {
            into.getChildren()
                    .add(row(
                            Parts.text("any element", "table-text", "italic"),
                            any.namespaces(),
                            any.occurs().toString(),
                            "",
                            depth));
        }
    }

    private void element(VBox into, ElementDecl element, Occurs occurs, int depth) {
        boolean inside = element.type().particle().isPresent()
                || !element.type().attributes().isEmpty();
        Label name = Parts.text((inside ? "▸ " : "") + element.name().getLocalPart(), "table-text");
        VBox below = new VBox();
        Optional<Place> place = element.place().or(() -> element.type().place());
        HBox row = row(name, words(element), occurs.toString(), told(element.documentation(), place), depth);
        into.getChildren().add(row);
        place.ifPresent(p -> row.setOnContextMenuRequested(e -> toSource.accept(p)));
        if (inside) {
            into.getChildren().add(below);
            row.setFocusTraversable(true);
            Runnable toggle = () -> {
                boolean open = below.getChildren().isEmpty();
                if (open) {
                    fill(below, element.type(), depth + 1);
                } else {
                    below.getChildren().clear();
                }
                name.setText((open ? "▾ " : "▸ ") + element.name().getLocalPart());
            };
            row.setOnMouseClicked(e -> toggle.run());
            row.setOnKeyPressed(e -> {
                if (e.getCode() == KeyCode.SPACE || e.getCode() == KeyCode.ENTER) {
                    toggle.run();
                }
            });
            if (depth == 0 && occurs.max() == 1 && !occurs.optional()) {
                toggle.run();
            }
        }
    }

    /** What pointing at a row tells: its documentation, and the way to its line. */
    private static String told(String documentation, Optional<Place> place) {
        String way = place.map(p -> "Line " + p.line() + " of " + p.document().replaceAll("^.*/", "")
                        + "; the right button leads there.")
                .orElse("");
        return documentation.isEmpty() ? way : way.isEmpty() ? documentation : documentation + "\n" + way;
    }

    private static String words(ElementDecl element) {
        String named = element.type()
                .name()
                .filter(n -> !"http://www.w3.org/2001/XMLSchema".equals(n.getNamespaceURI()))
                .map(n -> n.getLocalPart())
                .orElse("");
        String summary = element.type().summary();
        return named.isEmpty() || named.equals(summary) ? summary : named + " · " + summary;
    }

    private static HBox row(Label name, String type, String occurs, String documentation, int depth) {
        Label typeLabel = Parts.text(type, "second", "table-text");
        typeLabel.setMinWidth(0);
        Label count = Parts.text(occurs, "third", "table-text");
        count.setMinWidth(USE_PREF_SIZE);
        // a long name gives way to the type beside it, and is whole in what pointing at it tells
        name.setMinWidth(40);
        HBox first = new HBox(name);
        first.setMinWidth(150);
        first.setPrefWidth(Math.max(150, Math.min(240, name.getText().length() * 7.5)));
        first.setAlignment(Pos.CENTER_LEFT);
        HBox row = new HBox(6, first, typeLabel, Parts.spring(), count);
        row.setAlignment(Pos.CENTER_LEFT);
        row.setMinHeight(26);
        row.setPadding(new Insets(0, 10, 0, 10 + depth * 14.0));
        row.setStyle("-fx-border-color: transparent transparent -mb-faint transparent");
        String bare = name.getText().replaceFirst("^[▸▾] ", "");
        Parts.tip(
                row, bare.length() > 20 ? bare + (documentation.isEmpty() ? "" : "\n" + documentation) : documentation);
        return row;
    }
}
