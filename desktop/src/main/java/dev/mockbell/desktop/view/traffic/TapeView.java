package dev.mockbell.desktop.view.traffic;

import dev.mockbell.desktop.model.Moments;
import dev.mockbell.desktop.model.TapeLine;
import dev.mockbell.desktop.model.TapeScale;
import dev.mockbell.desktop.model.TrafficModel;
import dev.mockbell.desktop.part.Palette;
import dev.mockbell.desktop.part.Palette.Role;
import dev.mockbell.desktop.part.Parts;
import dev.mockbell.desktop.view.shared.Numbers;
import dev.mockbell.exchange.Exchange.Outcome;
import dev.mockbell.exchange.Exchange.Way;
import dev.mockbell.ledger.LedgerFilter;
import dev.mockbell.ledger.Listing;
import dev.mockbell.problem.Counted;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.time.format.DateTimeFormatter;
import java.util.Arrays;
import java.util.Optional;
import javafx.animation.Animation;
import javafx.animation.KeyFrame;
import javafx.animation.Timeline;
import javafx.application.Platform;
import javafx.beans.InvalidationListener;
import javafx.geometry.Pos;
import javafx.scene.Scene;
import javafx.scene.canvas.Canvas;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.control.Label;
import javafx.scene.control.Tooltip;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;
import javafx.scene.paint.Color;
import javafx.scene.text.Font;
import javafx.stage.Window;

/** The time line of exchanges: strokes up where we called, down where we answered. */
public final class TapeView extends HBox {
    private static final DateTimeFormatter TIME =
            DateTimeFormatter.ofPattern("HH:mm:ss").withZone(ZoneId.systemDefault());
    private static final int DENSE = 2_500;

    private static final int MOMENTS = 2_000;

    /** Room behind the present, in pixels. */
    private static final double AHEAD = 18;

    private final TrafficModel model;
    private final Runnable toTraffic;
    private final Clock clock;
    private final Canvas canvas = new Canvas();
    private final Palette palette = new Palette(this::draw);
    private final Label window = Parts.text("");
    private final Label count = Parts.text("");
    private final Label failed = Parts.text("", "tape-failed");
    private final Tooltip tip = new Tooltip();
    private Duration span = Duration.ofMinutes(5);
    private Instant from = Instant.EPOCH;
    private TapeLine.Part shown = TapeLine.Part.NONE;
    private TapeScale scale = TapeScale.of(Instant.EPOCH, Instant.EPOCH.plusSeconds(1), new long[0], 1);
    private double dragFrom = -1;
    private double dragTo = -1;

    public TapeView(TrafficModel model, Runnable toTraffic, Clock clock) {
        this.model = model;
        this.toTraffic = toTraffic;
        this.clock = clock;
        setId("tape");
        getStyleClass().add("tape");
        setSpacing(10);
        Label name = Parts.text("Tape", "tape-name");
        VBox left = new VBox(8, Parts.text("we called ↑"), name, Parts.text("we answered ↓"));
        left.setAlignment(Pos.CENTER_LEFT);
        left.setMinWidth(84);
        VBox right = new VBox(6, window, count, failed);
        right.setAlignment(Pos.CENTER_LEFT);
        right.setMinWidth(92);
        Region ground = new Region() {
            @Override
            protected void layoutChildren() {
                canvas.setWidth(getWidth());
                canvas.setHeight(getHeight());
                draw();
            }

            {
                getChildren().addAll(canvas, palette);
            }
        };
        HBox.setHgrow(ground, Priority.ALWAYS);
        getChildren().addAll(left, ground, right);
        count.setId("tape-count");
        model.versionProperty().addListener((InvalidationListener) o -> draw());
        Timeline ticking = new Timeline(new KeyFrame(javafx.util.Duration.seconds(1), e -> draw()));
        ticking.setCycleCount(Animation.INDEFINITE);
        // what ticks is held by the toolkit for ever, and with it all of a window that is closed
        sceneProperty()
                .flatMap(Scene::windowProperty)
                .flatMap(Window::showingProperty)
                .orElse(false)
                .addListener((o, was, shown) -> {
                    if (shown) {
                        ticking.play();
                    } else {
                        ticking.stop();
                    }
                });
        react();
    }

