package dev.mockbell.desktop.view.load;

import dev.mockbell.desktop.part.Drawing;
import dev.mockbell.desktop.part.Palette.Role;
import dev.mockbell.load.LoadShape;
import dev.mockbell.load.LoadShape.Kind;
import dev.mockbell.load.LoadShape.Point;
import dev.mockbell.load.Plain;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.function.Consumer;
import javafx.scene.AccessibleRole;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.input.KeyCode;
import javafx.scene.input.KeyEvent;
import javafx.scene.input.MouseButton;
import javafx.scene.input.MouseEvent;
import javafx.scene.text.Font;

/**
 * The curve of a load plan, whose points are dragged: a click on the line makes one, Delete takes one away. By the keyboard, left
 * and right choose a point, with Alt the arrows move it.
 */
final class CurveEditor extends Drawing {
    private static final double LEFT = 14;
    private static final double RIGHT = 12;
    private static final double TOP = 14;
    private static final double BOTTOM = 20;
    private static final double NEAR = 9;
    private static final double DOT = 4.5;

    private final Consumer<LoadShape> keep;
    private LoadShape shape = LoadShape.arrivals(1, 1);
    private List<Point> points = shape.points();
    private int chosen = -1;
    private boolean dragging;
    private double shownMost = 1;
    private double shownSeconds = 1;
    private double now = -1;

    /** @param keep takes the curve once a point is let go */
    CurveEditor(Consumer<LoadShape> keep) {
        this.keep = keep;
        setId("load-curve");
        setFocusTraversable(true);
        setAccessibleRole(AccessibleRole.IMAGE_VIEW);
        setOnMousePressed(this::pressed);
        setOnMouseDragged(this::dragged);
        setOnMouseReleased(this::released);
        setOnKeyPressed(this::key);
        focusedProperty().addListener((o, was, is) -> redraw());
    }

    /** Shows a curve, unless one is being drawn. */
    void show(LoadShape other) {
        if (dragging) {
            return;
        }
        shape = other;
        points = other.points();
        chosen = Math.min(chosen, points.size() - 1);
        scale();
        setAccessibleText("The curve of the load: " + other.title());
        redraw();
    }

    /** Marks how far the run is, in seconds; negative for not at all. */
    void mark(double second) {
        if (second != now) {
            now = second;
            redraw();
        }
    }

    private void scale() {
        shownMost = Math.max(1, points.stream().mapToDouble(Point::level).max().orElse(1) * 1.15);
        shownSeconds = points.get(points.size() - 1).at();
    }

    private double x(double seconds) {
        return LEFT + (getWidth() - LEFT - RIGHT) * seconds / shownSeconds;
    }

    private double y(double level) {
        return getHeight() - BOTTOM - (getHeight() - BOTTOM - TOP) * level / shownMost;
    }

    private double second(double x) {
        return Math.max(0, (x - LEFT) / (getWidth() - LEFT - RIGHT) * shownSeconds);
    }

    private double level(double y) {
        return Math.max(0, (getHeight() - BOTTOM - y) / (getHeight() - BOTTOM - TOP) * shownMost);
    }

    private int near(double x, double y) {
        int best = -1;
        double least = NEAR * NEAR;
        for (int i = 0; i < points.size(); i++) {
            double dx = x(points.get(i).at()) - x;
            double dy = y(points.get(i).level()) - y;
            if (dx * dx + dy * dy <= least) {
                least = dx * dx + dy * dy;
                best = i;
            }
        }
        return best;
    }

    private void pressed(MouseEvent e) {
        requestFocus();
        if (e.getButton() != MouseButton.PRIMARY) {
            return;
        }
        chosen = near(e.getX(), e.getY());
        if (chosen < 0) {
            double second = second(e.getX());
            double line = new LoadShape(shape.kind(), points).level(second);
            if (second > 0 && second < shownSeconds && Math.abs(y(line) - e.getY()) < NEAR) {
                List<Point> more = new ArrayList<>(points);
                int at = 0;
                while (at < more.size() && more.get(at).at() <= second) {
                    at++;
                }
                more.add(at, new Point(round(second), round(line)));
                points = more;
                chosen = at;
            }
        }
        dragging = chosen >= 0;
        redraw();
    }

    private void dragged(MouseEvent e) {
        if (dragging) {
            move(chosen, second(e.getX()), level(e.getY()));
            redraw();
        }
    }

    private void released(MouseEvent e) {
        if (dragging) {
            dragging = false;
            kept();
        }
    }

    private void kept() {
        LoadShape made = new LoadShape(shape.kind(), points);
        if (!made.equals(shape)) {
            keep.accept(made);
        }
    }

