package dev.mockbell.report;

import dev.mockbell.load.LoadRun;
import dev.mockbell.load.LoadSecond;
import dev.mockbell.load.ResponseBands;
import dev.mockbell.xml.XmlWriter;
import java.util.List;
import java.util.Locale;
import java.util.function.ToDoubleFunction;

/** The charts of a load run as SVG, to stand in a page. Colours are classes, so that the page's style is theirs. */
final class LoadCharts {
    private static final int WIDTH = 900;
    private static final int LEFT = 56;
    private static final int RIGHT = 12;
    private static final int RATES = 150;
    private static final int MAP = 190;
    private static final int TOP = 10;
    private static final int FOOT = 22;

    /** More columns than that are put together. */
    private static final int MOST_COLUMNS = 240;

    private final List<LoadSecond> seconds;
    private final int span;

    LoadCharts(LoadRun run) {
        this.seconds = run.history();
        this.span = Math.max(1, Math.max((int) Math.ceil(run.plan().seconds()), seconds.size()));
    }

    /** What came in and what was answered, a second. */
    String rates() {
        double most = seconds.stream()
                .mapToDouble(s -> Math.max(s.intended(), s.done()))
                .max()
                .orElse(1);
        XmlWriter out = start(RATES, "Arrivals and answers a second");
        axis(out, RATES, most);
        line(out, LoadSecond::intended, most, RATES, "due");
        line(out, LoadSecond::done, most, RATES, "done");
        line(out, LoadSecond::failed, most, RATES, "bad");
        return out.end().finish();
    }

    /** Where the answers fell: darker is more. */
    String map() {
        XmlWriter out = start(MAP, "Response times on a logarithmic scale, second by second");
        int bands = ResponseBands.COUNT;
        double row = (double) (MAP - TOP - FOOT) / bands;
        for (int band = 1; band < bands; band += 4) {
            double y = MAP - FOOT - band * row;
            text(out, 4, y + 3, time(ResponseBands.lowerMicros(band)));
        }
        int together = (int) Math.ceil((double) span / MOST_COLUMNS);
        double column = (double) (WIDTH - LEFT - RIGHT) * together / span;
        for (int from = 0; from < seconds.size(); from += together) {
            long[] counts = new long[bands];
            long all = 0;
            for (LoadSecond s : seconds.subList(from, Math.min(seconds.size(), from + together))) {
                for (int band = 0; band < Math.min(bands, s.buckets().size()); band++) {
                    counts[band] += s.buckets().get(band);
                    all += s.buckets().get(band);
                }
            }
            for (int band = 0; band < bands; band++) {
                if (counts[band] > 0) {
                    out.start("rect")
                            .attribute("class", "density")
                            .attribute("x", number(LEFT + from / together * column))
                            .attribute("y", number(MAP - FOOT - (band + 1) * row))
                            .attribute("width", number(Math.max(0.5, column - 0.5)))
                            .attribute("height", number(row - 0.5))
                            .attribute("opacity", number(Math.min(1, 0.12 + Math.sqrt((double) counts[band] / all))))
                            .end();
                }
            }
        }
        foot(out, MAP);
        return out.end().finish();
    }

    private static XmlWriter start(int height, String title) {
        return XmlWriter.fragment()
                .start("svg")
                .attribute("class", "chart")
                .attribute("viewBox", "0 0 " + WIDTH + " " + height)
                .attribute("role", "img")
                .attribute("aria-label", title);
    }

    private void axis(XmlWriter out, int height, double most) {
        for (int i = 0; i <= 2; i++) {
            double y = height - FOOT - (height - TOP - FOOT) * i / 2.0;
            out.start("line")
                    .attribute("class", "grid")
                    .attribute("x1", LEFT)
                    .attribute("x2", WIDTH - RIGHT)
                    .attribute("y1", number(y))
                    .attribute("y2", number(y))
                    .end();
            text(out, 4, y + 3, number(most * i / 2));
        }
        foot(out, height);
    }

    private void foot(XmlWriter out, int height) {
        text(out, LEFT, height - 6.0, "0:00");
        text(out, WIDTH - RIGHT - 30.0, height - 6.0, span / 60 + ":" + (span % 60 < 10 ? "0" : "") + span % 60);
    }

    private void line(XmlWriter out, ToDoubleFunction<LoadSecond> of, double most, int height, String kind) {
        StringBuilder points = new StringBuilder();
        for (int i = 0; i < seconds.size(); i++) {
            double x = LEFT + (double) (WIDTH - LEFT - RIGHT) * (i + 0.5) / span;
            double y = height - FOOT - (height - TOP - FOOT) * of.applyAsDouble(seconds.get(i)) / Math.max(1, most);
            points.append(number(x)).append(',').append(number(y)).append(' ');
        }
        out.start("polyline")
                .attribute("class", kind)
                .attribute("points", points.toString().strip())
                .end();
    }

    private static void text(XmlWriter out, double x, double y, String words) {
        out.start("text")
                .attribute("x", number(x))
                .attribute("y", number(y))
                .text(words)
                .end();
    }

    private static String time(long micros) {
        return micros >= 1_000_000 ? micros / 1_000_000 + " s" : micros / 1_000 + " ms";
    }

    private static String number(double value) {
        return value == Math.rint(value) ? Long.toString((long) value) : String.format(Locale.ROOT, "%.2f", value);
    }
}
