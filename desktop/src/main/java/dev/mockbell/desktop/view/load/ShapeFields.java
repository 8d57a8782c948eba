package dev.mockbell.desktop.view.load;

import dev.mockbell.load.LoadShape;
import java.util.List;
import java.util.function.Consumer;
import java.util.function.DoubleConsumer;
import javafx.scene.Node;

/**
 * The fields of each shape of load.
 *
 * @param fields makes a field
 * @param keep takes the shape that was edited
 */
record ShapeFields(Fields fields, Consumer<LoadShape> keep) implements LoadShape.Visitor<List<Node>> {
    /** The kinds to choose from, each with what it begins with. */
    static final List<Kind> KINDS = List.of(kind(new LoadShape.Arrivals(10)), kind(new LoadShape.Users(5, 0)));

    /** A field of a number that hands on what is typed. */
    interface Fields {
        Node number(String name, String id, double value, DoubleConsumer typed);
    }

    /** A kind of shape under its name. */
    record Kind(String name, LoadShape first) {}

    private static Kind kind(LoadShape first) {
        return new Kind(first.accept(new Name()), first);
    }

    @Override
    public List<Node> arrivals(LoadShape.Arrivals shape) {
        return List.of(fields.number(
                "A second",
                "load-rate",
                shape.perSecond(),
                v -> keep.accept(new LoadShape.Arrivals(Math.max(0.01, v)))));
    }

    @Override
    public List<Node> users(LoadShape.Users shape) {
        return List.of(
                fields.number(
                        "Users",
                        "load-users",
                        shape.count(),
                        v -> keep.accept(new LoadShape.Users((int) Math.max(1, v), shape.pauseMillis()))),
                fields.number(
                        "Pause (ms)",
                        "load-pause",
                        shape.pauseMillis(),
                        v -> keep.accept(new LoadShape.Users(shape.count(), (long) Math.max(0, v)))));
    }

    /** What each kind is called. */
    static final class Name implements LoadShape.Visitor<String> {
        @Override
        public String arrivals(LoadShape.Arrivals shape) {
            return "Arrivals";
        }

        @Override
        public String users(LoadShape.Users shape) {
            return "Users";
        }
    }
}
