package dev.mockbell.desktop.view.load;

import dev.mockbell.desktop.part.Palette.Role;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.shape.Line;

/** How each of several runs is drawn: told apart by its colour, and by its dashes without it. */
enum Series {
    FIRST(Role.DUE, 2.4),
    SECOND(Role.DONE, 1.8),
    THIRD(Role.ANSWERED, 1.8, 7, 3),
    FOURTH(Role.CURVE, 1.8, 2, 3),
    FIFTH(Role.FAULT, 1.8, 9, 3, 2, 3);

    private static final double SAMPLE = 26;

    private final Role role;
    private final double width;
    private final double[] dashes;

    Series(Role role, double width, double... dashes) {
        this.role = role;
        this.width = width;
        this.dashes = dashes;
    }

    Role role() {
        return role;
    }

    /** Lines are drawn as this one is, from here on. */
    void take(GraphicsContext g) {
        g.setLineWidth(width);
        g.setLineDashes(dashes);
    }

    /** A piece of it, for what names the run. */
    Line sample() {
        Line line = new Line(0, 0, SAMPLE, 0);
        line.setStrokeWidth(width);
        for (double dash : dashes) {
            line.getStrokeDashArray().add(dash);
        }
        line.getStyleClass().add("series-" + (ordinal() + 1));
        return line;
    }
}
