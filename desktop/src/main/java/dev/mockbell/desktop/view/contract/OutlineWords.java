package dev.mockbell.desktop.view.contract;

import dev.mockbell.desktop.model.OperationPlace;
import dev.mockbell.message.MessageOutline;
import dev.mockbell.schema.ElementDecl;
import dev.mockbell.schema.Particle;
import dev.mockbell.schema.TypeDef;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/** What operations take and give, in a few words. */
final class OutlineWords {
    private OutlineWords() {}

    static Optional<ElementDecl> input(OperationPlace place) {
        return place.operation()
                .input()
                .flatMap(m -> MessageOutline.of(place.contract().contract(), m).root());
    }

    static Optional<ElementDecl> output(OperationPlace place) {
        return place.operation()
                .output()
                .flatMap(m -> MessageOutline.of(place.contract().contract(), m).root());
    }

    static String takes(OperationPlace place) {
        return input(place).map(OutlineWords::content).filter(f -> !f.isEmpty()).orElse("nothing");
    }

    static String gives(OperationPlace place) {
        return output(place)
                .map(OutlineWords::content)
                .filter(f -> !f.isEmpty())
                .orElse("nothing");
    }

    /** The first few fields of an element, or the type of its text. */
    private static String content(ElementDecl element) {
        String fields = fields(element);
        boolean text = fields.isEmpty() && element.type().content() == TypeDef.Content.TEXT;
        return text ? element.type().summary() : fields;
    }

    /** The first few fields of an element. */
    static String fields(ElementDecl element) {
        List<String> names = new ArrayList<>();
        element.type().particle().ifPresent(p -> collect(p, names));
        if (names.size() > 2) {
            return String.join(", ", names.subList(0, 2)) + "…";
        }
        return String.join(", ", names);
    }

    private static void collect(Particle particle, List<String> names) {
        if (particle instanceof Particle.OfElement e) {
            names.add(e.element().name().getLocalPart() + (e.occurs().repeats() ? " × " + e.occurs() : ""));
        } else if (particle instanceof Particle.OfGroup g) {
            g.parts().forEach(p -> collect(p, names));
        } else {
            names.add("any");
        }
    }
}
