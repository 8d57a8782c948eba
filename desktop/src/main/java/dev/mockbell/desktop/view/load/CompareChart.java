package dev.mockbell.desktop.view.load;

import dev.mockbell.desktop.part.Drawing;
import dev.mockbell.desktop.part.Palette.Role;
import dev.mockbell.desktop.view.shared.Numbers;
import dev.mockbell.load.LoadComparison;
import dev.mockbell.load.LoadRun;
import dev.mockbell.load.LoadSecond;
import java.util.List;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.text.Font;

/** The 95th percentile of each second of several runs, one over the other. */
final class CompareChart extends Drawing {
    private static final double LEFT = 50;
    private static final double TOP = 12;

    private final List<List<LoadSecond>> runs;

    CompareChart(LoadComparison compared) {
        runs = compared.runs().stream().map(LoadRun::history).toList();
        setAccessibleText(
                "The 95th percentile of each second of " + runs.size() + " runs; the table below has the figures.");
    }

    @Override
    protected void draw(GraphicsContext g, double w, double h) {
        double bottom = h - 20;
        int span = runs.stream().mapToInt(List::size).max().orElse(0);
        span = Math.max(1, span);
        double most = 1.1
                * runs.stream()
                        .flatMap(List::stream)
                        .mapToDouble(LoadSecond::p95)
                        .reduce(0.1, Math::max);
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
        for (int i = 0; i < runs.size(); i++) {
            line(g, runs.get(i), Series.values()[i], w, bottom, span, most);
        }
    }

    private void line(
            GraphicsContext g,
            List<LoadSecond> seconds,
            Series series,
            double w,
            double bottom,
            int span,
            double most) {
        g.setStroke(palette().of(series.role()));
        series.take(g);
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
        g.setLineDashes();
        g.setLineWidth(1);
    }
}
