package dev.mockbell.desktop.part;

import javafx.scene.Node;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.layout.StackPane;
import javafx.scene.paint.Color;
import javafx.scene.shape.Circle;
import javafx.scene.shape.Polygon;
import javafx.scene.shape.Polyline;
import javafx.scene.shape.Rectangle;
import javafx.scene.shape.Shape;

/** How a result is shown: by shape first, by colour second. The one place that draws them. */
public enum Mark {
    /** A disc with a tick. */
    PASSED("#1F7A70", "passed"),
    /** A square with a cross. */
    FAILED("#B0392B", "failed"),
    /** A diamond. */
    FAULT("#B9770A", "fault"),
    /** A ring. */
    NOT_RUN("#3A5A8C", "not run"),
    /** A dotted ring. */
    STALE("#8A949A", "no result");

    private final Color color;
    private final String words;

    Mark(String color, String words) {
        this.color = Color.web(color);
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
        switch (this) {
            case PASSED -> {
                Polyline tick = line(3.4, 6.3, 5.3, 8.1, 8.7, 4.2);
                box.getChildren().addAll(new Circle(6, color), tick);
            }
            case FAILED -> {
                Rectangle square = new Rectangle(11, 11, color);
                square.setArcWidth(2);
                square.setArcHeight(2);
                StackPane cross = new StackPane(line(0, 0, 5, 5), line(0, 5, 5, 0));
                box.getChildren().addAll(square, cross);
            }
            case FAULT -> {
                Polygon diamond = new Polygon(6, 0, 12, 6, 6, 12, 0, 6);
                diamond.setFill(color);
                box.getChildren().add(diamond);
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
        ring.setFill(null);
        ring.setStroke(color);
        ring.setStrokeWidth(1.5);
        return ring;
    }

    private static Polyline line(double... points) {
        Polyline line = new Polyline(points);
        line.setStroke(Color.WHITE);
        line.setStrokeWidth(1.6);
        return line;
    }

    /** Draws the mark's shape on a canvas, in a lighter colour for dark ground; used where there are thousands. */
    public void draw(GraphicsContext g, double x, double y) {
        switch (this) {
            case FAILED -> {
                g.setFill(Color.web("#E0594A"));
                g.fillRect(x - 3, y - 3, 6, 6);
            }
            case FAULT -> {
                g.setFill(Color.web("#E5A93C"));
                g.fillPolygon(new double[] {x, x + 4, x, x - 4}, new double[] {y - 4, y, y + 4, y}, 4);
            }
            default -> {
                // a plain stroke says enough for what is fine
            }
        }
    }
}
