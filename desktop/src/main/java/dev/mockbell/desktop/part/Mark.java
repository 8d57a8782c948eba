package dev.mockbell.desktop.part;

import java.util.Locale;
import javafx.scene.Node;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.layout.StackPane;
import javafx.scene.shape.Circle;
import javafx.scene.shape.Polygon;
import javafx.scene.shape.Polyline;
import javafx.scene.shape.Rectangle;
import javafx.scene.shape.Shape;

/** How a result is shown: by shape first, by colour second. The one place that draws them. */
public enum Mark {
    /** A disc with a tick. */
    PASSED("passed"),
    /** A square with a cross. */
    FAILED("failed"),
    /** A diamond. */
    FAULT("fault"),
    /** A ring. */
    NOT_RUN("not run"),
    /** A dotted ring. */
    STALE("no result");

    private final String words;

    Mark(String words) {
        this.words = words;
    }

    /** For screen readers and tooltips. */
    public String words() {
        return words;
    }

    /** The mark as a node, 12 pixels wide. */
    public Node node() {
        StackPane box = new StackPane();
        box.setMinSize(12, 12);
        box.setMaxSize(12, 12);
        box.setAccessibleText(words);
        // colours are the stylesheet's: mark-passed, mark-failed and so on
        box.getStyleClass()
                .addAll("mark", "mark-" + name().toLowerCase(Locale.ROOT).replace('_', '-'));
        switch (this) {
            case PASSED -> {
                Polyline tick = line(3.4, 6.3, 5.3, 8.1, 8.7, 4.2);
                box.getChildren().addAll(ground(new Circle(6)), tick);
            }
            case FAILED -> {
                Rectangle square = ground(new Rectangle(11, 11));
                square.setArcWidth(2);
                square.setArcHeight(2);
                StackPane cross = new StackPane(line(0, 0, 5, 5), line(0, 5, 5, 0));
                box.getChildren().addAll(square, cross);
            }
            case FAULT -> {
                box.getChildren().add(ground(new Polygon(6, 0, 12, 6, 6, 12, 0, 6)));
            }
            case NOT_RUN -> box.getChildren().add(ring());
            case STALE -> {
                Shape ring = ring();
                ring.getStrokeDashArray().addAll(1.5, 2.5);
                box.getChildren().add(ring);
            }
        }
        return box;
    }

    private Shape ring() {
        Circle ring = new Circle(5);
        ring.getStyleClass().add("mark-ring");
        return ring;
    }

    private static <T extends Shape> T ground(T shape) {
        shape.getStyleClass().add("mark-ground");
        return shape;
    }

    private static Polyline line(double... points) {
        Polyline line = new Polyline(points);
        line.getStyleClass().add("mark-line");
        return line;
    }

    /** Draws the mark's shape on a canvas, in a lighter colour for dark ground; used where there are thousands. */
    public void draw(GraphicsContext g, Palette palette, double x, double y) {
        switch (this) {
            case FAILED -> {
                g.setFill(palette.of(Palette.Role.FAILED));
                g.fillRect(x - 3, y - 3, 6, 6);
            }
            case FAULT -> {
                g.setFill(palette.of(Palette.Role.FAULT));
                g.fillPolygon(new double[] {x, x + 4, x, x - 4}, new double[] {y - 4, y, y + 4, y}, 4);
            }
            default -> {
                // a plain stroke says enough for what is fine
            }
        }
    }
}
