package dev.mockbell.desktop.view.load;

import dev.mockbell.desktop.part.Drawing;
import dev.mockbell.desktop.part.Palette.Role;
import dev.mockbell.desktop.view.shared.Numbers;
import dev.mockbell.load.LoadPlan;
import dev.mockbell.load.LoadSecond;
import java.util.List;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.text.Font;

/** Arrivals due and answers come, a second: time across, count up. */
final class RateChart extends Drawing {
    /** Room for a time at the right end. */
    private static final double LABEL = 26;

    private List<LoadSecond> seconds = List.of();
    private int length = 10;

    void show(List<LoadSecond> list, LoadPlan plan) {
        seconds = List.copyOf(list);
        length = (int) Math.ceil(plan.seconds());
        requestLayout();
        redraw();
    }

    @Override
    protected void draw(GraphicsContext g, double w, double h) {
        long most = 1;
        for (LoadSecond s : seconds) {
            most = Math.max(most, Math.max(s.intended(), s.done()));
        }
        double left = 44;
        double bottom = h - 20;
        double top = 12;
        int span = Math.max(length, seconds.size());
        g.setFont(Font.font("Inter", 10));
        for (int i = 0; i <= 2; i++) {
            double y = bottom - (bottom - top) * i / 2;
            g.setStroke(palette().of(Role.GRID, 0.3));
            g.strokeLine(left, y, w - 10, y);
            g.setFill(palette().of(Role.WORDS));
            if (i != 1 || most > 1) {
                g.fillText(Numbers.whole(most * i / 2), 8, y + 3);
            }
        }
        int step = span <= 12 ? 1 : span <= 60 ? 10 : span <= 600 ? 60 : 600;
        for (int s = 0; s <= span; s += step) {
            g.fillText(
                    s / 60 + ":" + (s % 60 < 10 ? "0" : "") + s % 60,
                    Math.min(left + (w - 10 - left) * s / span - 8, w - LABEL),
                    h - 6);
        }
        line(g, left, w - 10, bottom, top, span, most, true);
        line(g, left, w - 10, bottom, top, span, most, false);
    }

    private void line(
            GraphicsContext g, double left, double right, double bottom, double top, int span, long most, boolean due) {
        g.setStroke(palette().of(due ? Role.DUE : Role.DONE));
        g.setLineWidth(due ? 2 : 1.8);
        g.beginPath();
        for (int i = 0; i < seconds.size(); i++) {
            double x = left + (right - left) * (i + 0.5) / span;
            long value = due ? seconds.get(i).intended() : seconds.get(i).done();
            double y = bottom - (bottom - top) * value / most;
            if (i == 0) {
                g.moveTo(x, y);
            } else {
                g.lineTo(x, y);
            }
        }
        g.stroke();
        g.setLineWidth(1);
    }
}