    private void react() {
        canvas.setOnScroll(e -> {
            long seconds = Math.round(span.toSeconds() * (e.getDeltaY() > 0 ? 0.5 : 2.0));
            span = Duration.ofSeconds(Math.max(10, Math.min(24 * 3_600, seconds)));
            draw();
        });
        canvas.setOnMouseMoved(e -> {
            Optional<Listing> near = near(e.getX());
            if (near.isPresent()) {
                Listing l = near.get();
                String result = l.note().isEmpty() ? "status " + l.status() : l.note();
                tip.setText(l.operation() + " · " + Moments.toTheSecond(l.started()) + " · " + l.millis() + " ms · "
                        + result);
                tip.show(canvas, e.getScreenX() + 10, e.getScreenY() - 34);
            } else if (folded(e.getX()).isPresent()) {
                TapeScale.Piece quiet = folded(e.getX()).get();
                tip.setText("Nothing from " + Moments.toTheSecond(Instant.ofEpochMilli(quiet.from())) + " to "
                        + Moments.toTheSecond(Instant.ofEpochMilli(quiet.until())));
                tip.show(canvas, e.getScreenX() + 10, e.getScreenY() - 34);
            } else {
                tip.hide();
            }
        });
        canvas.setOnMouseExited(e -> tip.hide());
        canvas.setOnMousePressed(e -> {
            dragFrom = e.getX();
            dragTo = e.getX();
        });
        canvas.setOnMouseDragged(e -> {
            dragTo = e.getX();
            draw();
        });
        canvas.setOnMouseReleased(e -> {
            if (Math.abs(dragTo - dragFrom) > 6) {
                LedgerFilter filter = model.filterProperty().get();
                model.filterProperty()
                        .set(filter.between(at(Math.min(dragFrom, dragTo)), at(Math.max(dragFrom, dragTo))));
                toTraffic.run();
            } else {
                near(e.getX()).ifPresent(l -> model.open(l.id()));
            }
            dragFrom = -1;
            draw();
        });
    }

    private Instant at(double x) {
        return scale.at(x);
    }

    private double x(int index) {
        return scale.x(shown.started()[index]);
    }

    private Optional<Listing> near(double x) {
        int best = -1;
        for (int i = 0; i < shown.size(); i++) {
            double far = Math.abs(x(i) - x);
            if (far < 5 && (best < 0 || far <= Math.abs(x(best) - x))) {
                best = i;
            }
        }
        return best < 0 ? Optional.empty() : Optional.of(shown.lines()[best]);
    }

    private void draw() {
        double w = canvas.getWidth();
        double h = canvas.getHeight();
        if (w < 20) {
            return;
        }
        Instant now = clock.instant();
        from = now.minus(span);
        shown = model.tape().since(from);
        scale = TapeScale.of(from, now, moments(from, now), w - AHEAD);
        GraphicsContext g = canvas.getGraphicsContext2D();
        g.clearRect(0, 0, w, h);
        double middle = (h - 12) / 2;
        g.setStroke(palette.of(Role.GRID));
        g.strokeLine(0, middle, w, middle);
        times(g, h);
        if (shown.size() > DENSE) {
            band(g, w, middle);
        } else {
            for (int i = 0; i < shown.size(); i++) {
                stroke(g, shown.lines()[i], x(i), middle);
            }
        }
        folds(g, middle);
        g.setStroke(palette.of(Role.NOW));
        g.strokeLine(w - AHEAD, 2, w - AHEAD, h - 14);
        if (dragFrom >= 0 && Math.abs(dragTo - dragFrom) > 6) {
            g.setFill(palette.of(Role.NOW, 0.25));
            g.fillRect(Math.min(dragFrom, dragTo), 0, Math.abs(dragTo - dragFrom), h - 12);
        }
        long bad = shown.count(Outcome.FAILED);
        window.setText("now · " + (span.toMinutes() > 0 ? span.toMinutes() + " min" : span.toSeconds() + " s"));
        count.setText(Counted.of(shown.size(), "exchange"));
        failed.setText(bad == 0 ? "" : "■ " + bad + " failed");
        if (Platform.isAccessibilityActive()) {
            canvas.setAccessibleText(figure(bad));
        }
    }

    /** What is drawn, for who cannot see it. */
    private String figure(long bad) {
        long longest = 0;
        for (Listing l : shown.lines()) {
            longest = Math.max(longest, l.millis());
        }
        return "The tape of " + window.getText().replace("now · ", "the last ") + ": "
                + Counted.of(shown.size(), "exchange") + ", " + bad + " failed, "
                + Counted.of(shown.count(Outcome.FAULT), "fault")
                + ", the longest took " + longest + " ms";
    }

    /** Times at the foot; where time is folded there are none. */
    private void times(GraphicsContext g, double h) {
        g.setFont(Font.font("Inter", 10));
        g.setFill(palette.of(Role.WORDS));
        long step = stepSeconds();
        double free = 0;
        for (TapeScale.Piece piece : scale.pieces()) {
            long first = Math.floorDiv(piece.from() / 1_000 + step - 1, step) * step;
            for (long s = first; !piece.folded() && s * 1_000 <= piece.until(); s += step) {
                double x = scale.x(s * 1_000);
                if (x - 20 >= free) {
                    g.fillText(TIME.format(Instant.ofEpochSecond(s)), x - 20, h - 2);
                    free = x + 36;
                }
            }
        }
    }

