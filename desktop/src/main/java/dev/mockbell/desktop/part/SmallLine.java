package dev.mockbell.desktop.part;

import java.util.ArrayList;
import java.util.List;
import javafx.scene.layout.Pane;
import javafx.scene.shape.Polyline;

/** How a number went from one time to the next, as a line as high as a row of text, from nothing at its foot to the most at its top. */
public final class SmallLine extends Pane {
    private static final double WIDTH = 40;
    private static final double HEIGHT = 13;

    private final Polyline line = new Polyline();
    private List<Double> shown = List.of();

    public SmallLine() {
        setMinSize(WIDTH, HEIGHT);
        setMaxSize(WIDTH, HEIGHT);
        setMouseTransparent(true);
        line.getStyleClass().add("small-line");
        // its size is this node's: no other is to be laid out anew when it changes
        line.setManaged(false);
        getChildren().add(line);
    }

    /** Shows numbers, oldest first; fewer than two are no line. */
    public void show(List<Double> numbers) {
        if (numbers.equals(shown)) {
            return;
        }
        shown = List.copyOf(numbers);
        line.getPoints().clear();
        if (numbers.size() < 2) {
            return;
        }
        double most = numbers.stream().mapToDouble(n -> n).max().orElse(0);
        List<Double> points = new ArrayList<>();
        double step = WIDTH / (numbers.size() - 1);
        for (int i = 0; i < numbers.size(); i++) {
            double part = most > 0 ? numbers.get(i) / most : 0;
            points.add(i * step);
            points.add(HEIGHT - 1 - part * (HEIGHT - 2));
        }
        line.getPoints().addAll(points);
    }
}
