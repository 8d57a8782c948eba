package dev.mockbell.desktop.part;

import java.util.function.IntSupplier;
import javafx.application.Platform;
import javafx.scene.Parent;
import javafx.scene.layout.Region;

/**
 * Shows a list or a text that makes nodes for what is in view from its top downwards, a few rows a pulse at first: making and
 * styling a screenful in one go would hold the interface thread for several frames. How many are made at once follows from how
 * long the last ones took, so that a fast machine shows all of it in two or three frames. Once all is there it is a plain box.
 */
final class Unrolled extends Region {
    /** Pixels: so few rows, which are not filled up with rows of nothing. */
    private static final double FEW_HEIGHT = 52;

    private static final int FEW = 2;

    /** Pixels: a row. */
    private static final double ROW = 26;

    /** Nanoseconds that a piece may take. */
    private static final long PIECE = 3_000_000;

    private final Parent content;
    private final IntSupplier rows;
    private double step = ROW;
    private double shown;

    /** @param rows how many rows there are to be made; for a text any number that is larger than {@link #FEW}, or 0 */
    Unrolled(Parent content, IntSupplier rows) {
        this.content = content;
        this.rows = rows;
        getChildren().add(content);
    }

    /** Whether all that there is room for is shown. */
    boolean isWhole() {
        int all = rows.getAsInt();
        return all == 0 || shown == Double.MAX_VALUE || all <= FEW && shown >= FEW_HEIGHT;
    }

    /** Begins anew, when the rows that it has are to be made of other nodes. */
    void again() {
        step = ROW;
        shown = 0;
        // some make their rows before the next layout
        content.resize(getWidth(), Math.min(getHeight(), shown));
        content.layout();
        requestLayout();
    }

    @Override
    protected double computePrefWidth(double height) {
        return content.prefWidth(height);
    }

    @Override
    protected double computePrefHeight(double width) {
        return content.prefHeight(width);
    }

    @Override
    protected double computeMinWidth(double height) {
        return content.minWidth(height);
    }

    @Override
    protected double computeMinHeight(double width) {
        return content.minHeight(width);
    }

    @Override
    protected void layoutChildren() {
        int all = rows.getAsInt();
        if (all <= FEW) {
            // the rows that come to these are to be made in pieces too, and these stay in sight meanwhile
            step = ROW;
            shown = all == 0 ? 0 : Math.min(shown, FEW_HEIGHT);
        }
        // a list with more room would fill it with rows of nothing, all in one go
        double height = all > 0 && all <= FEW ? Math.min(getHeight(), FEW_HEIGHT) : getHeight();
        content.resizeRelocate(0, 0, getWidth(), all == 0 ? height : Math.min(height, shown));
        if (isWhole() || height <= 0 || getScene() == null) {
            return;
        }
        long from = System.nanoTime();
        content.layout();
        long took = System.nanoTime() - from;
        if (shown >= height) {
            shown = Double.MAX_VALUE;
            return;
        }
        step = took < PIECE / 2 ? step * 2 : took > PIECE ? Math.max(ROW, step / 2) : step;
        shown += step;
        Platform.runLater(this::requestLayout);
    }
}
