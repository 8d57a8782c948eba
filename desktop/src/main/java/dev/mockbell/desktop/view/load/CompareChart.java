package dev.mockbell.desktop.view.load;

import dev.mockbell.desktop.part.Drawing;
import dev.mockbell.desktop.part.Palette.Role;
import dev.mockbell.desktop.view.shared.Numbers;
import dev.mockbell.load.LoadComparison;
import dev.mockbell.load.LoadSecond;
import java.util.List;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.text.Font;

/** The 95th percentile of each second of two runs, one over the other. */
final class CompareChart extends Drawing {
    private static final double LEFT = 50;
    private static final double TOP = 12;

    private final List<LoadSecond> before;
    private final List<LoadSecond> now;

    CompareChart(LoadComparison two) {
        before = two.before().history();
        now = two.now().history();
        setAccessibleText("The 95th percentile of each second of both runs; the table below has the figures.");
    }

    @Override
    protected void draw(GraphicsContext g, double w, double h) {
        double bottom = h - 20;
        int span = Math.max(1, Math.max(before.size(), now.size()));
        double most = Math.max(highest(before), highest(now)) * 1.1;
        g.setFont(Font.font("Inter", 10));
        for (int i = 0; i <= 3; i++) {
            double y = bottom - (bottom - TOP) * i / 3;
            g.setStroke(palette().of(Role.GRID, 0.3));
            g.strokeLine(LEFT, y, w - 10, y);
            g.setFill(palette().of(Role.WORDS));
            g.fillText(Numbers.millis(most * i / 3) + " ms", 6, y + 3);
        }
        g.fillText("0:00", LEFT, h - 6);
        g.fillText(span / 60 + ":" + (span % 60 < 10 ? "0" : "") + span % 60, w - 36, h - 6);
        line(g, before, Role.DUE, w, bottom, span, most);
        line(g, now, Role.DONE, w, bottom, span, most);
    }

    private static double highest(List<LoadSecond> seconds) {
        return Math.max(0.1, seconds.stream().mapToDouble(LoadSecond::p95).max().orElse(0.1));
    }

    private void line(
            GraphicsContext g, List<LoadSecond> seconds, Role role, double w, double bottom, int span, double most) {
        g.setStroke(palette().of(role));
        g.setLineWidth(role == Role.DUE ? 2.4 : 1.8);
        g.beginPath();
        for (int i = 0; i < seconds.size(); i++) {
            double x = LEFT + (w - 10 - LEFT) * (i + 0.5) / span;
            double y = bottom - (bottom - TOP) * seconds.get(i).p95() / most;
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
