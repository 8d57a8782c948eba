package dev.mockbell.bench;

import dev.mockbell.desktop.drive.Hand;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.TimeoutException;
import javafx.animation.AnimationTimer;
import javafx.scene.Scene;

/**
 * Times what a change costs on the interface thread: the change itself and, in the pulse that follows, styling and layout
 * of what it touched. Calling {@code applyCss} and {@code layout} oneself would style the whole scene anew instead.
 */
final class Frames {
    private long pulseFrom;
    private long change;
    private CompletableFuture<Double> waiting;

    Frames(Scene scene) {
        Hand.run(() -> {
            scene.addPostLayoutPulseListener(this::laidOut);
            // a timer runs at the start of each pulse, before styling
            new AnimationTimer() {
                @Override
                public void handle(long now) {
                    pulseFrom = System.nanoTime();
                }
            }.start();
        });
    }

    private void laidOut() {
        if (waiting != null && pulseFrom > 0) {
            CompletableFuture<Double> done = waiting;
            waiting = null;
            done.complete((change + System.nanoTime() - pulseFrom) / 1e6);
        }
    }

    /** Makes a change and waits until it is laid out. @return milliseconds of the interface thread */
    double millis(Runnable step) {
        CompletableFuture<Double> done = new CompletableFuture<>();
        Hand.run(() -> {
            long from = System.nanoTime();
            step.run();
            change = System.nanoTime() - from;
            pulseFrom = 0;
            waiting = done;
        });
        try {
            return done.get(30, TimeUnit.SECONDS);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw new IllegalStateException(e);
        } catch (ExecutionException | TimeoutException e) {
            throw new IllegalStateException("no frame was drawn", e);
        }
    }
}
