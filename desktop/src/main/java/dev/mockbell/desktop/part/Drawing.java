package dev.mockbell.desktop.part;

import javafx.scene.canvas.Canvas;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.layout.Region;

/** A picture that fills its room and is drawn anew when that or the theme changes. */
public abstract class Drawing extends Region {
    private static final double LEAST = 80;

    private final Canvas canvas = new Canvas();
    private final Palette palette = new Palette(this::redraw);

    protected Drawing() {
        getChildren().addAll(canvas, palette);
    }

    /** The colours of the theme. */
    protected final Palette palette() {
        return palette;
    }

    /** Draws what there is to show now. */
    protected final void redraw() {
        GraphicsContext g = canvas.getGraphicsContext2D();
        g.clearRect(0, 0, canvas.getWidth(), canvas.getHeight());
        if (canvas.getWidth() >= LEAST) {
            draw(g, canvas.getWidth(), canvas.getHeight());
        }
    }

    /** Draws onto a clear ground. */
    protected abstract void draw(GraphicsContext g, double width, double height);

    @Override
    protected final void layoutChildren() {
        canvas.setWidth(getWidth());
        canvas.setHeight(getHeight());
        redraw();
    }
}