    /** Neither before the point before nor behind the one behind; the first stays at the start. */
    private void move(int index, double second, double level) {
        double low = index == 0 ? 0 : points.get(index - 1).at();
        boolean last = index == points.size() - 1;
        double high =
                index == 0 ? 0 : last ? shownSeconds * 2 : points.get(index + 1).at();
        double at = Math.max(low, Math.min(high, round(second)));
        List<Point> moved = new ArrayList<>(points);
        moved.set(index, new Point(last && index > 0 ? Math.max(1, at) : at, round(level)));
        points = moved;
    }

    /** Whole numbers, but for small ones. */
    private static double round(double value) {
        return value < 10 ? Math.round(value * 10) / 10.0 : Math.rint(value);
    }

    private void key(KeyEvent e) {
        if (e.getCode() == KeyCode.DELETE || e.getCode() == KeyCode.BACK_SPACE) {
            if (chosen > 0 && points.size() > 2) {
                List<Point> fewer = new ArrayList<>(points);
                fewer.remove(chosen);
                points = fewer;
                chosen--;
                kept();
            }
            e.consume();
            return;
        }
        int across = e.getCode() == KeyCode.LEFT ? -1 : e.getCode() == KeyCode.RIGHT ? 1 : 0;
        int up = e.getCode() == KeyCode.DOWN ? -1 : e.getCode() == KeyCode.UP ? 1 : 0;
        if (across == 0 && up == 0) {
            return;
        }
        if (!e.isAltDown()) {
            chosen = Math.max(0, Math.min(points.size() - 1, chosen + across));
        } else if (chosen >= 0) {
            Point p = points.get(chosen);
            move(
                    chosen,
                    p.at() + across * Math.max(1, Math.rint(shownSeconds / 50)),
                    p.level() + up * Math.max(1, Math.rint(shownMost / 50)));
            kept();
        }
        redraw();
        e.consume();
    }

    @Override
    protected void draw(GraphicsContext g, double w, double h) {
        g.setFont(Font.font("Inter", 10));
        double[] xs = new double[points.size() + 2];
        double[] ys = new double[xs.length];
        for (int i = 0; i < points.size(); i++) {
            xs[i] = x(Math.min(points.get(i).at(), shownSeconds));
            ys[i] = y(Math.min(points.get(i).level(), shownMost));
        }
        xs[points.size()] = xs[points.size() - 1];
        ys[points.size()] = y(0);
        xs[points.size() + 1] = xs[0];
        ys[points.size() + 1] = y(0);
        g.setStroke(palette().of(Role.GRID, 0.3));
        g.strokeLine(LEFT, y(0), w - RIGHT, y(0));
        g.setFill(palette().of(Role.DENSITY, 0.18));
        g.fillPolygon(xs, ys, xs.length);
        g.setStroke(palette().of(Role.CURVE));
        g.setLineWidth(1.8);
        g.strokePolyline(xs, ys, points.size());
        g.setLineWidth(1.6);
        for (int i = 0; i < points.size(); i++) {
            g.setFill(palette().of(i == chosen && (isFocused() || dragging) ? Role.CURVE : Role.GROUND));
            g.fillOval(xs[i] - DOT, ys[i] - DOT, 2 * DOT, 2 * DOT);
            g.strokeOval(xs[i] - DOT, ys[i] - DOT, 2 * DOT, 2 * DOT);
        }
        g.setLineWidth(1);
        if (now >= 0 && now <= shownSeconds) {
            g.setStroke(palette().of(Role.LIMIT));
            g.setLineDashes(3, 3);
            g.strokeLine(x(now), TOP - 6, x(now), y(0));
            g.setLineDashes();
        }
        g.setFill(palette().of(Role.WORDS));
        g.fillText("0", LEFT, h - 6);
        String end = time(points.get(points.size() - 1).at());
        g.fillText(end, w - RIGHT - 6 * end.length(), h - 6);
        if (chosen >= 0 && (isFocused() || dragging)) {
            Point p = points.get(chosen);
            String words =
                    time(p.at()) + ", " + Plain.number(p.level()) + (shape.kind() == Kind.ARRIVALS ? "/s" : " users");
            g.fillText(words, Math.max(LEFT, Math.min(xs[chosen] - 20, w - RIGHT - 6 * words.length())), TOP - 3);
        }
    }

    private static String time(double seconds) {
        return seconds < 60
                ? Plain.number(seconds) + " s"
                : (long) seconds / 60 + ":" + String.format(Locale.ROOT, "%02d", (long) seconds % 60);
    }
}