    /** A quiet time is two strokes across the line. */
    private void folds(GraphicsContext g, double middle) {
        g.setStroke(palette.of(Role.WORDS));
        for (TapeScale.Piece piece : scale.pieces()) {
            if (piece.folded()) {
                double x = piece.x() + piece.width() / 2;
                g.strokeLine(x - 4, middle + 6, x, middle - 6);
                g.strokeLine(x + 1, middle + 6, x + 5, middle - 6);
            }
        }
    }

    /** A folded stretch at a place, for a pointer. */
    private Optional<TapeScale.Piece> folded(double x) {
        return scale.pieces().stream()
                .filter(p -> p.folded() && x >= p.x() && x <= p.x() + p.width())
                .findFirst();
    }

    private long stepSeconds() {
        for (long step : new long[] {5, 10, 30, 60, 300, 600, 1_800, 3_600, 7_200, 14_400}) {
            if (scale.open().toSeconds() / step <= 8) {
                return step;
            }
        }
        return 21_600;
    }

    private void stroke(GraphicsContext g, Listing l, double at, double middle) {
        double x = Math.round(at) + 0.5;
        double length = 5 + Math.min(middle - 9, 6 * Math.log10(1 + l.nanos() / 1e6) * 1.8);
        boolean up = l.way() == Way.CALLED;
        double end = up ? middle - length : middle + length;
        g.setLineWidth(1.6);
        g.setStroke(palette.of(
                l.outcome() == Outcome.FAILED
                        ? Role.FAILED
                        : l.outcome() == Outcome.FAULT ? Role.FAULT : up ? Role.CALLED : Role.ANSWERED));
        g.strokeLine(x, middle, x, end);
        g.setLineWidth(1);
        Numbers.mark(l.outcome()).draw(g, palette, x, end);
    }

    /** So many that strokes would be one blot: a band whose height says how many. */
    private void band(GraphicsContext g, double w, double middle) {
        int columns = (int) w;
        int[] up = new int[columns + 1];
        int[] down = new int[columns + 1];
        boolean[] bad = new boolean[columns + 1];
        for (int i = 0; i < shown.size(); i++) {
            int x = (int) Math.max(0, Math.min(columns, x(i)));
            (shown.way(i) == Way.CALLED ? up : down)[x]++;
            bad[x] |= shown.outcome(i) == Outcome.FAILED;
        }
        int most = 1;
        for (int i = 0; i <= columns; i++) {
            most = Math.max(most, Math.max(up[i], down[i]));
        }
        Color called = palette.of(Role.CALLED, 0.85);
        Color answered = palette.of(Role.ANSWERED, 0.85);
        // one colour after the other: to change it costs more than a line
        g.setStroke(called);
        columns(g, up, middle, -(middle - 8) / most);
        g.setStroke(answered);
        columns(g, down, middle, (middle - 8) / most);
        g.setFill(palette.of(Role.FAILED));
        for (int i = 0; i <= columns; i++) {
            if (bad[i]) {
                g.fillRect(i - 1, middle - 2, 3, 4);
            }
        }
    }

    private static void columns(GraphicsContext g, int[] counts, double middle, double each) {
        for (int i = 0; i < counts.length; i++) {
            if (counts[i] > 0) {
                g.strokeLine(i, middle, i, middle + counts[i] * each);
            }
        }
    }

    /** The middle of the stroke of an exchange, for a pointer. */
    public Optional<double[]> strokeOf(long id) {
        double middle = (canvas.getHeight() - 12) / 2;
        for (int i = 0; i < shown.size(); i++) {
            Listing l = shown.lines()[i];
            if (l.id() == id) {
                var point = canvas.localToScene(x(i), l.way() == Way.CALLED ? middle - 4 : middle + 4);
                return Optional.of(new double[] {point.getX(), point.getY()});
            }
        }
        return Optional.empty();
    }

    /** When anything happened, at as many moments as can be told apart. */
    private long[] moments(Instant start, Instant end) {
        long first = start.toEpochMilli();
        long step = Math.max(1, (end.toEpochMilli() - first) / MOMENTS);
        boolean[] any = new boolean[MOMENTS + 2];
        for (long at : shown.started()) {
            any[(int) Math.max(0, Math.min(MOMENTS + 1, (at - first) / step))] = true;
        }
        long[] found = new long[MOMENTS + 2];
        int count = 0;
        for (int i = 0; i < any.length; i++) {
            if (any[i]) {
                found[count++] = first + i * step;
            }
        }
        return Arrays.copyOf(found, count);
    }
}
