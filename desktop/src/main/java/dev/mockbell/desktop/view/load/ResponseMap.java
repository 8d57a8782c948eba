package dev.mockbell.desktop.view.load;

import dev.mockbell.desktop.part.Drawing;
import dev.mockbell.desktop.part.Palette.Role;
import dev.mockbell.load.LoadSecond;
import dev.mockbell.load.ResponseBands;
import java.util.List;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.text.Font;

/** Where the answers fell: time across, response time up on a log scale, darker is more. */
final class ResponseMap extends Drawing {
    private static final double NARROWEST = 3;

    private List<LoadSecond> seconds = List.of();
    private int length = 10;
    private Double bound;

    /** @param limit a response time in milliseconds to mark; null for none */
    void show(List<LoadSecond> list, int planned, Double limit) {
        seconds = List.copyOf(list);
        length = planned;
        bound = limit;
        requestLayout();
        redraw();
    }

    @Override
    protected void draw(GraphicsContext g, double w, double h) {
        double left = 44;
        double right = w - 10;
        double bottom = h - 8;
        double top = 8;
        double row = (bottom - top) / ResponseBands.COUNT;
        int span = Math.max(length, seconds.size());
        // a column is no narrower than can be seen, however long the run
        int together = (int) Math.ceil(span / Math.max(1, (right - left) / NARROWEST));
        double column = (right - left) * together / span;
        g.setFont(Font.font("Inter", 10));
        g.setFill(palette().of(Role.WORDS));
        g.fillText("1 ms", 8, bottom - row + 3);
        g.fillText("10", 8, bottom - 5 * row + 3);
        g.fillText("100", 8, bottom - 9 * row + 3);
        g.fillText("1 s", 8, bottom - 13 * row + 3);
        for (int from = 0; from < seconds.size(); from += together) {
            long[] bands = new long[ResponseBands.COUNT];
            long all = 0;
            for (LoadSecond second : seconds.subList(from, Math.min(seconds.size(), from + together))) {
                for (int band = 0; band < second.buckets().size(); band++) {
                    bands[band] += second.buckets().get(band);
                    all += second.buckets().get(band);
                }
            }
            for (int band = 0; band < bands.length; band++) {
                if (bands[band] > 0) {
                    double share = Math.min(1, 0.12 + Math.sqrt((double) bands[band] / Math.max(1, all)));
                    g.setFill(palette().of(Role.DENSITY, share));
                    g.fillRect(
                            left + from / together * column,
                            bottom - (band + 1) * row,
                            Math.max(1, column - 1),
                            Math.max(1, row - 1));
                }
            }
        }
        if (bound != null && bound >= 1) {
            double band = 1 + 4 * Math.log10(bound);
            double y = bottom - Math.min(ResponseBands.COUNT, band) * row;
            g.setStroke(palette().of(Role.LIMIT));
            g.setLineDashes(4, 3);
            g.strokeLine(left, y, right, y);
            g.setLineDashes();
            g.setFill(palette().of(Role.LIMIT));
            g.fillText("p95 limit " + Math.round(bound) + " ms", right - 92, y - 4);
        }
    }
}
